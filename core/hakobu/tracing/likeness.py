"""How far pixels are off a colour, as a share of what lies beside them: an edge pixel is part one, part the other."""

from __future__ import annotations

import numpy as np

#: Pixels about an edge among which what lies beside it is itself.
ABOUT_PX = 5


def share_off(rgb: np.ndarray, colour: np.ndarray, tolerance: float) -> np.ndarray:
    """From 0, where pixels rgb (H, W, 3) uint8 are of a colour (3,), sRGB of 255, to 1 where they are not, (H, W)
    float32. tolerance: how far a colour may be off and still be it, 1 being from black to white."""
    from scipy.ndimage import maximum_filter

    off = distance(rgb, colour)
    whole = np.maximum(maximum_filter(off, ABOUT_PX), 1e-6)
    share = np.clip(off / np.where(whole > tolerance, whole, 1.0), 0, 1)
    return np.ascontiguousarray(np.where(whole > tolerance, share, 0), np.float32)


def distance(rgb: np.ndarray, colour: np.ndarray) -> np.ndarray:
    """From 0 to 1, the distance of black and white, (H, W) float32."""
    off = rgb.astype(np.float32) - np.asarray(colour, np.float32)
    return np.sqrt((off**2).sum(axis=2)) / np.float32(255 * np.sqrt(3))
