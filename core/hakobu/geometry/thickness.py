"""Shapes made thicker where they are too thin, and gaps wider where they are too narrow: only there."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from .boolean import difference, intersection, union
from .inner import medial_axis
from .measure import box_of, length, outline_bounds
from .narrow import thin_places, tight_gaps
from .nesting import shapes_of
from .offset import around, offset
from .path import Path
from .primitives import circle, rectangle
from .simplify import simplify

#: Places along the outlines for the middle line lie so far apart, as a share of the width.
SPACING_SHARE = 0.1
#: There are about so many at most.
MOST_POINTS = 12_000
#: The middle line is smoothed within so much, in mm, and what is made is wider by as much on both sides.
SMOOTHED_MM = 0.003
#: A place that is thinner by less than this is as thick as was asked, in mm.
NEAR_MM = 0.001
#: After so many looks for places that are still thin, what is left stays.
PASSES = 4


@dataclass(frozen=True)
class Thickened:
    """path: the shape; places: how many strokes were laid, along thin strips or in narrow gaps."""

    path: Path
    places: int


def thickened(path: Path, width_mm: float) -> Thickened:
    """A shape that is nowhere thinner than a width: along the middle line of what is thinner lies a stroke of the
    width. path: closed outlines, outer ones clockwise and holes the other way."""
    made, places = path, 0
    for turn in range(PASSES):
        thin = thin_places(made, below_mm=width_mm - NEAR_MM)
        if not len(thin):
            break
        # What the middle line leaves, as where two strips meet, gets a disc of its own.
        strokes = _strokes(made, width_mm) if turn == 0 else []
        strokes = strokes or _discs(thin.points, width_mm)
        made, places = union(made, *strokes).path, places + len(strokes)
    return Thickened(made, places)


def widened(path: Path, width_mm: float) -> Thickened:
    """A shape, beside and in which no gap is narrower than a width: along the middle line of what is narrower it gives
    way."""
    made, places = path, 0
    for turn in range(PASSES):
        if not len(made):
            break
        tight = tight_gaps(made, below_mm=width_mm - NEAR_MM)
        if not len(tight):
            break
        strokes = _strokes(_about(made, width_mm), width_mm) if turn == 0 else []
        strokes = strokes or _discs(tight.points, width_mm)
        made, places = difference(made, *strokes).path, places + len(strokes)
    return Thickened(made, places)


def _about(path: Path, width_mm: float) -> Path:
    """All that lies beside and in a shape, some way out."""
    left, top, right, bottom = box_of(path)
    room = 4 * width_mm
    about = rectangle(left - room, top - room, right - left + 2 * room, bottom - top + 2 * room)
    return difference(about, path).path


def _discs(points: np.ndarray, width_mm: float) -> list[Path]:
    middles = points.mean(axis=1)
    return [circle(float(x), float(y), width_mm / 2 + SMOOTHED_MM) for x, y in middles]


def _strokes(path: Path, width_mm: float) -> list[Path]:
    """Strokes of a width along the middle line of a shape, where it is thinner."""
    near = _near_thin(path, width_mm)
    if not len(near):
        return []
    spacing = max(width_mm * SPACING_SHARE, length(near) / MOST_POINTS)
    axis = medial_axis(near, spacing)
    if not len(axis.edge):
        return []
    thin = (axis.radius[axis.edge] < width_mm / 2 - SMOOTHED_MM).all(axis=1)
    strokes = []
    for chain in _chained(axis.edge[thin]):
        chain = _without_corners(chain, axis.radius, 2 * spacing)
        if len(chain) > 1:
            line = simplify(Path.from_points(axis.points[chain], closed=False), SMOOTHED_MM).path
            strokes.append(around(line, width_mm / 2 + SMOOTHED_MM).path)
    return strokes


def _near_thin(path: Path, width_mm: float) -> Path:
    """What of a shape lies near where no disc of the width fits in."""
    half = width_mm / 2
    opened = offset(offset(path, distance_mm=-half).path, distance_mm=half).path
    left = difference(path, opened).path
    if not len(left):
        return left
    boxes = np.array([outline_bounds(left.take(rows))[0] for rows in shapes_of(left)])
    boxes += np.array([-2, -2, 2, 2]) * width_mm
    covers = union(*(rectangle(x0, y0, x1 - x0, y1 - y0) for x0, y0, x1, y1 in boxes)).path
    return intersection(path, covers).path


def _without_corners(chain: list[int], radius: np.ndarray, nothing_mm: float) -> list[int]:
    """A line of points without what only leads into a corner at either end, where its radius falls to nothing."""
    for _ in range(2):
        if radius[chain[-1]] < nothing_mm:
            while len(chain) > 1 and radius[chain[-2]] >= radius[chain[-1]]:
                chain = chain[:-1]
            chain = chain[:-1] if len(chain) == 1 else chain
        chain = chain[::-1]
        if not chain:
            break
    return chain


def _chained(edges: np.ndarray) -> list[list[int]]:
    """Lines of edges (L, 2) between points, each from one fork or end to the next, by the numbers of the points."""
    beside: dict[int, list[int]] = defaultdict(list)
    for a, b in edges.tolist():
        beside[a].append(b)
        beside[b].append(a)
    used: set[tuple[int, int]] = set()
    found: list[list[int]] = []

    def follow(a: int, b: int) -> None:
        line = [a, b]
        used.update(((a, b), (b, a)))
        while len(beside[b]) == 2:
            following = beside[b][0] if beside[b][1] == a else beside[b][1]
            if (b, following) in used:
                break
            a, b = b, following
            used.update(((a, b), (b, a)))
            line.append(b)
        found.append(line)

    ends = [k for k in beside if len(beside[k]) != 2]
    for a in [*ends, *beside]:
        for b in beside[a]:
            if (a, b) not in used:
                follow(a, b)
    return found
