"""Statistics of a document, as every panel states them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry import Path, length
from ..geometry.measure import outline_bounds
from .document import Document


@dataclass(frozen=True, slots=True)
class Statistics:
    """Of all pieces but those left out: how many, their outlines and nodes; the size of what is sized
    (Document.extent_mm); the length of the lines that a tool follows, all in mm; and how many of the pieces lie nowhere
    on the page."""

    pieces: int
    outlines: int
    nodes: int
    line_mm: float
    width_mm: float
    height_mm: float
    strays: int


def statistics_of(document: Document) -> Statistics:
    used = document.pieces_in_use()
    lines = Path.concatenate(piece.path for piece in used)
    followed = Path.concatenate(piece.path for piece in document.pieces_followed())
    width, height = document.extent_mm
    return Statistics(
        len(used),
        len(lines),
        int(lines.node_counts.sum()),
        length(followed),
        width,
        height,
        int((~on_page(document)).sum()),
    )


def on_page(document: Document) -> np.ndarray:
    """Of each piece in use, whether any of it lies on the page: (N,) bool; without a page all do."""
    pieces = document.pieces_in_use()
    if document.page is None or not pieces:
        return np.ones(len(pieces), bool)
    left, top, right, bottom = outline_bounds(Path.concatenate(piece.path for piece in pieces)).T
    page = document.page
    here = (right >= 0) & (bottom >= 0) & (left <= page.width_mm) & (top <= page.height_mm)
    owner = np.repeat(np.arange(len(pieces)), [len(piece.path) for piece in pieces])
    return np.bincount(owner, here, minlength=len(pieces)) > 0
