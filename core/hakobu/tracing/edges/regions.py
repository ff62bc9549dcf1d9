"""Regions of dark pixels."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

import numpy as np

from ...geometry.parallel import parallel_map
from .greyscale import WORTH_PIXELS


@dataclass(frozen=True)
class Regions:
    """Pixels darker than a threshold that hang together: runs of rows, and what is known of each region.

    begin (H+1,), left, right (N,): the runs of each row, right being the column after the last. region (N,): the region
    of each run. area (R,): pixels; seed (R, 2): x, y of the darkest pixel, which stays the same however the threshold
    is moved, as long as the region is there; darkest (R,): how dark it is.
    """

    begin: np.ndarray
    left: np.ndarray
    right: np.ndarray
    region: np.ndarray
    area: np.ndarray
    seed: np.ndarray
    darkest: np.ndarray


def find_regions(grey: np.ndarray, threshold: float, known: list | None = None) -> Regions:
    """grey (H, W) float32; a pixel belongs to a region where it is below the threshold. known: the runs of such, in
    parts of its rows, where they were found before."""
    from .kernels import runs

    height, width = grey.shape
    rows = np.full(height, float(width))
    found = known or parallel_map(partial(runs.find_runs, grey, threshold), rows, WORTH_PIXELS)
    begin = np.concatenate([[0], np.cumsum(np.concatenate([counts for counts, _ in found]))])
    left, right, least = np.concatenate([own for _, own in found], axis=1)
    region, count = runs.joined(begin, left, right)
    area, darkest, dark = runs.measure_regions(grey, begin, left, right, least.view(np.float32), region, count)
    seed = np.stack([darkest % width, darkest // width], axis=1)
    return Regions(begin, left, right, region, area, seed, dark)


def regions_at(found: Regions, pixels: tuple[tuple[int, int], ...]) -> list[int]:
    """The regions that pixels x, y belong to."""
    regions = []
    for x, y in pixels:
        if 0 <= y < len(found.begin) - 1:
            a, b = found.begin[y], found.begin[y + 1]
            run = a + int(np.searchsorted(found.left[a:b], x, side="right")) - 1
            if run >= a and x < found.right[run]:
                regions.append(int(found.region[run]))
    return regions
