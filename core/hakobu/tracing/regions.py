"""Regions of dark pixels."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

import numpy as np

from ..geometry.sharing import shared_out
from .grey import WORTH_PIXELS

#: Of so many regions each thread would take as long to begin as to measure.
MANY_REGIONS = 100_000


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
    found = known or shared_out(partial(runs.find_runs, grey, threshold), rows, WORTH_PIXELS)
    counts, left, right = (np.concatenate([part[i] for part in found]) for i in range(3))
    begin = np.concatenate([[0], np.cumsum(counts)])
    region, count = runs.joined(begin, left, right)
    worth = WORTH_PIXELS if count < MANY_REGIONS else np.inf
    parts = shared_out(partial(runs.measured, grey, begin, left, right, region, count), rows, worth)
    area, darkest, least = parts[0]
    for more, other, dark in parts[1:]:
        darker = dark < least
        area, darkest, least = area + more, np.where(darker, other, darkest), np.where(darker, dark, least)
    seed = np.stack([darkest % width, darkest // width], axis=1)
    return Regions(begin, left, right, region, area, seed, least)


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
