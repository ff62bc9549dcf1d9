"""Outlines of regions of dark pixels, below the pixel."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...errors import CannotDo
from ...geometry.parallel import parallel_map, work_queue
from ..corners.far_corners import drawn_back, without_mistakes
from ..edges.regions import Regions, find_regions, regions_at
from ..order_statistics import quantile
from .fit_input import made_ready

#: More outlines than this are noise, not a drawing: nothing that can be cut and weeded has so many.
MOST_OUTLINES = 20_000
#: So are more than this many where there is one for fewer pixels than a weeder's tweezers can take at 300 an inch.
MANY_OUTLINES, DENSEST = 2_000, 0.004
#: And so many points, one for fewer pixels than this, where edges are as rough as this, in pixels: a texture.
MANY_POINTS, CROWDED, ROUGH_EDGES = 20_000, 0.05, 0.25
#: Pixels from an edge at which ink and ground are themselves.
PLATEAU_PX = 4
#: Coverage within so many times its noise of none or all is taken for none or all, within these bounds.
DEAD_NOISES, DEAD_LEAST, DEAD_MOST = 2.5, 0.006, 0.15
#: A threshold within this share of half-way between ink and ground means half-way.
HALFWAY = 0.08
#: Places at which the noise of outlines is measured, and its bounds in pixels.
ROUGH_PLACES, LEAST_ROUGH, MOST_ROUGH = 1_000, 0.006, 0.5
#: The quantile of it that is taken, and the median's share of that where noise is normal (chi-square of 6).
ROUGH_QUANTILE, ROUGH_FACTOR = 0.3, 1.18
#: The blur of an edge that is one pixel wide, in pixels, and the most that is reckoned with.
LEAST_BLUR, MOST_BLUR = 0.29, 2.5
#: Lines may run between grounds of several levels: what is as light as this share of their edges' grounds is ground.
DARKEST_GROUND = 0.08
#: The noise of outlines where the grey passes a threshold, in pixels, at least.
PLAIN_NOISE = 0.05
#: Points of outlines that are worth a thread of their own.
WORTH_POINTS = 1_500
#: Ends of corners that are found one after another.
TOGETHER = 3


@dataclass(frozen=True)
class Outlines:
    """Closed outlines in pixels, the picture's corner at 0, 0, made ready to be fitted. points (N, 2), start (K+1,),
    corner (N,), direction (N, 2) where a straight run ends.

    region (K,): the number of the region that each belongs to. size (K,): its area in square pixels, negative where it
    is a hole. seed (R, 2): as in Regions, of those that are kept. specks: how many regions and holes were too small.
    blur, noise: of the edges, in pixels. chains: rows, columns, ways of the cracks of each, and their start (K+1,).
    levels (K, 3): where the line is of each, and how dark it is inside and outside.
    """

    points: np.ndarray
    start: np.ndarray
    corner: np.ndarray
    direction: np.ndarray
    region: np.ndarray
    size: np.ndarray
    seed: np.ndarray
    specks: int
    blur: float
    noise: float
    chains: tuple
    levels: np.ndarray


def roughness_of(points: np.ndarray, start: np.ndarray, what: np.ndarray | None = None) -> float:
    """The noise of outlines' points, in pixels, from where they are smoothest: corners and tight bends have no say."""
    from ..edges.kernels.roughness import roughness

    found = np.empty(ROUGH_PLACES)
    count = roughness(points, start, np.zeros(len(points), np.uint8) if what is None else what, found)
    if not count:
        return LEAST_ROUGH
    return min(max(quantile(found[:count], ROUGH_QUANTILE) * ROUGH_FACTOR, LEAST_ROUGH), MOST_ROUGH)


