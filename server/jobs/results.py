"""Results of steps and checks: taken from the database where they are known, worked out and kept where not."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from hakobu import pipeline
from hakobu.checks import RULES, check
from hakobu.errors import NotThere
from hakobu.formats import ReadResult
from hakobu.model import Conditions, Finding, HakobuError, Step
from hakobu.operations import Progress, operation_of, silent

from .models import Blob, Result
from .store import EMPTY, keep_blob, keep_document, load_document

#: What a picture is called that came inside a drawing.
INSIDE = "A picture in a drawing"


@dataclass(frozen=True)
class Placed:
    """A step in a chain: its result where it has one, and the hash of the document after it."""

    step: Step
    result: Result | None
    document: str
    error: HakobuError | None = None


#: How the selection of a step is resolved before it runs: "select" by its parameters, "repair" by what is left of it.
SELECTION_MODES = {"select": pipeline.with_selection, "repair": pipeline.repaired}


def run_chain(
    steps: list[Step],
    names: dict[str, str],
    conditions: Conditions,
    selection_modes: Mapping[str, str] = {},
    progress: Progress = silent,
) -> list[Placed]:
    """All steps in order. names: what the sources are called, by their hashes. conditions: what the design is checked
    against. selection_modes: key of a step -> SELECTION_MODES."""
    digest, chain = keep_document(EMPTY), []
    for number, step in enumerate(steps):

        def part(share: float, stage: str, so_far: Mapping[str, Any] | None = None, /, *, before: int = number) -> bool:
            return progress((before + share) / len(steps), stage, so_far)

        placed = Placed(step, None, digest)
        if step.enabled:
            placed = _place_with_selection(step, digest, names, conditions, selection_modes.get(step.key, ""), part)
        chain.append(placed)
        digest = placed.document
    return chain


def _place_with_selection(
    step: Step, digest: str, names: dict[str, str], conditions: Conditions, how: str, progress: Progress
) -> Placed:
    if how:
        try:
            step = SELECTION_MODES[how](load_document(digest), step)
        except HakobuError as error:
            return Placed(step, None, digest, error)
    return _place(step, digest, names, conditions, progress)


def known_result(step: Step, digest: str, conditions: Conditions) -> Result | None:
    return Result.objects.filter(key=pipeline.result_key(step, digest, conditions)).first()


def _place(step: Step, digest: str, names: dict[str, str], conditions: Conditions, progress: Progress) -> Placed:
    known = known_result(step, digest, conditions)
    if known:
        return Placed(step, known, known.document_id)
    progress(0.0, operation_of(step.operation).title)
    before = load_document(digest)
    for picture in before.pictures:
        # One that a drawing carried inside itself.
        names.setdefault(picture.sha256, INSIDE)
    made = pipeline.run_step(before, step, reader_of(names), picture_of(names), progress, conditions, font_of(names))
    if made.outcome is None:
        return Placed(step, None, digest, made.error)
    outcome = made.outcome
    values = {
        "document_id": keep_document(outcome.document),
        "title": outcome.title,
        "note": outcome.note,
        "statistics": dict(outcome.statistics),
        "findings": [finding.to_json() for finding in outcome.findings],
    }
    key = pipeline.result_key(step, digest, conditions)
    result, _ = Result.objects.get_or_create(key=key, defaults=values)
    return Placed(step, result, result.document_id)


def reader_of(names: dict[str, str]):
    def source(sha256: str, unit: str | None, key: str, notes: bool) -> ReadResult:
        # Only what was brought into this very job is read.
        if sha256 not in names:
            raise NotThere("The file that this step brings in does not belong to this job.")
        result = pipeline.read(names[sha256], bytes(Blob.objects.get(pk=sha256).data), unit, key, notes=notes)
        for data in result.blobs.values():
            keep_blob(data)
        return result

    return source


def picture_of(names: dict[str, str]):
    def picture(sha256: str):
        if sha256 not in names:
            raise NotThere("The picture that this step is about does not belong to this job.")
        return pipeline.picture(names[sha256], bytes(Blob.objects.get(pk=sha256).data))

    return picture


def font_of(names: Mapping[str, str]):
    def font(sha256: str) -> bytes:
        if sha256 not in names:
            raise NotThere("The face of these letters does not belong to this job: bring it in again.")
        return bytes(Blob.objects.get(pk=sha256).data)

    return font


def known_findings(document: str, conditions: Conditions) -> list[Finding] | None:
    """The findings of a stored document where they are kept, with the versions of the rules that made them."""
    known = Result.objects.filter(key=_check_key(document, conditions)).first()
    return None if known is None else [Finding.from_json(data) for data in known.findings]


def findings_of(document: str, conditions: Conditions) -> list[Finding]:
    """The findings of a stored document: kept ones, or found now and kept."""
    known = known_findings(document, conditions)
    if known is None:
        known = list(check(load_document(document), conditions))
        values = {"document_id": document, "findings": [finding.to_json() for finding in known]}
        Result.objects.get_or_create(key=_check_key(document, conditions), defaults=values)
    return known


def _check_key(document: str, conditions: Conditions) -> str:
    rules = ",".join(f"{rule.id}@{rule.version}" for rule in RULES)
    return f"check {hashlib.sha256(f'{rules} {conditions.key}'.encode()).hexdigest()[:24]} {document}"
