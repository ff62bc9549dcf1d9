"""The kettle of the second act: black ink and six coloured fields, as a flat drawing without a scanner's noise.

Truth, for the tests: FIELDS, closed outlines in mm with their colours, and the ink along them.
"""

from __future__ import annotations

import numpy as np
from faults import outlines
from raster import coverage, png, stroke_coverage

from hakobu.geometry import scaling, transform

PER_INCH = 300
SIZE_MM = (110.0, 90.0)
INK_MM = 1.4
INK = (24, 24, 28)
#: Name, colour and outline of each field.
FIELDS = (
    ("handle", "#7a4a2b", "M30 34C30 8 80 8 80 34L74 34C74 16 36 16 36 34Z"),
    ("spout", "#c98a3a", "M74 46C84 44 88 36 94 30L102 34C98 46 90 58 76 62Z"),
    ("body", "#b4673e", "M24 40L80 40C84 56 82 68 74 76L30 76C22 68 20 56 24 40Z"),
    ("band", "#2c6e5b", "M21.6 54L82.4 54C82.6 57 82.5 60 82 62L22 62C21.5 60 21.4 57 21.6 54Z"),
    ("lid", "#e0b45c", "M34 40C36 30 68 30 70 40Z"),
    ("knob", "#a33a2a", "M48 32C46 26 58 26 56 32Z"),
)


def draw() -> bytes:
    scale = PER_INCH / 25.4
    width, height = (round(side * scale) for side in SIZE_MM)
    picture = np.full((height, width, 3), 255.0)
    for _, color, data in FIELDS:
        path = transform(outlines(data, 0, 0, 1), scaling(scale))
        for share, paint in (
            (coverage(path, width, height), [int(color[i : i + 2], 16) for i in (1, 3, 5)]),
            (stroke_coverage(path, INK_MM * scale, width, height), INK),
        ):
            picture = picture * (1 - share[..., None]) + np.array(paint) * share[..., None]
    return png(picture, PER_INCH)
