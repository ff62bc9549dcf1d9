"""A line drawing of the cast, in ink of one pen, scanned: heron, kettle and moon.

Truth, for the tests: LINES, the middles of what was drawn, in mm.
"""

from __future__ import annotations

import numpy as np
from faults import outlines
from painting import Sheet
from raster import jpeg, softened

PER_INCH = 300
SIZE_MM = (120.0, 80.0)
PEN_MM, NOISE = 0.7, 4.0
DRAWN = (
    "M10 30C16 22 26 22 30 28C36 36 28 44 32 52C36 58 44 60 50 66",
    "M30 28L46 24",
    "M32 52C24 54 20 60 20 66",
    "M36 60L34 74M42 63L42 74",
    "M62 38L92 38C95 50 94 62 88 72L66 72C60 62 59 50 62 38",
    "M66 38C68 30 86 30 88 38",
    "M92 46C98 44 102 38 106 32",
    "M100 8C108 10 112 16 111 23C108 27 103 28 98 26C104 21 104 14 100 8",
)
LINES = [outlines(data, 0, 0, 1) for data in DRAWN]


def draw() -> bytes:
    sheet = Sheet(SIZE_MM, PER_INCH, "#dedcd4")
    sheet.stroke(LINES, PEN_MM, "#26262c")
    seen = softened(sheet.pixels, (0.5, 0.5, 0))
    return jpeg(seen + np.random.default_rng(3).normal(0, NOISE, seen.shape[:2])[..., None], PER_INCH, 85)
