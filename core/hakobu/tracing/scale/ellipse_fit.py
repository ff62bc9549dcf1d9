"""Least-squares fit of an ellipse."""

from __future__ import annotations

import numpy as np


def fit_ellipse(points: np.ndarray):
    """Middle, half axes, turn and the largest distance of points from the ellipse of least algebraic error with
    Fitzgibbon's constraint (Fitzgibbon, Pilu, Fisher 1999)."""
    middle = points.mean(axis=0)
    scale = np.abs(points - middle).max()
    x, y = ((points - middle) / scale).T
    d1, d2 = np.column_stack([x * x, x * y, y * y]), np.column_stack([x, y, np.ones_like(x)])
    s1, s2, s3 = d1.T @ d1, d1.T @ d2, d2.T @ d2
    t = -np.linalg.solve(s3, s2.T)
    m = np.linalg.inv([[0, 0, 2], [0, -1, 0], [2, 0, 0]]) @ (s1 + s2 @ t)
    _values, vectors = np.linalg.eig(m)
    vectors = np.real(vectors)
    good = np.flatnonzero(4 * vectors[0] * vectors[2] - vectors[1] ** 2 > 0)
    if not len(good):
        return middle, None, 0.0, np.inf
    a, b, c = vectors[:, good[0]]
    d, e, f = t @ vectors[:, good[0]]
    matrix = np.array([[a, b / 2], [b / 2, c]])
    centre = -np.linalg.solve(matrix, [d / 2, e / 2])
    level = centre @ matrix @ centre - f
    sizes, ways = np.linalg.eigh(matrix / level)
    if (sizes <= 0).any():
        return middle, None, 0.0, np.inf
    axes = 1 / np.sqrt(sizes)
    local = (np.column_stack([x, y]) - centre) @ ways
    off = np.abs(np.hypot(*(local / axes).T) - 1) * axes.min()
    turn = float(np.arctan2(ways[1, 0], ways[0, 0]))
    return centre * scale + middle, axes * scale, turn, float(off.max() * scale)
