"""Corners that were reckoned far beyond the last place that is known of their sides, held against the pixels there.

Where two sides meet far out, a slim tip leaves little of itself in each pixel, but what it leaves all along its way is
as much as it is wide. A tip of which less than half is there was a mistake about its sides, as noise and blur make it:
its corner is drawn back to where the ink that is there would end.
"""

from __future__ import annotations

import numpy as np

#: A corner nearer to its sides' last known places than this, in pixels, is known well enough.
NEAR_PX = 3.0
#: An outline's area may change by so much with its corners, as a share and in square pixels.
OTHER_SHARE, OTHER_PX2 = 0.06, 2.0
#: Ink is summed over so many cuts across a tip, this far apart on each, in pixels, and so far beside it.
CUTS, STEP_PX, BESIDE_PX = 8, 0.5, 1.5
#: Of what a tip would hold so much must be there.
LEAST_THERE = 0.6


def drawn_back(
    grey: np.ndarray, points: np.ndarray, start: np.ndarray, corner: np.ndarray, levels: np.ndarray
) -> np.ndarray:
    """The points (N, 2) of closed outlines in pixels, with such corners moved. start (K+1,), corner (N,): as `Outlines`
    has them; levels (K, 3): where the line is of each, and how dark it is inside and outside."""
    first = np.flatnonzero(corner)
    if not len(first):
        return points
    number = np.searchsorted(start, first, side="right") - 1
    before, behind = _neighbours(first, number, start, corner, -1), _neighbours(first, number, start, corner, 1)
    base = (points[before] + points[behind]) / 2
    away = np.minimum(np.hypot(*(points[first] - points[before]).T), np.hypot(*(points[first] - points[behind]).T))
    far = np.flatnonzero(away > NEAR_PX)
    if not len(far):
        return points
    rows, own = first[far], levels[number[far]]
    share = _there(grey, base[far], points[rows], points[before[far]], points[behind[far]], own)
    wrong = share < LEAST_THERE
    if not wrong.any():
        return points
    moved = points.copy()
    keep = np.minimum(share, 1.0)[wrong, None]
    moved[rows[wrong]] = base[far][wrong] + keep * (points[rows] - base[far])[wrong]
    return moved


def without_mistakes(
    known: np.ndarray, begin: np.ndarray, points: np.ndarray, start: np.ndarray, corner: np.ndarray
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Points, start and corner of closed outlines, those without corners that enclose another area with them than the
    places where their edges are known to be: known (M, 2), begin (K+1,). Corners that are right add next to nothing."""
    true, made = _areas(known, begin), _areas(points, start)
    wrong = np.abs(made - true) > OTHER_SHARE * np.abs(true) + OTHER_PX2
    if not wrong.any():
        return points, start, corner
    parts, marks, counts = [], [], []
    for k, plain in enumerate(wrong.tolist()):
        own = slice(begin[k], begin[k + 1]) if plain else slice(start[k], start[k + 1])
        parts.append(known[own] if plain else points[own])
        marks.append(np.zeros(len(parts[-1]), bool) if plain else corner[own])
        counts.append(len(parts[-1]))
    return np.concatenate(parts), np.concatenate([[0], np.cumsum(counts)]), np.concatenate(marks)


def _areas(points: np.ndarray, start: np.ndarray) -> np.ndarray:
    """The signed area of each closed outline (K,)."""
    following = np.arange(1, len(points) + 1)
    following[start[1:] - 1] = start[:-1]
    x, y = points.T
    return np.add.reduceat(x * y[following] - x[following] * y, start[:-1]) / 2


def _neighbours(rows: np.ndarray, number: np.ndarray, start: np.ndarray, corner: np.ndarray, step: int) -> np.ndarray:
    """The next point of each outline that is no corner, one way round; of outlines of nothing but corners, the next."""
    low, count = start[number], np.diff(start)[number]
    at = rows.copy()
    for _ in range(3):
        at = np.where((at == rows) | corner[at], low + (at - low + step) % count, at)
    return at


def _there(
    grey: np.ndarray, base: np.ndarray, tip: np.ndarray, one: np.ndarray, other: np.ndarray, levels: np.ndarray
) -> np.ndarray:
    """Which share of what tips would hold is there (F,)."""
    from scipy.ndimage import map_coordinates

    axis = tip - base
    length = np.hypot(*axis.T)
    along = axis / np.maximum(length, 1e-9)[:, None]
    across = np.column_stack([-along[:, 1], along[:, 0]])
    wide = np.abs(((one - other) * across).sum(axis=1))
    reach = float(wide.max() / 2 + BESIDE_PX)
    offsets = np.arange(-reach, reach + STEP_PX, STEP_PX)
    shares = (np.arange(CUTS) + 0.5) / CUTS
    # (F, CUTS, offsets, 2): places across each tip, those beside it not counted.
    places = base[:, None, None] + axis[:, None, None] * shares[:, None, None]
    places = places + across[:, None, None] * offsets[:, None]
    values = map_coordinates(grey, (places[..., 1] - 0.5, places[..., 0] - 0.5), order=1, mode="nearest")
    black, white = (levels[:, k, None, None] for k in (1, 2))
    covered = np.clip((white - values) / np.maximum(white - black, 1e-6), 0.0, 1.0)
    # A tip of ink goes out into the ground, one of the ground into ink: what lies beside its end tells which.
    beyond = map_coordinates(grey, (tip[:, 1] - 0.5, tip[:, 0] - 0.5), order=1, mode="nearest")
    is_ink = beyond >= levels[:, 0]
    covered = np.where(is_ink[:, None, None], covered, 1 - covered)
    inside = np.abs(offsets)[None, None] <= (wide[:, None] * (1 - shares) / 2 + BESIDE_PX)[..., None]
    found = (covered * inside).sum(axis=2) * STEP_PX
    return found.mean(axis=1) / np.maximum(wide / 2, 1e-9)
