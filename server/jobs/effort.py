"""How long a piece of work will take, roughly: what may pass half a second goes to the queue.

The rates are measured on two cores of 2.5 GHz, generously.
"""

from __future__ import annotations

from django.db.models.functions import Length

from hakobu.model import Document, Step
from hakobu.operations import operation_of

from .conditions import conditions_for
from .models import Blob, Job, Revision
from .results import known_findings, known_result
from .store import EMPTY, keep_document, load_document

#: Seconds from which on a person would wonder.
LONG = 0.5
SECONDS_PER_MEGAPIXEL = 0.25
SECONDS_PER_SEGMENT = 25e-6
SECONDS_PER_MEGABYTE = 1.0


def of_steps(job: Job, steps: list[Step]) -> float:
    """Seconds that the steps of a revision need whose results are not known yet."""
    digest, seconds, known = keep_document(EMPTY), 0.0, True
    for step in (s for s in steps if s.enabled):
        result = known_result(step, digest) if known else None
        if result:
            digest = result.document_id
            continue
        known = False
        seconds += _of_step(step, load_document(digest))
    return seconds


def _of_step(step: Step, before: Document) -> float:
    if step.operation == "bring-in":
        sizes = Blob.objects.filter(pk=step.parameters.get("source")).values_list(Length("data"), flat=True)
        return sum(map(of_file, sizes))
    if step.operation == "trace":
        return sum(p.size_px[0] * p.size_px[1] for p in before.pictures) / 1e6 * SECONDS_PER_MEGAPIXEL
    return _segments(before) * operation_of(step.operation).seconds_per_segment


def of_file(size: int) -> float:
    return size / 2**20 * SECONDS_PER_MEGABYTE / 2


def of_check(revision: Revision) -> float:
    """Seconds that looking for faults in a revision's design takes; none where it was done before."""
    if known_findings(revision.document_id, conditions_for(revision)) is not None:
        return 0.0
    return _segments(load_document(revision.document_id)) * SECONDS_PER_SEGMENT


def _segments(document: Document) -> int:
    return sum(piece.path.segment_count for piece in document.pieces)
