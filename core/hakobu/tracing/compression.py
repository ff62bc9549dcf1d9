"""What compression kept of a picture, as its pixels tell it: the planes and blocks that it was parted into, and the
steps that their cosine coefficients stand in.

JPEG keeps blocks of 8 x 8 pixels of brightness and of two differences of colour, the latter mostly at half the
resolution, by their cosine coefficients, each rounded to a step of its own (ITU-T T.81). Where a picture was decoded
and never scaled, the coefficients of its pixels still stand in these steps, and so the steps are found (as by Fan and
de Queiroz 2003), whatever file the pixels came in.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np

SIDE = 8
#: What a plane's pixels are kept less.
MIDDLE = 128.0
#: Blocks whose pixels differ by no more, of 255, show no steps.
EVEN = 4.0
#: About so many blocks tell the steps.
TOLD_BY = 4_000
#: What coefficients of decoded pixels, which are whole numbers, are off by at most; less where steps are fine, which
#: only brightness shows, since colour was enlarged besides.
OFF, OFF_FINE = 1.2, 0.8
#: How decoders enlarge colour: each pixel takes so much of its own and of the one next to it.
OWN, NEXT = 0.75, 0.25


@dataclass(frozen=True)
class Plane:
    """One of the planes of a picture: pixels (H, W) float32, padded to whole blocks; scale: how many of the picture's
    pixels make one of its own along each side; step (64,): what coefficients are rounded to, row by row, infinite where
    none is known."""

    pixels: np.ndarray
    scale: int
    step: np.ndarray


@dataclass(frozen=True)
class Kept:
    """What was kept of a picture: its planes; the colours (K, P) of its labels in them; x, y of its first pixel in
    what was compressed; how far it was blurred before, in pixels; and what is beneath its borders (P,)."""

    planes: list[Plane]
    colours: np.ndarray
    origin: tuple[int, int]
    blur: float = 0.0
    beneath: np.ndarray = field(default_factory=lambda: np.zeros(1))


def planes_of(picture: np.ndarray, cut: np.ndarray, halved: bool, origin: tuple[int, int] = (0, 0)) -> list[Plane]:
    """picture (H, W, P) float32: brightness, and two differences of colour, if any, of 255; cut (H, W): pixels that
    decoding may have cut off at black, white or a full colour; halved: whether colour is of half the resolution;
    origin: x, y of the first pixel in the picture that was compressed. Nothing where no steps are seen in its
    brightness."""
    found = []
    for k in range(picture.shape[2]):
        scale = 2 if halved and k else 1
        pixels = padded(picture[..., k], scale, origin)
        if scale > 1:
            pixels = sharpened(reduced(pixels[None], scale)[0])
        blocks = _parted(pixels, SIDE).reshape(-1, SIDE * SIDE)
        uneven = np.flatnonzero(blocks.max(axis=1) - blocks.min(axis=1) > EVEN)
        spoilt = blocks_of(padded(cut, scale, origin), scale, uneven).any(axis=(1, 2))
        shown = blocks[uneven[~spoilt]] - np.float32(0 if k else MIDDLE)
        step = _steps(shown, (OFF,) if k else (OFF, OFF_FINE))
        # Those of blocks that begin elsewhere may still be told in rows, or in columns, of lines that lie level.
        if not k and not np.isfinite(step[[1, SIDE, SIDE + 1]]).all():
            return []
        found.append(Plane(pixels, scale, step))
    return found


def brightness_kept(rgb: np.ndarray, origin: tuple[int, int]) -> Plane | None:
    """The brightness of a picture rgb (H, W, 3 or more) uint8 where steps are seen in it; origin as above."""
    import cv2

    # Its weights are those that JPEG parts brightness off with (ITU-T T.871).
    bright = cv2.cvtColor(np.ascontiguousarray(rgb[..., :3]), cv2.COLOR_RGB2GRAY)
    planes = planes_of(bright.astype(np.float32)[..., None], cut_off(rgb), False, origin)
    return planes[0] if planes else None


def cut_off(rgb: np.ndarray) -> np.ndarray:
    """Pixels (H, W) that decoding may have cut off at black, white or a full colour."""
    # Black and white are next to each other where whole numbers of eight bits begin again.
    ends = rgb[..., :3] - np.uint8(1) >= 254
    return ends[..., 0] | ends[..., 1] | ends[..., 2]


def padded(pixels: np.ndarray, scale: int, origin: tuple[int, int]) -> np.ndarray:
    """Pixels (H, W) with more about them, so that they are whole blocks of a plane."""
    whole = SIDE * scale
    (left, top), (height, width) = (origin[0] % whole, origin[1] % whole), pixels.shape
    sides = (top, -(height + top) % whole), (left, -(width + left) % whole)
    return np.pad(pixels, sides, mode="edge") if any(map(any, sides)) else np.ascontiguousarray(pixels)


def blocks_of(pixels: np.ndarray, scale: int, which: np.ndarray) -> np.ndarray:
    """Some of the blocks (B, 8, 8) of a plane, float32, from padded pixels of the picture."""
    return reduced(pixels_of(pixels, scale, which), scale)


def pixels_of(pixels: np.ndarray, scale: int, which: np.ndarray) -> np.ndarray:
    """Some of the blocks, each with the picture's own pixels, (B, S, S)."""
    own = _parted(pixels, SIDE * scale)
    return own[which // own.shape[1], which % own.shape[1]]


def reduced(pixels: np.ndarray, scale: int) -> np.ndarray:
    """Each pixel (B, H, W), float32, the mean of those that it stands for."""
    every = [pixels[:, i::scale, j::scale] for i in range(scale) for j in range(scale)]
    total = every[0].astype(np.float32)
    for one in every[1:]:
        total += one
    return total / np.float32(scale**2)


def _parted(pixels: np.ndarray, side: int) -> np.ndarray:
    height, width = pixels.shape
    return pixels.reshape(height // side, side, width // side, side).swapaxes(1, 2)


@lru_cache(maxsize=8)
def cosines(blur_px: float = 0.0) -> np.ndarray:
    """What takes the pixels of a block, in a row, to its cosine coefficients (64, 64), orthonormal, row by row (ITU-T
    T.81, A.3.3): those of the block blurred by a Gaussian, what goes over its edges coming back, which fall off with
    the square of their frequency."""
    along = np.arange(SIDE)
    wave = np.cos((2 * along[:, None] + 1) * along * np.pi / (2 * SIDE)) * np.where(along, 0.5, 0.125**0.5)
    wave *= np.exp(-((along * np.pi / SIDE * blur_px) ** 2) / 2)
    return np.kron(wave, wave).astype(np.float32)


def sharpened(pixels: np.ndarray) -> np.ndarray:
    """A plane as it was before decoding enlarged it, from what it is reduced again: each of its pixels then holds some
    of its neighbours, along rows and columns."""
    from scipy.linalg import solveh_banded

    for _ in range(2):
        count = len(pixels)
        bands = np.array([np.full(count, NEXT / 2), np.full(count, OWN)])
        # The outermost ones have themselves for a neighbour.
        bands[1, [0, -1]] += NEXT / 2
        pixels = solveh_banded(bands, pixels).T
    return np.ascontiguousarray(pixels, np.float32)


def _steps(blocks: np.ndarray, offs: tuple[float, ...]) -> np.ndarray:
    """What each of the coefficients of blocks (B, 64) stands in (64,), by the first of what they may be off by that
    tells it. Those that some of the blocks do not tell are asked of all."""
    from .kernels.steps import step_of

    found = np.full(SIDE * SIDE, np.inf)
    for some in (blocks[:: max(len(blocks) // TOLD_BY, 1)], blocks):
        left = np.flatnonzero(np.isinf(found))
        each = np.ascontiguousarray((some @ cosines()[:, left]).T, np.float64)
        for off in offs:
            for k, own in zip(left, each, strict=True):
                if np.isinf(found[k]):
                    found[k] = step_of(own, off)
        if len(some) == len(blocks):
            break
    return found
