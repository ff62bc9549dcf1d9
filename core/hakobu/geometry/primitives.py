"""Plain figures by their sizes: rectangles, ellipses, polygons, stars. Closed, clockwise on the screen."""

from __future__ import annotations

import math

import numpy as np

from .affine import scaling, transform, translation
from .build import PathBuilder
from .path import Path


def rectangle(left: float, top: float, width: float, height: float, corner: float = 0.0) -> Path:
    """corner: the radius of its corners, at most half of the shorter side."""
    right, bottom = left + width, top + height
    r = min(max(corner, 0.0), width / 2, height / 2)
    if r <= 0:
        points = np.array([(left, top), (right, top), (right, bottom), (left, bottom)])
        return Path.from_points(points, closed=True)
    quarter = math.tan(math.pi / 8)
    builder = PathBuilder()
    builder.move_to((left + r, top))
    # Sides of no length are left out: a slot is two lines and two ends.
    for side, end in (
        ((right - r, top), (right, top + r)),
        ((right, bottom - r), (right - r, bottom)),
        ((left + r, bottom), (left, bottom - r)),
        ((left, top + r), (left + r, top)),
    ):
        if math.dist(builder.here, side) > 1e-9:
            builder.line_to(side)
        builder.bulge_to(quarter, end)
    builder.close()
    return builder.path()


def circle(x: float, y: float, radius: float) -> Path:
    builder = PathBuilder()
    builder.move_to((x - radius, y))
    builder.bulge_to(1.0, (x + radius, y))
    builder.bulge_to(1.0, (x - radius, y))
    builder.close()
    return builder.path()


def ellipse(x: float, y: float, width: float, height: float) -> Path:
    """A circle where both are the same."""
    if width == height:
        return circle(x, y, width / 2)
    return transform(transform(circle(0.0, 0.0, 0.5), scaling(width, height)), translation(x, y))


def polygon(x: float, y: float, width: float, height: float | None, corners: int) -> Path:
    """A corner on top, in a box about a place; without a height regular."""
    way = np.arange(corners) * 2 * np.pi / corners
    return _in_box(np.column_stack([np.sin(way), -np.cos(way)]), x, y, width, height)


def star(x: float, y: float, width: float, height: float | None, points: int, inner: float) -> Path:
    """As a polygon. inner: how far its inner corners are from the middle, as a share of how far its points are."""
    way = np.arange(2 * points) * np.pi / points
    radius = np.where(np.arange(2 * points) % 2, inner, 1.0)
    return _in_box(np.column_stack([np.sin(way), -np.cos(way)]) * radius[:, None], x, y, width, height)


def _in_box(points: np.ndarray, x: float, y: float, width: float, height: float | None) -> Path:
    low, high = points.min(axis=0), points.max(axis=0)
    if height is None:
        height = width * (high - low)[1] / (high - low)[0]
    inside = (points - low) / (high - low)
    return Path.from_points((inside - 0.5) * (width, height) + (x, y), closed=True)
