"""What is measured on outlines so that a design can be sized by it: holes, slots, strips, distances."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .flatten import flatten
from .inner import largest_circle
from .measure import area, bounds, signed_areas
from .nesting import shapes_of
from .nodes import nodes_of
from .path import Path
from .places import Places
from .strips import ray_crossings

#: A hole whose area is that of the circle it holds, within this share, is round.
ROUND_SHARE = 0.02
#: A line is drawn through a strip so many times farther than it is long, to find its other side.
REACH = 2.0


@dataclass(frozen=True)
class Feature:
    """size_mm: what it measures; ends (2, 2): between which places; about: what was measured, in words."""

    size_mm: float
    ends: np.ndarray
    about: str


def hole_at(path: Path, place: tuple[float, float]) -> Feature | None:
    """The hole about a place, or else the nearest one: the diameter of a round one, the width of a slot. None where
    there is none. path: closed outlines, outer ones clockwise and holes the other way."""
    holes = path.take(np.flatnonzero(signed_areas(path) < 0)).reversed()
    if not len(holes):
        return None
    outlines = [holes.take([k]) for k in range(len(holes))]
    inside = [k for k, outline in enumerate(outlines) if Places(outline).contains(np.array([place]))[0]]
    if inside:
        found = min(inside, key=lambda k: area(outlines[k]))
    else:
        found = int(Places(holes).nearest(np.array([place])).outline[0])
    return _width_of(outlines[found])


def _width_of(outline: Path) -> Feature | None:
    """The widest circle that fits in: the diameter of a round hole, the width of a slot."""
    circle = largest_circle(outline)
    if circle is None:
        return None
    round_ = abs(area(outline) / (np.pi * circle.radius**2) - 1) < ROUND_SHARE
    near = Places(outline).nearest(circle.centre[None]).point[0]
    across = near - circle.centre
    ends = np.array([near, circle.centre - across])
    return Feature(2 * circle.radius, ends, "hole" if round_ else "slot")


def strip_at(path: Path, place: tuple[float, float]) -> Feature | None:
    """How wide what is cut out is at a place in it, or how wide the gap is at a place beside it: from the nearest edge
    straight across to the next one. None where there is no other side."""
    places = Places(path)
    point = np.asarray(place, float)
    near = places.nearest(point[None]).point[0]
    way = point - near
    size = float(np.hypot(*way))
    if size < 1e-9:
        return None
    way = way / size
    left, top, right, bottom = bounds(path)
    far, _ = ray_crossings(flatten(path, 1e-4).edges(), near, way)
    far = far[(far > size * 0.5) & (far < REACH * np.hypot(right - left, bottom - top))]
    if not len(far):
        return None
    width = float(far.min())
    inside = bool(places.contains(point[None])[0])
    return Feature(width, np.array([near, near + way * width]), "strip" if inside else "gap")


def distance_between(path: Path, one: tuple[float, float], other: tuple[float, float]) -> Feature | None:
    """How far the nodes that are nearest to two places lie apart; None where they are one."""
    nodes = nodes_of(path).points
    if not len(nodes):
        return None
    ends = np.array([nodes[np.argmin(np.hypot(*(nodes - place).T))] for place in (one, other)])
    size = float(np.hypot(*(ends[1] - ends[0])))
    return Feature(size, ends, "distance") if size > 1e-9 else None


def best_factor(sizes: np.ndarray, wanted: np.ndarray) -> float:
    """The factor by which sizes (N,) come nearest to the wanted ones: least squares, sum(s t) / sum(s^2)."""
    return float((sizes @ wanted) / (sizes @ sizes))


def round_holes(path: Path, up_to_mm: float) -> list[int]:
    """The outlines of a path that are round holes of no more than a diameter."""
    ways = signed_areas(path)
    found = []
    for rows in shapes_of(path):
        for row in rows:
            outline = path.take([row])
            box = bounds(outline)
            if ways[row] < 0 and max(box[2] - box[0], box[3] - box[1]) <= up_to_mm * 1.001:
                feature = _width_of(outline.reversed())
                if feature and feature.about == "hole":
                    found.append(row)
    return found
