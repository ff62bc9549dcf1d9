"""The heron of the first act, cut from black card once, and scanned for a second one.

Truth, for the tests: TRUTH in millimetres of the picture. The scan has 300 pixels an inch, grain, dust, a tilt of 0.7
degrees, and the shadow of the scanner's lid along all four edges.
"""

from __future__ import annotations

import math

import numpy as np
from faults import outlines
from raster import coverage, jpeg, softened

from hakobu.geometry import Path, PathBuilder, compose, rotation, scaling, transform, translation

PER_INCH = 300
SIZE_MM = (120.0, 160.0)
TILT = math.radians(0.7)
PAPER, CARD, SHADOW = 222.0, 38.0, 52.0
SHADOW_MM = 1.1
GRAIN, BLUR_PX = 4.5, 0.5
DUST = 70

BODY = (
    "M14 46L40 40.5C43 34 52 31.5 60 33.5C64 34.6 66 36.5 67.5 38.5L83 30.5C79.5 37 76 40.5 71.5 43.5"
    "C74 55 70 66 66 76C64.5 80.5 66 84 71 85C90 86 104 98 112 122C104 121 98 120 92.5 116.5"
    "C89.5 119.5 86 121.3 82 122.6L83 148L91 150.5L91 153L80 153L78.5 123.5L72 124.2L71.5 153L60 153L60 150.5L68 148"
    "L67.5 124C55 121 47 110 46.5 98C46 86 50 76 53 66C54.5 60.5 54 55.5 49.5 53.5C45 52 40 51.5 35 51Z"
)
WING = (
    "M66 92C78 93 88 99 95 108C84 106 73 100 66 92Z",
    "M64 101C73 104 81 108 89 113C79 112.5 70 109 64 101Z",
)
HOLES = ((54.0, 41.0, 1.7), (58.0, 104.0, 2.0), (74.0, 117.0, 2.0))


def _drawing() -> Path:
    holes = PathBuilder()
    for x, y, radius in HOLES:
        holes.circle(x, y, radius)
    return Path.concatenate([*(outlines(d, 0, 0, 1) for d in (BODY, *WING)), holes.path()])


def _tilted(path: Path) -> Path:
    x, y = SIZE_MM[0] / 2, SIZE_MM[1] / 2
    return transform(path, compose(translation(x, y), compose(rotation(TILT), translation(-x, -y))))


#: The outlines of the card as they lie in the picture, in mm.
TRUTH = _tilted(_drawing())


def draw() -> bytes:
    random = np.random.default_rng(20)
    scale = PER_INCH / 25.4
    width, height = (round(side * scale) for side in SIZE_MM)
    light = np.full((height, width), PAPER) + 3 * np.linspace(-1, 1, width)
    ink = coverage(transform(TRUTH, scaling(scale)), width, height)
    picture = light * (1 - ink) + CARD * ink
    picture = _dusty(picture, random, scale)
    edge = round(SHADOW_MM * scale)
    rim = np.ones((height, width))
    rim[edge:-edge, edge:-edge] = 0
    picture = picture * (1 - rim) + SHADOW * rim
    picture = softened(picture, BLUR_PX) + softened(random.normal(0, 1, (height, width)), 0.6) * GRAIN * 2
    return jpeg(picture, PER_INCH, 88)


def _dusty(picture: np.ndarray, random, scale: float) -> np.ndarray:
    """Grains of dust, dark on paper and pale on card, all smaller than 0.3 mm2."""
    height, width = picture.shape
    grains = PathBuilder()
    for _ in range(DUST):
        x, y = random.uniform(5, SIZE_MM[0] - 5) * scale, random.uniform(5, SIZE_MM[1] - 5) * scale
        grains.circle(x, y, random.uniform(0.06, 0.24) * scale)
    dust = coverage(grains.path(), width, height)
    return picture * (1 - dust) + np.where(picture > 130, 70.0, 170.0) * dust
