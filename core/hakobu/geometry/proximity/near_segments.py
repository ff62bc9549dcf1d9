"""Which segments have a side near another one at all: only those need be asked for their narrow places."""

from __future__ import annotations

import math

import numpy as np

from ..nodes import turns_after
from ..path import Path
from .chord_grid import SEARCH_SHARE, Search, curve_table, following_of

#: What turns less than this between two of its segments has no two sides there that face each other: where the way from
#: one to the other is least it is square to both, and between two places like that a line turns by half a circle, which
#: sides that are taken to run beside each other may miss by twice five degrees.
LEAST_TURN = math.pi - 0.25


def with_near_sides(path: Path, within_mm: float) -> np.ndarray:
    """Which segments (M,) may face another one, or themselves, over less than so much."""
    near, pairs = near_sides(path, within_mm)
    near[pairs.ravel()] = True
    return near


def near_sides(path: Path, within_mm: float, group: np.ndarray | None = None) -> tuple[np.ndarray, np.ndarray]:
    """Which segments (M,) may face themselves over less than so much, and the pairs (N, 2) that may face each other, of
    outlines of the same group (K,). Never misses one; those that only have sharp corners are not among them."""
    if not path.segment_count:
        return np.zeros(0, bool), np.zeros((0, 2), np.int64)
    kinds, geometry = curve_table(path)
    found = Search(path, group, SEARCH_SHARE, kinds, geometry, within_mm)
    chords, shares, _ = found.near()
    owner = found.owner[chords]
    swept, corner = _turning(path, found)
    kept = found.apart(chords, shares) <= within_mm
    kept &= ~_beside(path, owner, swept, corner) & ~_one_side(path, owner, swept, corner)
    own = (swept > LEAST_TURN) & (np.minimum(*path.spread.T) < within_mm)
    return own, owner[kept]


def _turning(path: Path, found: Search) -> tuple[np.ndarray, np.ndarray]:
    """How much each segment turns at most (M,), and the corner between it and the one after it (M,)."""
    from ..kernels.chords import CONE

    swept = np.bincount(found.owner, 2 * found.table[:, CONE], minlength=path.segment_count)
    after = following_of(path)
    return swept, np.where(after >= 0, np.abs(turns_after(path, after)), np.pi)


def _beside(path: Path, owner: np.ndarray, swept: np.ndarray, corner: np.ndarray) -> np.ndarray:
    """Pairs of segments that follow each other and turn too little to face each other beyond their corner (N,)."""
    after = following_of(path)
    one, other = owner.T
    joint = np.where(after[one] == other, corner[one], np.where(after[other] == one, corner[other], np.pi))
    return swept[one] + swept[other] < np.pi - joint - 1e-3


def _one_side(path: Path, owner: np.ndarray, swept: np.ndarray, corner: np.ndarray) -> np.ndarray:
    """Pairs of segments of an outline between which it turns too little, one way round, to have two sides (N,)."""
    until = np.concatenate([[0.0], np.cumsum(swept + corner)])
    one, other = owner.min(axis=1), owner.max(axis=1)
    outline = path.outline_of[one]
    between = until[other + 1] - corner[other] - until[one]
    inner = until[other] - until[one + 1] + corner[one]
    around = until[path.start[outline + 1]] - until[path.start[outline]]
    beyond = np.where(path.closed[outline], around - inner, np.inf)
    return (outline == path.outline_of[other]) & (np.minimum(between, beyond) < LEAST_TURN)
