"""What lies on what, and which ends are near each other."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..intersect import each_pair
from ..path import Path
from .chord_grid import SEARCH_SHARE, Search, curve_table


@dataclass(frozen=True)
class Coinciding:
    """Pairs of segments that lie on each other: segment (N, 2), the lower first; run (N, 2, 2), the parameters on both
    at the two ends of what they share; against (N,), whether they run opposite ways; whole (N,), whether all of both is
    shared."""

    segment: np.ndarray
    run: np.ndarray
    against: np.ndarray
    whole: np.ndarray


def coinciding(
    path: Path, within_mm: float, group: np.ndarray | None = None, found: Search | None = None
) -> Coinciding:
    """All pairs of segments, of the same group (K,) of outlines where given, that are one along a stretch, each within
    so much of the other there: as a whole or in part, the same way or reversed. found: a search of these within that
    distance, where one was made."""
    from ..kernels.meetings import common_runs

    kinds, geometry = curve_table(path)
    found = found or Search(path, group, SEARCH_SHARE, kinds, geometry, max(within_mm, 1e-9))
    chords, _, once = found.near()
    pairs = each_pair(found.owner[chords[~once]])
    run, there = common_runs(pairs, kinds, geometry, within_mm)
    run, pairs = run[there], pairs[there]
    span = run[:, 1] - run[:, 0]
    return Coinciding(pairs, run, (span[:, 0] > 0) != (span[:, 1] > 0), (np.abs(span) > 1 - 1e-9).all(axis=1))


def ends_of(path: Path) -> np.ndarray:
    """Both ends of each outline (2K, 2): the first of outline k is row 2k, the last row 2k + 1."""
    ends = np.stack([path.ctrl[path.start[:-1], 0], path.ctrl[path.start[1:] - 1, 3]], axis=1)
    return ends.reshape(-1, 2)


def ends_near(path: Path, within_mm: float) -> np.ndarray:
    """Pairs of ends of open outlines, rows of `ends_of`, that are so near each other (N, 2), the lower first; both may
    be of one outline."""
    from scipy.spatial import KDTree

    rows = np.flatnonzero(np.repeat(~path.closed, 2))
    if len(rows) < 2:
        return np.zeros((0, 2), np.int64)
    pairs = KDTree(ends_of(path)[rows]).query_pairs(within_mm, output_type="ndarray")
    return np.sort(rows[pairs.reshape(-1, 2)], axis=1)
