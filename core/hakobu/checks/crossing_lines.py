"""Crossings of a design's outlines, found once for the rules that look at them."""

from __future__ import annotations

from collections import deque
from weakref import ref

import numpy as np

from ..geometry.crossings import Crossings, crossings
from ..model import Document
from .outline_table import outline_table

_KEPT: deque[tuple[ref, Crossings]] = deque(maxlen=2)


def crossings_of(document: Document) -> Crossings:
    """Crossings within each layer, by the numbers of the outlines in the outline table."""
    for kept, found in tuple(_KEPT):
        if kept() is document:
            return found
    table = outline_table(document)
    found = crossings(table.path, table.group)
    _KEPT.append((ref(document), found))
    return found


def by_pair(found: Crossings, same: bool) -> list[tuple[int, int, np.ndarray]]:
    """The crossings of outlines with themselves, or of two with each other: the two numbers, and the places (N, 2)."""
    wanted = (found.outlines[:, 0] == found.outlines[:, 1]) == same
    pairs, places = found.outlines[wanted], found.places[wanted]
    if not len(pairs):
        return []
    breaks = np.flatnonzero((np.diff(pairs, axis=0) != 0).any(axis=1)) + 1
    return [
        (int(p[0, 0]), int(p[0, 1]), q) for p, q in zip(np.split(pairs, breaks), np.split(places, breaks), strict=True)
    ]
