"""How wide the steps between colours are: blur makes brightness and colour step alike, while cameras and compression
keep colour at half the resolution, so that it steps far more gently than brightness."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .outlines import MOST_BLUR

#: sRGB (..., 3) to brightness and two differences of colour (JFIF's, after ITU-R BT.601).
BRIGHTNESS = np.array([0.299, 0.587, 0.114])
SEEN = np.stack(
    [BRIGHTNESS, 0.564 * (np.array([0, 0, 1]) - BRIGHTNESS), 0.713 * (np.array([1, 0, 0]) - BRIGHTNESS)], axis=1
)

#: Across a step so many pixels are looked at, of which the first and the last ones are of one colour each.
ACROSS, SURE = 8, 3
#: Rows, and steps of them, that are looked at at most: the median of so many is within two hundredths.
ROWS, LOOKED_AT = 300, 2_000
#: Steps of brightness and of colour are looked at where they are at least so high, of 255, and there are so many.
HIGH, FEWEST = 25.0, 30
#: Colour steps more gently than this share of how steeply brightness does where it is of less resolution.
GENTLER = 0.7
#: How much differences of colour count beside those of brightness there: about as much as each tells of where a border
#: lies, at JPEG's qualities of 30 to 90.
GENTLE_COUNT = 0.3
#: The steepest part of a step blurred by a Gaussian, as rows meet it at all angles, and that of one without blur;
#: drawn with known blurs, these give them back within a tenth.
GAUSSIAN, PLAIN = 0.36, 0.27
#: The blur of steps, in pixels, that is taken where there are too few to tell, and the least.
UNTOLD, LEAST = 0.4, 0.3


@dataclass(frozen=True)
class Softness:
    """blur: of steps, in pixels; gentle_colour: whether colour steps far more gently than brightness."""

    blur: float = UNTOLD
    gentle_colour: bool = False


def softness(rgb: np.ndarray, labels: np.ndarray, colours: np.ndarray) -> Softness:
    """rgb (H, W, 3) uint8; labels (H, W): which colour each pixel is of; colours (K, 3) as they are seen: brightness
    and two differences of colour, of 255."""
    from ..edges.kernels.edge_blur import steps_across

    row, first = steps_across(labels, max(len(labels) // ROWS, 1), ACROSS, SURE)
    if len(row) > LOOKED_AT:
        some = np.linspace(0, len(row) - 1, LOOKED_AT).astype(int)
        row, first = row[some], first[some]
    pixels = rgb[row[:, None], first[:, None] + np.arange(ACROSS)] @ SEEN
    height = colours[labels[row, first + ACROSS - 1]] - colours[labels[row, first]]
    brightness = _steepness(pixels[..., :1], height[:, :1])
    colour = _steepness(pixels[..., 1:], height[:, 1:])
    steepest = brightness if brightness is not None else colour
    if steepest is None:
        return Softness()
    gentle = brightness is not None and colour is not None and colour < GENTLER * brightness
    blur = max((GAUSSIAN / steepest) ** 2 - PLAIN, LEAST**2) ** 0.5
    return Softness(min(blur, MOST_BLUR), gentle)


def _steepness(pixels: np.ndarray, height: np.ndarray) -> float | None:
    """The share of a step (S, A, C) of a height (S, C) that lies between two neighbours at most, for most steps."""
    size = np.sqrt((height**2).sum(axis=1))
    high = size > HIGH
    if np.count_nonzero(high) < FEWEST:
        return None
    along = height[high] / size[high, None] ** 2
    share = np.einsum("sac,sc->sa", pixels[high], along)
    return max(float(np.median(np.abs(np.diff(share, axis=1)).max(axis=1))), 0.01)
