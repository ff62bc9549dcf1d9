"""What is measured on outlines so that a design can be sized by it: holes, slots, strips, distances."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from .flatten import flatten
from .inner import largest_circle
from .measure import area, box_of, outline_bounds, segment_bounds, signed_areas
from .nodes import nodes_of
from .path import Path, segments_of
from .proximity.places import Places, places_of
from .strips import ray_crossings

#: A hole whose area is that of the circle it holds, within this share, is round.
ROUND_SHARE = 0.02
#: A line is drawn through a strip so many times farther than it is long, to find its other side.
REACH = 2.0


@dataclass(frozen=True)
class Feature:
    """size: what it measures, in mm, or in degrees of an angle; ends (2, 2), of an angle (3, 2): between which places;
    about: what was measured, in words."""

    size: float
    ends: np.ndarray
    about: str


def hole_at(path: Path, place: tuple[float, float]) -> Feature | None:
    """The hole about a place, or else the nearest one: the diameter of a round one, the width of a slot. None where
    there is none. path: closed outlines, outer ones clockwise and holes the other way."""
    found = hole_about(path, place)
    if found is None:
        holes = path.take(np.flatnonzero(signed_areas(path) < 0))
        if not len(holes):
            return None
        found = holes.take([int(Places(holes).nearest(np.array([place])).outline[0])])
    return _width_of(found.reversed())


def hole_about(path: Path, place: tuple[float, float]) -> Path | None:
    """The smallest hole that a place lies in; None where it lies in none."""
    holes = path.take(np.flatnonzero(signed_areas(path) < 0))
    boxes = outline_bounds(holes)
    near = np.flatnonzero((boxes[:, :2] <= place).all(axis=1) & (boxes[:, 2:] >= place).all(axis=1))
    inside = [k for k in near.tolist() if Places(holes.take([k])).contains(np.array([place]))[0]]
    return holes.take([max(inside, key=lambda k: signed_areas(holes.take([k]))[0])]) if inside else None


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


def circle_at(path: Path, place: tuple[float, float]) -> Feature | None:
    """The diameter of the round outline nearest to a place; None where the nearest outline is not round."""
    near = Places(path).nearest(np.array([place], float))
    if not len(path) or near.outline[0] < 0 or not path.closed[near.outline[0]]:
        return None
    outline = path.take([int(near.outline[0])])
    found = _width_of(outline if area(outline) > 0 else outline.reversed())
    return Feature(found.size, found.ends, "circle") if found and found.about == "hole" else None


def strip_at(path: Path, place: tuple[float, float]) -> Feature | None:
    """How wide what is cut out is at a place in it, or how wide the gap is at a place beside it: from the nearest edge
    straight across to the next one. None where there is no other side."""
    places = places_of(path)
    point = np.asarray(place, float)
    near = places.nearest(point[None]).point[0]
    way = point - near
    size = float(np.hypot(*way))
    if size < 1e-9:
        return None
    way = way / size
    left, top, right, bottom = box_of(path)
    far, _ = ray_crossings(flatten(_on_line(path, near, way), 1e-4).edges(), near, way)
    far = far[(far > size * 0.5) & (far < REACH * np.hypot(right - left, bottom - top))]
    if not len(far):
        return None
    width = float(far.min())
    inside = bool(places.contains(point[None])[0])
    return Feature(width, np.array([near, near + way * width]), "strip" if inside else "gap")


def _on_line(path: Path, point: np.ndarray, way: np.ndarray) -> Path:
    """The segments of a path whose boxes a line through a point meets, each by itself."""
    boxes = segment_bounds(path)
    middle, half = (boxes[:, :2] + boxes[:, 2:]) / 2, (boxes[:, 2:] - boxes[:, :2]) / 2
    across = np.array([-way[1], way[0]])
    rows = np.flatnonzero(np.abs((middle - point) @ across) <= half @ np.abs(across) + 1e-9)
    return segments_of(path, rows)


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


#: Features that are as wide in every direction: with two factors both count alike.
ROUND = ("hole", "circle", "radius")


def best_factors(found: Sequence[Feature], wanted: np.ndarray) -> tuple[float, float]:
    """The factors across and down by which features come nearest to the wanted sizes (N,): nonlinear least squares
    over the sizes sqrt((x dx)^2 + (y dy)^2). A direction in which nothing is measured takes the one factor for all."""
    from scipy.optimize import least_squares

    ways = np.array([_extent(feature) for feature in found])
    one = best_factor(np.hypot(*ways.T), wanted)
    measured = ways.max(axis=0) > 1e-6 * ways.max()

    def off(factors: np.ndarray) -> np.ndarray:
        return np.hypot(*(ways * np.where(measured, factors, one)).T) - wanted

    made = least_squares(off, [one, one], bounds=(one * 1e-3, one * 1e3), xtol=1e-14, ftol=1e-14, gtol=1e-14).x
    across, down = np.where(measured, made, one).tolist()
    return across, down


def size_after(feature: Feature, factors: tuple[float, float]) -> float:
    """What a feature measures after factors across and down."""
    if factors[0] == factors[1]:
        return feature.size * factors[0]
    return float(np.hypot(*(_extent(feature) * factors)))


def _extent(feature: Feature) -> np.ndarray:
    """How far a feature reaches across and down."""
    if feature.about in ROUND:
        return np.full(2, feature.size / np.sqrt(2))
    return np.abs(feature.ends[1] - feature.ends[0])


def round_outlines(path: Path, up_to_mm: float) -> np.ndarray:
    """The closed outlines of a path that are round, of no more than a diameter, (N,): as wide as high, with the area of
    a circle."""
    if not len(path):
        return np.zeros(0, np.int64)
    boxes = outline_bounds(path)
    size = boxes[:, 2:] - boxes[:, :2]
    wide = size.max(axis=1)
    covered = np.abs(signed_areas(path))
    fits = path.closed & (wide <= up_to_mm * 1.001) & (size.min(axis=1) >= wide * (1 - ROUND_SHARE)) & (wide > 0)
    return np.flatnonzero(fits & (np.abs(covered - np.pi / 4 * size.prod(axis=1)) <= ROUND_SHARE * covered))


def round_holes(path: Path, up_to_mm: float) -> list[int]:
    """Those of them that are holes, of a path whose outer outlines run clockwise and whose holes the other way."""
    rows = round_outlines(path, up_to_mm)
    return rows[signed_areas(path)[rows] < 0].tolist()
