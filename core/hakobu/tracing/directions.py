"""Directions in a picture as they are in millimetres."""

from __future__ import annotations

import numpy as np


def turned(direction: np.ndarray, turn: np.ndarray) -> np.ndarray:
    """Directions (N, 2) under the linear part of a matrix, `direction @ turn`, of length 1; zeros stay zeros."""
    made = direction @ turn
    size = np.hypot(*made.T)[:, None]
    return np.divide(made, size, out=np.zeros_like(made), where=size > 0)
