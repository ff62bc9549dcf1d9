"""How a shape lies in an outline: its clearance to the rim, and the largest size at which it fits."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .affine import compose, scaling, transform, translation
from .flatten import flatten
from .measure import bounds, segment_bounds
from .path import Path, segments_of
from .proximity.places import Places

#: Shapes are compared at points whose chords leave them by no more, in mm.
CHORD_MM = 1e-3
#: The size at which a shape fits is found within this share.
SHARE = 1e-12
#: A rim whose area is that of its convex hull within this share is convex: then only the hull of a shape counts.
CONVEX_SHARE = 1e-6


@dataclass(frozen=True)
class Clearance:
    """mm: the least distance to the rim; below 0, how far the farthest point lies beyond it. ends (2, 2): the point of
    the shape, and that of the rim."""

    mm: float
    ends: np.ndarray


def clearance(shape: Path, rim: Path) -> Clearance:
    """Of all lines of a shape to the rim of what it lies in. rim: closed outlines, even-odd."""
    return _clearance(flatten(shape, CHORD_MM).points, Places(shape), Places(rim), flatten(rim, CHORD_MM).points)


def _clearance(points: np.ndarray, shape: Places | None, rim: Places, corners: np.ndarray) -> Clearance:
    near = rim.nearest(points)
    beyond = ~rim.contains(points, "evenodd") & (near.distance > CHORD_MM)
    if beyond.any():
        k = int(np.argmax(np.where(beyond, near.distance, -1.0)))
        return Clearance(-float(near.distance[k]), np.array([points[k], near.point[k]]))
    k = int(near.distance.argmin())
    found = Clearance(float(near.distance[k]), np.array([points[k], near.point[k]]))
    if shape is None:
        return found
    # A corner of the rim may reach in between two points of the shape.
    back = shape.nearest(corners)
    j = int(back.distance.argmin())
    if back.distance[j] < found.mm:
        return Clearance(float(back.distance[j]), np.array([back.point[j], corners[j]]))
    return found


def largest_factor(
    shape: Path, rim: Path, clearance_mm: float = 0.0, off: tuple[float, float] = (0.0, 0.0)
) -> float | None:
    """The factor at which a shape, its box centred in the middle of a rim's and moved by off, is as large as it can be
    with a clearance all round; None where there is no room. rim: one that widens from there, as most do, or the first
    size at which it touches."""
    from scipy.optimize import brentq

    box, room = bounds(shape), bounds(rim)
    if box is None or room is None or max(box[2] - box[0], box[3] - box[1]) <= 0:
        return None
    middle = np.array([(box[0] + box[2]) / 2, (box[1] + box[3]) / 2])
    at = np.array([(room[0] + room[2]) / 2 + off[0], (room[1] + room[3]) / 2 + off[1]])
    high = max((room[2] - room[0]) / max(box[2] - box[0], 1e-9), (room[3] - room[1]) / max(box[3] - box[1], 1e-9)) * 2
    high = min(high, 1e6)
    chord = CHORD_MM / max(high, 1.0)
    corners = flatten(rim, CHORD_MM).points
    places, convex = Places(rim), _is_convex(corners)
    points = flatten(_outermost(shape) if convex else shape, chord).points - middle
    if convex:
        points = _hull(points)

    def room_left(factor: float) -> float:
        # In a convex rim no corner reaches in between two points.
        matrix = compose(translation(*at), compose(scaling(factor), translation(*-middle)))
        whole = None if convex else Places(transform(shape, matrix))
        return _clearance(points * factor + at, whole, places, corners).mm - clearance_mm

    low = high * 1e-6
    if room_left(low) < 0:
        return None
    if convex:
        return float(brentq(room_left, low, high, rtol=SHARE)) if room_left(high) < 0 else high  # pyright: ignore[reportArgumentType]
    # Not convex: the first size, from small to large, at which it touches.
    steps = np.geomspace(max(low, high * 1e-2), high, 40)
    before = low
    for step in steps:
        if room_left(step) < 0:
            return float(brentq(room_left, before, step, rtol=SHARE))  # pyright: ignore[reportArgumentType]
        before = step
    return float(before)


def _outermost(shape: Path) -> Path:
    """The segments of a shape that reach to the convex hull of its nodes: only they can touch a convex rim."""
    from scipy.spatial import ConvexHull, QhullError

    try:
        planes = ConvexHull(shape.ctrl[:, [0, 3]].reshape(-1, 2)).equations
    except QhullError:
        return shape
    boxes = segment_bounds(shape)
    corners = boxes[:, [[0, 1], [2, 1], [2, 3], [0, 3]]].reshape(-1, 2)
    reach = (corners @ planes[:, :2].T + planes[:, 2]).max(axis=1).reshape(-1, 4).max(axis=1)
    return segments_of(shape, np.flatnonzero(reach > -1e-9 * np.abs(boxes).max()))


def _hull(points: np.ndarray) -> np.ndarray:
    from scipy.spatial import ConvexHull, QhullError

    try:
        return points[ConvexHull(points).vertices]
    except QhullError:
        # All in one line: every point counts.
        return points


def _is_convex(corners: np.ndarray) -> bool:
    from scipy.spatial import ConvexHull

    x, y = corners.T
    area = abs(float(x @ np.roll(y, -1) - y @ np.roll(x, -1))) / 2
    return abs(ConvexHull(corners).volume / max(area, 1e-300) - 1) < CONVEX_SHARE
