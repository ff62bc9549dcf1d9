"""What goes over the wire of what is read off the work."""

from rest_framework import serializers as s

from .serializers import MOST_SET, Lines, RowId


class PickIn(s.Serializer):
    piece = s.CharField(max_length=200)
    outline = RowId(required=False, allow_null=True, help_text="one of its outlines, by its number")


class ReadingIn(s.Serializer):
    picks = PickIn(many=True, allow_empty=False, max_length=MOST_SET)


class ReadingOut(s.Serializer):
    pieces = s.IntegerField()
    outlines = s.IntegerField()
    nodes = s.IntegerField()
    box = s.ListField(child=s.FloatField(), help_text="left, top, right, bottom in mm")
    length_mm = s.FloatField()
    area_mm2 = s.FloatField(allow_null=True)
    radius_mm = s.FloatField(allow_null=True, help_text="where all that is picked is one circle")
    centre = s.ListField(child=s.FloatField(), allow_null=True)
    thin_mm = s.FloatField(allow_null=True, help_text="the narrowest strip")
    thin = s.ListField(child=s.ListField(child=s.FloatField()), allow_null=True, help_text="its two ends")
    too_many = s.BooleanField(help_text="too many nodes for area and thinnest place")


#: Places lie within so many mm of the corner of the page.
FAR_MM = 1e7


class PlaceIn(s.Serializer):
    x = s.FloatField(min_value=-FAR_MM, max_value=FAR_MM)
    y = s.FloatField(min_value=-FAR_MM, max_value=FAR_MM)


class NearLineOut(s.Serializer):
    point = s.ListField(child=s.FloatField())
    distance_mm = s.FloatField()
    piece = s.CharField()
    outline = RowId()
    next_point = s.ListField(child=s.FloatField(), allow_null=True)
    next_mm = s.FloatField(allow_null=True, help_text="how far the next line is from this one there")


class NearOut(s.Serializer):
    line = NearLineOut(allow_null=True)


class EndIn(PlaceIn):
    on_line = s.BooleanField(help_text="whether the place is meant to be on a line")


class BetweenIn(s.Serializer):
    first = EndIn()
    last = EndIn()


class BetweenOut(s.Serializer):
    first = s.ListField(child=s.FloatField())
    last = s.ListField(child=s.FloatField())
    distance_mm = s.FloatField()
    across_mm = s.FloatField()
    down_mm = s.FloatField()


class HandlesIn(s.Serializer):
    pieces = s.ListField(child=s.CharField(max_length=200), max_length=100)


class HandlesOut(s.Serializer):
    handles = s.CharField(help_text="base64 of float32: x, y of a node and x, y of its handle's end")


class ApartOut(s.Serializer):
    paths = s.DictField(child=s.ListField(child=s.ListField(child=s.IntegerField())))


class WeededLayerOut(s.Serializer):
    layer = s.CharField()
    color = s.CharField()
    pieces = s.IntegerField()
    area_mm2 = s.FloatField()
    waste = s.IntegerField(help_text="faces inside of cut lines that are taken away")
    open_lines = s.IntegerField(help_text="lines of the file that do not close")
    loose = s.IntegerField(help_text="pieces that lie free in a hole of another one")
    staying = Lines()
    lifted = Lines(help_text="the loose ones")
    strokes = Lines()


class WeededOut(s.Serializer):
    format = s.CharField(help_text="of the files that were read back")
    layers = WeededLayerOut(many=True)


class ListsAsked(s.Serializer):
    lists = RowId(default=0, help_text="the number of the lists that have the machine")
