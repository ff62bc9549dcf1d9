"""Shapes made thicker where they are too thin, and gaps wider where they are too narrow: only there."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from .boolean import difference, union
from .figures import circle, rectangle
from .inner import medial_axis
from .measure import bounds
from .narrow import thin_places, tight_gaps
from .offset import around
from .path import Path
from .simplify import simplify

#: Places along the outlines for the middle line lie so far apart, as a share of the width.
SPACING_SHARE = 0.1
#: The middle line is smoothed within so much, in mm, and what is made is wider by as much on both sides.
SMOOTHED_MM = 0.002
#: A place that is thinner by less than this is as thick as was asked, in mm.
NEAR_MM = 0.005
#: After so many looks for places that are still thin, what is left stays.
PASSES = 4

Box = tuple[float, float, float, float]


@dataclass(frozen=True)
class Thickened:
    """path: the shape; places: how many strokes were laid, along thin strips or in narrow gaps."""

    path: Path
    places: int


def thickened(path: Path, width_mm: float, near: Box | None = None) -> Thickened:
    """A shape that is nowhere thinner than a width: along the middle line of what is thinner lies a stroke of the
    width. path: closed outlines, outer ones clockwise and holes the other way. near: only where the middle line comes
    into a box."""
    strokes = _strokes(path, width_mm, near)
    made = union(path, *strokes).path if strokes else path
    for _ in range(PASSES if near is None else 0):
        left = thin_places(made, below_mm=width_mm - NEAR_MM)
        if not len(left):
            break
        discs = _discs(left.points, width_mm)
        strokes += discs
        made = union(made, *discs).path
    return Thickened(made, len(strokes))


def widened(path: Path, width_mm: float, near: Box | None = None) -> Thickened:
    """A shape, beside and in which no gap is narrower than a width: along the middle line of what is narrower it gives
    way."""
    left, top, right, bottom = bounds(path)
    room = 2 * width_mm
    about = rectangle(left - room, top - room, right - left + 2 * room, bottom - top + 2 * room)
    strokes = _strokes(difference(about, path).path, width_mm, near)
    made = difference(path, *strokes).path if strokes else path
    for _ in range(PASSES if near is None else 0):
        tight = tight_gaps(made, below_mm=width_mm - NEAR_MM) if len(made) else ()
        if not len(tight):
            break
        discs = _discs(tight.points, width_mm)
        strokes += discs
        made = difference(made, *discs).path
    return Thickened(made, len(strokes))


def _discs(points: np.ndarray, width_mm: float) -> list[Path]:
    middles = points.mean(axis=1)
    return [circle(float(x), float(y), width_mm / 2 + SMOOTHED_MM) for x, y in middles]


def _strokes(path: Path, width_mm: float, near: Box | None) -> list[Path]:
    """Strokes of a width along the middle line of a shape, where it is thinner."""
    spacing = width_mm * SPACING_SHARE
    axis = medial_axis(path, spacing)
    if not len(axis.edge):
        return []
    thin = (axis.radius[axis.edge] < width_mm / 2 - SMOOTHED_MM).all(axis=1)
    strokes = []
    for chain in _chained(axis.edge[thin]):
        chain = _without_corners(chain, axis.radius, 2 * spacing)
        points = axis.points[chain]
        if len(chain) < 2 or (near is not None and not _comes_into(points, near)):
            continue
        line = simplify(Path.from_points(points, closed=False), SMOOTHED_MM).path
        strokes.append(around(line, width_mm / 2 + SMOOTHED_MM).path)
    return strokes


def _comes_into(points: np.ndarray, box: Box) -> bool:
    return bool(((points >= box[:2]) & (points <= box[2:])).all(axis=1).any())


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
