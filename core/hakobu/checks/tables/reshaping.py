"""Edits that put another shape in the place of a piece's outlines."""

from __future__ import annotations

from collections.abc import Mapping

from ...geometry import Path
from ...geometry.boolean import NotCombined, union
from ...model import Document, Edit, Piece
from ...model.shapes import operand_of

#: Strips and bridges that mends add are so many times as wide as the material bears: they have to hold by themselves.
STRIP_TIMES = 2.0
#: What mends widen becomes wider by this share than the material bears, so that it is not found again.
WIDER = 1.03


def reshaped(document: Document, key: str, paths: Mapping[str, Path | None]) -> Edit | None:
    """The edit of a finding's key that gives pieces other outlines, or takes them away; None where nothing changes."""
    changes = {}
    for identity, path in paths.items():
        if identity not in document.by_id or (path is not None and not len(path)):
            return None
        count = len(document.by_id[identity].path)
        changes |= {(identity, k): None for k in range(count)}
        changes[identity, 0] = path
    return Edit(key, changes) if changes else None


def shape_of(piece: Piece) -> Path | None:
    """The union of a piece's outlines; None where the boolean fails."""
    try:
        return union(operand_of(piece)).path
    except NotCombined:
        return None
