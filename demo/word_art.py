"""The word KETTLE for the side of the prop crate: copper letters with a dark shadow, 3100 by 1300 pixels.

Truth, for the tests: COPPER, the letters' outlines as they are seen, in mm.
"""

from __future__ import annotations

from faults import moved, outlines
from letters import LETTERS, lay_out
from painting import Sheet
from raster import png

from hakobu.geometry import Path

PER_INCH = 300
SIZE_MM = (3100 / PER_INCH * 25.4, 1300 / PER_INCH * 25.4)
HEIGHT_MM, LEFT_MM, TOP_MM, SHADOW_MM = 52.0, 12.0, 26.0, 5.0
COPPER_COLOR, SHADOW_COLOR, PAPER = "#b4673e", "#23324f", "#f6f1e4"

COPPER = Path.concatenate(
    outlines(LETTERS[letter][0], LEFT_MM + x, TOP_MM, HEIGHT_MM / 100) for letter, x in lay_out("KETTLE", HEIGHT_MM)
)


def draw() -> bytes:
    sheet = Sheet(SIZE_MM, PER_INCH, PAPER)
    for letter, x in lay_out("KETTLE", HEIGHT_MM):
        one = outlines(LETTERS[letter][0], LEFT_MM + x, TOP_MM, HEIGHT_MM / 100)
        sheet.fill(moved(one, SHADOW_MM, SHADOW_MM), SHADOW_COLOR)
    for letter, x in lay_out("KETTLE", HEIGHT_MM):
        sheet.fill(outlines(LETTERS[letter][0], LEFT_MM + x, TOP_MM, HEIGHT_MM / 100), COPPER_COLOR)
    return png(sheet.pixels, PER_INCH)
