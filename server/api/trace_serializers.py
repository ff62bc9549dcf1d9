"""What goes over the wire of proposals, previews and references of a trace."""

from rest_framework import serializers as s

from .serializers import RowId


class TraceValues(s.Serializer):
    """Null: what the picture proposes."""

    threshold = s.FloatField(allow_null=True, default=None)
    smoothness_mm = s.FloatField(allow_null=True, default=None)
    smallest_mm2 = s.FloatField(allow_null=True, default=None)


class ProposalIn(s.Serializer):
    document = s.CharField(max_length=64)
    picture = s.CharField(allow_blank=True, max_length=80, help_text="the picture's id; empty where there is only one")


class WayOut(s.Serializer):
    mode = s.CharField()
    told = s.DictField(help_text="what it is told beside the mode, as its step's parameters")
    words = s.CharField()


class ProposalOut(s.Serializer):
    kind = s.CharField(help_text="art, drawing, lines, lettering, scan, photo or even")
    sentence = s.CharField(help_text="what the picture is, and what follows for its lines")
    warning = s.CharField(help_text="what will spoil the lines; empty where nothing will")
    always = s.DictField(help_text="what every way of tracing is told")
    ways = WayOut(many=True, help_text="the likely ways on, the likeliest first")
    level_degrees = s.FloatField(
        allow_null=True, help_text="by how much it is turned for its long edges to run level; null where none tell"
    )
    levels = s.ListField(child=s.FloatField(), help_text="how many pixels lie on each of 64 levels, dark first, 0..1")


class TracePreviewIn(ProposalIn, TraceValues):
    mode = s.CharField(default="dark", max_length=40, help_text="how lines are found")
    options = s.DictField(default=dict, help_text="what else this way of tracing is told, as its step's parameters")
    coarse = s.BooleanField(help_text="on fewer pixels where there are many, while something is dragged")
    tab = s.CharField(max_length=40)
    number = RowId(help_text="counts up in a tab; an older one than the newest is not finished")


class TilesIn(ProposalIn):
    told = s.DictField(child=s.DictField(), default=dict, help_text="by mode, what it is told")


class TileLayerOut(s.Serializer):
    color = s.CharField()
    lines = s.BooleanField()
    d = s.CharField(help_text="SVG path data, in pixels of the small picture")


class TileOut(s.Serializer):
    layers = TileLayerOut(many=True)
    sentence = s.CharField(help_text="why nothing is found this way; empty where something is")


class TilesOut(s.Serializer):
    size = s.ListField(child=s.IntegerField())
    tiles = s.DictField(child=TileOut())


class ReferenceIn(s.Serializer):
    shape = s.ChoiceField(choices=("square", "rectangle", "circle"), default="square")
    size = s.CharField(max_length=40, default="60mm", help_text="its side, both sides as 60x40mm, or how far across")
