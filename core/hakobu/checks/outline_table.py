"""All outlines of a design side by side, as several rules look at them."""

from __future__ import annotations

from collections import deque
from functools import cached_property
from weakref import ref

import numpy as np

from ..geometry import Path
from ..geometry.crossings import Crossings, crossings
from ..geometry.measure import lengths, outline_bounds
from ..model import Document, Piece
from .coincide import Match, coinciding

#: A piece's id and the number of one of its outlines.
Ref = tuple[str, int]


class OutlineTable:
    """All outlines that a tool follows: path with K outlines; refs and pieces, where each comes from; group (K,), the
    number of its layer."""

    def __init__(self, document: Document) -> None:
        pieces = document.pieces_followed()
        self.path = Path.concatenate(piece.path for piece in pieces)
        self.refs: list[Ref] = [(piece.id, k) for piece in pieces for k in range(len(piece.path))]
        self.pieces: list[Piece] = [piece for piece in pieces for _ in range(len(piece.path))]
        layers = {layer.id: i for i, layer in enumerate(document.layers)}
        self.group = np.array([layers[piece.layer] for piece in self.pieces], np.int64)
        self._matches: dict[float, list[Match]] = {}

    @cached_property
    def crossings(self) -> Crossings:
        """Where outlines of a layer cross, themselves or each other."""
        return crossings(self.path, self.group)

    def crossed(self, same: bool) -> list[tuple[int, int, np.ndarray]]:
        """Crossings of outlines with themselves, or of two with each other: their numbers, and the places (N, 2)."""
        wanted = (self.crossings.outlines[:, 0] == self.crossings.outlines[:, 1]) == same
        pairs, places = self.crossings.outlines[wanted], self.crossings.places[wanted]
        if not len(pairs):
            return []
        breaks = np.flatnonzero((np.diff(pairs, axis=0) != 0).any(axis=1)) + 1
        parts = zip(np.split(pairs, breaks), np.split(places, breaks), strict=True)
        return [(int(pair[0, 0]), int(pair[0, 1]), at) for pair, at in parts]

    def doubled(self, tolerance_mm: float) -> list[Match]:
        """Outlines that run along another one of their layer."""
        if tolerance_mm not in self._matches:
            self._matches[tolerance_mm] = coinciding(self.path, self.group, self.rank(), tolerance_mm)
        return self._matches[tolerance_mm]

    def rank(self) -> np.ndarray:
        """The place of each outline in the order in which equals stay, (K,)."""
        boxes, size = np.round(outline_bounds(self.path), 4), np.round(lengths(self.path), 4)
        filled = np.array([piece.fill is not None for piece in self.pieces])
        outlines = np.array([len(piece.path) for piece in self.pieces])
        keys = (*boxes.T, -size, self.path.node_counts, -outlines, ~filled, ~self.path.closed)
        order = np.lexsort(keys)
        rank = np.empty(len(order), np.int64)
        rank[order] = np.arange(len(order))
        return rank


#: The tables of the last documents that were looked at.
_KEPT: deque[tuple[ref, OutlineTable]] = deque(maxlen=2)


def outline_table(document: Document) -> OutlineTable:
    """The table of a document; several rules look at the same one, one after the other."""
    for kept, table in tuple(_KEPT):
        if kept() is document:
            return table
    table = OutlineTable(document)
    _KEPT.append((ref(document), table))
    return table
