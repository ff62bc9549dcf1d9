"""What goes over the wire of sheets."""

from rest_framework import serializers as s


class ShapeOnSheetOut(s.Serializer):
    path = s.CharField(help_text="SVG path data about the centre of the item's box, in mm")
    color = s.CharField()
    rule = s.CharField()
    name = s.CharField()

    def get_fields(self):
        return {**super().get_fields(), "as": s.CharField(help_text="fill or line")}


class ItemOnSheetOut(s.Serializer):
    key = s.CharField(help_text="by which it is moved")
    item = s.CharField(help_text="whose shapes it has")
    x = s.FloatField(help_text="of its centre, in mm from the sheet's top left")
    y = s.FloatField()
    turn = s.FloatField(help_text="in degrees, clockwise")


class SheetProblemOut(s.Serializer):
    kind = s.CharField()
    sentence = s.CharField()
    place = s.ListField(child=s.FloatField(), allow_null=True)


class SheetReportOut(s.Serializer):
    pieces = s.IntegerField()
    items = s.IntegerField()
    used = s.FloatField(help_text="the share of the material, from 0 to 1")
    line_mm = s.FloatField()
    left = s.IntegerField(help_text="pieces and groups that found no room")
    offcut_mm = s.ListField(child=s.FloatField(), help_text="width and height of what stays whole")
    nearest_mm = s.FloatField(allow_null=True)
    box = s.ListField(child=s.FloatField(), allow_null=True, help_text="of all that lies on it")
    problems = SheetProblemOut(many=True)


class CarrierOut(s.Serializer):
    kind = s.CharField()
    machine = s.CharField()
    width_mm = s.FloatField()
    height_mm = s.FloatField()
    reach = s.ListField(child=s.FloatField(), help_text="left, top, width and height on the carrier")
    grid_mm = s.FloatField()
    goes_in = s.CharField(help_text="the edge that goes in first")


class SheetOut(s.Serializer):
    id = s.CharField()
    name = s.CharField()
    color = s.CharField()
    layers = s.ListField(child=s.CharField())
    width_mm = s.FloatField()
    height_mm = s.FloatField()
    margin_mm = s.FloatField()
    spacing_mm = s.FloatField()
    mirrored = s.BooleanField()
    material = s.CharField(allow_null=True)
    own = s.CharField(help_text="the name of what is otherwise of it, in the step of the sheets")
    machine = s.CharField(allow_null=True, help_text="the id of the one it goes to, where that is not the job's")
    grain = s.CharField(allow_blank=True, help_text="how its material runs: lines or pile, or not at all")
    grain_across = s.BooleanField()
    numbers = s.CharField(allow_blank=True, help_text="SVG path data of the numbers of what lies on it")
    number_by = s.CharField(help_text="what the tool does with them")
    at = s.ListField(child=s.FloatField(), help_text="its top left on the carrier")
    rim = s.CharField(help_text="SVG path data")
    usable = s.CharField(help_text="SVG path data")
    prints = s.BooleanField(help_text="whether pictures are printed on it")
    marks = s.CharField(allow_blank=True, help_text="SVG path data of registration marks")
    weeding = s.CharField(allow_blank=True, help_text="SVG path data of boxes and lines for weeding")
    shapes = s.DictField(child=ShapeOnSheetOut(many=True))
    items = ItemOnSheetOut(many=True)
    lies = s.CharField(help_text="where it lies on the carrier, in words")
    carrier = CarrierOut(allow_null=True)
    report = SheetReportOut()


class SheetProofOut(s.Serializer):
    holds = s.BooleanField()
    max_deviation_mm = s.FloatField(allow_null=True)
    missing = s.IntegerField()
    extra = s.IntegerField()
