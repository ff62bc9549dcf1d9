"""Jobs and what they are made of. Everything lies in the database, so a worker elsewhere needs nothing but that."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING

from django.db import models
from django.utils import timezone

from hakobu.model import Step

if TYPE_CHECKING:
    # What Django adds to a model by itself, for those that read types.
    from django.db.models.manager import RelatedManager


class Blob(models.Model):
    """Bytes by their hash: sources as they came, and paths as binary arrays."""

    sha256 = models.CharField(primary_key=True, max_length=64)
    data = models.BinaryField()


class StoredDocument(models.Model):
    """A document: its manifest, which names each path by the hash of its blob."""

    hash = models.CharField(primary_key=True, max_length=64)
    manifest = models.JSONField()


class Result(models.Model):
    """What a step, or a check, made of a document. Kept for good: a finished job gives the same file for ever."""

    key = models.CharField(max_length=120, unique=True)
    document = models.ForeignKey(StoredDocument, on_delete=models.PROTECT, related_name="results")
    title = models.TextField(default="")
    note = models.TextField(default="")
    statistics = models.JSONField(default=dict)
    findings = models.JSONField(default=list)
    created = models.DateTimeField(auto_now_add=True)
    if TYPE_CHECKING:
        document_id: str


class Job(models.Model):
    """One piece of work. head: where it stands; nothing only while it is made. tip: the newest revision of this line,
    to which redo leads. deleted: when; it can be brought back for a while."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=120)
    origin = models.CharField(max_length=120, default="")
    head: models.ForeignKey[Revision] = models.ForeignKey(  # pyright: ignore[reportAssignmentType]
        "Revision", null=True, on_delete=models.RESTRICT, related_name="+"
    )
    tip: models.ForeignKey[Revision] = models.ForeignKey(  # pyright: ignore[reportAssignmentType]
        "Revision", null=True, on_delete=models.RESTRICT, related_name="+"
    )
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True, db_index=True)
    deleted = models.DateTimeField(null=True, blank=True, db_index=True)
    if TYPE_CHECKING:
        head_id: int
        tip_id: int
        sources: RelatedManager[Source]
        revisions: RelatedManager[Revision]
        runs: RelatedManager[Run]


class Source(models.Model):
    """A file brought in, kept untouched; of a face (format FACE), what its letters need."""

    FACE = "face"

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="sources")
    blob = models.ForeignKey(Blob, on_delete=models.PROTECT)
    name = models.CharField(max_length=255)
    format = models.CharField(max_length=20)
    created = models.DateTimeField(auto_now_add=True)
    if TYPE_CHECKING:
        blob_id: str


class Staged(models.Model):
    """A file out of an archive that lies ready to be brought in. format: empty where it cannot be read."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    blob = models.ForeignKey(Blob, on_delete=models.PROTECT)
    name = models.CharField(max_length=255)
    folder = models.CharField(max_length=255)
    format = models.CharField(max_length=20)
    created = models.DateTimeField(auto_now_add=True)
    if TYPE_CHECKING:
        blob_id: str


class StepVersion(models.Model):
    """A step as it was at some time; never changed, a changed step is another row with the same key."""

    key = models.CharField(max_length=40)
    operation = models.CharField(max_length=40)
    version = models.PositiveIntegerField()
    parameters = models.JSONField(default=dict)
    selection = models.JSONField(default=dict)
    enabled = models.BooleanField(default=True)

    def as_step(self) -> Step:
        """The step that the row keeps."""
        names = ("key", "operation", "version", "parameters", "selection", "enabled")
        return Step.from_json({name: getattr(self, name) for name in names})


class Revision(models.Model):
    """An immutable state of a job. settings: material, machine, layers, pieces, findings set aside. what: what was
    done. token: by which whoever asked for it knows it, where the answer was lost and it is asked for again. summary:
    what the list of jobs shows, see summary.py."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="revisions")
    parent: models.ForeignKey[Revision | None] = models.ForeignKey(
        "self", null=True, on_delete=models.RESTRICT, related_name="children"
    )
    document = models.ForeignKey(StoredDocument, on_delete=models.PROTECT)
    settings = models.JSONField(default=dict)
    what = models.CharField(max_length=200, default="")
    token = models.CharField(max_length=40, default="", blank=True)
    summary = models.JSONField(default=dict)
    created = models.DateTimeField(auto_now_add=True)
    if TYPE_CHECKING:
        id: int
        document_id: str
        parent_id: int | None
        steps: RelatedManager[RevisionStep]

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["job", "token"], condition=~models.Q(token=""), name="one_revision_a_token")
        ]


class Run(models.Model):
    """A piece of work that takes long, from being asked for to its end. It is done by a worker, in attempts: what an
    attempt brings is kept only while it is the newest one. request: what was asked for, as plain data. asked: when
    somebody last asked how far it is. so_far: what is there already, of work that gets better with time; enough:
    it ends with that."""

    WAITING, RUNNING, DONE, FAILED, CANCELLED = "waiting", "running", "done", "failed", "cancelled"
    OPEN = (WAITING, RUNNING)

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    job = models.ForeignKey(Job, null=True, on_delete=models.SET_NULL, related_name="runs")
    kind = models.CharField(max_length=20)
    request = models.JSONField(default=dict)
    state = models.CharField(max_length=10, default=WAITING, db_index=True)
    attempt = models.PositiveIntegerField(default=0)
    progress = models.FloatField(default=0.0)
    stage = models.CharField(max_length=120, default="")
    error: models.JSONField[dict | None] = models.JSONField(null=True)
    so_far: models.JSONField[dict | None] = models.JSONField(null=True)
    enough = models.BooleanField(default=False)
    queue_id = models.BigIntegerField(null=True)
    created = models.DateTimeField(auto_now_add=True)
    asked = models.DateTimeField(default=timezone.now)
    ended = models.DateTimeField(null=True)
    if TYPE_CHECKING:
        job_id: uuid.UUID | None


class RevisionStep(models.Model):
    """A step's place in a revision, and what became of it there."""

    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="steps")
    position = models.PositiveIntegerField()
    step = models.ForeignKey(StepVersion, on_delete=models.PROTECT)
    result = models.ForeignKey(Result, null=True, on_delete=models.PROTECT)
    stopped = models.TextField(default="")

    class Meta:
        ordering = ["position"]
        constraints = [models.UniqueConstraint(fields=["revision", "position"], name="one_step_a_place")]
