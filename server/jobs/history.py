"""The history of a job: revisions are added at its head, undo and redo move the head. Each is one transaction."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from dataclasses import replace
from typing import Any

from django.db import transaction

from hakobu.errors import CannotDo, Changed, NotThere
from hakobu.formats import recognise
from hakobu.formats.limited import read_face
from hakobu.model import Document, Step
from hakobu.model.ids import new_key
from hakobu.operations import Progress, operation_of, silent

from .conditions import conditions_of
from .models import Job, Revision, RevisionStep, Source, StepVersion
from .results import INSIDE, Placed, run_chain
from .sizing import following, sized_job
from .store import EMPTY, keep_blob, keep_document, load_document
from .summary import keep_summary


def create_job(name: str, origin: str = "") -> Job:
    """A job with an empty first revision."""
    with transaction.atomic():
        job = Job.objects.create(name=name[:120], origin=origin)
        first = Revision.objects.create(job=job, document_id=keep_document(EMPTY), what="begun")
        job.head = job.tip = first
        job.save()
    return job


def copy_job(job: Job, name: str = "", until: str | None = None) -> Job:
    """A job of its own that stands where this one does, or where it stood after a step: with the same files, steps and
    results, which are kept as they are. Raises NotThere where there is no such step."""
    head = job.head
    rows = list(head.steps.select_related("step", "result"))
    if until is not None:
        at = next((i for i, row in enumerate(rows) if row.step.key == until), None)
        if at is None:
            raise NotThere("The step that the copy is to end with is not part of this job.")
        rows = rows[: at + 1]
    made = next((row.result.document_id for row in reversed(rows) if row.result), keep_document(EMPTY))
    final = _settled_document(load_document(made), head.settings)
    with transaction.atomic():
        copy = create_job(name or f"{job.name}, copy"[:120])
        Source.objects.bulk_create(
            Source(job=copy, blob_id=source.blob_id, name=source.name, format=source.format)
            for source in job.sources.order_by("pk")
        )
        revision = Revision.objects.create(
            job=copy,
            parent=copy.head,
            document_id=keep_document(final),
            settings=head.settings,
            what=f"begun as a copy of {job.name}"[:200],
        )
        RevisionStep.objects.bulk_create(
            RevisionStep(revision=revision, position=i, step=row.step, result=row.result, stopped=row.stopped)
            for i, row in enumerate(rows)
        )
        copy.head = copy.tip = revision
        copy.save()
    keep_summary(revision)
    return copy


def _settled_document(document: Document, settings: Mapping[str, Any]) -> Document:
    """A document with the names that the settings give its pieces."""
    names = {key: values["name"] for key, values in settings.get("pieces", {}).items() if "name" in values}
    return document.with_names(names)


def bring_in(
    job: Job,
    based_on: int,
    name: str,
    data: bytes,
    unit: str | None = None,
    replaces: str | None = None,
    progress: Progress = silent,
    fence: Callable[[], None] | None = None,
) -> Revision:
    """A new revision with a file brought in. Nothing is kept of one that cannot be read. replaces: the key of the step
    that brought in an older version of the file; it keeps its place and its scale, and all later steps follow."""
    base = base_of(job, based_on)
    format_ = recognise(name, data)
    sha256 = keep_blob(data)
    operation = operation_of("bring-in")
    steps = steps_of(base)
    source = Source(job=job, blob_id=sha256, name=name[:255], format=format_.id)
    parameters = {"source": sha256, "name": name, **({"unit": unit} if unit else {})}
    if replaces:
        at = next((i for i, s in enumerate(steps) if s.key == replaces and s.operation == operation.id), None)
        if at is None:
            raise NotThere("The file that is to be replaced is not part of this job.")
        newer = {**steps[at].parameters, **parameters}
        steps[at] = replace(steps[at], version=operation.version, parameters=newer)
    else:
        steps.append(Step(new_key(), operation.id, operation.version, parameters))
    return add_revision(job, based_on, steps, base.settings, new_source=source, progress=progress, fence=fence)


def bring_face(job: Job, name: str, data: bytes) -> Source:
    """A face brought into a job; the same one twice is there once. Raises UnreadableFile and TooMuch."""
    read = read_face(name, data)
    keep_blob(read.data)
    found, _ = Source.objects.get_or_create(
        job=job, blob_id=read.sha256, format=Source.FACE, defaults={"name": name[:255]}
    )
    return found


def add_revision(
    job: Job,
    based_on: int,
    steps: list[Step],
    settings: Mapping[str, Any],
    new_source: Source | None = None,
    selection_modes: Mapping[str, str] = {},
    progress: Progress = silent,
    fence: Callable[[], None] | None = None,
    token: str = "",
    kept: Collection[str] = (),
) -> Revision:
    """A new head. Raises Changed where the head is no longer what it was based on, and the error of a
    new or changed step that cannot be done: then nothing is kept. A later step that stops is kept with its mark.

    selection_modes: see run_chain. kept: the steps whose numbers stay while the last one, which sizes the design, is
    computed. fence is called in the transaction that keeps everything, and may refuse it by raising."""
    base = base_of(job, based_on)
    before = {row.step.key: row.step for row in base.steps.select_related("step")}
    names = dict(job.sources.values_list("blob_id", "name"))
    if new_source:
        names[new_source.blob_id] = new_source.name
    brought = frozenset(names)
    if kept:
        steps = sized_job(steps, kept, dict(names), conditions_of(settings), progress).steps
        selection_modes = {step.key: "select" for step in steps if not _unchanged(step, before)}
    else:
        steps = following(steps, steps_of(base), dict(names), conditions_of(settings), progress)
    chain = run_chain(steps, names, conditions_of(settings), selection_modes, progress)
    for placed in chain:
        if placed.error and (placed.step.key in selection_modes or not _unchanged(placed.step, before)):
            raise placed.error
    _refuse_order(base, chain)
    final = _settled_document(load_document(chain[-1].document if chain else keep_document(EMPTY)), settings)
    with transaction.atomic():
        locked = Job.objects.select_for_update().get(pk=job.pk)
        if locked.head_id != based_on:
            raise Changed("This job was changed in another window meanwhile; look at what is there now.")
        if fence:
            fence()
        if new_source:
            new_source.save()
        for picture in final.pictures:
            if picture.sha256 not in brought:
                named = {"name": INSIDE, "format": "picture"}
                Source.objects.get_or_create(job=locked, blob_id=picture.sha256, defaults=named)
        revision = Revision.objects.create(
            job=locked,
            parent=base,
            document_id=keep_document(final),
            settings=dict(settings),
            what=_what(chain, base, before, settings)[:200],
            token=token,
        )
        _place_steps(revision, chain, before)
        locked.head = locked.tip = revision
        locked.save()
    keep_summary(revision)
    return revision


def move_head(job: Job, based_on: int, to: str) -> Revision:
    """Undo moves to the parent, redo one revision towards the tip. Raises CannotDo at either end."""
    with transaction.atomic():
        locked = Job.objects.select_for_update(of=["self"]).select_related("head", "tip").get(pk=job.pk)
        if locked.head_id != based_on:
            raise Changed("This job was changed in another window meanwhile; look at what is there now.")
        target = locked.head.parent if to == "undo" else next_towards_tip(locked)
        if target is None:
            raise CannotDo(f"There is nothing to {to}.")
        locked.head = target
        locked.save()
    return target


def next_towards_tip(job: Job) -> Revision | None:
    """The child of the head on the way to the tip."""
    parents = dict(Revision.objects.filter(job=job, pk__lte=job.tip_id).values_list("pk", "parent_id"))
    at = job.tip_id
    while at is not None and at != job.head_id:
        if parents.get(at) == job.head_id:
            return Revision.objects.get(pk=at)
        at = parents.get(at)
    return None


def _refuse_order(base: Revision, chain: list[Placed]) -> None:
    """Steps are moved only where all of them still find what they are for; raises CannotDo where one would stop."""
    rows = {row.step.key: row for row in base.steps.select_related("step", "result")}
    keys = [placed.step.key for placed in chain if placed.step.key in rows]
    if keys == sorted(keys, key=lambda key: rows[key].position):
        return
    for placed in chain:
        row = rows.get(placed.step.key)
        if placed.error and row and not row.stopped:
            title = row.result.title if row.result else operation_of(placed.step.operation).title
            raise CannotDo(f'The steps cannot go in this order: "{title}" would stop. {placed.error.sentence}')


def base_of(job: Job, based_on: int) -> Revision:
    """The revision of a job that a change is based on. Raises NotThere."""
    found = job.revisions.filter(pk=based_on).first()
    if found is None:
        raise NotThere("The state that this was based on is not part of this job.")
    return found


def steps_of(revision: Revision) -> list[Step]:
    """The steps of a revision in order."""
    return [row.step.as_step() for row in revision.steps.select_related("step")]


def _unchanged(step: Step, before: Mapping[str, StepVersion]) -> bool:
    return step.key in before and before[step.key].as_step() == step


def _place_steps(revision: Revision, chain: list[Placed], before: Mapping[str, StepVersion]) -> None:
    rows = []
    for position, placed in enumerate(chain):
        step = placed.step
        row = before[step.key] if _unchanged(step, before) else StepVersion.objects.create(**step.as_json())
        stopped = placed.error.sentence if placed.error else ""
        rows.append(RevisionStep(revision=revision, position=position, step=row, result=placed.result, stopped=stopped))
    RevisionStep.objects.bulk_create(rows)


def _what(chain: list[Placed], base: Revision, before: Mapping[str, StepVersion], settings: Mapping[str, Any]) -> str:
    """What a revision did, in a few words."""
    fresh = [placed for placed in chain if placed.step.key not in before]
    if fresh:
        return fresh[-1].result.title if fresh[-1].result else operation_of(fresh[-1].step.operation).title
    changed = [placed for placed in chain if not _unchanged(placed.step, before)]
    if changed:
        step = changed[-1].step
        title = operation_of(step.operation).title
        was = before[step.key].enabled
        return f"{title}: changed" if step.enabled == was else f"{title}: switched {'on' if step.enabled else 'off'}"
    if len(chain) < len(before):
        return "A step taken out"
    named = {
        "lists": "Values of the lists updated",
        "material": "Material chosen",
        "limits": "What the material bears",
        "machine": "Machine chosen",
        "purpose": "Purpose chosen",
        "target": "Target chosen",
        "target_off": "Target moved",
        "layers": "Layers hidden or shown",
        "pieces": "Pieces changed",
        "set_aside": "Set aside",
    }
    return next((words for key, words in named.items() if settings.get(key) != base.settings.get(key)), "No change")
