"""Taking mends: edits are sorted, those that overlap wait for the next pass, and the design is checked again."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass

from ..geometry import Path
from ..model import Document, Edit, Finding, OutlineRef
from . import check, rule_of
from .rule import Tolerance

#: A design that still has findings after so many passes is left as it is then, and the rest is reported.
MOST_PASSES = 10


@dataclass(frozen=True)
class Mended:
    """The mended document, the findings that were taken, how many passes it took, and how far curves were left."""

    document: Document
    taken: tuple[Finding, ...]
    passes: int
    off_mm: float = 0.0


def apply_edit(document: Document, edit: Edit) -> Document:
    """The document after one edit."""
    return document.with_paths(_new_paths(document, edit.changes))


def mend_where(document: Document, wanted: Callable[[Finding], bool], tolerance: Tolerance) -> Mended:
    """Takes every mend whose finding is wanted, and checks again, until none is left or ten passes are over."""
    taken: list[Finding] = []
    off = 0.0
    for number in range(MOST_PASSES):
        findings = [f for f in check(document, tolerance) if f.mendable and wanted(f)]
        chosen = _without_overlaps(_edits(document, findings, tolerance))
        if not chosen:
            return Mended(document, tuple(taken), number, off)
        keys = {edit.finding for edit in chosen}
        off = max(off, *(edit.off_mm for edit in chosen))
        changes = {ref: path for edit in chosen for ref, path in edit.changes.items()}
        document = document.with_paths(_new_paths(document, changes))
        taken.extend(f for f in findings if f.key in keys)
    return Mended(document, tuple(taken), MOST_PASSES, off)


def edit_for(document: Document, finding: Finding, tolerance: Tolerance) -> Edit | None:
    """The edit that would remove one finding, or None where it has no mend or no longer holds."""
    rule = rule_of(finding.rule)
    return rule.mend(document, finding, tolerance) if rule.mend else None


def _edits(document: Document, findings: Iterable[Finding], tolerance: Tolerance) -> list[Edit]:
    return [edit for f in findings if (edit := edit_for(document, f, tolerance))]


def _without_overlaps(edits: list[Edit]) -> list[Edit]:
    """The edits that can be taken together, by key: none changes what another changes or needs."""
    changed: set[OutlineRef] = set()
    needed: set[OutlineRef] = set()
    chosen = []
    for edit in sorted(edits, key=lambda e: e.finding):
        touches = set(edit.changes)
        if touches & (changed | needed) or edit.needs & changed:
            continue
        changed |= touches
        needed |= edit.needs
        chosen.append(edit)
    return chosen


def _new_paths(document: Document, changes: Mapping[OutlineRef, Path | None]) -> dict[str, Path | None]:
    by_piece: dict[str, dict[int, Path | None]] = {}
    for (piece, outline), path in changes.items():
        by_piece.setdefault(piece, {})[outline] = path
    result: dict[str, Path | None] = {}
    for piece, outlines in by_piece.items():
        path = document.by_id[piece].path
        parts = [outlines.get(k, path.outline(k)) if k in outlines else path.outline(k) for k in range(len(path))]
        joined = Path.concatenate(part for part in parts if part is not None)
        result[piece] = joined if len(joined) else None
    return result
