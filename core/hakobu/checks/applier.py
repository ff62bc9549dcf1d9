"""Taking mends: edits are sorted, those that overlap wait for the next pass, and the design is checked again."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace

import numpy as np

from ..geometry import Path, bounds
from ..model import Conditions, Document, Edit, Finding, Level, OutlineRef
from ..model.pages import on_page_of, united
from . import Rule, check, rule_of
from .tables.outlines import outline_table

#: A design that still has findings after so many passes is left as it is then, and the rest is reported.
MOST_PASSES = 10
#: So many where more lies in one place than can be compared: each pass takes long, and the next mend goes on from here.
CROWDED_PASSES = 1


@dataclass(frozen=True)
class Mended:
    """The mended document, the findings that were taken, how many passes it took, how far curves were left, and the
    findings whose mends were left since they would have made another fault."""

    document: Document
    taken: tuple[Finding, ...]
    passes: int
    off_mm: float = 0.0
    left: tuple[Finding, ...] = ()


def apply_edit(document: Document, edit: Edit) -> Document:
    """The document after one edit."""
    return applied(document, [edit])


def mend_where(
    document: Document, wanted: Callable[[Finding], bool], conditions: Conditions, choice: str = ""
) -> Mended:
    """Takes every mend whose finding is wanted, and checks again, until none is left or ten passes are over. Edits that
    make a finding that stops or spoils, of a kind that was not there on what they change, are not kept."""
    taken: list[Finding] = []
    refused: dict[str, Finding] = {}
    off = 0.0
    found = check(document, conditions, every=True)
    for number in range(MOST_PASSES):
        findings = {f.key: f for f in found if f.mendable and f.key not in refused and wanted(f)}
        chosen = without_overlaps(_edits(document, findings.values(), conditions, choice))
        if not chosen or (number >= CROWDED_PASSES and len(outline_table(document).crowded)):
            return Mended(document, tuple(taken), number, off, tuple(refused.values()))
        after = applied(document, chosen)
        found_after = check(after, conditions, every=True)
        bad = _made_worse(document, chosen, found, found_after)
        refused |= {edit.finding: findings[edit.finding] for edit in bad}
        if not bad:
            document, found = after, found_after
            off = max(off, *(edit.off_mm for edit in chosen))
            taken.extend(findings[edit.finding] for edit in chosen)
    return Mended(document, tuple(taken), MOST_PASSES, off, tuple(refused.values()))


def edit_for(document: Document, finding: Finding, conditions: Conditions, choice: str = "") -> Edit | None:
    """The edit that would remove one finding, or None where it has no mend or no longer holds. choice: the way, where
    the rule has several."""
    rule = rule_of(finding.rule)
    if choice:
        finding = replace(finding, measure={**finding.measure, "choice": choice})
    return rule.mend(document, finding, conditions) if rule.mend else None


#: A fault this near to what an edit changes may be its doing, in mm.
NEAR_MM = 1.0


def _made_worse(
    document: Document, chosen: list[Edit], found: Iterable[Finding], after: Iterable[Finding]
) -> list[Edit]:
    """The edits after which there is a fault that stops or spoils, on what they change or beside it, of a kind that
    nothing of it had before."""
    before = {(f.rule, piece) for f in found if f.level is not Level.NOTE for piece in f.pieces}
    new = [f for f in after if f.level is not Level.NOTE and any((f.rule, piece) not in before for piece in f.pieces)]
    if not new:
        return []
    kinds: dict[str, set[str]] = {}
    for rule, piece in before:
        kinds.setdefault(piece, set()).add(rule)
    scopes = [edit.touched | {piece for piece, _ in edit.needs} for edit in chosen]
    had = [
        set(_rule_of(edit).uncovers).union(*(kinds.get(piece, set()) for piece in scope))
        for edit, scope in zip(chosen, scopes, strict=True)
    ]
    boxes = np.array([_box(document, scope) or (np.nan,) * 4 for scope in scopes])
    about: dict[str, list[int]] = {}
    for n, scope in enumerate(scopes):
        for piece in scope:
            about.setdefault(piece, []).append(n)
    bad: set[int] = set()
    for f in new:
        near = {n for piece in f.pieces for n in about.get(piece, ())}.union(_holding(boxes, f.place))
        bad |= {n for n in near or range(len(chosen)) if f.rule not in had[n]}
    return [chosen[n] for n in sorted(bad)]


def _rule_of(edit: Edit) -> Rule:
    return rule_of(edit.finding.rpartition("-")[0])


def _box(document: Document, pieces: Iterable[str]) -> tuple[float, float, float, float] | None:
    return bounds(Path.concatenate(document.by_id[piece].path for piece in pieces if piece in document.by_id))


def _holding(boxes: np.ndarray, place: tuple[float, float] | None) -> list[int]:
    """Which boxes (N, 4), not a number where there is none, a place lies in or beside."""
    if place is None:
        return []
    held = (boxes[:, :2] - NEAR_MM <= place).all(axis=1) & (boxes[:, 2:] + NEAR_MM >= place).all(axis=1)
    return np.flatnonzero(held).tolist()


def _edits(document: Document, findings: Iterable[Finding], conditions: Conditions, choice: str) -> list[Edit]:
    return [edit for f in findings if (edit := edit_for(document, f, conditions, choice))]


def without_overlaps(edits: list[Edit]) -> list[Edit]:
    """The edits that can be taken together, by key: none changes what another changes or needs."""
    changed: set[OutlineRef] = set()
    needed: set[OutlineRef] = set()
    pieces: set[str] = set()
    chosen = []
    for edit in sorted(edits, key=lambda e: e.finding):
        free = changed.isdisjoint(edit.changes) and needed.isdisjoint(edit.changes)
        if not (free and changed.isdisjoint(edit.needs) and pieces.isdisjoint(edit.pieces)):
            continue
        changed.update(edit.changes)
        needed |= edit.needs
        pieces.update(edit.pieces)
        chosen.append(edit)
    return chosen


def applied(document: Document, edits: list[Edit]) -> Document:
    """The document after edits that do not overlap."""
    # Before anything else: the piece that one is put over may be gone afterwards.
    for edit in edits:
        document = document.with_pieces(edit.added)
    changes = {ref: path for edit in edits for ref, path in edit.changes.items()}
    document = document.with_paths(_new_paths(document, changes))
    looks = {piece: values for edit in edits for piece, values in edit.pieces.items()}
    if looks:
        pieces = (replace(p, **looks[p.id]) if p.id in looks else p for p in document.pieces)
        document = replace(document, pieces=tuple(pieces))
    document = document.with_layers({layer: values for edit in edits for layer, values in edit.layers.items()})
    pages = [edit.page for edit in edits if edit.page]
    return on_page_of(document, united(pages)) if pages else document


def _new_paths(document: Document, changes: Mapping[OutlineRef, Path | None]) -> dict[str, Path | None]:
    by_piece: dict[str, dict[int, Path | None]] = {}
    for (piece, outline), path in changes.items():
        by_piece.setdefault(piece, {})[outline] = path
    return {piece: _new_path(document.by_id[piece].path, outlines) for piece, outlines in by_piece.items()}


def _new_path(path: Path, outlines: Mapping[int, Path | None]) -> Path | None:
    """A path with some outlines new or gone; what stays between them is taken in runs."""
    stays = np.ones(len(path), bool)
    stays[list(outlines)] = False
    new = [k for k, made in sorted(outlines.items()) if made is not None]
    parts, before = [], 0
    for k in [*new, len(path)]:
        kept = np.flatnonzero(stays[before:k]) + before
        if len(kept):
            parts.append(path.take(kept.tolist()))
        if k < len(path):
            parts.append(outlines[k])
        before = k + 1
    joined = Path.concatenate(parts)
    return joined if len(joined) else None
