"""How dark a picture's pixels are, as they look on white paper."""

from __future__ import annotations

from functools import partial

import numpy as np

from ...geometry.parallel import parallel_map
from ...model.pixels import with_dark_ink

#: Pixels that are worth a thread of their own.
WORTH_PIXELS = 400_000
#: Luma of gamma-coded sRGB: the weights of ITU-R BT.709, whose primaries sRGB shares (IEC 61966-2-1).
LUMA = np.array([0.2126, 0.7152, 0.0722], np.float32)
#: What white is, of levels.
MOST_LEVEL = 255


def luma_over_white(picture: np.ndarray) -> np.ndarray:
    """picture (H, W, 4) uint8, straight alpha -> (H, W) float32 from 0 (black) to 1 (white); what is white on a clear
    ground as dark as it is light, since its ground is what is clear."""
    from .kernels.greyscale import looks

    picture = np.ascontiguousarray(with_dark_ink(picture))
    grey = np.empty(picture.shape[:2], np.float32)
    rows = np.full(len(grey), float(grey.shape[1]))  # pyright: ignore[reportGeneralTypeIssues]
    parallel_map(lambda a, b: looks(picture, LUMA / 255, a, b, grey), rows, WORTH_PIXELS)
    return grey


def without_alpha(picture: np.ndarray) -> np.ndarray:
    """picture (H, W, 4) uint8 -> (H, W, 3), a copy: many times faster than taking three of four columns."""
    import cv2

    return cv2.cvtColor(np.ascontiguousarray(picture), cv2.COLOR_RGBA2RGB)


def to_levels(grey: np.ndarray) -> np.ndarray:
    """Grey from 0 to 1 as levels of 256, uint8: a quarter of the memory to go through."""
    return (grey * MOST_LEVEL + 0.5).astype(np.uint8)


def from_levels(grey: np.ndarray) -> np.ndarray:
    """Levels of 256 as grey from 0 to 1, float32."""
    return grey * np.float32(1 / MOST_LEVEL)


def levels(grey: np.ndarray) -> np.ndarray:
    """How many pixels lie on each of 256 levels, (256,)."""
    from .kernels.greyscale import counted

    grey = np.ascontiguousarray(grey)
    rows = np.full(len(grey), float(grey.shape[1]))
    return np.sum(parallel_map(lambda a, b: counted(grey, a, b), rows, WORTH_PIXELS), axis=0)


def halved(grey: np.ndarray, times: int = 1) -> np.ndarray:
    """The picture (H, W) float32, or levels uint8, at half its size, so many times over, as float32: each pixel the
    mean of four; past an odd edge its last row or column stands once more."""
    from .kernels.halving import halve

    grey = np.ascontiguousarray(grey)
    for _ in range(times):
        small = half_of(grey)
        work = partial(halve, grey, small, quarter_of(grey))
        parallel_map(work, np.full(len(small), 2.0 * grey.shape[1]), WORTH_PIXELS)
        grey = small
    return grey


def half_of(grey: np.ndarray) -> np.ndarray:
    """Room for a picture (H, W) at half its size, float32."""
    height, width = grey.shape
    return np.empty((-(-height // 2), -(-width // 2)), np.float32)


def quarter_of(grey: np.ndarray) -> np.float32:
    """A quarter of what is white in a picture of numbers or of levels."""
    return np.float32(0.25 / (MOST_LEVEL if grey.dtype == np.uint8 else 1))
