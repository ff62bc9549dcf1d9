"""Cubic Bezier curves, many at once."""

from __future__ import annotations

import numpy as np


def point_at(ctrl: np.ndarray, t: np.ndarray) -> np.ndarray:
    """Points (M, 2) of cubics (M, 4, 2) at parameters t (M,)."""
    t = t[:, None]
    s = 1 - t
    return s**3 * ctrl[:, 0] + 3 * s**2 * t * ctrl[:, 1] + 3 * s * t**2 * ctrl[:, 2] + t**3 * ctrl[:, 3]


def split_half(ctrl: np.ndarray) -> np.ndarray:
    """Both halves of each cubic, (2M, 4, 2), the halves of one curve side by side. de Casteljau's construction."""
    a = (ctrl[:, :-1] + ctrl[:, 1:]) / 2
    b = (a[:, :-1] + a[:, 1:]) / 2
    c = (b[:, 0] + b[:, 1]) / 2
    left = np.stack([ctrl[:, 0], a[:, 0], b[:, 0], c], axis=1)
    right = np.stack([c, b[:, 1], a[:, 2], ctrl[:, 3]], axis=1)
    return np.stack([left, right], axis=1).reshape(-1, 4, 2)


def from_quadratic(p0, p1, p2) -> tuple:
    """The inner control points of the cubic that equals a quadratic curve exactly."""
    return (
        (p0[0] + 2 * (p1[0] - p0[0]) / 3, p0[1] + 2 * (p1[1] - p0[1]) / 3),
        (p2[0] + 2 * (p1[0] - p2[0]) / 3, p2[1] + 2 * (p1[1] - p2[1]) / 3),
    )
