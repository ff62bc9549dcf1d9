"""Packing of rectangles by maximal free rectangles, best short side first (Jylänki 2010, "A Thousand Ways to Pack the
Bin", MaxRects-BSSF), over whole arrays of free rectangles: thousands in a second."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ...geometry import Box
from .raster import Place

#: Orders in which rectangles are tried; the one that covers most is kept.
ORDERS = (
    lambda sizes: sizes.prod(axis=1),
    lambda sizes: sizes.max(axis=1),
)


def pack_boxes(box: Box, sizes: np.ndarray, spacing_mm: float, may_turn: bool) -> list[Place | None]:
    """A place for each rectangle of sizes (N, 2) in a box; None for what finds no room."""
    left, top, right, bottom = box
    # Each takes what stays free to its right and below: so does the box.
    room = np.array([0.0, 0.0, right - left + spacing_mm, bottom - top + spacing_mm])
    best: list[Place | None] = [None] * len(sizes)
    for order in ORDERS:
        rows = np.argsort(-order(sizes), kind="stable")
        corners, turned = _max_rects(room, sizes[rows] + spacing_mm, may_turn)
        made: list[Place | None] = [None] * len(sizes)
        for n, corner, is_turned in zip(rows.tolist(), corners.tolist(), turned.tolist(), strict=True):
            if corner[0] >= 0:
                width, height = sizes[n, ::-1] if is_turned else sizes[n]
                centre = left + corner[0] + width / 2, top + corner[1] + height / 2
                made[n] = (float(centre[0]), float(centre[1]), 90.0 if is_turned else 0.0)
        if _rank(made, sizes) > _rank(best, sizes):
            best = made
    return best


def _max_rects(room: np.ndarray, sizes: np.ndarray, may_turn: bool) -> tuple[np.ndarray, np.ndarray]:
    """The top left corner of each rectangle (N, 2), -1 where it found no room, and whether it was turned (N,). room:
    left, top, right, bottom."""
    free = room[None].copy()
    corners, turned = np.full((len(sizes), 2), -1.0), np.zeros(len(sizes), bool)
    for n, (width, height) in enumerate(sizes.tolist()):
        span = free[:, 2:] - free[:, :2] + 1e-9
        ways = [(width, height)] if not may_turn or width == height else [(width, height), (height, width)]
        scores = np.stack([_short_side(span, *way) for way in ways])
        k = int(scores.argmin())
        way, row = divmod(k, len(free))
        if not np.isfinite(scores[way, row]):
            continue
        x, y = free[row, :2]
        corners[n], turned[n] = (x, y), way == 1
        free = _without(free, np.array([x, y, x + ways[way][0], y + ways[way][1]]))
    return corners, turned


def _short_side(span: np.ndarray, width: float, height: float) -> np.ndarray:
    """What is left on the shorter side, ties by the longer, of each free rectangle; infinite where there is no room."""
    left = span - (width, height)
    score = left.min(axis=1) + 1e-6 * left.max(axis=1)
    return np.where((left >= 0).all(axis=1), score, np.inf)


def _without(free: np.ndarray, taken: np.ndarray) -> np.ndarray:
    """The maximal free rectangles once another one is taken."""
    meets = (free[:, :2] < taken[2:] - 1e-9).all(axis=1) & (free[:, 2:] > taken[:2] + 1e-9).all(axis=1)
    hit, kept = free[meets], free[~meets]
    parts = []
    for side in range(4):
        # What of a free rectangle lies left of, above, right of, below what is taken.
        part = hit.copy()
        part[:, (side + 2) % 4] = taken[side]
        parts.append(part[part[:, 2 + side % 2] - part[:, side % 2] > 1e-9])
    made = np.unique(np.concatenate(parts), axis=0)
    return np.concatenate([kept, made[~_contained(made, kept)]])


def _contained(made: np.ndarray, kept: np.ndarray) -> np.ndarray:
    """Which new rectangles lie in another one; of two that are equal there is only one."""
    every = np.concatenate([kept, made])
    low = (made[:, None, :2] >= every[None, :, :2] - 1e-9).all(axis=2)
    high = (made[:, None, 2:] <= every[None, :, 2:] + 1e-9).all(axis=2)
    inside: np.ndarray = np.logical_and(low, high)
    inside[np.arange(len(made)), len(kept) + np.arange(len(made))] = False
    return np.asarray(inside.any(axis=1))


def _rank(places: Sequence[Place | None], sizes: np.ndarray) -> tuple[float, float]:
    """More covered is better, then less far to the right."""
    put = [n for n, place in enumerate(places) if place]
    covered = float(sizes[put].prod(axis=1).sum()) if put else 0.0
    return covered, -max((place[0] for place in places if place), default=0.0)
