"""What goes over the wire, for the OpenAPI document and the types made from it."""

from rest_framework import serializers as s

from hakobu.model.names import without_controls
from jobs.listing import MOST, PAGE, SORTS

#: Steps in a revision, and pieces, layers or findings of which something is set.
MOST_STEPS, MOST_SET = 300, 20_000


class RowId(s.IntegerField):
    """The number of a row of the database."""

    def __init__(self, **options) -> None:
        super().__init__(min_value=0, max_value=2**53, **options)


class Bounded(s.DictField):
    """An object of no more entries than can be worked with."""

    def to_internal_value(self, data):
        if isinstance(data, dict) and len(data) > MOST_SET:
            raise s.ValidationError(f"This may hold {MOST_SET:,} entries at most.")
        return super().to_internal_value(data)


class ErrorOut(s.Serializer):
    code = s.CharField()
    sentence = s.CharField()


class StatisticsOut(s.Serializer):
    pieces = s.IntegerField()
    outlines = s.IntegerField()
    nodes = s.IntegerField()
    line_mm = s.FloatField()
    width_mm = s.FloatField()
    height_mm = s.FloatField()
    strays = s.IntegerField(help_text="pieces that lie nowhere on the page")


class LikelySizeOut(s.Serializer):
    reading = s.CharField()
    factor = s.FloatField(help_text="the scale that gives it")
    width_mm = s.FloatField()
    height_mm = s.FloatField()
    in_words = s.CharField()


class SourceSize(s.Serializer):
    in_words = s.CharField()
    doubt = s.CharField(help_text="why the size may be wrong; empty where nothing speaks for it")
    sizes = LikelySizeOut(many=True, help_text="other sizes that the file may be meant to have")


class SelectionOut(s.Serializer):
    ids = s.ListField(child=s.CharField())
    query = s.CharField(allow_blank=True)


class StepOut(s.Serializer):
    key = s.CharField()
    operation = s.CharField()
    station = s.CharField()
    title = s.CharField()
    note = s.CharField()
    parameters = s.JSONField()
    selection = s.DictField(child=SelectionOut(), help_text="by role")
    statistics = s.JSONField(help_text="what it states of itself, by name")
    enabled = s.BooleanField()
    stopped = s.CharField()
    created = s.DateTimeField(allow_null=True)
    document = s.CharField(allow_null=True, help_text="the document after it; null where it did nothing")
    source = SourceSize(allow_null=True, help_text="of a file brought in")


class Strict(s.Serializer):
    """What is not known is refused, not passed over."""

    def to_internal_value(self, data):
        unknown = sorted(set(data) - set(self.fields)) if isinstance(data, dict) else []
        if unknown:
            raise s.ValidationError({name: ["This cannot be set here."] for name in unknown})
        return super().to_internal_value(data)


class LayerSettings(Strict):
    hidden = s.BooleanField(required=False)
    locked = s.BooleanField(required=False)


class PieceSettings(Strict):
    name = s.CharField(required=False, max_length=80)
    hidden = s.BooleanField(required=False)
    locked = s.BooleanField(required=False)
    mark = s.CharField(required=False, allow_null=True, max_length=40, help_text="a marking colour, for the eye only")
    one = s.BooleanField(required=False, help_text="it must come off the sheet in one")


class Limits(s.Serializer):
    least_strip_mm = s.FloatField(required=False)
    least_gap_mm = s.FloatField(required=False)
    least_piece_mm2 = s.FloatField(required=False)


class Settings(s.Serializer):
    lists = RowId(required=False, help_text="the number of the lists that it was chosen from")
    material = s.CharField(required=False, allow_null=True, max_length=80)
    limits = Limits(required=False, allow_null=True, help_text="what the material bears, where that is set otherwise")
    machine = s.CharField(required=False, allow_null=True, max_length=80)
    purpose = s.CharField(required=False, allow_blank=True, max_length=80)
    target = s.CharField(required=False, allow_null=True, max_length=80, help_text="what the design goes onto or into")
    target_off = s.ListField(
        child=s.FloatField(min_value=-20_000, max_value=20_000),
        min_length=2,
        max_length=2,
        required=False,
        allow_null=True,
        help_text="how far the design lies off the target's middle, in mm",
    )
    layers = Bounded(child=LayerSettings(), required=False)
    pieces = Bounded(child=PieceSettings(), required=False)
    set_aside = s.ListField(child=s.CharField(max_length=200), required=False, max_length=MOST_SET)
    why_aside = Bounded(child=s.CharField(max_length=200), required=False, help_text="reasons, by keys of findings")


