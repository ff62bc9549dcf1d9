"""A design in black and white: an owl's eyes, a moon, and the word for the show's first night.

Truth, for the tests: SHAPES, the black outlines in mm, and how many pieces and holes they are.
"""

from __future__ import annotations

from faults import outlines
from letters import LETTERS, lay_out
from painting import Sheet
from raster import png

from hakobu.geometry import Path, PathBuilder

PER_INCH = 300
SIZE_MM = (100.0, 72.0)
MOON = "M72 8C84 10 92 20 92 31C92 43 82 52 70 52C80 47 85 40 85 30C85 20 80 12 72 8Z"
EYES = ((24.0, 26.0), (52.0, 26.0))
WORD, WORD_MM = "HERON", 12.0


def _eyes() -> Path:
    """Two rings, each with a pupil that has a glint."""
    builder = PathBuilder()
    for x, y in EYES:
        for dx, dy, radius in ((0, 0, 12.0), (0, 0, 8.5), (0, 0, 5.0), (1.6, -1.6, 1.2)):
            builder.circle(x + dx, y + dy, radius)
    return builder.path()


SHAPES = Path.concatenate(
    [
        _eyes(),
        outlines(MOON, 0, 0, 1),
        *(outlines(LETTERS[letter][0], 14 + x, 54, WORD_MM / 100) for letter, x in lay_out(WORD, WORD_MM)),
    ]
)
#: Two rings, two pupils, a moon, five letters; and what is cut out of them.
PIECES, HOLES = 10, 2 + 2 + 2


def draw() -> bytes:
    sheet = Sheet(SIZE_MM, PER_INCH)
    sheet.fill(SHAPES, "#000000")
    return png(sheet.pixels, PER_INCH)
