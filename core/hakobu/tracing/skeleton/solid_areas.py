"""Drawings of lines and fat areas taken apart: what is wider than lines are, and the rest."""

from __future__ import annotations

import numpy as np

from ...errors import CannotDo


def parted(grey: np.ndarray, threshold: float, widest_px: float) -> tuple[np.ndarray, np.ndarray | None]:
    """Of a picture (H, W) float32, one with lines no wider than that only, and one with what is wider; None where
    nothing is. Lines end where areas begin."""
    import cv2

    ink = (grey < threshold).astype(np.uint8)
    if not ink.any():
        raise CannotDo("Nothing in this picture is darker than the mark: move it.")
    inside = cv2.distanceTransform(ink, cv2.DIST_L2, 5)
    core = (inside > widest_px / 2 + 0.5).astype(np.uint8)
    if not core.any():
        return grey, None
    # As far as the core reaches to the edges about it, and a pixel more for their grey.
    reach = cv2.distanceTransform(1 - core, cv2.DIST_L2, 5)
    fat = reach <= widest_px / 2 + 1.5
    white = np.float32(grey.max())
    near = cv2.dilate(fat.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    lines = np.where(fat, white, grey)
    areas = np.where(near, grey, white)
    return np.ascontiguousarray(lines), np.ascontiguousarray(areas)
