"""What a step would do, worked out at once and kept nowhere."""

from __future__ import annotations

import json
import struct
from collections.abc import Mapping, Sequence
from dataclasses import asdict, replace
from functools import lru_cache, partial
from typing import Any

from hakobu import pipeline
from hakobu.checks import check, rule_of
from hakobu.checks.cost import seconds_to_check
from hakobu.checks.verdict import verdict
from hakobu.errors import HakobuError
from hakobu.geometry import Path
from hakobu.model import Conditions, Document, Step
from hakobu.model.features import drawn_dimensions
from hakobu.model.report import report_of
from hakobu.model.statistics import Statistics, statistics_of
from hakobu.model.units import in_words
from hakobu.operations import Outcome, operation_of, parameters_from
from jobs import cost
from jobs.conditions import conditions_of, machine_of
from jobs.models import Job, Revision
from jobs.results import SELECTION_MODES, font_of, picture_of
from jobs.sizing import SIZING, following, sized_job
from jobs.step_requests import steps_from_request
from jobs.store import EMPTY, load_document
from wire.drawing import drawing_of, paths_of, under, within_mm
from wire.sheets import sheets_of

from .newest import NEWEST

#: What takes longer, in seconds, is not shown before it is kept.
LONGEST = 5.0
TOO_LONG = "This takes too long to be shown beforehand: keep the step to see what it does."
#: So often a sizing that leaves the numbers of steps as they are is tried, about.
SEVERAL = 4
#: Findings are looked for where that takes no longer than this.
TO_CHECK = 1.0


class NotShown(HakobuError):
    """The step can be kept, but what it does cannot be shown before."""

    code = "not-shown"
    http_status = 413


def preview(job: str, values: dict[str, Any]) -> bytes:
    """Raises Superseded where a newer request of the same tab has come, and the error of a step that cannot be done.

    The answer: the length of a JSON head (little-endian uint32), the head with spaces up to a multiple of four, and the
    paths that the document of the revision does not have, packed as `paths_of` does. The head: the number, title and
    note of the step, its statistics and spots; the statistics before and after; the pieces that are new or changed, as
    they are drawn, with all layers; the ids of those that are gone; which later steps stop; and where they were asked
    for, findings made and removed, and whether it holds together.
    """
    tab, number = values["tab"], values["number"]

    def still_wanted(*_) -> bool:
        NEWEST.check(tab, number)
        return False

    still_wanted()
    found = Job.objects.get(pk=job)
    base = Revision.objects.get(pk=values["based_on"], job=found)
    before = load_document(base.document_id)
    after, made, stopped = _after(found, base, values["step"], still_wanted)
    still_wanted()
    # A design that a new step moves as a whole is moved by the page.
    moved = made.moved if made.document is after and not values["step"].get("key") else None
    head = {
        "number": number,
        "title": made.title,
        "note": made.note,
        "statistics": dict(made.statistics),
        "spots": [asdict(spot) for spot in made.spots],
        "marks": [asdict(mark) for mark in made.marks],
        "stopped": stopped,
        "before": asdict(_known_statistics(base.document_id)),
        "after": asdict(_sized(_known_statistics(base.document_id), after, moved) if moved else statistics_of(after)),
        "in_words": in_words(*after.extent_mm),
        "moved": moved,
        **(_moved(after) if moved else _changes(before, after)),
    }
    conditions = conditions_of(base.settings)
    if conditions.target:
        head["target"] = under(after, conditions.target, conditions.target_off)
    # Only the station Sheet shows them: they take their time.
    kind = values["step"].get("operation")
    if kind and operation_of(kind).station == "sheet":
        head["sheets"] = sheets_of(after, partial(machine_of, base.settings))
        still_wanted()
    if values["checked"]:
        head |= {"report": report_of(after).as_json(), **_looked(before, after, conditions)}
        still_wanted()
    fresh = {} if moved else _fresh(before, after)
    text = json.dumps(head).encode()
    text += b" " * (-len(text) % 4)
    return struct.pack("<I", len(text)) + text + paths_of(fresh, within_mm(after))


