"""Distances from points to chords, through one spatial index."""

from __future__ import annotations

import numpy as np

from .flatten import Polylines


class SegmentIndex:
    """The nearest chord to any point.

    Chords are marked every spacing_mm in a KD-tree; the nearest marks name the candidate chords, and the distance to
    those is exact. The distance found is never smaller than the true one, and equals it unless more than a handful
    of chords lie closer together than the spacing.
    """

    def __init__(self, chords: Polylines, spacing_mm: float) -> None:
        from scipy.spatial import cKDTree  # loaded only where distances are asked for: it takes a third of a second

        first, last, owner = chords.edges()
        self.first, self.last, self.owner = first, last, owner
        count = np.maximum(np.ceil(np.hypot(*(last - first).T) / spacing_mm), 1).astype(np.int64)
        self._edge = np.repeat(np.arange(len(first)), count)
        offset = np.arange(len(self._edge)) - np.repeat(np.cumsum(count) - count, count)
        share = ((offset + 0.5) / count[self._edge])[:, None]
        self._tree = cKDTree(first[self._edge] * (1 - share) + last[self._edge] * share)
        self._marks = len(self._edge)

    def nearest(self, points: np.ndarray, candidates: int = 6) -> tuple[np.ndarray, np.ndarray]:
        """Distance (N,) to the nearest chord and its number (N,); infinity and -1 where there are no chords."""
        if not self._marks:
            return np.full(len(points), np.inf), np.full(len(points), -1)
        k = min(candidates, self._marks)
        _, near = self._tree.query(points, k=k)
        edge = self._edge[near.reshape(len(points), k)]
        distance = distance_to_chords(points[:, None], self.first[edge], self.last[edge])
        best = distance.argmin(axis=1)
        rows = np.arange(len(points))
        return distance[rows, best], edge[rows, best]


def distance_to_chords(points: np.ndarray, first: np.ndarray, last: np.ndarray) -> np.ndarray:
    """Distances between points (..., 2) and the chords from first (..., 2) to last (..., 2), one to one."""
    along = last - first
    square = (along**2).sum(axis=-1)
    share = ((points - first) * along).sum(axis=-1) / np.where(square > 0, square, 1)
    foot = first + np.clip(share, 0, 1)[..., None] * along
    return np.hypot(*np.moveaxis(points - foot, -1, 0))
