"""Results of steps and checks: taken from the database where they are known, worked out and kept where not."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

from hakobu import pipeline
from hakobu.checks import RULES, Tolerance, check
from hakobu.formats import ReadResult
from hakobu.model import Finding, HakobuError, Step
from hakobu.model.errors import NotThere

from .models import Blob, Result
from .store import EMPTY, keep_document, load_document


@dataclass(frozen=True)
class Placed:
    """A step in a chain: its result where it has one, and the hash of the document after it."""

    step: Step
    result: Result | None
    document: str
    error: HakobuError | None = None


def run_chain(steps: list[Step], names: dict[str, str]) -> list[Placed]:
    """All steps in order. names: what the sources are called, by their hashes."""
    digest, chain = keep_document(EMPTY), []
    for step in steps:
        placed = _place(step, digest, names) if step.enabled else Placed(step, None, digest)
        chain.append(placed)
        digest = placed.document
    return chain


def _place(step: Step, digest: str, names: dict[str, str]) -> Placed:
    key = pipeline.result_key(step, digest)
    known = Result.objects.filter(key=key).first()
    if known:
        return Placed(step, known, known.document_id)
    made = pipeline.run_step(load_document(digest), step, _reader(names))
    if made.outcome is None:
        return Placed(step, None, digest, made.error)
    outcome = made.outcome
    values = {
        "document_id": keep_document(outcome.document),
        "title": outcome.title,
        "note": outcome.note,
        "figures": dict(outcome.figures),
        "findings": [finding.to_json() for finding in outcome.findings],
    }
    result, _ = Result.objects.get_or_create(key=key, defaults=values)
    return Placed(step, result, result.document_id)


def _reader(names: dict[str, str]):
    def source(sha256: str, unit: str | None, key: str) -> ReadResult:
        # Only what was brought into this very job is read.
        if sha256 not in names:
            raise NotThere("The file that this step brings in does not belong to this job.")
        return pipeline.read(names[sha256], bytes(Blob.objects.get(pk=sha256).data), unit, key)

    return source


def findings_of(document: str, tolerance: Tolerance = Tolerance()) -> list[Finding]:
    """The findings of a stored document; kept, with the versions of the rules that made them."""
    rules = ",".join(f"{rule.id}@{rule.version}" for rule in RULES)
    key = f"check {tolerance.mm:g} {hashlib.sha256(rules.encode()).hexdigest()[:12]} {document}"
    known = Result.objects.filter(key=key).first()
    if known is None:
        found = [finding.to_json() for finding in check(load_document(document), tolerance)]
        known, _ = Result.objects.get_or_create(key=key, defaults={"document_id": document, "findings": found})
    return [Finding.from_json(data) for data in known.findings]
