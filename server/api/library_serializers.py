"""What the library says: for the API and its schema."""

from __future__ import annotations

from rest_framework import serializers as s

from hakobu.model import Machine
from hakobu.model.declare import HANDLES, declared
from hakobu.model.settings import Setting
from hakobu.model.targets import SHAPES
from hakobu.model.validate import KINDS
from hakobu.operations import STATIONS

from .serializers import AllLimits


class MaterialOut(s.Serializer):
    id = s.CharField()
    name = s.CharField()
    color = s.CharField()
    thickness_mm = s.FloatField()
    least_strip_mm = s.FloatField()
    sheet_width_mm = s.FloatField()
    sheet_height_mm = s.FloatField()
    cut_from_back = s.BooleanField()
    least_gap_mm = s.FloatField()
    least_piece_mm2 = s.FloatField()
    on_liner = s.BooleanField()


def declared_serializer(name: str, of: type) -> type[s.Serializer]:
    """What goes over the wire of a dataclass of declarations."""
    made = {}
    for key, (said, field) in declared(of).items():
        null = field.default is None
        if said.kind == "flag":
            made[key] = s.BooleanField()
        elif said.kind == "count":
            made[key] = s.IntegerField(allow_null=null)
        elif said.low is not None:
            made[key] = s.FloatField(allow_null=null)
        else:
            made[key] = s.CharField(allow_blank=field.default == "")
    return type(name, (s.Serializer,), made)


MachineOut = declared_serializer("MachineOut", Machine)
SettingOut = declared_serializer("SettingOut", Setting)


class PurposeOut(s.Serializer):
    id = s.CharField(allow_blank=True)
    name = s.CharField()
    says = s.CharField(allow_blank=True)
    parts_hold = s.BooleanField()
    is_stencil = s.BooleanField()


class TargetOut(s.Serializer):
    id = s.CharField()
    name = s.CharField()
    width_mm = s.FloatField()
    height_mm = s.FloatField()
    shape = s.ChoiceField(choices=[shape for shape, _ in SHAPES])
    corner_mm = s.FloatField()
    outline = s.CharField(allow_blank=True, help_text="SVG path data, scaled to width and height")


class StockOut(s.Serializer):
    id = s.CharField()
    name = s.CharField()
    width_mm = s.FloatField()
    height_mm = s.FloatField()
    material = s.CharField(allow_blank=True)
    outline = s.CharField(allow_blank=True, help_text="SVG path data in mm")
    margin_mm = s.FloatField()


class ListsOut(s.Serializer):
    materials = MaterialOut(many=True)
    machines = MachineOut(many=True)
    purposes = PurposeOut(many=True)
    targets = TargetOut(many=True)
    stock = StockOut(many=True)
    settings = SettingOut(many=True)


class FormatOut(s.Serializer):
    id = s.CharField()
    name = s.CharField()
    suffix = s.CharField()
    reads = s.BooleanField()
    writes = s.BooleanField()
    is_machine = s.BooleanField()


class ChoiceOfOut(s.Serializer):
    value = s.CharField()
    words = s.CharField()


class WhenOut(s.Serializer):
    name = s.CharField(help_text="another parameter")
    values = s.ListField(child=s.CharField(), help_text="its values with which this one has a meaning")


class ParameterOut(s.Serializer):
    name = s.CharField()
    kind = s.ChoiceField(choices=KINDS)
    label = s.CharField()
    help = s.CharField()
    unit = s.CharField(allow_blank=True)
    default = s.JSONField(allow_null=True)
    required = s.BooleanField()
    optional = s.BooleanField(help_text="whether it can be left without a value")
    low = s.FloatField(allow_null=True)
    high = s.FloatField(allow_null=True)
    step = s.FloatField(allow_null=True, help_text="what an arrow key adds")
    choices = ChoiceOfOut(many=True)
    most = s.IntegerField()
    group = s.ChoiceField(choices=["sentence", "more", ""], help_text="where a form asks for it; nowhere where empty")
    when = WhenOut(allow_null=True)
    instead_of = s.ListField(child=s.CharField(), help_text="parameters that are let go of when this one is set")
    by_press = s.BooleanField(help_text="a press on the work sets it, before there is anything to see")
    lines = s.BooleanField(help_text="a text that may have several lines")
    handle = s.ChoiceField(choices=HANDLES, allow_blank=True, help_text="how it is dragged on the work")


class RoleOut(s.Serializer):
    id = s.CharField()
    label = s.CharField()
    least = s.IntegerField()
    everything = s.BooleanField()
    when = WhenOut(allow_null=True)


class OperationOut(s.Serializer):
    id = s.CharField()
    station = s.ChoiceField(choices=STATIONS)
    title = s.CharField()
    sentence = s.CharField(help_text="what the step does, with its parameters in braces")
    roles = RoleOut(many=True)
    parameters = ParameterOut(many=True)


class RangeOut(s.Serializer):
    kind = s.CharField()
    name = s.CharField()
    low = s.FloatField()
    high = s.FloatField()


class LibraryOut(ListsOut):
    lists = s.IntegerField(help_text="the number of the lists as they are now; 0: as they ship")
    shipped = ListsOut()
    ranges = RangeOut(many=True)
    forms = s.DictField(child=ParameterOut(many=True), help_text="what an entry of a list has, by the list")
    tools = s.ListField(child=s.CharField())
    limits_of_any = AllLimits(help_text="what holds of any material")
    formats = FormatOut(many=True)
    operations = OperationOut(many=True)


class CuttingTestIn(s.Serializer):
    machine = s.CharField(max_length=40)
    material = s.CharField(max_length=40, required=False, allow_blank=True)
    speeds = s.ListField(child=s.FloatField(), min_length=1, max_length=100)
    strengths = s.ListField(child=s.FloatField(), min_length=1, max_length=100)


class ListIn(s.Serializer):
    based_on = s.IntegerField(min_value=0, help_text="the number of the lists that it changes")
    entries = s.ListField(child=s.DictField(), help_text="the whole list")
    what = s.CharField(max_length=200, allow_blank=True, help_text="what was done, in words")
