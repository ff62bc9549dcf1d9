"""A pencil sketch of a reed, pale, with a break in its stem, and the pattern of reeds that fills the heron.

Truth, for the tests: STEM, the two parts of the stem's middle in mm, and the gap between them.
"""

from __future__ import annotations

import numpy as np
from faults import outlines
from painting import Sheet
from raster import jpeg, png, softened

PER_INCH = 300
SKETCH_MM = (60.0, 110.0)
STEM = [outlines(d, 0, 0, 1) for d in ("M30 100C29 84 30 72 32 58", "M32.2 56.8C33 48 34 34 33 22")]
GAP_MM = 1.2
LEAVES = "M31 84C22 74 16 60 14 44C22 54 28 66 31 78Z M32 66C40 56 46 46 50 32C46 50 40 62 32.4 72Z"
HEAD = "M33 10C37 10 38 16 37 24C36 30 35 33 33 33C31 33 30 30 29.6 24C29 16 30 10 33 10Z"
PATTERN_MM = (90.0, 120.0)


def draw_sketch() -> bytes:
    random = np.random.default_rng(11)
    sheet = Sheet(SKETCH_MM, PER_INCH, "#efece2")
    sheet.stroke(STEM, 0.9, "#a7a49c")
    sheet.fill(outlines(LEAVES, 0, 0, 1), "#b0ada4")
    sheet.fill(outlines(HEAD, 0, 0, 1), "#a09d95")
    seen = softened(sheet.pixels, (0.7, 0.7, 0))
    tooth = softened(random.normal(0, 1, seen.shape[:2]), 0.8) * 6
    return jpeg(seen + tooth[..., None], PER_INCH, 82)


def draw_pattern() -> bytes:
    sheet = Sheet(PATTERN_MM, 200)
    for k in range(9):
        x = 5 + 10 * k
        bend = 4 if k % 2 else -4
        sheet.stroke([outlines(f"M{x} -2C{x + bend} 30 {x - bend} 80 {x} 122", 0, 0, 1)], 2.4, "#1c1c1c")
    for k in range(7):
        sheet.stroke(
            [outlines(f"M-2 {8 + 18 * k}C30 {2 + 18 * k} 60 {14 + 18 * k} 92 {8 + 18 * k}", 0, 0, 1)], 1.8, "#1c1c1c"
        )
    return png(sheet.pixels, 200)
