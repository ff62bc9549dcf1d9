"""An old puppet's limb, photographed at a slant beside a printed square of 60 mm, in light that falls off to one side.

Truth, for the tests: LIMB, its outline and rivet holes in mm, upright, as it lay on the table.
"""

from __future__ import annotations

import numpy as np
from faults import outlines
from painting import Sheet
from raster import jpeg, softened

from hakobu.geometry import Path, PathBuilder

PER_INCH = 240
SIZE_MM = (190.0, 150.0)
SQUARE_MM = 60.0
BODY = "M98 40C103 24 122 22 128 38L141 92C148 112 138 130 121 128C106 126 102 112 106 96Z"
RIVETS = ((114.0, 40.0, 3.0), (124.0, 114.0, 3.0))


def _rivets() -> Path:
    builder = PathBuilder()
    for x, y, radius in RIVETS:
        builder.circle(x, y, radius)
    return builder.path()


LIMB = Path.concatenate([outlines(BODY, 0, 0, 1), _rivets()])
#: Where the sheet's corners are seen, as shares of the picture's sides.
CORNERS = ((0.05, 0.04), (0.985, 0.012), (0.945, 0.975), (0.0, 0.93))
DUST, NOISE = 40, 3.5


def draw() -> bytes:
    random = np.random.default_rng(7)
    sheet = Sheet(SIZE_MM, PER_INCH, "#e9e5da")
    sheet.fill(outlines(f"M16 20h{SQUARE_MM}v{SQUARE_MM}h{-SQUARE_MM}Z", 0, 0, 1), "#161616")
    sheet.fill(LIMB, "#2a2320")
    grains = PathBuilder()
    for _ in range(DUST):
        grains.circle(random.uniform(6, 184), random.uniform(6, 144), random.uniform(0.06, 0.2))
    sheet.fill(grains.path(), "#6b675f")
    seen = softened(_slanted(sheet.pixels), (0.7, 0.7, 0))
    height, width = seen.shape[:2]
    light = 1.0 - 0.28 * np.linspace(0, 1, width)[None, :, None] * np.linspace(0.7, 1, height)[:, None, None]
    return jpeg(seen * light + random.normal(0, NOISE, seen.shape), 72, 90)


def _slanted(pixels: np.ndarray) -> np.ndarray:
    """As a camera sees it that is not held straight above."""
    import cv2

    height, width = pixels.shape[:2]
    sheet = np.array([[0, 0], [width, 0], [width, height], [0, height]], np.float32)
    seen = np.array(CORNERS, np.float32) * (width, height)
    matrix = cv2.getPerspectiveTransform(sheet, seen.astype(np.float32))
    table = [float(v) for v in (206, 203, 196)]
    return cv2.warpPerspective(pixels, matrix, (width, height), flags=cv2.INTER_CUBIC, borderValue=table)
