"""What compression kept of a picture, as its pixels tell it: the planes and blocks that it was parted into, and the
steps that their cosine coefficients stand in.

JPEG keeps blocks of 8 x 8 pixels of brightness and of two differences of colour, the latter mostly at half the
resolution, by their cosine coefficients, each rounded to a step of its own (ITU-T T.81). Where a picture was decoded
and never scaled, the coefficients of its pixels still stand in these steps, and so the steps are found (as by Fan and
de Queiroz 2003), whatever file the pixels came in.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

SIDE = 8
#: What a plane's pixels are kept less.
MIDDLE = 128.0
#: Blocks whose pixels differ by no more, of 255, show no steps.
EVEN = 4.0
#: How decoders enlarge colour: each pixel takes so much of its own and of the one next to it.
OWN, NEXT = 0.75, 0.25


@dataclass(frozen=True)
class Plane:
    """One of the planes of a picture: pixels (H, W) float64, padded to whole blocks; scale: how many of the picture's
    pixels make one of its own along each side; step (8, 8): what coefficients are rounded to, infinite where none is
    known."""

    pixels: np.ndarray
    scale: int
    step: np.ndarray

    def blocks(self, which: np.ndarray) -> np.ndarray:
        return tiles(self.pixels)[which]


@dataclass(frozen=True)
class Kept:
    """What was kept of a picture: its planes; the colours (K, 3) of its labels in them; and x, y of its first pixel in
    what was compressed."""

    planes: list[Plane]
    colours: np.ndarray
    origin: tuple[int, int]


def planes_of(picture: np.ndarray, cut: np.ndarray, halved: bool, origin: tuple[int, int] = (0, 0)) -> list[Plane]:
    """picture (H, W, 3): brightness and two differences of colour, of 255; cut (H, W): pixels that decoding may have
    cut off at black, white or a full colour; halved: whether colour is of half the
    resolution; origin: x, y of the first pixel in the picture that was compressed. Nothing where no steps are seen in
    its brightness."""
    found = []
    for k in range(3):
        scale = 2 if halved and k else 1
        pixels = reduced(picture[..., k], scale, origin)
        if scale > 1:
            pixels = _sharp(pixels)
        blocks = tiles(pixels)
        uneven = np.ptp(blocks, axis=(1, 2)) > EVEN
        whole = ~tiles(reduced(cut, scale, origin))[uneven].any(axis=(1, 2))
        shown = transformed(blocks[uneven][whole])
        shown[:, 0, 0] -= 0 if k else MIDDLE * SIDE
        step = _steps(shown)
        # Those of blocks that begin elsewhere may still be told in rows, or in columns, of lines that lie level.
        if not k and not np.isfinite(step[:2, :2].ravel()[1:]).all():
            return []
        found.append(Plane(pixels, scale, step))
    return found


def reduced(pixels: np.ndarray, scale: int, origin: tuple[int, int]) -> np.ndarray:
    """A plane's own pixels, from those of the picture, padded so that its blocks begin at its first one."""
    whole = SIDE * scale
    (left, top), (height, width) = (origin[0] % whole, origin[1] % whole), pixels.shape
    sides = (top, -(height + top) % whole), (left, -(width + left) % whole)
    own = np.pad(pixels.astype(float), sides, mode="edge")
    if scale > 1:
        own = own.reshape(len(own) // scale, scale, -1, scale).mean(axis=(1, 3))
    return own


def tiles(pixels: np.ndarray) -> np.ndarray:
    """The blocks of a plane, row by row, (B, 8, 8)."""
    height, width = pixels.shape
    return pixels.reshape(height // SIDE, SIDE, width // SIDE, SIDE).swapaxes(1, 2).reshape(-1, SIDE, SIDE)


def transformed(blocks: np.ndarray) -> np.ndarray:
    """The cosine coefficients of blocks (B, 8, 8), orthonormal."""
    from scipy.fft import dctn

    return dctn(blocks, axes=(1, 2), norm="ortho")


def _sharp(pixels: np.ndarray) -> np.ndarray:
    """A plane as it was before decoding enlarged it, from what it is reduced again: each of its pixels then holds some
    of its neighbours, along rows and columns."""
    from scipy.linalg import solveh_banded

    for _ in range(2):
        count = len(pixels)
        bands = np.array([np.full(count, NEXT / 2), np.full(count, OWN)])
        # The outermost ones have themselves for a neighbour.
        bands[1, [0, -1]] += NEXT / 2
        pixels = np.ascontiguousarray(solveh_banded(bands, pixels).T)
    return pixels


def _steps(coefficients: np.ndarray) -> np.ndarray:
    """What each of the coefficients of blocks (B, 8, 8) stands in (8, 8)."""
    from .kernels.steps import step_of

    each = np.ascontiguousarray(coefficients.reshape(-1, SIDE * SIDE).T)
    return np.array([step_of(own) for own in each]).reshape(SIDE, SIDE)
