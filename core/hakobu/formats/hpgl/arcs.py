"""Arcs by three points."""

from __future__ import annotations

import math

Point = tuple[float, float]


def through(a: Point, b: Point, c: Point) -> tuple[Point, float] | None:
    """The centre of the circle through three points, and the angle from the first over the second to the third in
    radians; None where they lie on a line. A first point that is the third means a full circle."""
    if a == c:
        centre = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        return (centre, 2 * math.pi) if a != b else None
    bx, by, cx, cy = b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]
    cross = 2 * (bx * cy - by * cx)
    if abs(cross) < 1e-9 * (bx * bx + by * by + cx * cx + cy * cy):
        return None
    bb, cc = bx * bx + by * by, cx * cx + cy * cy
    x, y = (cy * bb - by * cc) / cross, (bx * cc - cx * bb) / cross
    first, last = math.atan2(-y, -x), math.atan2(cy - y, cx - x)
    turn = (last - first) % (2 * math.pi)
    return (a[0] + x, a[1] + y), turn if cross > 0 else turn - 2 * math.pi
