"""What goes over the wire about faces."""

from rest_framework import serializers as s

from hakobu.lettering.setting import MOST_LETTERS


class FaceIn(s.Serializer):
    file = s.FileField()


class AxisOut(s.Serializer):
    tag = s.CharField()
    name = s.CharField()
    low = s.FloatField()
    usual = s.FloatField()
    high = s.FloatField()


class FormOut(s.Serializer):
    tag = s.CharField(help_text="OpenType feature")
    words = s.CharField()


class FaceOut(s.Serializer):
    id = s.CharField()
    name = s.CharField()
    embedding = s.CharField(help_text="what its maker allows, where that is not all")
    axes = AxisOut(many=True)
    forms = FormOut(many=True)


class FacesIn(s.Serializer):
    text = s.CharField(max_length=MOST_LETTERS, allow_blank=True, trim_whitespace=False)
    capitals_mm = s.FloatField(min_value=0.1, max_value=20_000)
    judged = s.ListField(child=s.CharField(max_length=64), max_length=100, default=list)


class JudgedOut(s.Serializer):
    pieces = s.IntegerField(help_text="shapes that come off the sheet, letters that touch welded")
    thinnest_mm = s.FloatField(allow_null=True)
    counter_mm = s.FloatField(allow_null=True, help_text="the circle that fits into the smallest counter")
    lacking = s.ListField(child=s.CharField())


class FaceShown(FaceOut):
    suits = s.CharField()
    joins = s.BooleanField()
    single_line = s.BooleanField()
    brought = s.CharField(help_text="the file it came in; empty for one that ships")
    d = s.CharField(help_text="path data of the words, at an em of 100 mm")
    box = s.ListField(child=s.FloatField(), allow_null=True)
    lacking = s.ListField(child=s.CharField())
    judged = JudgedOut(allow_null=True)


class FacesOut(s.Serializer):
    material = s.CharField()
    least_mm = s.FloatField(help_text="the least width of the job's material")
    faces = FaceShown(many=True)