def find_outlines(
    grey: np.ndarray,
    threshold: float,
    smallest_px2: float,
    always: tuple[tuple[int, int], ...] = (),
    known: list | None = None,
) -> Outlines:
    """The outlines of all regions darker than the threshold, and of their holes, from a size on; those of the pixels
    x, y that are to stay always, of any size.

    grey (H, W) float32; known: as `find_regions` takes it. Raises CannotDo where there are too many to be a drawing.
    """
    from ..edges.kernels import cracks

    found = find_regions(grey, threshold, known)
    chosen = regions_at(found, always)
    kept = found.area >= smallest_px2
    kept[chosen] = True
    refuse_noise(int(np.count_nonzero(kept)), grey.size)
    specks = len(found.area) - np.count_nonzero(kept)
    rows, columns, ways, start, owner, size = cracks.follow(found.begin, found.left, found.right, found.region, kept)
    large = np.abs(size) >= smallest_px2
    if chosen:
        large |= np.isin(owner, chosen) & (size > 0)
    # A region's pixels may just reach the size while its outline does not: it goes with its holes.
    gone = np.zeros(len(found.area), bool)
    gone[owner[(size > 0) & ~large]] = True
    large &= ~gone[owner]
    specks += np.count_nonzero(~large)
    refuse_noise(int(np.count_nonzero(large)), grey.size)
    if not large.all():
        wanted = np.repeat(large, np.diff(start))
        start = np.concatenate([[0], np.cumsum(np.diff(start)[large])])
        rows, columns, ways = rows[wanted], columns[wanted], ways[wanted]
        owner, size = owner[large], size[large]
    chains = (rows, columns, ways, start)
    numbers = np.flatnonzero(np.bincount(owner))
    region = np.searchsorted(numbers, owner)
    points, start, corner, direction, blur, noise, levels = placed_outlines(grey, chains, threshold)
    return Outlines(
        points, start, corner, direction, region, size, found.seed[numbers], int(specks), blur, noise, chains, levels
    )


def plain_outlines(grey: np.ndarray, found: Outlines, which: np.ndarray, threshold: float, corners: bool) -> tuple:
    """Some of the outlines by nothing but where the grey passes the threshold: points (N, 2), start, corner (N,) and
    direction (N, 2). Without corners they never cross."""
    from ..edges.kernels.subpixel_edges import halfway_points

    rows, columns, ways, start = found.chains
    count = np.diff(start)[which]
    begin = np.concatenate([[0], np.cumsum(count)])
    index = np.arange(begin[-1]) + np.repeat(start[which] - begin[:-1], count)
    points = halfway_points(grey, rows[index], columns[index], ways[index], begin, np.full(len(which), threshold))
    if not corners:
        return points, begin, np.zeros(len(points), bool), np.zeros_like(points)
    noise = max(found.noise, PLAIN_NOISE)
    levels = np.tile([threshold, threshold - 0.25, threshold + 0.25], (len(which), 1))
    return _finished(
        grey,
        points,
        begin,
        ((points == 0) | (points == grey.shape[::-1])).any(axis=1),
        levels,
        DEAD_MOST,
        found.blur,
        noise,
    )


def placed_outlines(grey: np.ndarray, chains: tuple, threshold: float) -> tuple:
    """Points, start, corner and direction of chains of cracks; the blur and noise of their edges, and their levels.
    Raises CannotDo where these are the edges of noise."""
    from ..edges.kernels import subpixel_edges

    rows, columns, ways, start = chains
    levels, dead = _levels(grey, chains, threshold)
    cost = np.diff(start).astype(float)

    def place(a: int, b: int) -> tuple:
        i, j = start[a], start[b]
        return subpixel_edges.place_edges(
            grey, rows[i:j], columns[i:j], ways[i:j], start[a : b + 1] - i, levels[a:b], dead
        )

    parts = parallel_map(place, cost, WORTH_POINTS) if len(cost) else []
    points, begin = joined(parts)
    straight_edges = sum(part[4] for part in parts)
    soft = sum(part[3] for part in parts) / straight_edges if straight_edges else 0.0
    # Of an edge blurred by a Gaussian of width s, coverage times what is missing sums up to s over the root of pi.
    blur = min(max(soft * np.pi**0.5, LEAST_BLUR), MOST_BLUR)
    what = np.concatenate([part[2] for part in parts]) if parts else np.zeros(0, np.uint8)
    noise = roughness_of(points, begin, what)
    if noise >= ROUGH_EDGES and len(points) >= max(MANY_POINTS, CROWDED * grey.size):
        raise CannotDo(
            "The edges in this picture are rough, and run everywhere: that is noise or a texture, not a drawing. Calm "
            "the picture, or move the darkness."
        )
    return *_finished(grey, points, begin, what == subpixel_edges.RIM, levels, dead, blur, noise), blur, noise, levels


