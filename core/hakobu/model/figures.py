"""A document in figures, as every panel states them."""

from __future__ import annotations

from dataclasses import dataclass

from ..geometry import Path, length
from .document import Document


@dataclass(frozen=True, slots=True)
class Figures:
    """Of all pieces but those left out: how many, their outlines and nodes; the size of their box; and the length of
    the lines that a tool follows, all in mm."""

    pieces: int
    outlines: int
    nodes: int
    line_mm: float
    width_mm: float
    height_mm: float


def figures_of(document: Document) -> Figures:
    used = document.pieces_in_use()
    lines = Path.concatenate(piece.path for piece in used)
    followed = Path.concatenate(piece.path for piece in document.pieces_followed())
    width, height = document.size_mm
    return Figures(
        len(used),
        len(lines),
        int(lines.node_counts.sum()),
        length(followed),
        width,
        height,
    )