class AllLimits(s.Serializer):
    least_strip_mm = s.FloatField()
    least_gap_mm = s.FloatField()
    least_piece_mm2 = s.FloatField()


class HeldOut(s.Serializer):
    """What a revision is held against, in words and numbers."""

    material = s.CharField(allow_null=True)
    machine = s.CharField(allow_null=True)
    purpose = s.CharField()
    target = s.CharField(allow_null=True)
    purpose_says = s.CharField()
    bears = AllLimits(help_text="what the material bears")
    differing = s.ListField(child=s.CharField(), help_text="what of it is another on the lists now, or gone")


class PictureOut(s.Serializer):
    id = s.CharField()
    sha256 = s.CharField()
    size_px = s.ListField(child=s.IntegerField())
    matrix = s.ListField(child=s.FloatField(), help_text="a to f as in SVG, from pixels to mm")
    layer = s.CharField()
    px_per_inch = s.FloatField()


class UnderOut(s.Serializer):
    """The target under the design."""

    name = s.CharField()
    size_mm = s.ListField(child=s.FloatField())
    lines = s.ListField(child=s.ListField(child=s.FloatField()), help_text="its rim: x, y, x, y ... in mm")
    clearance_mm = s.FloatField(help_text="the least distance of the design to the rim; below 0 it reaches beyond")
    ends = s.ListField(child=s.ListField(child=s.FloatField()), help_text="where: on the design, and on the rim")


class SizesOut(s.Serializer):
    """A step whose lengths can stay as they are when the design is sized."""

    key = s.CharField()
    words = s.CharField()


class RevisionOut(s.Serializer):
    id = s.IntegerField()
    parent = s.IntegerField(allow_null=True)
    what = s.CharField()
    created = s.DateTimeField()
    settings = Settings()
    held = HeldOut()
    document = s.CharField()
    parent_document = s.CharField(allow_null=True, help_text="as it was before the last change")
    statistics = StatisticsOut()
    size_in_words = s.CharField(allow_blank=True)
    target = UnderOut(allow_null=True)
    sizes = SizesOut(many=True)
    pictures = PictureOut(many=True)
    steps = StepOut(many=True)


class JobListed(s.Serializer):
    id = s.UUIDField()
    name = s.CharField()
    changed = s.DateTimeField()
    document = s.CharField()
    pieces = s.IntegerField()
    width_mm = s.FloatField()
    height_mm = s.FloatField()
    waiting = s.IntegerField(
        allow_null=True, help_text="findings that stop or spoil the cut and were not set aside; null: not looked yet"
    )
    doubted = s.BooleanField(help_text="whether the size of a file may be wrong")
    station = s.CharField(help_text="where its work goes on")
    material = s.CharField(allow_null=True)
    deleted = s.DateTimeField(allow_null=True)


class JobsAsked(s.Serializer):
    search = s.CharField(
        required=False, default="", allow_blank=True, max_length=200, help_text="words that names hold"
    )
    sort = s.ChoiceField(required=False, default="changed", choices=list(SORTS))
    page = s.IntegerField(required=False, default=1, min_value=1, max_value=10_000_000)
    size = s.IntegerField(required=False, default=PAGE, min_value=1, max_value=MOST, help_text="jobs on a page")
    deleted = s.BooleanField(required=False, default=False, help_text="those that were deleted and can be brought back")


class JobsOut(s.Serializer):
    total = s.IntegerField(help_text="how many there are on all pages")
    deleted = s.IntegerField(help_text="how many were deleted and can be brought back")
    jobs = JobListed(many=True)


class JobIds(s.Serializer):
    jobs = s.ListField(child=s.UUIDField(), max_length=1000)
    deleted = s.BooleanField(help_text="false: they are brought back")


class Changed(s.Serializer):
    jobs = s.IntegerField(help_text="how many were changed")


class RunOut(s.Serializer):
    id = s.UUIDField()
    job = s.UUIDField(allow_null=True)
    kind = s.CharField()
    state = s.ChoiceField(choices=["waiting", "running", "done", "failed", "cancelled"])
    progress = s.FloatField(help_text="from 0 to 1")
    stage = s.CharField(help_text="what is being done, in a few words")
    error = ErrorOut(allow_null=True)
    so_far = s.JSONField(allow_null=True, help_text="what is there already, of work that gets better with time")


