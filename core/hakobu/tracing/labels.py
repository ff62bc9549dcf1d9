"""Which colour each pixel of a picture is of."""

from __future__ import annotations

import numpy as np

from ..geometry.sharing import shared_out
from .lab import to_lab

#: Pixels of one colour differ by no more than so many times its noise, and by so much at least, of 255.
NOISES, LEAST = 3.0, 12
WORTH_PIXELS = 100_000


def labelled(rgb: np.ndarray, colours: np.ndarray, noise: float, smallest_px: float) -> tuple[np.ndarray, int]:
    """Labels (H, W) uint8 of a picture rgb (H, W, 3) uint8: the colour (K, 3), from 0 to 255, that each pixel is of, and
    how many bits smaller than that were taken into what is about them."""
    from .kernels import assigning

    height, width = rgb.shape[:2]
    steps = (np.arange(32) + 0.5) / 32
    boxes = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1).reshape(-1, 3)
    table = assigning.nearest_table(to_lab(boxes), np.ascontiguousarray(to_lab(colours / 255.0)))
    labels, sure = np.empty((height, width), np.uint8), np.empty((height, width), bool)
    tolerance = int(max(NOISES * noise, LEAST))
    cost = np.full(height, float(width))
    shared_out(
        lambda a, b: assigning.first_labels(rgb, table, colours, tolerance, a, b, labels, sure), cost, WORTH_PIXELS
    )
    shared_out(lambda a, b: assigning.settle(rgb, colours, labels, sure, a, b), cost, WORTH_PIXELS)
    gone = 0
    for _ in range(3):
        number, area, _, _, _ = assigning.components(labels)
        some = assigning.absorb(labels, number, area, smallest_px)
        gone += some
        if not some:
            break
    return labels, int(gone)
