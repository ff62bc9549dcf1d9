"""Directions in a picture as they are in millimetres."""

from __future__ import annotations

import numpy as np


def turned(direction: np.ndarray, turn: np.ndarray) -> np.ndarray:
    """Directions (N, 2) under the linear part of a matrix, `direction @ turn`, of length 1; zeros stay zeros."""
    made = np.zeros_like(direction)
    # Most are zeros.
    some = np.flatnonzero((direction[:, 0] != 0) | (direction[:, 1] != 0))
    own = direction[some] @ turn
    made[some] = own / np.hypot(own[:, 0], own[:, 1])[:, None]
    return made
