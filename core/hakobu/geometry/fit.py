"""Lines and curves through many points."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .path import Path
from .sharing import shared_out

#: Points that are worth a thread of their own.
WORTH_POINTS = 4_000


@dataclass(frozen=True)
class Fitted:
    """The path, and how far the points lie from it: on average and at most, in mm."""

    path: Path
    mean_mm: float
    max_mm: float


def fit(
    points: np.ndarray,
    start: np.ndarray,
    closed: np.ndarray,
    corner: np.ndarray,
    tolerance_mm: float,
    direction: np.ndarray | None = None,
) -> Fitted:
    """Outlines through points, none of which lies farther from its line than the tolerance.

    points (N, 2) in mm; start (K+1,): outline k holds the points start[k] to start[k+1], at least three where it is
    closed and two where it is open; closed (K,); corner (N,): where the line may turn, everywhere else it is smooth. A
    closed outline begins at its first corner. direction (N, 2): where it is not zeros there is a node, passed in this
    direction of length 1. Sections between corners that can be straight are lines, closed outlines
    without corners that can be circles are circles (K and N may be 0).
    Source: Schneider, "An algorithm for automatically fitting digitized curves", Graphics Gems, 1990.
    Raises ValueError where a number is not finite or an outline is too short.
    """
    points = np.ascontiguousarray(points, np.float64).reshape(-1, 2)
    start = np.ascontiguousarray(start, np.int64)
    closed = np.ascontiguousarray(closed, np.bool_)
    corner = np.ascontiguousarray(corner, np.bool_)
    direction = np.zeros_like(points) if direction is None else np.ascontiguousarray(direction, np.float64)
    if not np.isfinite(points).all():
        raise ValueError("points to fit must be finite numbers")
    short = np.flatnonzero(np.diff(start) < np.where(closed, 3, 2))
    if len(short):
        raise ValueError(f"outline {short[0]} has too few points to fit")
    from .kernels.cubic_fit import fit_outlines

    def part(a: int, b: int) -> tuple:
        i, j = start[a], start[b]
        return fit_outlines(points[i:j], start[a : b + 1] - i, closed[a:b], corner[i:j], direction[i:j], tolerance_mm)

    counts = np.diff(start)
    parts = shared_out(part, counts.astype(float), WORTH_POINTS) if len(counts) else [part(0, 0)]
    segments = [len(kind) for _, kind, *_ in parts]
    before = np.cumsum([0, *segments[:-1]])
    begin = np.concatenate([[0], *(own[3][1:] + first for own, first in zip(parts, before, strict=True))])
    ctrl, kind, bulge = (np.concatenate([own[k] for own in parts]) for k in range(3))
    weights = _point_counts(parts, counts)
    mean = float(np.dot([own[4] for own in parts], weights) / max(weights.sum(), 1))
    worst = max(float(own[5]) for own in parts)
    return Fitted(Path(ctrl, kind, bulge, begin, closed), mean, worst)


def _point_counts(parts: list, counts: np.ndarray) -> np.ndarray:
    """How many points each part was fitted to."""
    ends = np.cumsum([len(own[3]) - 1 for own in parts])
    upto = np.concatenate([[0], np.cumsum(counts)])
    return np.diff(np.concatenate([[0], upto[ends]])).astype(float)
