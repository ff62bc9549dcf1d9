"""The inside of shapes: the largest circle, an inner point, the medial axis."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .flatten import flatten
from .measure import bounds
from .path import Path
from .proximity.places import Places

#: The largest circle is found within this share of its radius, then moved to where it grows no more.
SHARE = 1e-3
#: Cells looked at in one go, at most: the best first where there would be more.
CELLS = 20_000
#: A branch of the medial axis whose circles touch less than this far round the outline, in parts of their own
#: diameters, only leads into a corner.
LEAST_ROUND = 1.2


@dataclass(frozen=True)
class Circle:
    centre: np.ndarray
    radius: float


def largest_circle(path: Path, rule: str = "nonzero") -> Circle | None:
    """The largest circle inside a shape, within 0.1 percent of its radius and of 1e-6 mm where it is the only one; None
    where the shape has no inside.

    Branch and bound over squares: no circle about a point of a square is larger than that about its middle and half
    its diagonal more. Then the best is moved step by step to where it is largest.
    """
    box = bounds(path)
    if box is None:
        return None
    left, top, right, bottom = box
    side = max(min(right - left, bottom - top), 1e-9)
    across, down = int(np.ceil((right - left) / side)), int(np.ceil((bottom - top) / side))
    # A long and thin shape begins with no more squares than it needs.
    while across * down > 10_000:
        side, across, down = side * 2, -(-across // 2), -(-down // 2)
    x, y = np.meshgrid(left + (np.arange(across) + 0.5) * side, top + (np.arange(down) + 0.5) * side)
    middle, half = np.column_stack([x.ravel(), y.ravel()]), side / 2
    places = Places(path)
    best, at = -np.inf, middle[0]
    while len(middle):
        room = _room(places, middle, rule)
        k = int(room.argmax())
        if room[k] > best:
            best, at = float(room[k]), middle[k]
        least = max(best * (1 + SHARE), best + 1e-9)
        open_ = np.flatnonzero(room + half * 2**0.5 > least)
        if half < 1e-9 * side or (best <= 0 and half < 1e-6):
            break
        if 4 * len(open_) > CELLS:
            open_ = open_[np.argsort(-room[open_], kind="stable")[: CELLS // 4]]
        half /= 2
        step = np.array([[-1, -1], [1, -1], [-1, 1], [1, 1]]) * half
        middle = (middle[open_, None] + step).reshape(-1, 2)
    if best <= 0:
        return None
    return _grown(places, at, best, rule)


def _room(places: Places, points: np.ndarray, rule: str) -> np.ndarray:
    """How far points are inside, less than nothing where they are outside."""
    away = places.nearest(points).distance
    return np.where(places.contains(points, rule), away, -away)


def _grown(places: Places, at: np.ndarray, radius: float, rule: str) -> Circle:
    """A circle moved to where it is largest about: a ring of places round it, smaller where none is better."""
    angle = np.arange(16) * np.pi / 8
    ring = np.column_stack([np.cos(angle), np.sin(angle)])
    step = radius * 0.05
    while step > 1e-9 * max(radius, 1.0):
        tried = at + step * ring
        room = _room(places, tried, rule)
        k = int(room.argmax())
        if room[k] > radius:
            at, radius, step = tried[k], float(room[k]), step * 1.5
        else:
            step /= 2
    return Circle(at, radius)


def inner_point(path: Path, rule: str = "nonzero") -> np.ndarray | None:
    """A point well inside a shape, (2,): the middle of its largest circle; None where it has no inside."""
    circle = largest_circle(path, rule)
    return None if circle is None else circle.centre


def centre_of(path: Path) -> np.ndarray:
    """A point well inside a shape that has an inside, (2,). Raises ValueError where it has none."""
    found = inner_point(path)
    if found is None:
        raise ValueError("a shape without an inside has no point in it")
    return found


@dataclass(frozen=True)
class MedialAxis:
    """The middle line of a shape: points (N, 2), radius (N,), how far the outlines are from each; edge (L, 2), pairs of
    points that follow each other; touch (L, 2, 2), the two places on the outlines that each edge lies between."""

    points: np.ndarray
    radius: np.ndarray
    edge: np.ndarray
    touch: np.ndarray


def medial_axis(path: Path, spacing_mm: float, rule: str = "nonzero") -> MedialAxis:
    """The middle line of a shape, from places along its outlines no farther apart than spacing_mm: about as exact as
    the square of that by eight times the width. Branches into corners are left out.

    The Voronoi diagram of the places (Brandt and Algazi 1992), of which those edges stay that lie inside and between
    places that are farther apart along the outline than across.
    """
    from scipy.spatial import Voronoi

    chords = flatten(path, spacing_mm / 20, longest_mm=spacing_mm)
    ring = np.ones(len(chords.points), bool)
    ring[chords.start[1:] - 1] = ~chords.closed
    outline = np.repeat(np.arange(len(chords)), np.diff(chords.start))
    run = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(chords.points, axis=0).T))])
    site, along, own = chords.points[ring], run[ring], outline[ring]
    whole = run[chords.start[1:] - 1] - run[chords.start[:-1]]
    none = MedialAxis(np.zeros((0, 2)), np.zeros(0), np.zeros((0, 2), np.int64), np.zeros((0, 2, 2)))
    if len(site) < 4 or np.linalg.matrix_rank(site - site[0]) < 2:
        return none
    made = Voronoi(site)
    between, ends = made.ridge_points, np.array(made.ridge_vertices)
    a, b = between.T
    round_ = np.abs(along[a] - along[b])
    round_ = np.where(
        own[a] == own[b], np.minimum(round_, np.where(path.closed, whole, np.inf)[own[a]] - round_), np.inf
    )
    across = np.hypot(*(site[a] - site[b]).T)
    keep = (ends >= 0).all(axis=1) & (round_ > LEAST_ROUND * np.maximum(across, 2 * spacing_mm))
    ends, between = ends[keep], between[keep]
    places = Places(path)
    used = np.unique(ends)
    inside = np.zeros(len(made.vertices), bool)
    inside[used] = places.contains(made.vertices[used], rule)
    keep = inside[ends].all(axis=1)
    ends, between = ends[keep], between[keep]
    used, edge = np.unique(ends, return_inverse=True)
    if not len(used):
        return none
    points = made.vertices[used]
    return MedialAxis(points, places.nearest(points).distance, edge.reshape(-1, 2), site[between])
