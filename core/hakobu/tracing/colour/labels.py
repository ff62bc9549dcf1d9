"""Which colour each pixel of a picture is of."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property, lru_cache

import numpy as np

from ...geometry.parallel import parallel_map
from ...model.lab import to_lab
from ..outlines.edge_blur import GENTLE_COUNT, SEEN, Softness, softness
from .components import Components, components
from .halos import without_fringes

#: Pixels of one colour differ by no more than so many times its noise, and by so much at least, of 255.
NOISES, LEAST = 3.0, 12
WORTH_PIXELS = 100_000
#: Bits that are taken in may join others that are still too small: so often they are looked for again.
ABSORBED = 3


@dataclass(frozen=True)
class Labelled:
    """labels (H, W) uint8; picture (H, W, 3) float32 and colours (K, 3) as they are seen: brightness, and differences
    of colour that may count less; gone: how many bits were too small; softness: of the picture's steps."""

    labels: np.ndarray
    picture: np.ndarray
    colours: np.ndarray
    gone: int
    softness: Softness = field(default_factory=Softness)

    @cached_property
    def components(self) -> Components:
        """Of the labels: asked anew for each smoothness, and for each region that is kept."""
        return components(self.labels)


def labelled(rgb: np.ndarray, colours: np.ndarray, noise: float, smallest_px: float) -> Labelled:
    """The colour (K, 3), sRGB from 0 to 255, that each pixel of a picture rgb (H, W, 3) uint8 is of; bits smaller than
    that are taken into what is about them."""
    from .kernels import pixel_labels

    rows = np.full(len(rgb), float(rgb.shape[1]))
    labels, table = np.empty(rgb.shape[:2], np.uint8), _table(colours)
    parallel_map(lambda a, b: pixel_labels.nearest_labels(rgb, table, a, b, labels), rows, WORTH_PIXELS)
    soft = softness(rgb, labels, colours @ SEEN)
    tolerance = float(max(NOISES * noise, LEAST))
    picture, own, sure = _seen(rgb, colours, labels, tolerance, GENTLE_COUNT if soft.gentle_colour else 1.0)
    parallel_map(lambda a, b: pixel_labels.settle(picture, own, labels, sure, a, b), rows, WORTH_PIXELS)
    without_fringes(labels, picture, own, soft.gentle_colour)
    gone = _absorbed(labels, smallest_px)
    return Labelled(labels, picture, own, gone, soft)


def _absorbed(labels: np.ndarray, smallest_px: float) -> int:
    """Labels (H, W), changed in place: components smaller than that are taken into what is about them; how many."""
    from .kernels.pixel_labels import absorb

    gone = 0
    for again in range(ABSORBED):
        found = components(labels)
        small = found.area < smallest_px
        if not small.any():
            break
        some = absorb(labels, found.numbers(), found.area, small, *found.pixels(small))
        # What is still too small after that has been counted.
        gone = gone if again else int(some)
        if not some:
            break
    return gone


@lru_cache(maxsize=1)
def _boxes() -> np.ndarray:
    """The middles of the boxes of sRGB, in CIELAB."""
    steps = (np.arange(32) + 0.5) / 32
    lab = to_lab(np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1).reshape(-1, 3))
    lab.flags.writeable = False
    return lab


def _table(colours: np.ndarray) -> np.ndarray:
    """The nearest colour to each box of sRGB, in CIELAB."""
    from .kernels.pixel_labels import nearest_table

    return nearest_table(_boxes(), np.ascontiguousarray(to_lab(colours / 255.0)))


def _seen(rgb: np.ndarray, colours: np.ndarray, labels: np.ndarray, tolerance: float, count: float):
    """Picture and colours as they are seen, and which labels (H, W) are sure; count: how much differences of colour
    count beside those of brightness."""
    from .kernels import pixel_labels

    picture, sure = np.empty(rgb.shape, np.float32), np.empty(labels.shape, bool)
    own = (colours @ SEEN) * (1.0, count, count)
    rows = np.full(len(rgb), float(rgb.shape[1]))
    parallel_map(lambda a, b: pixel_labels.seen(rgb, count, a, b, picture), rows, WORTH_PIXELS)
    flat, nearest = rgb.reshape(len(rgb), -1), np.tile(colours.round().astype(np.uint8), pixel_labels.TOGETHER)
    parallel_map(
        lambda a, b: pixel_labels.label_pixels(flat, nearest, picture, own, tolerance, a, b, labels, sure),
        rows,
        WORTH_PIXELS,
    )
    return picture, own, sure
