"""Exact copies in one place: found by what they have in common, in n log n, however many there are."""

from __future__ import annotations

import numpy as np

from ...geometry import Path

#: Sums of coordinates in mm, and of their products, that differ by less than this are equal.
EQUAL = 1e-6
_MIX = np.random.default_rng(7).integers(1, 2**62, 16) * 2 + 1


def kinds_of(path: Path, group: np.ndarray) -> np.ndarray:
    """A number for each outline (K,) that exact copies of one group share, whatever their starts and directions: the
    sums over their segments of what tells curves apart are equal. group (K,) int."""
    if not len(path):
        return np.zeros(0, np.int64)
    (x0, y0), (x1, y1), (x2, y2), (x3, y3) = path.ctrl.transpose(1, 2, 0)
    x, y, inner_x, inner_y = x0 + x3, y0 + y3, x1 + x2, y1 + y2
    each = [x, y, x * y, x * x * y, x0 * x3, y0 * y3, inner_x, inner_y, inner_x * inner_y, np.abs(path.bulge)]
    sums = np.add.reduceat(np.column_stack(each), path.start[:-1])
    whole = np.clip(np.round(sums / EQUAL), -9e18, 9e18).astype(np.int64)
    columns = np.column_stack([whole, group, path.node_counts, path.closed]).view(np.uint64)
    # Equal rows have equal numbers; of two that differ they are equal once in 2^64.
    mixed = (columns * _MIX[: columns.shape[1]].astype(np.uint64)).sum(axis=1)
    return np.unique(mixed, return_inverse=True)[1].ravel()


def number_among_copies(kind: np.ndarray) -> np.ndarray:
    """The how many-th of its copies each outline is, from 0 on (K,)."""
    order = np.argsort(kind, kind="stable")
    number = np.empty(len(kind), np.int64)
    number[order] = np.arange(len(kind)) - np.searchsorted(kind[order], kind[order])
    return number
