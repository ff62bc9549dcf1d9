"""Pictures with more pixels than they show, as large scans and enlargements: their edges are blurred over several.

What is blurred by more than a pixel holds next to nothing finer than two (the sampling theorem, Shannon 1949), and is
told as well by half as many pixels each way. It is traced there in half the time.
"""

from __future__ import annotations

from functools import partial

import numpy as np

from ...geometry.parallel import parallel_map
from ..order_statistics import quantile
from .greyscale import MOST_LEVEL, WORTH_PIXELS, from_levels, half_of, quarter_of

#: Pictures of no more pixels are fast enough as they are.
LARGE_PX = 4_000_000
#: Between two pixels lies no more than this share of nearly all edges' heights: they are blurred by 1.1 pixels or more,
#: from where on shapes that are known come out as exact at half the size as at the whole.
SOFT_STEP, NEARLY_ALL = 0.33, 0.9
#: Rows that are looked at, for the edges along each and those between it and the next.
ROWS = 48
#: Pixels on either side of an edge that its height is told from, and the least height that tells something.
BESIDE, LEAST_HEIGHT = 8, 0.12
#: Fewer edges than this tell nothing, and more than that nothing more.
FEWEST, MOST = 24, 20_000


def without_excess(grey: np.ndarray, threshold: float) -> tuple[np.ndarray, int, list | None]:
    """A picture (H, W), float32 or uint8, with no more pixels than its edges at a threshold need, float32; how many
    pixels of before are one of it now, each way; and, where it was halved, the runs of pixels darker than the threshold
    in parts of its rows, as `find_regions` takes them."""
    factor, runs = 1, None
    while grey.size > LARGE_PX and steepest_step(grey, threshold) < SOFT_STEP:
        grey, runs = _halved_with_runs(grey, threshold)
        factor *= 2
    return from_levels(grey) if grey.dtype == np.uint8 else grey, factor, runs


def _halved_with_runs(grey: np.ndarray, threshold: float) -> tuple[np.ndarray, list]:
    from .kernels.halving import halve_and_find_runs

    small = half_of(grey)
    work = partial(halve_and_find_runs, grey, small, quarter_of(grey), threshold)
    return small, parallel_map(work, np.full(len(small), 2.0 * grey.shape[1]), WORTH_PIXELS)


def steepest_step(grey: np.ndarray, threshold: float) -> float:
    """The share of an edge's height that lies between two neighbours at most, for all but the steepest tenth of the
    edges along rows or across them, whichever are steeper, as far as that is asked: the others tell nothing more where
    the first are too steep. One where too few are seen. Thin lines are edges as high as they stand out."""
    from .kernels.halving import steps_in_rows

    height, width = grey.shape
    flat, found = grey.reshape(-1), np.empty(MOST, np.float32)
    # Of whole levels, those below a threshold are those below the next whole one.
    as_levels = grey.dtype == np.uint8
    limit = np.uint8(min(np.ceil(threshold * MOST_LEVEL), MOST_LEVEL)) if as_levels else np.float32(threshold)
    least = LEAST_HEIGHT * MOST_LEVEL if as_levels else LEAST_HEIGHT
    steepest = -1.0
    for step in (1, width):
        count = steps_in_rows(flat, width, limit, -(-height // ROWS), step, BESIDE, least, found)
        if count >= FEWEST:
            steepest = max(steepest, quantile(found[:count], NEARLY_ALL))
        if steepest >= SOFT_STEP:
            break
    return steepest if steepest >= 0 else 1.0
