"""Lines and curves through many points."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .path import Path


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

    ctrl, kind, bulge, begin, mean, worst = fit_outlines(points, start, closed, corner, direction, tolerance_mm)
    return Fitted(Path(ctrl, kind, bulge, begin, closed), float(mean), float(worst))