def _after(job: Job, base: Revision, item: Mapping[str, Any], still_wanted) -> tuple[Document, Outcome, list[str]]:
    """The document with a step, new or changed, and all later ones; what was done; and the steps that then stop."""
    rows = list(base.steps.select_related("step", "result"))
    keys = [row.step.key for row in rows]
    at = keys.index(item["key"]) if item.get("key") in keys else len(keys)
    items: list[Mapping[str, Any]] = [{"key": key} for key in keys]
    items[at : at + 1] = [item]
    steps, selection_modes = steps_from_request(job, base.pk, items)
    steps = [_quick(step) for step in steps]
    digest = next((row.result.document_id for row in reversed(rows[:at]) if row.result), None)
    document = load_document(digest) if digest else EMPTY
    names = dict(job.sources.values_list("blob_id", "name"))
    conditions = conditions_of(base.settings)
    if item.get("kept"):
        # The steps after the first kept one are run several times.
        _refuse_long(document, steps, SEVERAL)
        sized = sized_job(steps, item["kept"], names, conditions, still_wanted)
        return sized.document, Outcome(sized.document, sized.title, sized.note, {"factor": sized.factor}), []
    if len(steps) > at + 1 and steps[at].operation in SIZING:
        # Later steps are run twice: for their sizes to follow, and for what they make.
        _refuse_long(document, steps[at:], 2)
    steps = following(steps, [row.step.as_step() for row in rows], names, conditions, still_wanted)
    made_of, stopped, seconds = Outcome(document, ""), [], 0.0
    for step in (step for step in steps[at:] if step.enabled):
        still_wanted()
        seconds += _seconds(document, step)
        if seconds > LONGEST:
            raise NotShown(TOO_LONG)
        if selection_modes.get(step.key):
            step = SELECTION_MODES[selection_modes[step.key]](document, step)
        made = pipeline.run_step(document, step, None, picture_of(names), still_wanted, conditions, font_of(names))
        if made.error and step.key == steps[at].key:
            raise made.error
        if made.error:
            stopped.append(f"{operation_of(step.operation).title}: {made.error.sentence}")
        elif step.key == steps[at].key:
            made_of = made.done()
        document = made.document
    return document, made_of, stopped


def _quick(step: Step) -> Step:
    quick = operation_of(step.operation).quick
    return replace(step, parameters={**step.parameters, **quick}) if quick else step


def _refuse_long(document: Document, steps: Sequence[Step], times: int) -> None:
    """Raises NotShown where running the steps so many times takes longer than a person waits."""
    if times * sum(_seconds(document, step) for step in steps if step.enabled) > LONGEST:
        raise NotShown(TOO_LONG)


def _seconds(document: Document, step: Step) -> float:
    operation = operation_of(step.operation)
    return operation.cost(document, parameters_from(operation, step.parameters, step.version), cost.of_source)


@lru_cache(maxsize=32)
def _known_statistics(digest: str) -> Statistics:
    return statistics_of(load_document(digest))


def _sized(before: Statistics, after: Document, matrix: Sequence[float]) -> Statistics:
    """The statistics of a design that was moved as a whole; stretched ones are measured."""
    if matrix[0] != matrix[3] or (after.page and after.page.fixed):
        return statistics_of(after)
    width, height = after.extent_mm
    return replace(before, line_mm=before.line_mm * matrix[0], width_mm=width, height_mm=height)


def _fresh(before: Document, after: Document) -> dict[str, Path]:
    """The paths that the document before does not have."""
    known = {piece.path.digest for piece in before.pieces}
    return {p.path.digest: p.path for p in after.pieces if p.path.digest not in known and len(p.path)}


def _moved(after: Document) -> dict[str, Any]:
    """What is new of a design that was moved as a whole."""
    plain = drawing_of(replace(after, pieces=()))
    dimensions = [asdict(each) for each in drawn_dimensions(after)]
    page = {"page": plain["page"], "layers": plain["layers"], "dimensions": dimensions}
    return {**page, "pieces": [], "gone": [], "order": []}


def _changes(before: Document, after: Document) -> dict[str, Any]:
    drawing = drawing_of(after)
    was = {piece["id"]: piece for piece in drawing_of(before)["pieces"]}
    now = {piece["id"] for piece in drawing["pieces"]}
    return {
        "page": drawing["page"],
        "layers": drawing["layers"],
        "pieces": [piece for piece in drawing["pieces"] if was.get(piece["id"]) != piece],
        "gone": [identity for identity in was if identity not in now],
        "order": [piece["id"] for piece in drawing["pieces"]],
        "dimensions": drawing["dimensions"],
    }


def _looked(before: Document, after: Document, conditions: Conditions) -> dict[str, Any]:
    """Kinds of findings that there would be more or fewer of, and whether it would hold together; nothing where looking
    for them takes long."""
    if max(map(seconds_to_check, (before, after))) > TO_CHECK:
        return {"findings": None, "verdict": None}
    counts = []
    for document in (before, after):
        kinds: dict[str, list] = {}
        found = list(check(document, conditions))
        for finding in found:
            _, number = kinds.get(finding.rule, ("", 0))
            kinds[finding.rule] = [rule_of(finding.rule).title, number + finding.count]
        counts.append(kinds)
    was, now = counts
    answer = verdict(after, conditions, found)
    return {
        "findings": {"made": _more(now, was), "removed": _more(was, now)},
        "verdict": {"sentence": answer.sentence, "holds": answer.holds},
    }


def _more(these: dict[str, list], those: dict[str, list]) -> list[dict[str, Any]]:
    """The kinds of which there are more among these."""
    return [
        {"rule": rule, "title": title, "count": number - those.get(rule, ("", 0))[1]}
        for rule, (title, number) in these.items()
        if number > those.get(rule, ("", 0))[1]
    ]
