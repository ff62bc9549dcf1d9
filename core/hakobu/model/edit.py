"""An edit: what a mend would change, as data."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from ..geometry import Path
from .document import Box, Piece

#: A piece's id and the number of one of its outlines.
OutlineRef = tuple[str, int]


@dataclass(frozen=True)
class Edit:
    """New paths for outlines, None where the outline goes. needs: the outlines that must still be as they were found.
    pieces, layers: fields of pieces and layers that are set anew, by their ids. added: new pieces, each over the piece
    of that id. page: the box of a page that holds what it is about: left, top, right, bottom.

    Two edits overlap where one changes what the other changes or needs. off_mm: how far curves were left, where a
    mend could not keep them.
    """

    finding: str
    changes: Mapping[OutlineRef, Path | None] = field(default_factory=dict)
    needs: frozenset[OutlineRef] = frozenset()
    pieces: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)
    layers: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)
    added: Mapping[str, Piece] = field(default_factory=dict)
    off_mm: float = 0.0
    page: Box | None = None

    @property
    def touched(self) -> frozenset[str]:
        """The pieces that it changes or makes."""
        made = frozenset(piece.id for piece in self.added.values())
        return frozenset(piece for piece, _ in self.changes) | frozenset(self.pieces) | made
