"""Stretches along which lines lie on each other."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from ...geometry import Path
from ...geometry.measure import segment_lengths
from ...geometry.proximity.chord_grid import Search
from ...geometry.proximity.incidence import coinciding

#: Lines nearer than this lie on each other: below any cutter's step, and above what files round to.
ON_MM = 0.01


@dataclass(frozen=True)
class Shared:
    """Pairs of segments that lie on each other: segment (N, 2), the lower first; run (N, 2, 2), the parameters on both
    at the two ends; outline (N, 2); length (N,), of what they share, about."""

    segment: np.ndarray
    run: np.ndarray
    outline: np.ndarray
    length: np.ndarray

    def take(self, rows: np.ndarray) -> Shared:
        return Shared(self.segment[rows], self.run[rows], self.outline[rows], self.length[rows])


def pairs_by_outline(shared: Shared) -> dict[int, list[int]]:
    """The numbers of the pairs that each outline is part of."""
    found: dict[int, list[int]] = defaultdict(list)
    for n, pair in enumerate(shared.outline.tolist()):
        for outline in set(pair):
            found[outline].append(n)
    return found


def shared_runs(path: Path, group: np.ndarray, search: Search | None = None) -> Shared:
    """All of a path, within its groups; search: one within what lines lie on each other, where it was made."""
    if not path.segment_count:
        none = np.zeros((0, 2), np.int64)
        return Shared(none, np.zeros((0, 2, 2)), none, np.zeros(0))
    found = coinciding(path, ON_MM, group, search)
    share = np.abs(found.run[:, 1, 0] - found.run[:, 0, 0])
    own, again = np.unique(found.segment[:, 0], return_inverse=True)
    lines = Path(path.ctrl[own], path.kind[own], path.bulge[own], np.arange(len(own) + 1), np.zeros(len(own)))
    long = segment_lengths(lines)[again.ravel()] * share
    # What meets in a point, or runs on at a corner by less than lines are near, is not on each other.
    kept = long > 4 * ON_MM
    return Shared(found.segment[kept], found.run[kept], path.outline_of[found.segment[kept]], long[kept])


def covered_share(path: Path, shared: Shared) -> np.ndarray:
    """Of each segment (M,), which share of it lies on another line."""
    segment, first, last = covering(shared)
    order = np.lexsort((first, segment))
    segment, first, last = segment[order], first[order], last[order]
    share = np.zeros(path.segment_count)
    if not len(segment):
        return share
    # Of intervals of one segment in order, what each adds beyond all before it; segments lie 2 apart from each other.
    until = np.maximum.accumulate(last + 2 * segment) - 2 * segment
    fresh = np.concatenate([[True], segment[1:] != segment[:-1]])
    before = np.where(fresh, first, np.concatenate([[0.0], until[:-1]]))
    np.add.at(share, segment, np.maximum(last - np.maximum(first, before), 0.0))
    return np.minimum(share, 1.0)


def covering(shared: Shared) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Both sides of all pairs as intervals: the segment, where the interval begins on it and where it ends (2N,)."""
    segment = shared.segment.ravel()
    low, high = shared.run.min(axis=1).ravel(), shared.run.max(axis=1).ravel()
    return segment, low, high
