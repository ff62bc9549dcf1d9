"""A programme sticker, printed first and then cut: art on a transparent ground.

Truth, for the tests: OUTSIDE, the outline of all that is printed, in mm.
"""

from __future__ import annotations

import numpy as np
from faults import outlines
from kettle import FIELDS
from painting import Sheet
from raster import png

from hakobu.geometry import Path, PathBuilder

PER_INCH = 300
SIZE_MM = (74.0, 68.0)
MIDDLE, RADIUS_MM, WAVES = (37.0, 34.0), 30.0, 16
#: The tangent of a quarter of each wave's sweep.
SCALLOP = 0.42


def _scalloped(radius_mm: float) -> Path:
    """A round edge of waves, each an arc of a circle about the middle of its own."""
    builder = PathBuilder()
    way = 2 * np.pi * np.arange(WAVES) / WAVES
    points = np.column_stack([np.cos(way), np.sin(way)]) * radius_mm + MIDDLE
    builder.move_to(tuple(points[0]))
    for point in np.roll(points, -1, axis=0):
        builder.bulge_to(SCALLOP, tuple(point))
    builder.close()
    return builder.path()


OUTSIDE = _scalloped(RADIUS_MM)


def draw() -> bytes:
    sheet = Sheet(SIZE_MM, PER_INCH)
    sheet.fill(OUTSIDE, "#1f3c88")
    sheet.fill(_scalloped(RADIUS_MM - 3), "#f4ead2")
    for _, color, data in FIELDS:
        sheet.fill(outlines(data, 11.5, 15.5, 0.42), color)
    return png(sheet.with_alpha(), PER_INCH)
