"""dark: everything darker than a threshold is ink, and its edge is the line."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...errors import CannotDo
from ...geometry import Path, fit
from ..edges.downsampling import without_excess
from ..edges.greyscale import halved, levels
from ..edges.otsu import otsu_threshold
from ..order_statistics import quantile
from ..tangent_directions import turned
from .outlines import Outlines, find_outlines, levels_at
from .self_intersections import Source, uncrossed

#: Pixels: how far the line may leave the edge where nothing else is asked. A scan's edge is known to a twentieth of a
#: pixel; the stairs of a picture without grey are half a pixel deep.
SMOOTH_PX, SMOOTH_STAIRS_PX = 0.2, 0.75
#: In a picture with more noise than this share of its range edges are known less well, and as well with half the nodes;
#: its noise is told from so many rows, by what two pixels differ by at the median if it is normal, in its deviations.
NOISY_SHARE, SMOOTH_NOISY_PX, NOISE_ROWS, NORMAL_DIFFERENCE = 0.03, 0.35, 64, 0.954
#: Pixels that a threshold is proposed from, and the share of those at edges that may change sides when it is moved from
#: where Otsu puts it to half-way between ink and ground.
LOOKED_AT_PX, MOVED_SHARE = 1_300_000, 0.7
#: An edge is a stair where nearly the whole change of grey happens between two pixels; with grey pixels along it, it is
#: three quarters on average. Straight edges may lie between two rows in any picture, so nearly all must be stairs.
STAIR_SHARE, STAIR_EDGES, LEAST_CHANGE = 0.95, 0.9, 0.1
#: Where half-way is darker than Otsu's threshold and would take more than this share of the ink away, it runs through
#: lines so thin that no pixel of them is all ink.
THINNED = 0.15
#: The smallest bit kept where nothing else is asked: what a scan cannot show truly, and what nobody can weed (common
#: practice); of small pictures no more than this share of them, down to so many pixels.
SMALLEST_PX2, SMALLEST_MM2, SMALLEST_SHARE, LEAST_PX2 = 12.0, 0.3, 5e-5, 2.0
#: A picture smaller than this many of its smallest bits is itself small: what is kept of it shrinks with it.
SMALLEST_SHARE_MM2 = 1e-3


@dataclass(frozen=True)
class Proposal:
    """What a picture suggests: threshold from 0 to 1, smoothness in mm, smallest bit in mm2."""

    threshold: float
    smoothness_mm: float
    smallest_mm2: float


@dataclass(frozen=True)
class Region:
    """A dark region: its outline with its holes, and the pixel it grows from."""

    path: Path
    seed: tuple[int, int]


@dataclass(frozen=True)
class Traced:
    """Regions, the largest first; how many bits were too small; and how far the lines lie from the picture's edge, on
    average and at most."""

    regions: tuple[Region, ...]
    specks: int
    mean_mm: float
    max_mm: float


def propose(grey: np.ndarray, pixel_mm: float) -> Proposal:
    """Raises CannotDo for a picture of one colour only."""
    counts = levels(grey)
    try:
        threshold = halfway(grey, otsu_threshold(counts))
    except ValueError as error:
        raise CannotDo(
            "This picture is one even colour: there is no line in it to find. Bring in another one."
        ) from error
    smooth = SMOOTH_PX if noise_share(grey) < NOISY_SHARE else SMOOTH_NOISY_PX
    if has_stairs(grey, threshold):
        smooth = SMOOTH_STAIRS_PX
    return Proposal(threshold, smooth * pixel_mm, smallest_bit(grey.size, pixel_mm))


def smallest_bit(pixels: int, pixel_mm: float) -> float:
    """The smallest bit that is kept of a picture of so many pixels, in mm2."""
    of_pixels = min(max(SMALLEST_SHARE * pixels, LEAST_PX2), SMALLEST_PX2)
    return max(of_pixels * pixel_mm**2, min(SMALLEST_MM2, SMALLEST_SHARE_MM2 * pixels * pixel_mm**2))


def noise_share(grey: np.ndarray) -> float:
    """What pixels beside each other differ by where they are alike, as a share of all there is between black and white:
    the median over rows that are spread over the picture."""
    rows = grey[:: max(len(grey) // NOISE_ROWS, 1)]
    return float(np.median(np.abs(np.diff(rows, axis=1)))) / NORMAL_DIFFERENCE if grey.shape[1] > 1 else 0.0


def halfway(grey: np.ndarray, threshold: float) -> float:
    """The threshold moved to half-way between the ink and the ground that it parts, where a pixel at an edge is half
    covered; the same where more than edges would change sides, as in pictures without clear levels."""
    from ..edges.kernels.greyscale import at_edges

    times = 0
    while grey.size / 4**times > LOOKED_AT_PX:
        times += 1
    small = halved(grey, times) if times else grey
    black, white = levels_at(small, threshold)
    middle = (black + white) / 2
    if not np.isfinite(middle):
        return threshold
    low, high = sorted((middle, threshold))
    small = np.ascontiguousarray(small)
    moved, edge = at_edges(small, threshold, low, high)
    thinned = middle < threshold and moved > THINNED * np.count_nonzero(small < threshold)
    return float(middle) if moved <= MOVED_SHARE * edge and not thinned else threshold


def has_stairs(grey: np.ndarray, threshold: float) -> bool:
    """Whether nearly all edges jump from dark to light from one pixel to the next, as in pictures without smoothing."""
    from ..edges.kernels.greyscale import jumps

    found = jumps(np.ascontiguousarray(grey), threshold, LEAST_CHANGE)
    return len(found) > 0 and quantile(found, 1 - STAIR_EDGES) > STAIR_SHARE


def trace(
    grey: np.ndarray,
    matrix: tuple[float, ...],
    threshold: float,
    smoothness_mm: float,
    smallest_mm2: float,
    kept: tuple[tuple[int, int], ...] = (),
) -> Traced:
    """The regions of a picture (H, W) whose pixels a matrix takes to millimetres: float32 from 0 to 1, or uint8.

    smoothness_mm: how far a line may leave the edge to be smooth; corners stay. kept: pixels x, y whose regions stay
    however small they are. Raises CannotDo where nothing is found, or far too much.
    """
    a, b, c, d, e, f = matrix
    ends = np.array(grey.shape[::-1])
    grey, factor, runs = without_excess(np.ascontiguousarray(grey), threshold)
    turn, shift = factor * np.array([[a, b], [c, d]]), np.array([e, f])
    pixel_mm2 = factor**2 * abs(a * d - b * c)
    always = tuple((x // factor, y // factor) for x, y in kept)
    found = find_outlines(grey, threshold, smallest_mm2 / pixel_mm2, always, runs)
    if not len(found.region):
        raise CannotDo(_nothing(grey, threshold, found.specks))
    # The last of its pixels may be twice as wide as what there is of them.
    np.minimum(found.points, ends / factor, out=found.points)
    closed = np.ones(len(found.region), bool)
    direction = turned(found.direction, turn)
    fitted = fit(found.points @ turn + shift, found.start, closed, found.corner, smoothness_mm, direction)
    path = uncrossed(fitted.path, Source(grey, found, threshold, turn, shift, smoothness_mm))
    return Traced(_regions(path, found, factor), found.specks, fitted.mean_mm, fitted.max_mm)


def _regions(path: Path, found: Outlines, factor: int) -> tuple[Region, ...]:
    """Each region's outer outline before its holes, the largest region first."""
    order = np.lexsort((found.size < 0, found.region))
    parts = path.take(order).split(np.bincount(found.region).tolist())
    seeds = (factor * found.seed).tolist()
    regions = [Region(part, (x, y)) for part, (x, y) in zip(parts, seeds, strict=True)]
    outer = found.size > 0
    size = np.zeros(len(regions))
    size[found.region[outer]] = found.size[outer]
    return tuple(regions[i] for i in np.argsort(-size, kind="stable"))


def _nothing(grey: np.ndarray, threshold: float, specks: int) -> str:
    mark, darkest = f"{100 * threshold:.0f} %", f"{100 * float(grey.min()):.0f} %"
    if specks:
        return f"Only specks are darker than {mark} here, all {specks:,} too small: keep smaller bits."
    return f"Nothing in this picture is darker than {mark}; its darkest place lies at {darkest}. Move the mark up."
