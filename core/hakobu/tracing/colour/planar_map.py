"""A picture of labels as pieces that share their borders: every border between two of them is found once."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...geometry import Path, fit
from ...geometry.parallel import parallel_map
from ..outlines.fit_input import made_ready
from ..outlines.outlines import MOST_ROUGH, joined, refuse_noise, roughness_of
from ..tangent_directions import turned
from .components import Components
from .isolated_borders import lone_borders
from .labels import Labelled

#: Cracks that are worth a thread of their own.
WORTH_CRACKS = 8_000
#: Where colour steps gently, compression leaves waves along borders, longer than what their noise is told by: so many
#: times that.
WAVES = 2.0
#: How far a border is followed from where it meets others, in pixels.
ARM_PX = 50.0


@dataclass(frozen=True)
class Area:
    """A region of one label: its outline with its holes, the label, its first pixel x, y, how many pixels it has, and
    its number among the regions."""

    path: Path
    label: int
    seed: tuple[int, int]
    pixels: int
    number: int


@dataclass(frozen=True)
class Map:
    """Areas, the largest first; and how far their lines lie from the borders, on average and at most, in mm."""

    areas: tuple[Area, ...]
    mean_mm: float
    max_mm: float


def areas_of(seen: Labelled, noise: float, matrix: tuple, smoothness_mm: float) -> Map:
    """The areas of a picture whose pixels have labels.

    matrix takes pixels to millimetres; noise: what pixels of one colour differ by, of 255.
    """
    from ..corners.kernels import chain_ends
    from .kernels import border_chains, planar_map

    blur, gentle = seen.softness.blur, seen.softness.gentle_colour
    whole = seen.components
    refuse_noise(len(whole), seen.labels.size)
    rows, columns, ways, start, about, loops, begin, owner = planar_map.borders(
        seen.labels, whole.begin, whole.left, whole.of
    )

    def place(a: int, b: int) -> tuple:
        i, j = start[a], start[b]
        return border_chains.chain_points(
            seen.picture,
            seen.labels,
            seen.colours,
            rows[i:j],
            columns[i:j],
            ways[i:j],
            start[a : b + 1] - i,
            about[a:b],
            noise,
            gentle,
        )

    parts = parallel_map(place, np.diff(start).astype(float), WORTH_CRACKS)
    points, at = joined(parts)
    noises = _noises_of(points, at, about)
    nodes, places = _meeting(points, at, about, blur, noises)
    nothing = np.zeros((1, 1), np.float32)

    def finish(a: int, b: int) -> tuple:
        i, j = at[a], at[b]
        return chain_ends.with_nodes(
            nothing, points[i:j], at[a : b + 1] - i, about[a:b], nodes[a:b], places, np.full(b - a, blur), noises[a:b]
        )

    parts = parallel_map(finish, np.diff(at).astype(float) + 1, WORTH_CRACKS)
    points, at = joined(parts)
    corner, closed = np.concatenate([part[2] for part in parts]), nodes[:, 0] < 0
    ready, at, corner, direction = made_ready(points, at, corner, closed, noises, WAVES if gentle else 1.0)
    lone = lone_borders(seen, (rows, columns, ways, start), about)
    ready, at, corner, direction = lone.put_into(ready, at, corner, direction)
    a, b, c, d, e, f = matrix
    turn = np.array([[a, b], [c, d]])
    direction = turned(direction, turn)
    fitted = fit(ready @ turn + (e, f), at, closed, corner, smoothness_mm, direction)
    outlines = fitted.path.chained(loops, begin, np.ones(len(owner), bool))
    return Map(_areas(outlines, owner, whole), fitted.mean_mm, fitted.max_mm)


def _noises_of(points: np.ndarray, at: np.ndarray, about: np.ndarray) -> np.ndarray:
    """The noise of each border, in pixels: no less than that of all of them, which the picture's own edge, since it is
    exact, has no say in."""
    from ..edges.kernels.roughness import roughness_of_each

    inner = about[:, 1] >= 0
    count = np.diff(at)
    if inner.any():
        start = np.concatenate([[0], np.cumsum(count[inner])])
        least = roughness_of(points[np.repeat(inner, count)], start)
    else:
        least = roughness_of(points, at)
    found = np.empty(len(count))
    roughness_of_each(points, at, found)
    return np.clip(found, least, MOST_ROUGH)


def _meeting(points: np.ndarray, at: np.ndarray, about: np.ndarray, blur: float, noises: np.ndarray) -> tuple:
    """The meeting places that each chain begins and ends at (C, 2), -1 where it goes round; and where they are."""
    from ..corners.kernels.junctions import meeting_places

    open_ = np.flatnonzero(about[:, 2] >= 0)
    both = np.concatenate([about[open_, 2:4], about[open_, 4:6]])
    nodes = np.full((len(about), 2), -1)
    corners, which = np.unique(both, axis=0, return_inverse=True)
    which = which.ravel()
    nodes[open_, 0], nodes[open_, 1] = which[: len(open_)], which[len(open_) :]
    ends = np.column_stack([np.tile(open_, 2), np.repeat([1, -1], len(open_))])
    order = np.argsort(which, kind="stable")
    first = np.concatenate([[0], np.cumsum(np.bincount(which, minlength=len(corners)))])
    places = np.zeros((len(corners), 2))
    meeting_places(
        points,
        at,
        about,
        first,
        np.ascontiguousarray(ends[order]),
        corners.ravel().astype(float),
        np.full(len(about), blur),
        np.full(len(about), 2.5 + 2 * blur),
        ARM_PX,
        noises,
        places,
    )
    return nodes, places


def _areas(outlines: Path, owner: np.ndarray, whole: Components) -> tuple[Area, ...]:
    """Each component's outline before its holes, the largest first."""
    from ...geometry import signed_areas

    size = signed_areas(outlines)
    order = np.lexsort((size < 0, owner))
    parts = outlines.take(order).split(np.bincount(owner, minlength=len(whole)).tolist())
    y, x = np.divmod(whole.first, whole.width)
    return tuple(
        Area(parts[k], int(whole.label[k]), (int(x[k]), int(y[k])), int(whole.area[k]), int(k))
        for k in np.argsort(-whole.area, kind="stable")
    )
