"""A picture made ready to be traced: a part of it, straightened, inverted, its noise calmed, its light evened."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ...errors import CannotDo
from ..options import View
from .illumination import flat_field_corrected

#: A part of a picture has so many pixels along each side, at least.
LEAST_PX = 4
#: Noise is calmed among pixels so near, and no farther apart in brightness than so many times the noise, of 255.
CALM_PX, CALM_NOISES, CALM_LEAST, CALM_MOST = 2.0, 4.0, 12.0, 60.0


@dataclass(frozen=True)
class Preparing:
    """crop: the corners left, top and right, bottom of the part that is looked at, in pixels; turned_degrees: by how
    much the picture is turned clockwise, about its middle."""

    crop: tuple[tuple[int, int], ...] = ()
    turned_degrees: float = 0.0
    inverted: bool = False
    calmed: bool = False
    even_light: bool = False


def prepared(view: View, how: Preparing) -> View:
    """Raises CannotDo where nothing is left of the picture."""
    if how.crop:
        view = cropped(view, how.crop)
    if how.turned_degrees:
        view = turned(view, how.turned_degrees)
    if how.even_light:
        view = replace(view, cache={}, rgba=_with_colours(view, flat_field_corrected(view.over_white)))
    if how.calmed:
        view = replace(view, cache={}, rgba=_with_colours(view, denoise(view.over_white)))
    if how.inverted:
        view = replace(view, cache={}, rgba=_with_colours(view, 255 - view.over_white))
    return view


def _with_colours(view: View, rgb: np.ndarray) -> np.ndarray:
    """Colours rgb (H, W, 3) uint8, with the picture's own transparency where it has a clear background."""
    alpha = view.rgba[..., 3:] if view.has_clear_background else np.full((*rgb.shape[:2], 1), 255, np.uint8)
    return np.ascontiguousarray(np.concatenate([rgb, alpha], axis=2))


def cropped(view: View, corners: tuple[tuple[int, int], ...]) -> View:
    """The part between two corners. Raises CannotDo where they hold next to nothing of the picture."""
    if len(corners) != 2:
        raise CannotDo("A part of a picture is named by two corners.")
    height, width = view.rgba.shape[:2]
    (x0, y0), (x1, y1) = corners
    left, right = sorted((min(max(x0, 0), width), min(max(x1, 0), width)))
    top, bottom = sorted((min(max(y0, 0), height), min(max(y1, 0), height)))
    if right - left < LEAST_PX or bottom - top < LEAST_PX:
        raise CannotDo("The part that is looked at holds next to nothing of this picture: make it larger.")
    a, b, c, d, e, f = view.matrix
    matrix = (a, b, c, d, a * left + c * top + e, b * left + d * top + f)
    origin = (view.origin[0] + left, view.origin[1] + top)
    return View(np.ascontiguousarray(view.rgba[top:bottom, left:right]), matrix, origin)


def turned(view: View, degrees: float) -> View:
    """The picture lies otherwise; none of its pixels is touched."""
    way = np.radians(degrees)
    turn = np.array([[np.cos(way), -np.sin(way)], [np.sin(way), np.cos(way)]])
    height, width = view.rgba.shape[:2]
    middle = view.to_mm(np.array([[width / 2, height / 2]]))[0]
    a, b, c, d, e, f = view.matrix
    own = turn @ np.array([[a, c], [b, d]])
    shift = turn @ (np.array([e, f]) - middle) + middle
    return replace(view, matrix=(own[0, 0], own[1, 0], own[0, 1], own[1, 1], shift[0], shift[1]))


def denoise(rgb: np.ndarray) -> np.ndarray:
    """Noise and the ringing of compression smoothed, edges and corners kept: each pixel the mean of those about it that
    are like it (bilateral filter: Tomasi and Manduchi 1998), by how much pixels differ where the picture is even."""
    import cv2

    from ..colour.palette import noise_of

    reach = float(np.clip(CALM_NOISES * noise_of(rgb), CALM_LEAST, CALM_MOST))
    return cv2.bilateralFilter(np.ascontiguousarray(rgb), 0, reach, CALM_PX)
