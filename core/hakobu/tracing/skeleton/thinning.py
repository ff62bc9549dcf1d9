"""Ink thinned to lines of one pixel, and how these hang together."""

from __future__ import annotations

import numpy as np

#: A pixel and those beside it.
CROSS = np.array([[0, 1, 0], [1, 1, 1], [0, 1, 0]], np.uint8)


def thin(ink: np.ndarray) -> None:
    """Thins ink (H, W), uint8 of 0 and 1, in place; the picture's edge must be free of it."""
    import cv2

    from .kernels import thinning

    thinning.thin(ink, np.flatnonzero(ink != cv2.erode(ink, CROSS)))


def branches(ink: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray, int]:
    """The lines of ink (H, W), which is thinned in place, as `kernels.thinning.branches` has them."""
    from .kernels import thinning

    thin(ink)
    thinning.without_steps(ink, np.flatnonzero(ink.view(bool)))
    return thinning.branches(ink, np.flatnonzero(ink.view(bool)))
