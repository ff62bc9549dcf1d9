"""The lattice of a window, drawn with thick lines: eight panes by five.

Truth, for the tests: LINES, the middles of what was drawn, in mm, and how far they run in all.
"""

from __future__ import annotations

import numpy as np
from painting import Sheet
from raster import png

from hakobu.geometry import Path

PER_INCH = 300
SIZE_MM = (110.0, 76.0)
COLUMNS, ROWS, PANE_MM, LEFT_MM, TOP_MM, LINE_MM = 8, 5, 12.0, 7.0, 8.0, 0.9


def _line(x0: float, y0: float, x1: float, y1: float) -> Path:
    return Path.from_points(np.array([[x0, y0], [x1, y1]]), False)


LINES = [
    *(_line(LEFT_MM + k * PANE_MM, TOP_MM, LEFT_MM + k * PANE_MM, TOP_MM + ROWS * PANE_MM) for k in range(COLUMNS + 1)),
    *(_line(LEFT_MM, TOP_MM + k * PANE_MM, LEFT_MM + COLUMNS * PANE_MM, TOP_MM + k * PANE_MM) for k in range(ROWS + 1)),
]
LENGTH_MM = (COLUMNS + 1) * ROWS * PANE_MM + (ROWS + 1) * COLUMNS * PANE_MM


def draw() -> bytes:
    sheet = Sheet(SIZE_MM, PER_INCH)
    sheet.stroke(LINES, LINE_MM, "#202226")
    return png(sheet.pixels, PER_INCH)
