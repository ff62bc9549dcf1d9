"""Quantiles of a few numbers."""

from __future__ import annotations

import numpy as np


def quantile(values: np.ndarray, share: float) -> float:
    """As numpy has it, straight between the two nearest of the values (N,), at least one; what numpy makes sure of
    before takes many times as long as finding it."""
    at = share * (len(values) - 1)
    below = int(at)
    above = min(below + 1, len(values) - 1)
    ordered = np.partition(values, (below, above))
    low, high = float(ordered[below]), float(ordered[above])
    return low + (at - below) * (high - low)
