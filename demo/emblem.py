"""The company's emblem in three shades, with a slot for a strap.

Truth, for the tests: SLOT_MM, the slot's width and height in the picture.
"""

from __future__ import annotations

from faults import outlines
from painting import Sheet
from raster import png

from hakobu.geometry import PathBuilder

PER_INCH = 200
SIZE_MM = (96.0, 96.0)
SLOT_MM = (12.0, 3.0)
LIGHT, MIDDLE, DARK = "#c9c9c9", "#868686", "#2e2e2e"
CREST = "M30 66C30 40 42 30 60 24C52 36 52 44 60 52C66 58 68 66 64 74L36 74Z"
WAVE = "M22 74L74 74L68 82L28 82Z"


def draw() -> bytes:
    sheet = Sheet(SIZE_MM, PER_INCH)
    for radius, color in ((42.0, DARK), (38.0, LIGHT)):
        disc = PathBuilder()
        disc.circle(48, 48, radius)
        sheet.fill(disc.path(), color)
    sheet.fill(outlines(WAVE, 0, 0, 1), MIDDLE)
    sheet.fill(outlines(CREST, 0, 0, 1), DARK)
    width, height = SLOT_MM
    left, top = 48 - width / 2, 15.0
    sheet.fill(outlines(f"M{left} {top}h{width}v{height}h{-width}Z", 0, 0, 1), "#ffffff")
    return png(sheet.pixels, PER_INCH)
