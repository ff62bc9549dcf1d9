"""How long a piece of work will take, roughly: what may pass half a second is done by a child process with limits.

The rates are measured on two cores of 2.5 GHz, generously.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from hakobu.checks.cost import seconds_to_check
from hakobu.model import Document, Step
from hakobu.operations import operation_of, parameters_from

from .conditions import conditions_for, conditions_of
from .models import Blob, Job, Revision
from .results import known_findings, known_result
from .store import EMPTY, keep_document, load_document

#: Seconds from which on a person would wonder.
LONG = 0.5
SECONDS_PER_MEGABYTE = 0.5
#: Of a file of text: for each thing in it, told by the sign that begins one.
SECONDS_PER_THING = 2e-4
#: For each segment, to draw it, to write it, and to read it back and compare it.
TO_DRAW, TO_WRITE, TO_PROVE = 4e-6, 40e-6, 150e-6
#: Seconds for each item on a sheet, which is compared with those beside it.
TO_LAY = 2e-3
#: For each step whose result is not known, whatever it does.
SECONDS_PER_STEP = 0.05


def of_steps(job: Job, steps: list[Step], settings: Mapping[str, Any]) -> float:
    """Seconds that the steps of a revision need whose results are not known yet."""
    digest, seconds, known = keep_document(EMPTY), 0.0, True
    conditions = conditions_of(settings)
    for step in (s for s in steps if s.enabled):
        result = known_result(step, digest, conditions) if known else None
        if result:
            digest = result.document_id
            continue
        known = False
        seconds += SECONDS_PER_STEP + _of_step(step, digest)
    return seconds


def _of_step(step: Step, before: str) -> float:
    operation = operation_of(step.operation)
    parameters = parameters_from(operation, step.parameters, step.version)
    return operation.cost(load_document(before), parameters, of_source)


def of_source(sha256: str) -> float:
    """Seconds that it takes to read a source by its hash."""
    return sum(of_file(bytes(data)) for data in Blob.objects.filter(pk=sha256).values_list("data", flat=True))


def of_bringing(job: Job, data: bytes, replaces: str | None) -> float:
    """Seconds that it takes to bring a file in; in the place of an older version, with all steps after that, which are
    reckoned by what they did before."""
    seconds, before = of_file(data), None
    for row in job.head.steps.select_related("step", "result"):
        if before is not None and row.step.enabled:
            seconds += SECONDS_PER_STEP + _of_step(row.step.as_step(), before)
        if row.step.key == replaces or before is not None:
            before = row.result.document_id if row.result else before or keep_document(EMPTY)
    return seconds


def of_file(data: bytes) -> float:
    """Seconds that it takes to read a file."""
    return len(data) / 2**20 * SECONDS_PER_MEGABYTE + data.count(b"<") * SECONDS_PER_THING


def of_check(revision: Revision) -> float:
    """Seconds that looking for faults in a revision's design takes; none where it was done before."""
    if known_findings(revision.document_id, conditions_for(revision)) is not None:
        return 0.0
    return to_look(revision.document_id)


@lru_cache(maxsize=256)
def to_look(document: str) -> float:
    """Seconds that it takes to look for faults in a stored document, or for what is thin in it."""
    return seconds_to_check(load_document(document))


def to_draw(document: str) -> float:
    return _segments(load_document(document)) * TO_DRAW


def to_write(document: str) -> float:
    return _segments(load_document(document)) * TO_WRITE


def to_lay(document: str) -> float:
    """For what is reported of sheets: distances of all that lies on them."""
    found = load_document(document)
    on_sheets = sum(len(sheet.placements) for sheet in found.sheets)
    return _segments(found) * TO_WRITE + on_sheets * TO_LAY


def to_prove(document: str) -> float:
    return _segments(load_document(document)) * TO_PROVE


def _segments(document: Document) -> int:
    return sum(piece.path.segment_count for piece in document.pieces)