def _finished(
    grey: np.ndarray,
    points: np.ndarray,
    begin: np.ndarray,
    outermost: np.ndarray,
    levels: np.ndarray,
    dead: float,
    blur: float,
    noise: float,
) -> tuple:
    """Placed outlines with their corners and made ready to be fitted: points, start, corner and direction. outermost
    (N,): whether each point is told by a pixel on the picture's rim."""
    from ..corners.kernels import border_ends, corner_ends, corners

    def look(a: int, b: int) -> tuple:
        i, j = begin[a], begin[b]
        return corner_ends.candidates_of(points[i:j], begin[a : b + 1] - i, pinned[i:j], dead, blur, noise)

    def find(a: int, b: int) -> None:
        corner_ends.find_ends(grey, points, begin, run, at, first, levels, dead, blur, noise, known, a, b)

    def finish(a: int, b: int) -> tuple:
        return corners.with_corners(grey, points, begin, pinned, run, at, first, known, levels, dead, blur, noise, a, b)

    if len(begin) < 2:
        return points, begin, np.zeros(0, bool), np.zeros((0, 2))
    pinned = np.zeros(len(points), np.bool_)
    if outermost.any():
        points, begin, pinned = border_ends.rimmed(grey, points, begin, outermost, levels, blur, noise)
    known_points, known_begin = points, begin
    cost = np.diff(begin).astype(float)
    looked = parallel_map(look, cost, WORTH_POINTS)
    run, at, known = (np.concatenate([part[i] for part in looked]) for i in (0, 1, 3))
    first = _counted([part[2] for part in looked])
    work_queue(find, len(at), TOGETHER)
    parts = parallel_map(finish, cost, WORTH_POINTS)
    points, begin = joined(parts)
    corner, count = np.concatenate([part[2] for part in parts]), len(begin) - 1
    points = drawn_back(grey, points, begin, corner, levels)
    points, begin, corner = without_mistakes(known_points, known_begin, points, begin, corner)
    return made_ready(points, begin, corner, np.ones(count, bool), np.full(count, noise), 1.0)


def levels_at(grey: np.ndarray, threshold: float) -> tuple[float, float]:
    """How dark ink and ground are on both sides of the edges at a threshold; not a number where there are none."""
    black, white, _ = _looked_at(grey, threshold, find_regions(grey, threshold))
    return black, white


def line_levels(grey: np.ndarray, threshold: float, found: Regions) -> tuple[float, float, float, float]:
    """Limit, black and white at the edges of a whole picture, of which all that is dark is found, and the coverage that
    is noise."""
    black, white, noise = _looked_at(grey, threshold, found, DARKEST_GROUND)
    black = min(black, threshold - 1e-3) if np.isfinite(black) else threshold - 0.25
    white = max(white, threshold + 1e-3) if np.isfinite(white) else threshold + 0.25
    halfway = (black + white) / 2
    limit = halfway if abs(threshold - halfway) < HALFWAY * (white - black) else threshold
    return limit, black, white, min(max(DEAD_NOISES * noise / (white - black), DEAD_LEAST), DEAD_MOST)