class JobOut(s.Serializer):
    id = s.UUIDField()
    name = s.CharField()
    is_demo = s.BooleanField()
    changed = s.DateTimeField()
    head = RevisionOut()
    can_undo = s.BooleanField()
    can_redo = s.BooleanField()
    undo_what = s.CharField()
    redo_what = s.CharField()
    run = RunOut(allow_null=True, help_text="work on this job that is not over yet")


class NameIn(s.CharField):
    """A name as it is shown and written: without signs that are not seen but act on what stands about them."""

    def to_internal_value(self, data):
        return without_controls(super().to_internal_value(data)) or self.fail("blank")


class JobIn(s.Serializer):
    name = NameIn(max_length=120, trim_whitespace=True)


class SourceIn(s.Serializer):
    file = s.FileField(allow_empty_file=True, required=False)
    staged = s.UUIDField(required=False, help_text="a file out of an archive, in place of one sent")
    replaces = s.CharField(required=False, max_length=40, help_text="the step of an older version of the file")
    based_on = RowId(required=False)
    unit = s.ChoiceField(choices=["mm", "in", "px"], required=False)


class SelectionIn(s.Serializer):
    """Pieces that were picked, or a query that means some whenever the step runs."""

    ids = s.ListField(child=s.CharField(max_length=200), required=False, max_length=MOST_SET)
    query = s.CharField(required=False, allow_blank=True, max_length=2000)


class StepIn(s.Serializer):
    key = s.CharField(required=False, max_length=40)
    operation = s.CharField(required=False, max_length=40)
    parameters = s.DictField(required=False)
    selection = s.DictField(child=SelectionIn(), required=False, help_text="by role; the usual one is called on")
    enabled = s.BooleanField(required=False)
    repair = s.BooleanField(required=False, help_text="for what is still there of its pieces")
    kept = s.ListField(
        child=s.CharField(max_length=40),
        required=False,
        max_length=MOST_STEPS,
        help_text="of a last step that sizes the design: the keys of those that keep their numbers",
    )


class RevisionIn(s.Serializer):
    based_on = RowId()
    steps = StepIn(many=True, max_length=MOST_STEPS)
    settings = Settings(required=False)
    token = s.CharField(
        required=False, max_length=40, help_text="any word of its own; asked for again with it, nothing is done twice"
    )


class StepPreviewIn(s.Serializer):
    based_on = RowId()
    step = StepIn()
    checked = s.BooleanField(default=False, help_text="with findings made and removed, and narrow places")
    tab = s.CharField(max_length=40)
    number = s.IntegerField(min_value=0, max_value=2**53)


class HeadIn(s.Serializer):
    based_on = RowId()
    to = s.ChoiceField(choices=["undo", "redo"])


class ChoiceOut(s.Serializer):
    id = s.CharField()
    label = s.CharField()


class VerdictOut(s.Serializer):
    sentence = s.CharField()
    holds = s.BooleanField(allow_null=True)
    width_mm = s.FloatField(allow_null=True)
    place = s.ListField(child=s.FloatField(), allow_null=True)
    saved_nodes = s.IntegerField(help_text="by all mends so far")
    saved_line_mm = s.FloatField()


class FindingOut(s.Serializer):
    number = s.IntegerField()
    count = s.IntegerField(help_text="how many it stands for")
    step = s.CharField(allow_null=True, help_text="the step that said it; null of what the rules find")
    id = s.CharField()
    key = s.CharField()
    level = s.ChoiceField(choices=["stops", "spoils", "note"])
    title = s.CharField()
    message = s.CharField()
    effect = s.CharField()
    pieces = s.ListField(child=s.CharField())
    place = s.ListField(child=s.FloatField(), allow_null=True)
    extent = s.ListField(child=s.FloatField(), allow_null=True)
    measure = s.JSONField()
    mendable = s.BooleanField()
    safe = s.BooleanField()
    choices = ChoiceOut(many=True, help_text="the ways to mend it, where there are several")
    kind = s.CharField(help_text="the title of its kind")
    about = s.CharField(help_text="lines, shapes, document; or reading, of what a file holds")
    set_aside = s.BooleanField()
    why_aside = s.CharField()


class Lines(s.Serializer):
    points = s.CharField(help_text="base64 of float32 pairs, mm")
    start = s.ListField(child=s.IntegerField())
    closed = s.ListField(child=s.BooleanField())


class CopyIn(s.Serializer):
    name = NameIn(max_length=120, required=False, trim_whitespace=True)
    until = s.CharField(
        required=False, max_length=40, help_text="the last step that the copy has; without it, it has all"
    )


