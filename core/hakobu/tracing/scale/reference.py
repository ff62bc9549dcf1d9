"""True scale by a shape of known size in the picture: its corners found to a fraction of a pixel, tilt and perspective
put right, and the shape itself left out.

The plane of the picture goes to the plane of the thing by a homography (Hartley and Zisserman 2004, section 4.1), which
four corners determine.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from ...errors import BadRequest, CannotDo
from ...model.units import parse_length
from ..options import View
from ..outlines.outlines import find_outlines
from ..outlines.thresholding import propose
from .ellipse_fit import fit_ellipse
from .homography import homography, similarity, transform_points

#: A side of the shape in pixels, at least: less tells no size.
LEAST_PX = 20.0
#: What comes nearer to the picture's rim than this, in pixels, is cut off by it.
RIM_PX = 1.5
#: How far, in pixels, a shape's outline may leave its sides or its circle, as a share of its size and at least.
OFF_SHARE, OFF_PX = 0.004, 0.6
#: Where tilt and perspective move nothing in the picture by more than this, in pixels, it is only turned and scaled.
PLAIN_PX = 0.35
#: An outline's points are taken so far apart, in pixels; it is a quadrilateral where so much of its size makes no
#: difference; and so much of each side, next to its corners, is not looked at.
SAMPLE_PX, ROUGH_SHARE, CLEAR_SHARE = 0.5, 0.06, 0.06
#: A quadrilateral's opposite sides differ by no more than this share where it is a square seen at a slant.
SLANT = 0.35
#: Between these sizes a shape can be printed or cut, and seen in a picture.
LEAST_MM, MOST_MM = 1.0, 2000.0
SHAPES = ("square", "rectangle", "circle")
#: Pixels to each side of a side that tell where it lies, and those next to its corners that do not; the least blur, and
#: the steps of that fit.
BAND_PX, CORNER_PX, BLUR_PX, STEPS = 3.0, 4.0, 0.3, 6
#: The most pixels that a picture put right may have.
MOST_PIXELS = 80_000_000


@dataclass(frozen=True)
class Scaled:
    """The picture put right, and its reference: where its middle lies in it, in pixels; how far it may be off, as a
    share of the size; by how much it was turned, in radians; and the plane: what takes pixels of the picture as it was
    to millimetres, (3, 3), where it was seen at a slant."""

    view: View
    middle: tuple[int, int]
    error: float
    turned: float
    plane: np.ndarray | None = None


@dataclass(frozen=True)
class Reference:
    shape: str
    width_mm: float
    height_mm: float


def parse_reference(text: str) -> Reference:
    """ "square:60mm", "rectangle:60x40mm", "circle:50mm". Raises BadRequest."""
    shape, _, size = text.partition(":")
    if shape not in SHAPES or not size:
        raise BadRequest(f'"{text}" is no reference: write a shape and its size, as square:60mm or rectangle:60x40mm.')
    first, _, second = size.partition("x")
    if shape == "rectangle":
        if not second:
            raise BadRequest(f'"{text}" names one side only: write both, as rectangle:60x40mm.')
        unit = second.lstrip("0123456789.,/ ")
        width = parse_length(first if first.rstrip()[-1:].isalpha() else first + unit)
        return _within_reach(Reference(shape, width, parse_length(second)))
    side = parse_length(first)
    return _within_reach(Reference(shape, side, side))


def _within_reach(reference: Reference) -> Reference:
    for side in (reference.width_mm, reference.height_mm):
        if not LEAST_MM <= side <= MOST_MM:
            raise BadRequest(f"A reference shape is {LEAST_MM:g} mm to {MOST_MM:g} mm large, not {side:g} mm.")
    return reference


def scaled_by(view: View, reference: Reference) -> Scaled:
    """The view with its scale, tilt and perspective by the reference that is in it. Raises CannotDo where there is
    none."""
    proposed = propose(view.grey, 1.0)
    found = find_outlines(view.grey, proposed.threshold, LEAST_PX**2 / 2)
    size_px = view.rgba.shape[1], view.rgba.shape[0]
    if reference.shape == "circle":
        corners, error = _circle(found, size_px)
    else:
        exact = partial(_by_pixels, view.grey, found, proposed.threshold)
        corners, error = _quadrilateral(found, exact, size_px, reference)
    return _put_right(view, reference, corners, error)


def _outers(found, size_px: tuple[int, int]):
    """The outlines that lie whole in the picture, the largest first, and where their points are."""
    outer = np.flatnonzero(found.size > 0)
    for k in outer[np.argsort(-found.size[outer])]:
        rows = slice(int(found.start[k]), int(found.start[k + 1]))
        low, high = found.points[rows].min(axis=0), found.points[rows].max(axis=0)
        if (low > RIM_PX).all() and (high < np.array(size_px) - RIM_PX).all():
            yield int(k), rows


def _quadrilateral(found, exact, size_px: tuple[int, int], reference: Reference) -> tuple[np.ndarray, float]:
    """The corners of the likeliest quadrilateral (4, 2), round from the first side that is the width; and its error.
    exact: puts the corners of an outline, by its number, where its pixels have them."""
    best, chosen = np.inf, None
    ratio = reference.width_mm / reference.height_mm
    for k, rows in _outers(found, size_px):
        own = _four_sides(found.points[rows])
        if own is None:
            continue
        own = exact(k, own)
        sides = np.hypot(*(np.roll(own, -1, axis=0) - own).T)
        slant = max(abs(sides[0] / sides[2] - 1), abs(sides[1] / sides[3] - 1))
        one, other = (sides[0] + sides[2]) / 2, (sides[1] + sides[3]) / 2
        seen = one / other
        off = min(abs(np.log(seen / ratio)), abs(np.log(1 / seen / ratio)))
        if slant > SLANT or off > SLANT:
            continue
        if slant + off < best:
            best = slant + off
            turned = abs(np.log(1 / seen / ratio)) < abs(np.log(seen / ratio)) - 1e-3
            chosen = np.roll(own, -1, axis=0) if turned else own
    if chosen is None:
        raise CannotDo(
            f"There is no {reference.shape} to be found in this picture: it must lie whole in it, dark on light, its "
            "sides unbroken."
        )
    side = np.hypot(*(np.roll(chosen, -1, axis=0) - chosen).T).min()
    return chosen, found.noise * 2 / side


def _four_sides(points: np.ndarray) -> np.ndarray | None:
    """The corners (4, 2) of an outline that has four straight sides: where lines through these meet."""
    import cv2

    size = np.ptp(points, axis=0).max()
    if size < LEAST_PX:
        return None
    ring = np.vstack([points, points[:1]])
    run = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(ring, axis=0).T))])
    along = np.arange(0.0, run[-1], SAMPLE_PX)
    even = np.column_stack([np.interp(along, run, ring[:, k]) for k in range(2)])
    rough = cv2.approxPolyDP(even.astype(np.float32)[:, None], ROUGH_SHARE * size, True)[:, 0]
    if len(rough) != 4:
        return None
    at = np.sort([int(np.hypot(*(even - corner).T).argmin()) for corner in rough])
    lines = []
    for a, b in zip(at, np.append(at[1:], at[0] + len(even)), strict=True):
        clear = int(CLEAR_SHARE * (b - a))
        side = even[np.arange(a + clear, b - clear) % len(even)]
        if len(side) < 8:
            return None
        middle = side.mean(axis=0)
        way = np.linalg.svd(side - middle, full_matrices=False)[2][0]
        off = (side - middle) @ np.array([-way[1], way[0]])
        if np.abs(off).max() > max(OFF_SHARE * size, OFF_PX):
            return None
        lines.append((middle, way))
    return _meetings(lines)


def _by_pixels(grey: np.ndarray, found, threshold: float, which: int, corners: np.ndarray) -> np.ndarray:
    """The corners of a dark quadrilateral again (4, 2), each side being the line that, blurred, fits its pixels best.

    Across a straight edge a Gaussian blur makes the normal distribution of the coverage; where it lies, how it runs and
    how wide it is are found by Gauss and Newton's method, over all pixels near the side.
    """
    black, white = found.levels[which, 1:].tolist()
    middle = corners.mean(axis=0)
    lines = []
    for p, q in zip(corners, np.roll(corners, -1, axis=0), strict=True):
        line = _side_by_pixels(grey, black, white, p, q, middle, max(found.blur, BLUR_PX))
        if line is None:
            return corners
        lines.append(line)
    made = _meetings(lines)
    return corners if made is None else made


def _side_by_pixels(grey, black: float, white: float, p, q, middle, blur: float):
    """A point and the direction of a side from p to q; None where its pixels show no such side."""
    from scipy.special import ndtr

    length = float(np.hypot(*(q - p)))
    u = (q - p) / length
    n = np.array([-u[1], u[0]]) * np.sign((p - middle) @ np.array([-u[1], u[0]]))
    low = np.maximum(np.floor(np.minimum(p, q) - BAND_PX).astype(int), 0)
    high = np.ceil(np.maximum(p, q) + BAND_PX).astype(int)
    part = grey[low[1] : high[1], low[0] : high[0]]
    y, x = np.indices(part.shape)
    from_middle = np.stack([x + low[0] + 0.5, y + low[1] + 0.5], axis=-1) - (p + q) / 2
    along, off = from_middle @ u, from_middle @ n
    near = (np.abs(off) < BAND_PX) & (np.abs(along) < length / 2 - CORNER_PX)
    along, off, ink = along[near], off[near], (white - part[near]) / (white - black)
    place, slope, wide = 0.0, 0.0, blur
    for _ in range(STEPS):
        z = (place + slope * along - off) / wide
        density = np.exp(-z * z / 2) / (wide * np.sqrt(2 * np.pi))
        change = np.column_stack([density, density * along, -density * z])
        step = np.linalg.lstsq(change, ink - ndtr(z), rcond=None)[0]
        place, slope, wide = place + step[0], slope + step[1], wide + step[2]
        if not (abs(place) < OFF_PX + OFF_SHARE * length and 0.2 < wide < BAND_PX):
            return None
    return (p + q) / 2 + place * n, u + slope * n


def _meetings(lines: list[tuple[np.ndarray, np.ndarray]]) -> np.ndarray | None:
    """Where each of four lines, of a point and a direction, meets the one before it (4, 2); None where two hardly
    do."""
    corners = []
    for (p, u), (q, v) in zip([lines[-1], *lines[:-1]], lines, strict=True):
        cross = u[0] * v[1] - u[1] * v[0]
        if abs(cross) < 0.3:
            return None
        corners.append(p + ((q - p)[0] * v[1] - (q - p)[1] * v[0]) / cross * u)
    return np.array(corners)


def _circle(found, size_px: tuple[int, int]) -> tuple[np.ndarray, float]:
    """The ends of two diameters of the roundest outline, as of a square about it (4, 2)."""
    best, chosen = np.inf, None
    for _, rows in _outers(found, size_px):
        points = found.points[rows]
        if len(points) < 12 or found.corner[rows].any():
            continue
        middle, axes, turn, off = fit_ellipse(points)
        if axes is None or axes.min() < LEAST_PX / 2 or off > max(OFF_SHARE * axes.max(), OFF_PX):
            continue
        slant = axes.max() / axes.min() - 1
        if slant < min(best, SLANT):
            best = slant
            u = np.array([np.cos(turn), np.sin(turn)]) * axes[0]
            v = np.array([-np.sin(turn), np.cos(turn)]) * axes[1]
            chosen = np.array([middle - u - v, middle + u - v, middle + u + v, middle - u + v])
            size, count = axes.min(), len(points)
    if chosen is None:
        raise CannotDo(
            "There is no circle to be found in this picture: it must lie whole in it, dark on light, its edge unbroken."
        )
    return chosen, found.noise / size / count**0.5


def _put_right(view: View, reference: Reference, corners: np.ndarray, error: float) -> Scaled:
    """The view turned so that the reference lies straight, as near to how it lay as may be."""
    if _area(corners) < 0:
        corners = corners[::-1]
    # The corner that lies most to the upper left is the first.
    if reference.shape != "rectangle":
        corners = np.roll(corners, -int(corners.sum(axis=1).argmin()), axis=0)
    w, h = reference.width_mm, reference.height_mm
    target = np.array([[0, 0], [w, 0], [w, h], [0, h]], float)
    to_mm = homography(corners, target)
    middle = corners.mean(axis=0)
    side = corners[1] - corners[0]
    turned = float(np.arctan2(side[1], side[0]))
    similar, off = similarity(corners, target)
    height, width = view.rgba.shape[:2]
    rim = np.array([[0, 0], [width, 0], [width, height], [0, height]], float)
    pixel_mm = np.sqrt(w * h / abs(_area(corners)))
    moved = np.hypot(*(transform_points(to_mm, rim) - transform_points(similar, rim)).T).max() / pixel_mm
    inner = np.hypot(*off.T).max() / pixel_mm
    if moved <= PLAIN_PX * 4 and inner <= PLAIN_PX:
        a, b, c, d, e, f = similar[0, 0], similar[1, 0], similar[0, 1], similar[1, 1], similar[0, 2], similar[1, 2]
        low = transform_points(similar, rim).min(axis=0)
        matrix = (a, b, c, d, e - low[0], f - low[1])
        return Scaled(replace(view, matrix=matrix), (int(middle[0]), int(middle[1])), error, turned)
    return _warped(view, to_mm, rim, pixel_mm, middle, error, turned)


def _warped(view, to_mm, rim, pixel_mm, middle, error, turned) -> Scaled:
    """The picture drawn anew as if seen straight from above, at the resolution it has about the reference."""
    import cv2

    seen = transform_points(to_mm, rim)
    if not np.isfinite(seen).all() or (np.column_stack([rim, np.ones(4)]) @ to_mm[2] <= 0).any():
        raise CannotDo("The picture was taken at too sharp a slant to be put right: take it from farther above.")
    low, high = seen.min(axis=0), seen.max(axis=0)
    size = np.ceil((high - low) / pixel_mm).astype(int)
    if size.prod() > MOST_PIXELS:
        raise CannotDo("The picture was taken at too sharp a slant to be put right: take it from farther above.")
    shift = np.array([[1 / pixel_mm, 0, -low[0] / pixel_mm], [0, 1 / pixel_mm, -low[1] / pixel_mm], [0, 0, 1]])
    # OpenCV counts from the middle of the first pixel.
    half = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1.0]])
    matrix = np.linalg.inv(half) @ shift @ to_mm @ half
    rim_colour = [int(v) for v in np.median(view.rgba[:, [0, -1]].reshape(-1, 4), axis=0)]
    rgba = cv2.warpPerspective(
        view.rgba, matrix, tuple(int(v) for v in size), flags=cv2.INTER_CUBIC, borderValue=rim_colour
    )
    x, y = transform_points(shift @ to_mm, middle[None])[0]
    put_right = View(np.ascontiguousarray(rgba), (pixel_mm, 0, 0, pixel_mm, 0, 0))
    plane = np.array([[1, 0, -low[0]], [0, 1, -low[1]], [0, 0, 1]]) @ to_mm
    plane = plane @ np.array([[1, 0, -view.origin[0]], [0, 1, -view.origin[1]], [0, 0, 1]])
    return Scaled(put_right, (int(x), int(y)), error, turned, plane)


def _area(corners: np.ndarray) -> float:
    x, y = corners.T
    return float((x * np.roll(y, -1) - y * np.roll(x, -1)).sum() / 2)


__all__ = ["Reference", "Scaled", "parse_reference", "scaled_by"]
