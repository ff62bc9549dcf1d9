"""Cubic Bezier curves, many at once."""

from __future__ import annotations

import numpy as np


def point_at(ctrl: np.ndarray, t: np.ndarray) -> np.ndarray:
    """Points (M, 2) of cubics (M, 4, 2) at parameters t (M,)."""
    t = t[:, None]
    s = 1 - t
    return s**3 * ctrl[:, 0] + 3 * s**2 * t * ctrl[:, 1] + 3 * s * t**2 * ctrl[:, 2] + t**3 * ctrl[:, 3]


def from_quadratic(p0, p1, p2) -> tuple:
    """The inner control points of the cubic that equals a quadratic curve exactly."""
    return (
        (p0[0] + 2 * (p1[0] - p0[0]) / 3, p0[1] + 2 * (p1[1] - p0[1]) / 3),
        (p2[0] + 2 * (p1[0] - p2[0]) / 3, p2[1] + 2 * (p1[1] - p2[1]) / 3),
    )
