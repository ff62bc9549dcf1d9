"""centre: the middle of drawn lines, as single lines."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from ...errors import CannotDo
from ...geometry import Path, fit
from ...geometry.parallel import parallel_map
from ..colour.backgrounds import on_one_ground
from ..edges.regions import find_regions
from ..outlines.fit_input import made_ready
from ..outlines.outlines import LEAST_ROUGH, MOST_ROUGH, line_levels, refuse_noise
from ..tangent_directions import turned
from . import thinning
from .branches import Branch, joined, split_at_bends
from .sharp_bends import without_tails

#: A branch that ends freely and is no longer than this share of its line's width, and some pixels, is no line but the
#: corner of an end; two meetings nearer together than that share are one.
SPUR_SHARE, SPUR_PX, MEETING_SHARE = 0.75, 1.5, 1.1
#: An end that reaches this much of its width farther along its middle than its ink on the whole is round, where the
#: line is wide enough, in pixels, for that to be told.
ROUND_END, ROUND_WIDTH = 0.06, 2.5
#: How a line goes on is told by what is true of it up to its end; where that is not known over so many pixels, from so
#: far before its end on, as a share of its width, where it cannot be cut aslant, and with so much more noise: up to
#: here it may bend, from here on it is straight but for what compression leaves of it.
WAYS_ON, SHORT_PX = ((0.0, 1.0), (0.55, 1.0), (0.55, 2.0), (0.55, 4.0), (0.55, 8.0)), 20.0
BENT_NOISIER = 2.0
#: A way that bends by so much, in radians, over what is known of it is no longer because of that.
TIGHT = 0.4
#: Thinning may take so much, in pixels, off the end of a line besides half its width.
LOST_PX = 16.0
#: Lines that go through a meeting within so much, in radians, are one.
STRAIGHT_ON = 0.35
#: How middles are rounded beside what is not true, as a blur in pixels.
BLUR = 0.1
#: How far a line is followed from where it ends or meets another, in pixels.
ARM_PX = 40.0
#: And where it is straight for longer than that.
LONG_ARM_PX = 100.0
#: So near to an end its ink is measured, in pixels: what the width is off does not count along the whole line, nor the
#: noise of all that is before.
NEAR_END = 3.0
#: Where more coverage than this is noise, an end is where its model fits the pixels best.
CLEAR_DEAD = 0.01
#: A line with so much more ink beyond a place than along its middle, in widths, ends in a blot: its middle counts.
SWOLLEN = 0.5
#: Pixels that are ground round the picture.
PAD = 2
#: Points of lines that are worth a thread of their own.
WORTH_POINTS = 4_000


@dataclass(frozen=True)
class Lines:
    """Lines of one drawing that hang together: path of open and closed outlines, the pixel it grows from, and the width
    of each line, in mm."""

    path: Path
    seed: tuple[int, int]
    width_mm: np.ndarray


@dataclass(frozen=True)
class Middles:
    drawings: tuple[Lines, ...]
    specks: int
    mean_mm: float
    max_mm: float


def trace(
    grey: np.ndarray, matrix: tuple[float, ...], threshold: float, smoothness_mm: float, smallest_mm2: float
) -> Middles:
    """The middle of what is darker than a threshold in a picture (H, W) float32, as lines in millimetres.

    smallest_mm2: drawings with less ink go. Raises CannotDo where there is no line.
    """
    from ..corners.kernels import chain_ends
    from ..edges.kernels.roughness import roughness_of_each

    a, b, c, d, e, f = matrix
    pixel_mm = abs(a * d - b * c) ** 0.5
    grey, levels, branches, nodes, specks = _skeleton(grey, threshold, smallest_mm2 / pixel_mm**2)
    branches, nodes = _simplified(branches, nodes)
    if not branches:
        raise CannotDo(
            "There is no drawn line here: all that is darker than the mark is about as wide as it is long. Trace its "
            "outline instead."
        )
    for br in branches:
        _to_its_ends(grey, levels, br)
    branches, nodes = split_at_bends(branches, nodes)
    points, start = _packed(branches)
    noises = np.empty(len(branches))
    roughness_of_each(points, start, noises)
    noises = np.clip(noises, LEAST_ROUGH, MOST_ROUGH)
    blurs = np.full(len(branches), BLUR)
    about = np.zeros((len(branches), 6), np.int64)
    places = _meetings(branches, nodes, points, start, about, blurs, noises)
    places, of = _with_ends(grey, levels, branches, places, noises)
    nothing = np.zeros((1, 1), np.float32)
    some, at, mark = chain_ends.with_nodes(nothing, points, start, about, of, places, blurs, noises)
    closed = of[:, 0] < 0
    ready, at, corner, direction = made_ready(some, at, mark, closed, noises, 1.0)
    # A ring of a pixel or two is no line.
    whole = np.diff(at) >= np.where(closed, 3, 2)
    if not whole.all():
        specks += int(np.count_nonzero(~whole))
        keep = np.repeat(whole, np.diff(at))
        at = np.concatenate([[0], np.cumsum(np.diff(at)[whole])])
        ready, corner, direction, closed, of = ready[keep], corner[keep], direction[keep], closed[whole], of[whole]
        branches = [branch for branch, good in zip(branches, whole, strict=True) if good]
    turn = np.array([[a, b], [c, d]])
    direction = turned(direction, turn)
    fitted = fit(ready @ turn + (e, f), at, closed, corner, smoothness_mm, direction)
    drawings = _drawings(fitted.path, of, branches, pixel_mm)
    return Middles(drawings, specks, fitted.mean_mm, fitted.max_mm)


def _skeleton(
    grey: np.ndarray, threshold: float, smallest_px: float
) -> tuple[np.ndarray, tuple[float, float, float, float], list[Branch], np.ndarray, int]:
    """The picture on one ground and its levels; the branches of what is dark, with the middles across them; about where
    they meet; and how many specks went."""
    from .kernels import line_widths, ridges

    regions = find_regions(grey, threshold)
    small = regions.area < smallest_px
    if small.all():
        specks = f"all {len(small):,} bits that are darker than the mark are specks"
        what = specks if len(small) else "nothing is darker"
        raise CannotDo(f"There is no drawn line here: {what}. Move the mark.")
    ink = np.zeros((grey.shape[0] + 2 * PAD, grey.shape[1] + 2 * PAD), np.uint8)
    np.less(grey, threshold, out=ink[PAD:-PAD, PAD:-PAD].view(bool))
    rows = np.repeat(np.arange(len(grey)), np.diff(regions.begin))
    for run in np.flatnonzero(small[regions.region]):
        ink[rows[run] + PAD, regions.left[run] + PAD : regions.right[run] + PAD] = 0
    rows, columns, start, ends, count = thinning.branches(ink)
    refuse_noise(len(start) - 1, grey.size)
    rows, columns = (rows - PAD).astype(np.int32), (columns - PAD).astype(np.int32)
    levels = line_levels(grey, threshold, regions)
    grey = np.ascontiguousarray(on_one_ground(grey, *levels[:3]))
    pixels = np.column_stack([columns + 0.5, rows + 0.5])

    def measure(a: int, b: int) -> tuple:
        i, j = start[a], start[b]
        own, at = start[a : b + 1] - i, ends[a:b]
        found = ridges.middle_points(grey, rows[i:j], columns[i:j], own, at, *levels)
        return line_widths.measure_widths(grey, pixels[i:j], *found, own, at, *levels)

    parts = parallel_map(measure, np.diff(start).astype(float), WORTH_POINTS)
    points, widths_of, true = (np.concatenate([part[i] for part in parts]) for i in range(3))
    branches = []
    for (i, j), pair, (width, within, pen) in zip(
        pairwise(start.tolist()), ends.tolist(), widths_of.tolist(), strict=True
    ):
        if j - i >= 2 or pair[0] >= 0:
            branches.append(Branch(points[i:j], pair, width, (within, pen), true[i:j]))
    nodes = np.zeros((count, 2))
    meets = ends.ravel() >= 0
    outermost = np.column_stack([start[:-1], start[1:] - 1]).ravel()
    nodes[ends.ravel()[meets]] = pixels[outermost[meets]]
    return grey, levels, branches, nodes, int(np.count_nonzero(small))


def _simplified(branches: list[Branch], nodes: np.ndarray) -> tuple[list[Branch], np.ndarray]:
    """Without spurs; meetings that are one put together; and branches that go on into only one other joined to it."""
    typical = {}
    for br in branches:
        for end in br.ends:
            if end >= 0:
                typical.setdefault(end, []).append((len(br.points), br.width))
    wide = {end: max(own)[1] for end, own in typical.items()}
    kept = []
    merged = list(range(len(nodes)))

    def root(i: int) -> int:
        while merged[i] != i:
            i = merged[i]
        return i

    for br in branches:
        inner = [end for end in br.ends if end >= 0]
        width = max((wide[end] for end in inner), default=br.width)
        if len(inner) == 1 and len(br.points) <= SPUR_SHARE * width + SPUR_PX:
            continue
        if len(inner) == 2 and len(br.points) <= MEETING_SHARE * width + 2 and _length(br.points) < 2 * width + 4:
            merged[root(inner[0])] = root(inner[1])
            continue
        kept.append(br)
    for br in kept:
        br.ends = [root(end) if end >= 0 else end for end in br.ends]
    groups: dict[int, list[int]] = {}
    for node in range(len(nodes)):
        groups.setdefault(root(node), []).append(node)
    nodes = nodes.copy()
    for node, own in groups.items():
        nodes[node] = nodes[own].mean(axis=0)
    return joined(without_tails(kept)), nodes


def _length(points: np.ndarray) -> float:
    return float(np.hypot(*np.diff(points, axis=0).T).sum())


def _to_its_ends(grey: np.ndarray, levels: tuple, br: Branch) -> None:
    """Follows a branch to its free ends as long as it is as wide as on the whole, from where it last was: thinning
    bends to a corner there and ends before."""
    from .kernels.cross_sections import walked_on

    for which, step in ((0, -1), (1, 1)):
        if br.ends[which] != -1 or not br.true.any():
            continue
        true = np.flatnonzero(br.true)
        keep = slice(true[0], None) if which == 0 else slice(None, true[-1] + 1)
        own = np.ascontiguousarray(br.points[keep])
        more = walked_on(grey, own, step, *br.varies, int(2 * br.width + LOST_PX), *levels)
        parts, marks = [own, more], [br.true[keep], np.ones(len(more), bool)]
        if which == 0:
            parts, marks = [more[::-1], own], marks[::-1]
        br.points, br.true = np.concatenate(parts), np.concatenate(marks)


def _packed(branches: list[Branch]) -> tuple[np.ndarray, np.ndarray]:
    """All points that are true, and where each branch begins."""
    true = np.concatenate([br.true for br in branches])
    ends = np.cumsum([0] + [len(br.true) for br in branches])
    before = np.concatenate([[0], np.cumsum(true)])
    return np.concatenate([br.points for br in branches])[true], before[ends]


def _meetings(branches, nodes, points, start, about, blurs, noises) -> np.ndarray:
    from ..corners.kernels.junctions import meeting_places

    ends = [[] for _ in range(len(nodes))]
    for k, br in enumerate(branches):
        if br.ends[0] >= 0:
            ends[br.ends[0]].append((k, 1))
        if br.ends[1] >= 0:
            ends[br.ends[1]].append((k, -1))
    first = np.cumsum([0] + [len(own) for own in ends])
    flat = np.array([pair for own in ends for pair in own], np.int64).reshape(-1, 2)
    places = np.zeros((len(nodes), 2))
    around = np.ascontiguousarray(nodes[:, ::-1].ravel())
    strays = np.array([br.width + 2.0 for br in branches])
    meeting_places(points, start, about, first, flat, around, blurs, strays, ARM_PX, noises, places)
    return places


def _with_ends(grey, levels, branches, places, noises) -> tuple[np.ndarray, np.ndarray]:
    """Free ends as places too, each where its ink ends; and the places that each branch begins and ends at (B, 2)."""
    all_places = list(places)
    of = np.full((len(branches), 2), -1)
    for k, br in enumerate(branches):
        if br.ends[0] == -2:
            continue
        for which, end in enumerate(br.ends):
            if end >= 0:
                of[k, which] = end
                continue
            of[k, which] = len(all_places)
            all_places.append(_free_end(grey, levels, br, 1 if which == 0 else -1, noises[k]))
    return np.ascontiguousarray(np.array(all_places).reshape(-1, 2)), of


def _free_end(grey: np.ndarray, levels: tuple, br: Branch, step: int, noise: float) -> np.ndarray:
    """Where the beginning (step 1) or the end (-1) of a branch lies that meets no other (2,)."""
    from ..corners.kernels.line_ends import end_by_profile
    from .kernels.cross_sections import width_at_end
    from .kernels.ridges import length_beyond

    tip = br.points[0] if step > 0 else br.points[-1]
    found = _way_on(br, step, tip, noise)
    if found is None:
        return tip
    x, y, ux, uy = found
    width = br.width
    if br.varies[1]:
        width = width_at_end(grey, np.ascontiguousarray(br.points[br.true]), -step, *levels)
    reach = np.hypot(tip[0] - x, tip[1] - y) + width + LOST_PX
    whole, middle = length_beyond(grey, x, y, ux, uy, width, reach, *levels)
    last = np.array([x + middle * ux, y + middle * uy])
    cut_off = min(last.min(), *(grey.shape[::-1] - last)) < width / 2
    if middle - whole > ROUND_END * width and width > ROUND_WIDTH and not cut_off:
        far = middle + 0.02 * width - width / 2
    elif whole - middle > SWOLLEN * width:
        far = min(middle, reach)
    else:
        # Where the line swells, more ink than within reach may count for length.
        shift = max(min(whole, reach) - NEAR_END, 0.0)
        left, _ = length_beyond(grey, x + shift * ux, y + shift * uy, ux, uy, width, reach - shift, *levels)
        far = min(shift + left, reach)
        if levels[3] > CLEAR_DEAD:
            far = end_by_profile(grey, x, y, ux, uy, width, far, *levels[:3])
    return np.array([x + far * ux, y + far * uy])


def _way_on(br: Branch, step: int, tip: np.ndarray, noise: float) -> tuple[float, float, float, float] | None:
    """A place of the middle near a free end, where the line is true, and the direction in which it goes on from there;
    None where too few points tell."""
    from ..corners.kernels.junctions import end_side, straight_end

    arm, side = np.empty((128, 2)), np.empty(9)
    own = np.ascontiguousarray(br.points[br.true])
    best = None
    for share, noisier in WAYS_ON:
        near, within = share * br.width, noisier * noise
        found = straight_end(own, step, tip[0], tip[1], near, LONG_ARM_PX, ARM_PX, within, arm, side)
        if not found and noisier <= BENT_NOISIER:
            found = end_side(own, step, tip[0], tip[1], near, ARM_PX, within, arm, side)
        if not found:
            continue
        tight = 2 * abs(side[6]) * side[7] > TIGHT
        # What bends tightly is known over no longer way: the nearest tells.
        if best is None or (side[7] >= SHORT_PX and not tight):
            best = side.copy()
        if side[7] >= SHORT_PX or tight:
            break
    if best is None:
        return None
    side = best
    slope = side[5]
    ux, uy = side[2] - side[3] * slope, side[3] + side[2] * slope
    size = np.hypot(ux, uy)
    return side[0] - side[3] * side[4], side[1] + side[2] * side[4], ux / size, uy / size


def _drawings(path: Path, of: np.ndarray, branches: list[Branch], pixel_mm: float) -> tuple[Lines, ...]:
    """Branches that hang together as one, those that go straight on joined; the longest first."""
    from .strokes import gathered

    made = []
    for own, line in gathered(path, of, STRAIGHT_ON):
        first = branches[own[0]]
        x, y = first.points[len(first.points) // 2]
        widths = np.array([branches[k].width * pixel_mm for k in own])
        made.append((sum(len(branches[k].points) for k in own), Lines(line, (int(x), int(y)), widths)))
    made.sort(key=lambda pair: -pair[0])
    return tuple(lines for _, lines in made)
