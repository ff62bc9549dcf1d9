"""Distances from points to chords, through one spatial index."""

from __future__ import annotations

import numpy as np

from ..flatten import Polylines


class SegmentIndex:
    """The nearest chord to any point, exactly.

    Chords are marked every spacing_mm in a KD-tree. The nearest chord has a mark no farther off than the distance to
    the chord and half a spacing; as long as more marks could lie within that, more are asked for.
    """

    def __init__(self, chords: Polylines, spacing_mm: float) -> None:
        from scipy.spatial import KDTree  # imported on first use: its import takes a third of a second

        first, last, owner = chords.edges()
        self.first, self.last, self.owner = first, last, owner
        long = np.hypot(*(last - first).T)
        count = np.maximum(np.ceil(long / spacing_mm), 1).astype(np.int64)
        self._edge = np.repeat(np.arange(len(first)), count)
        offset = np.arange(len(self._edge)) - np.repeat(np.cumsum(count) - count, count)
        share = ((offset + 0.5) / count[self._edge])[:, None]
        self._tree = KDTree(first[self._edge] * (1 - share) + last[self._edge] * share)
        self._half = float((long / count).max(initial=0)) / 2

    def nearest(self, points: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Distance (N,) to the nearest chord and its number (N,); infinity and -1 where there are no chords."""
        marks = len(self._edge)
        distance, number = np.full(len(points), np.inf), np.full(len(points), -1)
        open_, k = np.arange(len(points)), 6
        while len(open_) and marks:
            k = min(k, marks)
            here = points[open_]
            away, near = self._tree.query(here, k=k)
            edge = self._edge[near.reshape(len(here), k)]
            all_ = distance_to_chords(here[:, None], self.first[edge], self.last[edge])
            best = all_.argmin(axis=1)
            rows = np.arange(len(here))
            distance[open_], number[open_] = all_[rows, best], edge[rows, best]
            farthest = away.reshape(len(here), k)[:, -1]
            open_ = open_[farthest < distance[open_] + self._half] if k < marks else open_[:0]
            k *= 4
        return distance, number


def distance_to_chords(points: np.ndarray, first: np.ndarray, last: np.ndarray) -> np.ndarray:
    """Distances between points (..., 2) and the chords from first (..., 2) to last (..., 2), one to one."""
    along = last - first
    square = (along**2).sum(axis=-1)
    share = ((points - first) * along).sum(axis=-1) / np.where(square > 0, square, 1)
    foot = first + np.clip(share, 0, 1)[..., None] * along
    return np.hypot(*np.moveaxis(points - foot, -1, 0))
