"""The threshold that parts dark from light best. Source: Otsu, "A threshold selection method from gray-level
histograms", IEEE Transactions on Systems, Man, and Cybernetics 9, 1979."""

from __future__ import annotations

import numpy as np


def otsu_level(counts: np.ndarray) -> int:
    """The level, of those that pixels lie on, up to which pixels belong to the darker class: where the variance between
    the classes is largest, the first of equals. counts (256,). Raises ValueError where all pixels lie on one level."""
    used = np.flatnonzero(counts)
    if len(used) < 2:
        raise ValueError("all pixels are alike")
    counts = counts.astype(np.float64)
    value = np.arange(len(counts), dtype=np.float64)
    dark = np.cumsum(counts)[:-1]
    light = counts.sum() - dark
    total = np.cumsum(counts * value)
    with np.errstate(divide="ignore", invalid="ignore"):
        between = dark * light * (total[:-1] / dark - (total[-1] - total[:-1]) / light) ** 2
    return int(np.nanargmax(between))


def otsu_threshold(counts: np.ndarray) -> float:
    """The same as a threshold from 0 to 1, half-way to the next level: a pixel is dark when its grey lies below it."""
    return (otsu_level(counts) + 0.5) / (len(counts) - 1)