def _looked_at(grey: np.ndarray, threshold: float, found: Regions, ground: float = 0.5) -> tuple[float, float, float]:
    """Black, white, and what pixels of one level differ by. ground: the quantile of what lies beside edges that is
    taken for white."""
    from ..edges.kernels import cracks
    from ..edges.kernels.edge_levels import edge_levels

    kept = found.area >= 4
    rows, columns, ways, start, _, _ = cracks.follow(found.begin, found.left, found.right, found.region, kept)
    looked, differ, _ = edge_levels(grey, rows, columns, ways, start, threshold, PLATEAU_PX)
    weight = np.diff(start)
    sides = []
    for side in range(2):
        known = looked[:, 2 * side + 1] > 0.3
        share = 0.5 if side == 0 else ground
        sides.append(_weighted_quantile(looked[known, 2 * side], weight[known], share) if known.any() else np.nan)
    return sides[0], sides[1], quantile(differ, 0.5) / 0.954 if len(differ) else 0.0


def _levels(grey: np.ndarray, chains: tuple, threshold: float) -> tuple[np.ndarray, float]:
    """Limit, black and white of each chain (K, 3), and the coverage that is noise. What is too thin to show how dark it
    is takes the level of the rest."""
    from ..edges.kernels.edge_levels import edge_levels

    rows, columns, ways, start = chains
    found, differ, _ = edge_levels(grey, rows, columns, ways, start, threshold, PLATEAU_PX)
    weight = np.diff(start)
    levels = np.empty((len(weight), 3))
    for side in range(2):
        value, known = found[:, 2 * side], found[:, 2 * side + 1] > 0.3
        typical = _weighted_median(value[known], weight[known]) if known.any() else np.nan
        own = np.where(known, value, np.nan)
        # Thin things are of the same ink as the rest, or darker where they show it.
        rest = np.fmin(value, typical) if side == 0 else np.fmax(value, typical)
        levels[:, 1 + side] = np.where(np.isnan(own), rest, own)
    black, white = levels[:, 1], levels[:, 2]
    black[:] = np.minimum(black, threshold - 1e-3)
    white[:] = np.maximum(white, threshold + 1e-3)
    halfway = (black + white) / 2
    levels[:, 0] = np.where(np.abs(threshold - halfway) < HALFWAY * (white - black), halfway, threshold)
    contrast = _weighted_median(white - black, weight) if len(weight) else 1.0
    # Of normal noise, two pixels differ by 0.954 of its width half the time.
    noise = quantile(differ, 0.5) / 0.954 / contrast if len(differ) else 0.0
    return levels, min(max(DEAD_NOISES * noise, DEAD_LEAST), DEAD_MOST)


def _weighted_quantile(values: np.ndarray, weights: np.ndarray, share: float) -> float:
    order = np.argsort(values)
    below = np.cumsum(weights[order])
    return float(values[order][np.searchsorted(below, below[-1] * share)])


def _weighted_median(values: np.ndarray, weights: np.ndarray) -> float:
    return _weighted_quantile(values, weights, 0.5)


def joined(parts: list[tuple]) -> tuple[np.ndarray, np.ndarray]:
    """The points of several parts, which each begins with, and where each of their outlines begins, which comes
    next."""
    if not parts:
        return np.zeros((0, 2)), np.zeros(1, np.int64)
    if len(parts) == 1:
        return parts[0][0], parts[0][1]
    return np.concatenate([part[0] for part in parts]), _counted([part[1] for part in parts])


def _counted(starts: list[np.ndarray]) -> np.ndarray:
    """Where each begins, from where each of a part begins in it, which ends with how many there are."""
    whole, count = [starts[0]], starts[0][-1]
    for start in starts[1:]:
        whole.append(start[1:] + count)
        count = count + start[-1]
    return np.concatenate(whole)


def refuse_noise(count: int, pixels: int) -> None:
    """Raises CannotDo where so many outlines or lines in so many pixels are noise."""
    if count > MOST_OUTLINES or (count > MANY_OUTLINES and count > DENSEST * pixels):
        raise CannotDo(
            f"There are {count:,} separate bits in this picture: that is noise, not a drawing. Raise the smallest bit "
            "kept, calm the picture, or move the darkness."
        )
