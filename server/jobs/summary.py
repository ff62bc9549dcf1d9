"""What the list shows of a job, kept with its revision when that is made: nothing is read or checked for the list."""

from __future__ import annotations

import logging

from hakobu.errors import NotCompiled
from hakobu.operations.bring_in import sizes_for

from .conditions import conditions_for
from .cost import LONG, of_check
from .models import Job, Revision
from .results import findings_of, known_findings
from .store import load_document

log = logging.getLogger(__name__)


def keep_summary(revision: Revision) -> None:
    """Keeps it with the revision; of a small design with how many findings wait."""
    document = load_document(revision.document_id)
    width, height = document.extent_mm
    doubted = _is_doubted(revision)
    revision.summary = {
        "pieces": len(document.pieces_in_use()),
        "width_mm": width,
        "height_mm": height,
        "doubted": doubted,
        "station": "trace" if document.pictures and not document.pieces and not doubted else "intake",
        "waiting": _waiting(revision, known_only=of_check(revision) > LONG),
    }
    revision.save(update_fields=["summary"])


def keep_what_waits(job: Job | None, document: str) -> None:
    """How many findings wait, of the revisions of a job with a document that was looked at since they were made."""
    for revision in Revision.objects.filter(job=job, document=document, summary__waiting=None):
        revision.summary = {**revision.summary, "waiting": _waiting(revision, known_only=True)}
        revision.save(update_fields=["summary"])


def keep_missing() -> None:
    """Those of jobs whose heads have none: they are of before, or were made while nothing could be computed."""
    for job in Job.objects.filter(head__summary={}).select_related("head"):
        keep_summary(job.head)
    for job in Job.objects.filter(head__summary__waiting=None).select_related("head"):
        if of_check(job.head) <= LONG:
            keep_summary(job.head)


def _is_doubted(revision: Revision) -> bool:
    """Whether the size of a file may be wrong, and nobody has said that it is right."""
    aside = revision.settings.get("set_aside", [])
    rows = revision.steps.select_related("step", "result").filter(step__operation="bring-in", step__enabled=True)
    return any(
        sizes_for(row.result.statistics)[0] and f"size:{row.step.key}" not in aside for row in rows if row.result
    )


def _waiting(revision: Revision, known_only: bool) -> int | None:
    """How many findings that stop or spoil the cut wait for somebody; None where the design was not looked at yet."""
    conditions = conditions_for(revision)
    try:
        look = known_findings if known_only else findings_of
        found = look(revision.document_id, conditions)
    except NotCompiled:
        return None
    except Exception:
        # The revision is there, and looking at it is asked for again by whoever opens it.
        log.exception("A revision could not be looked at for faults")
        return None
    if found is None:
        return None
    aside = set(revision.settings.get("set_aside", []))
    rows = revision.steps.filter(result__isnull=False).select_related("result")
    said = {(f["key"], row.pk): f for row in rows for f in (row.result.findings if row.result else ())}
    grave = sum(f.count for f in found if f.level != "note" and f.key not in aside)
    return grave + sum(f["level"] != "note" and f["key"] not in aside for f in said.values())
