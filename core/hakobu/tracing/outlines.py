"""Regions of dark pixels, and their outlines below the pixel."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..model.errors import CannotDo

#: More outlines than this are noise, not a drawing: nothing that can be cut and weeded has so many.
MOST_OUTLINES = 20_000


@dataclass(frozen=True)
class Outlines:
    """Closed outlines in pixels, the picture's corner at 0, 0. points (N, 2), start (K+1,), corner (N,).

    region (K,): the number of the region that each belongs to. size (K,): its area in square pixels, negative where it
    is a hole. seed (R, 2): x, y
    of the darkest pixel of each region: it stays the same however the threshold is moved, as long as the region is
    there. specks: how many regions and holes were too small.
    """

    points: np.ndarray
    start: np.ndarray
    corner: np.ndarray
    region: np.ndarray
    size: np.ndarray
    seed: np.ndarray
    specks: int


def find_outlines(grey: np.ndarray, threshold: float, smallest_px2: float) -> Outlines:
    """The outlines of all regions darker than the threshold, and of their holes, from a size on.

    grey (H, W) float32. Raises CannotDo where there are too many to be a drawing.
    """
    from .kernels import corners, cracks, regions

    labels, area, darkest = regions.label(grey, threshold)
    kept = area >= smallest_px2
    kept[0] = False
    if np.count_nonzero(kept) > MOST_OUTLINES:
        raise CannotDo(_noise(np.count_nonzero(kept)))
    specks = len(area) - 1 - np.count_nonzero(kept)
    regions.keep_only(labels, kept)
    points, start, owner, size = cracks.follow(grey, labels, threshold)
    large = np.abs(size) >= smallest_px2
    # A region's pixels may just reach the size while its outline does not: it goes with its holes.
    gone = np.zeros(len(area), bool)
    gone[owner[(size > 0) & ~large]] = True
    large &= ~gone[owner]
    specks += np.count_nonzero(~large)
    if np.count_nonzero(large) > MOST_OUTLINES:
        raise CannotDo(_noise(np.count_nonzero(large)))
    points, start = _taken(points, start, large)
    owner, size = owner[large], size[large]
    points, start, corner = corners.with_corners(points, start)
    numbers, region = np.unique(owner, return_inverse=True)
    width = grey.shape[1]
    seed = np.stack([darkest[numbers] % width, darkest[numbers] // width], axis=1)
    return Outlines(points, start, corner, region, size, seed, int(specks))


def _taken(points: np.ndarray, start: np.ndarray, wanted: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    counts = np.diff(start)
    rows = np.repeat(wanted, counts)
    return np.ascontiguousarray(points[rows]), np.concatenate([[0], np.cumsum(counts[wanted])])


def _noise(count: int) -> str:
    return (
        f"There are {count:,} separate dark bits in this picture: that is noise, not a drawing. Raise the smallest bit "
        "kept, or move the darkness."
    )
