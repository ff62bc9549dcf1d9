"""How far pixels are off a colour, as a share of what lies beside them: an edge pixel is part one, part the other."""

from __future__ import annotations

import numpy as np

from ...geometry.parallel import parallel_map

#: Pixels to each side of an edge among which what lies beside it is itself.
ABOUT_PX = 2
#: Pixels that are worth a thread of their own.
WORTH_PIXELS = 200_000


def share_off(rgb: np.ndarray, colour: np.ndarray, tolerance: float) -> np.ndarray:
    """From 0, where pixels rgb (H, W, 3 or more) uint8 are of a colour (3,), sRGB of 255, to 1 where they are not,
    (H, W) float32. tolerance: how far a colour may be off and still be it, 1 being from black to white."""
    off, _ = distance(rgb, colour)
    return _shares(off, tolerance, inverse=False)


def share_like(off: np.ndarray, tolerance: float) -> np.ndarray:
    """The same the other way round, 1 where they are, of distances."""
    return _shares(off, tolerance, inverse=True)


def _shares(off: np.ndarray, tolerance: float, inverse: bool) -> np.ndarray:
    from .kernels.matting import shares

    out, least = np.empty_like(off), np.float32(max(tolerance, 1e-6))
    parallel_map(lambda a, b: shares(off, least, ABOUT_PX, inverse, a, b, out), _cost(off), WORTH_PIXELS)
    return out


def distance(rgb: np.ndarray, colour: np.ndarray) -> tuple[np.ndarray, float]:
    """From 0 to 1, the distance of black and white, (H, W) float32, and the largest."""
    from .kernels.matting import distances

    off = np.empty(rgb.shape[:2], np.float32)
    colour = np.asarray(colour, np.float32)
    found = parallel_map(lambda a, b: distances(rgb, colour, a, b, off), _cost(off), WORTH_PIXELS)
    return off, float(max(found))


def _cost(off: np.ndarray) -> np.ndarray:
    return np.full(len(off), float(off.shape[1]))
