"""What goes over the wire of files that are written and proven."""

from rest_framework import serializers as s

from .serializers import Lines


class FileMade(s.Serializer):
    format = s.CharField()
    name = s.CharField()
    bytes = s.IntegerField()
    notes = s.ListField(child=s.CharField())


class PieceLineOut(s.Serializer):
    name = s.CharField()
    layer = s.CharField()
    color = s.CharField()
    width_mm = s.FloatField()
    height_mm = s.FloatField()
    outers = s.IntegerField()
    holes = s.IntegerField()
    open = s.BooleanField()


class CompensationOut(s.Serializer):
    tip_off_mm = s.FloatField(allow_null=True, help_text="how far a simulated blade's tip gets from its line")
    tip_limit_mm = s.FloatField()
    kerf_off_mm = s.FloatField(allow_null=True, help_text="from half the kerf beside the design's outlines")
    kerf_limit_mm = s.FloatField()


class ProofOut(s.Serializer):
    compensation = CompensationOut(allow_null=True, help_text="where a machine works the file")
    findings = s.ListField(child=s.CharField(), help_text="what its tool cannot do of the design")
    file = FileMade()
    piece_count = s.IntegerField()
    pieces = PieceLineOut(many=True, help_text="the first of them, as the file holds them")
    max_deviation_mm = s.FloatField(allow_null=True)
    limit_mm = s.FloatField()
    holds = s.BooleanField()
    place = s.ListField(child=s.FloatField(), allow_null=True)
    missing = s.IntegerField()
    extra = s.IntegerField()
    design_length_mm = s.FloatField()
    file_length_mm = s.FloatField()
    strokes = Lines()
    missing_lines = Lines()
    extra_lines = Lines()
    not_understood = s.ListField(child=s.CharField())


class ProofIn(s.Serializer):
    file = s.FileField(allow_empty_file=True)
