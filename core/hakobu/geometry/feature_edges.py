"""Measurements on edges: the distance of two edges, the radius of a curve, the angle at a corner."""

from __future__ import annotations

import numpy as np

from .features import Feature
from .flatten import flatten, points_at
from .nodes import end_directions
from .path import CUBIC, LINE, Path, segments_of
from .proximity.places import Places

#: Straight edges whose directions differ by less than this, in radians, are parallel (about half a degree).
PARALLEL = 0.01
#: A curve that leaves its circle by more than this share of the radius is not round.
ROUND_SHARE = 0.01
#: A corner turns by more than this, in radians; what turns less is smooth.
CORNER = 0.0175
#: Edges are compared at points whose chords leave them by no more, in mm.
CHORD_MM = 1e-3


def distance_between_edges(path: Path, one: tuple[float, float], other: tuple[float, float]) -> Feature | None:
    """The distance of the two segments that are nearest to two places: of parallel straight ones at right angles to
    them, of others the shortest. None where both places are on one segment."""
    near = Places(path).nearest(np.array([one, other], float))
    a, b = (int(segment) for segment in near.segment)
    if a < 0 or a == b:
        return None
    if (path.kind[[a, b]] == LINE).all():
        start, end = path.ctrl[[a, b], 0], path.ctrl[[a, b], 3]
        way = end - start
        way = way / np.maximum(np.hypot(*way.T), 1e-300)[:, None]
        if abs(way[0, 0] * way[1, 1] - way[0, 1] * way[1, 0]) < PARALLEL:
            foot = start[1] + ((near.point[0] - start[1]) @ way[1]) * way[1]
            return _between(near.point[0], foot)
    first, second = (segments_of(path, np.array([row])) for row in (a, b))
    points = flatten(first, CHORD_MM).points
    on_first, on_second = Places(first), Places(second)
    found = on_second.nearest(points)
    near_one = points[int(np.argmin(found.distance))]
    near_other = near_one
    # Alternating projections: the nearest points between the points that were looked at.
    for _ in range(PROJECTIONS):
        near_other = on_second.nearest(near_one[None]).point[0]
        near_one = on_first.nearest(near_other[None]).point[0]
    return _between(near_one, near_other)


#: So often the nearest points of two curves are found on one from the other.
PROJECTIONS = 30


def _between(one: np.ndarray, other: np.ndarray) -> Feature | None:
    size = float(np.hypot(*(other - one)))
    return Feature(size, np.array([one, other]), "distance") if size > 1e-9 else None


def radius_at(path: Path, place: tuple[float, float]) -> Feature | None:
    """The radius of the curve nearest to a place, from its centre to the nearest point; None where there is none or it
    is not round."""
    curves = np.flatnonzero((path.kind == CUBIC) | (np.abs(path.bulge) > 1e-9))
    if not len(curves):
        return None
    near = Places(segments_of(path, curves)).nearest(np.array([place], float))
    row = int(curves[near.segment[0]])
    first, quarter, middle, last_quarter, last = points_at(path, np.full(5, row), np.array([0, 0.25, 0.5, 0.75, 1.0]))
    centre = _circumcentre(first if not np.allclose(first, last) else quarter, middle, last)
    if centre is None:
        return None
    radius = float(np.hypot(*(middle - centre)))
    apart = [abs(np.hypot(*(point - centre)) - radius) for point in (first, quarter, last_quarter, last)]
    if max(apart) > ROUND_SHARE * radius:
        return None
    return Feature(radius, np.array([centre, near.point[0]]), "radius")


def _circumcentre(a: np.ndarray, b: np.ndarray, c: np.ndarray) -> np.ndarray | None:
    """The centre of the circle through three points; None where they lie on a line."""
    sides = np.array([b - a, c - a])
    if abs(np.linalg.det(sides)) < 1e-12 * max(float(np.abs(sides).max()) ** 2, 1e-300):
        return None
    return a + np.linalg.solve(sides, (sides**2).sum(axis=1) / 2)


def angle_at(path: Path, place: tuple[float, float]) -> Feature | None:
    """The angle between the edges of the corner nearest to a place, in degrees, up to 180. ends (3, 2): the corner, and
    a point on each edge's tangent. None where no outline turns."""
    leaving, arriving = end_directions(path)
    before = np.arange(path.segment_count) - 1
    first, last = path.start[:-1], path.start[1:] - 1
    before[first] = last
    into, out = arriving[before], leaving
    turn = np.abs(np.arctan2(into[:, 0] * out[:, 1] - into[:, 1] * out[:, 0], (into * out).sum(axis=1)))
    corner = turn > CORNER
    corner[first[~path.closed]] = False
    rows = np.flatnonzero(corner)
    if not len(rows):
        return None
    row = rows[np.argmin(np.hypot(*(path.ctrl[rows, 0] - place).T))]
    at = path.ctrl[row, 0]
    reach = min(np.hypot(*(path.ctrl[k, 3] - path.ctrl[k, 0])) for k in (before[row], row)) / 2
    one, other = (way / max(float(np.hypot(*way)), 1e-300) for way in (-into[row], out[row]))
    ends = np.array([at, at + one * reach, at + other * reach])
    return Feature(180.0 - float(np.degrees(turn[row])), ends, "angle")
