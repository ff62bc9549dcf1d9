"""Which colour each pixel of a picture is of."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from ..geometry.sharing import shared_out
from ..model.lab import to_lab
from .compression import Kept, cut_off, planes_of
from .fringes import without_fringes
from .softness import GENTLE_COUNT, Softness, softness

#: Pixels of one colour differ by no more than so many times its noise, and by so much at least, of 255.
NOISES, LEAST = 3.0, 12
WORTH_PIXELS = 100_000
#: Rows of a picture that are looked at for how soft its steps are.
LOOKED_AT = 300


@dataclass(frozen=True)
class Labelled:
    """labels (H, W) uint8; picture (H, W, 3) float32 and colours (K, 3) as they are seen: brightness, and differences
    of colour that may count less; gone: how many bits were too small; softness: of the picture's steps."""

    labels: np.ndarray
    picture: np.ndarray
    colours: np.ndarray
    gone: int
    softness: Softness = field(default_factory=Softness)
    kept: Kept | None = None


def labelled(
    rgb: np.ndarray, colours: np.ndarray, noise: float, smallest_px: float, origin: tuple[int, int] | None = (0, 0)
) -> Labelled:
    """The colour (K, 3), sRGB from 0 to 255, that each pixel of a picture rgb (H, W, 3) uint8 is of; bits smaller than
    that are taken into what is about them. origin: where its first pixel lies in the picture that it is a part
    of; None where nobody asks what compression kept."""
    from .kernels import assigning
    from .kernels.components import components

    table = _table(colours)
    soft = _softness(rgb, colours, table)
    tolerance = float(max(NOISES * noise, LEAST))
    count = GENTLE_COUNT if soft.gentle_colour else 1.0
    labels, sure, picture, own = _first(rgb, colours, table, tolerance, count)
    cost = np.full(len(rgb), float(rgb.shape[1]))
    shared_out(lambda a, b: assigning.settle(picture, own, labels, sure, a, b), cost, WORTH_PIXELS)
    without_fringes(labels, picture, own, soft.gentle_colour)
    gone = 0
    for _ in range(3):
        number, area, _, _ = components(labels)
        some = assigning.absorb(labels, number, area, smallest_px)
        gone += some
        if not some:
            break
    kept = _kept(rgb, picture, own, origin) if soft.gentle_colour and origin is not None else None
    return Labelled(labels, picture, own, int(gone), soft, kept)


def _kept(rgb: np.ndarray, picture: np.ndarray, own: np.ndarray, origin: tuple[int, int]) -> Kept | None:
    """What compression kept of a picture, whose colours count less as it is seen; None where it does not show."""
    count = np.array([1, 1 / GENTLE_COUNT, 1 / GENTLE_COUNT], np.float32)
    planes = planes_of(picture * count, cut_off(rgb), True, origin)
    return Kept(planes, own * count, origin) if planes else None


def _table(colours: np.ndarray) -> np.ndarray:
    """The nearest colour to each box of sRGB, in CIELAB."""
    from .kernels.assigning import nearest_table

    steps = (np.arange(32) + 0.5) / 32
    boxes = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1).reshape(-1, 3)
    return nearest_table(to_lab(boxes), np.ascontiguousarray(to_lab(colours / 255.0)))


def _first(rgb: np.ndarray, colours: np.ndarray, table: np.ndarray, tolerance: float, count: float):
    """The first labels, which of them are sure, and picture and colours as they are seen; count: how much differences
    of colour count beside those of brightness."""
    from .kernels import assigning

    height, width = rgb.shape[:2]
    cost = np.full(height, float(width))
    picture = np.empty((height, width, 3), np.float32)
    shared_out(lambda a, b: assigning.seen(rgb, a, b, picture), cost, WORTH_PIXELS)
    own = _seen(colours)
    if count != 1:
        picture[..., 1:] *= count
        own[:, 1:] *= count
    labels, sure = np.empty((height, width), np.uint8), np.empty((height, width), bool)
    shared_out(
        lambda a, b: assigning.first_labels(rgb, picture, table, own, tolerance, a, b, labels, sure), cost, WORTH_PIXELS
    )
    return labels, sure, picture, own


def _softness(rgb: np.ndarray, colours: np.ndarray, table: np.ndarray) -> Softness:
    """Of some of the rows."""
    every = max(len(rgb) // LOOKED_AT, 1)
    some = np.ascontiguousarray(rgb[::every])
    labels, _, picture, own = _first(some, colours, table, float(LEAST), 1.0)
    return softness(picture, labels, own)


def _seen(colours: np.ndarray) -> np.ndarray:
    """Colours (K, 3) of 255 as the kernel sees pixels."""
    y = colours @ (0.299, 0.587, 0.114)
    blue, red = 0.564 * (colours[:, 2] - y), 0.713 * (colours[:, 0] - y)
    return np.stack([y, blue, red], axis=1)