class LayerOut(s.Serializer):
    id = s.CharField()
    name = s.CharField()
    color = s.CharField()
    treatment = s.ChoiceField(choices=["cut", "score", "draw", "print", "leave-out"])
    material = s.CharField(allow_null=True)


class StrokeOut(s.Serializer):
    color = s.CharField()
    width_mm = s.FloatField()
    opacity = s.FloatField()
    cap = s.CharField()
    join = s.CharField()
    miter_limit = s.FloatField()
    dashes = s.ListField(child=s.FloatField())
    dash_offset = s.FloatField()


class PieceOut(s.Serializer):
    id = s.CharField()
    name = s.CharField()
    path = s.CharField()
    layer = s.CharField()
    fill_rule = s.ChoiceField(choices=["nonzero", "evenodd"])
    fill = s.CharField(allow_null=True)
    fill_opacity = s.FloatField()
    stroke = StrokeOut(allow_null=True)
    opacity = s.FloatField()


class MeasureIn(s.Serializer):
    tab = s.CharField(max_length=40)
    number = RowId(help_text="of the preview that is measured")
    strip_mm = s.FloatField(min_value=0.0, max_value=100.0, help_text="the least strip that the material bears")
    gap_mm = s.FloatField(min_value=0.0, max_value=100.0)
    piece_mm2 = s.FloatField(min_value=0.0, max_value=10_000.0)


class MeasureOut(s.Serializer):
    strip_count = s.IntegerField()
    gap_count = s.IntegerField()
    strips = s.ListField(
        child=s.ListField(child=s.FloatField()), help_text="x1, y1, x2, y2, width in mm, narrowest first"
    )
    gaps = s.ListField(child=s.ListField(child=s.FloatField()))
    slivers = s.ListField(child=s.CharField(), help_text="keys of pieces that are thinner all along")


class DimensionOut(s.Serializer):
    id = s.CharField(help_text="the key of the step that measured it")
    name = s.CharField()
    kind = s.CharField()
    ends = s.ListField(child=s.ListField(child=s.FloatField()))
    size = s.FloatField(allow_null=True, help_text="in mm or degrees; null: what it measured is gone")
    text = s.CharField()
    must_be = s.FloatField(allow_null=True)
    holds = s.BooleanField(allow_null=True, help_text="whether it is what it must be; null: that is no rule")


class DrawingOut(s.Serializer):
    page = s.ListField(child=s.FloatField(), allow_null=True)
    frame = s.ListField(child=s.FloatField())
    box = s.ListField(child=s.FloatField(), allow_null=True)
    layers = LayerOut(many=True)
    making = s.ListField(child=s.CharField(), help_text="the layers that a tool follows, in the order they are worked")
    pieces = PieceOut(many=True)
    pictures = PictureOut(many=True)
    dimensions = DimensionOut(many=True)


class SketchPiece(Lines):
    fill = s.CharField(allow_null=True)
    fill_rule = s.CharField()


class SketchOut(s.Serializer):
    box = s.ListField(child=s.FloatField(), allow_null=True)
    pieces = SketchPiece(many=True)
    pictures = PictureOut(many=True, help_text="where there are no pieces yet")


class ArchiveIn(s.Serializer):
    file = s.FileField(allow_empty_file=True)


class StagedOut(s.Serializer):
    id = s.UUIDField()
    name = s.CharField()
    folder = s.CharField()
    bytes = s.IntegerField()
    format = s.CharField(help_text="the id of its format; empty where it cannot be read here")


class ArchiveOut(s.Serializer):
    name = s.CharField()
    files = StagedOut(many=True)
    notes = s.ListField(child=s.CharField(), help_text="what could not be unpacked")


class LookOut(s.Serializer):
    width_mm = s.FloatField()
    height_mm = s.FloatField()
    in_words = s.CharField()
    pieces = s.IntegerField()
    nodes = s.IntegerField()
    layers = s.IntegerField()
    is_picture = s.BooleanField()
    said = s.ListField(child=s.CharField())
    sketch = SketchOut()


class MendPreviewOut(s.Serializer):
    view = s.ListField(child=s.FloatField(), help_text="left, top, width, height in mm of what to show")
    now = Lines()
    goes = Lines()
    mended = Lines()
    colors = s.ListField(
        child=s.CharField(), allow_null=True, help_text="of lines that only go to another layer, before and after"
    )
    nodes_before = s.IntegerField()
    nodes_after = s.IntegerField()
