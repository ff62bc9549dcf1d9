"""A moth whose halves are not alike, cut from card and scanned, with pinholes in its wings.

Truth, for the tests: PINHOLES, which are smaller than 1 mm2.
"""

from __future__ import annotations

import numpy as np
from faults import outlines
from painting import Sheet
from raster import jpeg, softened

from hakobu.geometry import PathBuilder

PER_INCH = 300
SIZE_MM = (90.0, 70.0)
WINGS = (
    "M45 26C52 12 70 8 82 14C84 26 76 36 62 38C70 42 72 52 64 58C56 58 48 50 45 44"
    "C42 50 33 59 25 57C18 51 21 41 29 38C15 35 7 25 10 15C21 9 38 13 45 26Z"
)
SPOTS = ((66.0, 22.0, 3.4), (24.0, 23.0, 3.0), (58.0, 49.0, 2.0), (32.0, 48.0, 1.8))
PINHOLES = ((50.0, 30.0, 0.4), (40.0, 33.0, 0.35), (72.0, 30.0, 0.45), (18.0, 30.0, 0.3))


def draw() -> bytes:
    sheet = Sheet(SIZE_MM, PER_INCH, "#e3e0d8")
    sheet.fill(outlines(WINGS, 0, 0, 1), "#2b2a2e")
    holes = PathBuilder()
    for x, y, radius in (*SPOTS, *PINHOLES):
        holes.circle(x, y, radius)
    sheet.fill(holes.path(), "#e3e0d8")
    seen = softened(sheet.pixels, (0.5, 0.5, 0))
    return jpeg(seen + np.random.default_rng(5).normal(0, 4, seen.shape[:2])[..., None], PER_INCH, 85)
