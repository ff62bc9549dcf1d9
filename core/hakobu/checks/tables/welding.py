"""Pieces welded: the outlines of what they paint together, as an edit."""

from __future__ import annotations

from collections.abc import Sequence

from ...geometry import Path
from ...geometry.boolean import NotCombined, Operand, union
from ...model import Edit, Finding, OutlineRef, Piece


def can_be_welded(piece: Piece) -> bool:
    """A filled shape whose outlines are all closed: of bare lines nobody knows what is inside."""
    return piece.fill is not None and bool(piece.path.closed.all())


def looks_the_same(pieces: Sequence[Piece]) -> bool:
    """Whether the pieces welded show the same as before: one opaque paint, and no strokes that would go with the lines
    inside."""
    first = pieces[0]
    if first.fill is None or first.fill.opacity != 1.0:
        return False
    return all(p.fill == first.fill and p.opacity == 1.0 and p.stroke is None for p in pieces)


def welded(finding: Finding, pieces: Sequence[Piece]) -> Edit | None:
    """The first piece takes the outlines of all; None where they cannot be combined."""
    try:
        made = union(*(Operand(piece.path, piece.fill_rule) for piece in pieces))
    except NotCombined:
        return None
    changes: dict[OutlineRef, Path | None] = {(p.id, k): None for p in pieces for k in range(len(p.path))}
    changes[pieces[0].id, 0] = made.path
    return Edit(finding.key, changes, off_mm=made.off_mm)
