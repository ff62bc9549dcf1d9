"""What goes over the wire of what a machine does."""

from rest_framework import serializers as s

from hakobu.model import Treatment

from .proof_serializers import CompensationOut
from .serializers import Lines


class WorkedByOut(s.Serializer):
    id = s.CharField()
    name = s.CharField()
    sends = s.BooleanField(help_text="whether files can be sent to it")


class ToolOut(s.Serializer):
    number = s.IntegerField()
    layer = s.CharField()
    treatment = s.ChoiceField(choices=[t.value for t in Treatment])
    color = s.CharField()
    speed_mm_s = s.FloatField(allow_null=True)
    force_g = s.FloatField(allow_null=True)
    power_percent = s.FloatField(allow_null=True)
    passes = s.IntegerField()


class RunsOut(s.Serializer):
    tool = s.ListField(child=s.IntegerField(), help_text="which of the tools follows each run")
    piece = s.ListField(child=s.IntegerField(), help_text="which of the pieces it is of")
    outline = s.ListField(child=s.IntegerField(), help_text="which of the outlines of its piece")
    closed = s.ListField(child=s.BooleanField(), help_text="whether that outline is closed")
    nth_pass = s.ListField(child=s.IntegerField())
    seconds = s.ListField(child=s.FloatField(), help_text="of each run, with its fall and its lift")
    travel_s = s.ListField(child=s.FloatField(), help_text="of the way to each run")


class WorkFindingOut(s.Serializer):
    message = s.CharField()
    level = s.CharField()
    title = s.CharField()
    effect = s.CharField()
    place = s.ListField(child=s.FloatField(), allow_null=True)


class WorkProofOut(s.Serializer):
    holds = s.BooleanField()
    max_deviation_mm = s.FloatField(allow_null=True)
    limit_mm = s.FloatField()
    missing = s.IntegerField()
    extra = s.IntegerField()
    missing_lines = Lines()
    extra_lines = Lines()


class ProgramOut(s.Serializer):
    machine = WorkedByOut(allow_null=True)
    format = s.CharField()
    page_mm = s.ListField(child=s.FloatField())
    tools = ToolOut(many=True)
    pieces = s.ListField(child=s.CharField())
    names = s.ListField(child=s.CharField(allow_blank=True))
    runs = RunsOut()
    lines = Lines(help_text="an outline for each run, on the page")
    clock = s.CharField(help_text="float32, base64: when each point is come to, in seconds since the run began")
    seconds = s.FloatField()
    line_mm = s.FloatField()
    travel_mm = s.FloatField()
    lifts = s.IntegerField()
    changes = s.IntegerField()
    home = s.ListField(child=s.FloatField(), help_text="where the tool begins, on the page")
    findings = WorkFindingOut(many=True)
    proof = WorkProofOut(allow_null=True)
    compensation = CompensationOut(allow_null=True)


class ProgramIn(s.Serializer):
    sheet = s.IntegerField(min_value=0, max_value=10_000)
    from_run = s.IntegerField(min_value=0, max_value=10_000_000)
    done = s.ListField(child=s.CharField(max_length=200), max_length=2000)


class PlaceIn(s.Serializer):
    sheet = s.IntegerField(min_value=0, max_value=10_000, default=0)
    piece = s.CharField(max_length=200)
    outline = s.IntegerField(min_value=0, max_value=10_000_000)
    x = s.FloatField(min_value=-1e6, max_value=1e6)
    y = s.FloatField(min_value=-1e6, max_value=1e6)


class PlaceOut(s.Serializer):
    piece = s.CharField()
    outline = s.IntegerField()
    share = s.FloatField(help_text="of the length of the outline, from 0 to 1")
    length_mm = s.FloatField(help_text="of the outline")


class SendIn(s.Serializer):
    sheet = s.IntegerField(min_value=0, max_value=10_000, default=0)
    from_run = s.IntegerField(min_value=0, max_value=10_000_000, default=0)
    done = s.ListField(child=s.CharField(max_length=200), max_length=2000, default=list)
    again = s.BooleanField(default=False, help_text="although this very file was sent before")


class SendingOut(s.Serializer):
    id = s.IntegerField()
    name = s.CharField()
    machine_name = s.CharField()
    seconds = s.FloatField(help_text="that it takes, as it is reckoned")
    strokes = s.IntegerField()
    done = s.IntegerField(help_text="strokes that the machine said are done")
    state = s.ChoiceField(choices=["waiting", "running", "paused", "stopped", "done", "cancelled"])
    wish = s.CharField(allow_blank=True)
    problem = s.CharField(allow_blank=True)
    forgotten = s.BooleanField(help_text="the machine knows nothing of it any more: a person says how to go on")
    sheet = s.IntegerField()
    revision = s.IntegerField(allow_null=True)
    sha256 = s.CharField(help_text="of the file")
    created = s.DateTimeField()
    ended = s.DateTimeField(allow_null=True)
