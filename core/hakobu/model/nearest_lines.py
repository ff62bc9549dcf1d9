"""Where lines are about a place: the nearest one, and how far the next one is from it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..geometry import Path, flatten
from ..geometry.proximity.places import Places
from .document import Document

#: Lines are searched for by marks on them this far apart at most, in mm, before their true distance is worked out.
MARK_MM = 0.5
#: So many marks of other lines are looked at first; where none is surely the nearest, more.
FIRST_LOOK = 64


@dataclass(frozen=True, slots=True)
class NearLine:
    """point: the nearest place of a line, distance_mm away; it is outline `outline` of the piece. next_point and
    next_mm: the place of any other outline nearest to that, and how far it is; None where there is no other."""

    point: tuple[float, float]
    distance_mm: float
    piece: str
    outline: int
    next_point: tuple[float, float] | None
    next_mm: float | None


class Nearby:
    """The lines of a document that a tool follows, ready for many questions."""

    def __init__(self, document: Document) -> None:
        self.pieces = document.pieces_followed()
        self.path = Path.concatenate(piece.path for piece in self.pieces)
        self.places = Places(self.path)

    @cached_property
    def _owner(self) -> tuple[np.ndarray, np.ndarray]:
        """The piece of each outline and its number there."""
        counts = [len(piece.path) for piece in self.pieces]
        own = np.concatenate([np.arange(n) for n in counts]) if counts else np.zeros(0, np.int64)
        return np.repeat(np.arange(len(counts)), counts), own

    @cached_property
    def _marks(self):
        from scipy.spatial import KDTree

        chords = flatten(self.path, 0.01, longest_mm=MARK_MM)
        return KDTree(chords.points), np.repeat(np.arange(len(chords)), np.diff(chords.start))

    def at(self, x: float, y: float) -> NearLine | None:
        """None where there are no lines."""
        if not self.path.segment_count:
            return None
        found = self.places.nearest(np.array([[x, y]]))
        outline = int(found.outline[0])
        piece, number = self._owner
        point = found.point[0]
        other = self._other(point, outline)
        return NearLine(
            (float(point[0]), float(point[1])),
            float(found.distance[0]),
            self.pieces[piece[outline]].id,
            int(number[outline]),
            other and other[0],
            other and other[1],
        )

    def _other(self, point: np.ndarray, outline: int) -> tuple[tuple[float, float], float] | None:
        """The nearest place of all other outlines, and how far it is."""
        tree, owner = self._marks
        look = FIRST_LOOK
        while True:
            away, mark = tree.query(point, k=min(look, tree.n))
            away, mark = np.atleast_1d(away), np.atleast_1d(mark)
            others = owner[mark] != outline
            if others.any():
                # A line is no nearer than its nearest mark by more than half their distance.
                reach = away[others].min() + MARK_MM
                if away[-1] >= reach or look >= tree.n:
                    near = np.unique(owner[mark][others & (away <= reach)])
                    return self._nearest_of(near, point)
            elif look >= tree.n:
                return None
            look *= 8

    def _nearest_of(self, outlines: np.ndarray, point: np.ndarray) -> tuple[tuple[float, float], float]:
        found = Places(self.path.take(outlines.tolist())).nearest(point[None])
        return (float(found.point[0, 0]), float(found.point[0, 1])), float(found.distance[0])

    def onto(self, x: float, y: float, within_mm: float) -> tuple[float, float]:
        """A place moved onto the true line where that is so near."""
        found = self.places.nearest(np.array([[x, y]])) if self.path.segment_count else None
        if found is None or found.distance[0] > within_mm:
            return x, y
        return float(found.point[0, 0]), float(found.point[0, 1])
