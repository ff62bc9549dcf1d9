"""Homographies and similarities that take points of a plane to others."""

from __future__ import annotations

import numpy as np


def homography(source: np.ndarray, target: np.ndarray) -> np.ndarray:
    """The 3 x 3 matrix that takes four points to four others, its last number 1."""
    rows, values = [], []
    for (x, y), (u, v) in zip(source, target, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        values += [u, v]
    return np.append(np.linalg.solve(np.array(rows), np.array(values)), 1.0).reshape(3, 3)


def transform_points(matrix: np.ndarray, points: np.ndarray) -> np.ndarray:
    """Points (N, 2) under a 3 x 3 matrix."""
    made = np.column_stack([points, np.ones(len(points))]) @ matrix.T
    return made[:, :2] / made[:, 2:]


def similarity(source: np.ndarray, target: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Turn, scale and shift that take points nearest to others (Umeyama 1991), as 3 x 3; and what is left, (4, 2)."""
    a, b = source - source.mean(axis=0), target - target.mean(axis=0)
    p, q = a[:, 0] + 1j * a[:, 1], b[:, 0] + 1j * b[:, 1]
    turn = (np.conj(p) @ q) / (np.conj(p) @ p)
    matrix = np.array([[turn.real, -turn.imag, 0], [turn.imag, turn.real, 0], [0, 0, 1]])
    matrix[:2, 2] = target.mean(axis=0) - matrix[:2, :2] @ source.mean(axis=0)
    return matrix, transform_points(matrix, source) - target
