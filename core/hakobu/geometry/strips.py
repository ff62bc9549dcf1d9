"""Strips that make shapes hold: bridges from what stands in an opening, joins between loose parts. Closed outlines in
mm, outer ones clockwise and holes the other way, y down."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from . import primitives
from .affine import compose, rotation, transform, translation
from .boolean import difference, intersection, union
from .flatten import flatten
from .inner import centre_of
from .measure import box_of, signed_areas
from .nesting import shapes_of
from .offset import offset
from .path import Path
from .proximity.places import Places

#: A bridge and a strip reach so far into what they join, as a share of their width, so that no hair is left.
REACH = 0.5
#: The nearest places of two parts are looked for at points so far apart, as a share of the part's size.
STEP_SHARE = 0.01


def filled(path: Path) -> Path:
    """A shape without its holes."""
    return union(path.take(np.flatnonzero(signed_areas(path) > 0))).path


def bridged(path: Path, count: int, width_mm: float, turn: float) -> Path:
    """A shape with so many bridges from each hole through what is round it: strips that stay standing, so that what
    fills the hole does not fall out of a stencil. The first runs up, turned by an angle in radians; the others are
    spread evenly round."""
    strips = [bridge.strip for bridge in bridges_of(path, count, width_mm, turn)]
    return difference(path, *strips).path if strips else path


@dataclass(frozen=True)
class Bridge:
    """strip: what is taken out of the shape; hole, nth: the outline it begins at and its number there; at: the middle
    of what it crosses."""

    strip: Path
    hole: int
    nth: int
    at: tuple[float, float]


def bridges_of(path: Path, count: int, width_mm: float, turn: float) -> list[Bridge]:
    """The bridges of all holes of a shape, evenly round each."""
    found = []
    for hole in np.flatnonzero(signed_areas(path) < 0).tolist():
        centre = _middle_of(path, hole)
        for nth in range(count):
            angle = turn + 2 * np.pi * nth / count
            made = _bridge(path, hole, nth, centre, np.array([np.sin(angle), -np.cos(angle)]), width_mm)
            found += [made] if made else []
    return found


def bridge_at(path: Path, place: tuple[float, float], width_mm: float) -> Bridge | None:
    """The bridge that a place asks for: from the hole that is nearest to it, towards it. None where there is none."""
    holes = np.flatnonzero(signed_areas(path) < 0)
    if not len(holes):
        return None
    near = Places(path.take(holes)).nearest(np.array([place]))
    hole = int(holes[near.outline[0]])
    centre = _middle_of(path, hole)
    way = np.array(place) - centre
    size = float(np.hypot(*way))
    return _bridge(path, hole, 0, centre, way / size, width_mm) if size > 1e-9 else None


def _middle_of(path: Path, hole: int) -> np.ndarray:
    counter = path.take([hole])
    left, top, right, bottom = box_of(counter)
    centre = np.array([(left + right) / 2, (top + bottom) / 2])
    return centre if Places(counter).contains(centre)[0] else centre_of(counter)


def _bridge(path: Path, hole: int, nth: int, centre: np.ndarray, way: np.ndarray, width: float) -> Bridge | None:
    reach = _through(path, hole, centre, way)
    if reach is None:
        return None
    start, end = reach
    middle = centre + way * (start + end) / 2
    strip = _strip(centre, centre + way * (end + width * REACH), width)
    return Bridge(strip, hole, nth, (float(middle[0]), float(middle[1])))


def _through(path: Path, hole: int, centre: np.ndarray, way: np.ndarray) -> tuple[float, float] | None:
    """How far from the middle of a hole what is round it begins and ends, that way."""
    at, outline = ray_meetings(path, centre, way)
    edges = at[outline == hole]
    beyond = at[(outline != hole) & (at > edges.max(initial=0.0))] if len(edges) else at[:0]
    return (float(edges.max()), float(beyond.min())) if len(beyond) else None


def ray_meetings(path: Path, point: np.ndarray, way: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Where a ray meets outlines: how far from its point (N,), and which outline (N,)."""
    return ray_crossings(flatten(path, 1e-3).edges(), point, way)


def ray_crossings(
    edges: tuple[np.ndarray, np.ndarray, np.ndarray], point: np.ndarray, way: np.ndarray
) -> tuple[np.ndarray, np.ndarray]:
    first, last, owner = edges
    across = np.array([-way[1], way[0]])
    a, b = (first - point) @ across, (last - point) @ across
    hit = (a <= 0) != (b <= 0)
    share = a[hit] / (a[hit] - b[hit])
    far = (first[hit] + share[:, None] * (last - first)[hit] - point) @ way
    return far[far > 0], owner[hit][far > 0]


def _strip(start: np.ndarray, end: np.ndarray, width: float) -> Path:
    """A rectangle about the line between two points."""
    way = end - start
    flat = primitives.rectangle(0.0, -width / 2, float(np.hypot(*way)), width)
    return transform(flat, compose(translation(*start), rotation(float(np.arctan2(way[1], way[0])))))


def parts_joined(path: Path, width_mm: float) -> Path:
    """A letter whose loose parts, such as the dot of an i or an accent, are joined to it by strips of a width: straight
    up and down where one part stands over the other, else where they are nearest."""
    parts = [path.take(rows) for rows in shapes_of(path)]
    joints = joints_of(parts, width_mm)
    return union(*parts, *(joint.strip for joint in joints)).path if joints else path


@dataclass(frozen=True)
class Joint:
    """strip: what joins parts `one` and `other`, by their numbers; gap_mm: how far they lie apart; at: the middle of
    that."""

    strip: Path
    one: int
    other: int
    gap_mm: float
    at: tuple[float, float]


def joints_of(parts: Sequence[Path], width_mm: float, held: Sequence[int] | None = None) -> list[Joint]:
    """The shortest strips that hang all parts on one another (Prim's algorithm). held: the parts that all others are
    joined to, whole by themselves; without them, the largest."""
    sizes = [abs(float(signed_areas(part).sum())) for part in parts]
    whole = list(held) if held else [int(np.argmax(sizes))] if sizes else []
    known = [_Part(part) for part in parts]
    boxes = np.array([part.box for part in known]).reshape(-1, 4)
    best: dict[int, Joint | None] = dict.fromkeys(k for k in range(len(parts)) if k not in whole)
    found = []
    fresh = whole
    while best:
        for other in fresh:
            # Boxes tell which parts cannot come nearer: only the others are looked at.
            least = _apart(boxes, boxes[other])
            for k, joint in best.items():
                if joint is None or least[k] < joint.gap_mm:
                    made = _joint(known, k, other, width_mm)
                    best[k] = made if joint is None or made.gap_mm < joint.gap_mm else joint
        joint = min((joint for joint in best.values() if joint), key=_gap)
        found.append(joint)
        del best[joint.one]
        fresh = [joint.one]
    return found


def _apart(boxes: np.ndarray, box: np.ndarray) -> np.ndarray:
    """How far boxes (N, 4) are from one, (N,)."""
    off = np.maximum(np.maximum(boxes[:, :2] - box[2:], box[:2] - boxes[:, 2:]), 0.0)
    return np.hypot(*off.T)


def _gap(joint: Joint) -> float:
    return joint.gap_mm


class _Part:
    """A part, and what is asked of it again and again."""

    def __init__(self, path: Path) -> None:
        self.path, self.box = path, box_of(path)

    @cached_property
    def edges(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        return flatten(self.path, 1e-3).edges()

    @cached_property
    def points(self) -> np.ndarray:
        left, top, right, bottom = self.box
        step = max(max(right - left, bottom - top) * STEP_SHARE, 0.01)
        return flatten(self.path, 1e-3, longest_mm=step).points

    @cached_property
    def places(self) -> Places:
        return Places(self.path)


def _joint(parts: Sequence[_Part], one: int, other: int, width: float) -> Joint:
    """The strip that joins two parts."""
    upper, lower = sorted((parts[one], parts[other]), key=lambda part: part.box[1] + part.box[3])
    ends = _straight_down(upper, lower) or _where_nearest(upper, lower)
    middle = (ends[0] + ends[1]) / 2
    gap = float(np.hypot(*(ends[1] - ends[0])))
    return Joint(_reaching(*ends, width), one, other, gap, (float(middle[0]), float(middle[1])))


def _straight_down(upper: _Part, lower: _Part) -> tuple[np.ndarray, np.ndarray] | None:
    """The ends of a strip from a part that stands over another one."""
    a, b = upper.box, lower.box
    if max(a[0], b[0]) >= min(a[2], b[2]):
        return None
    middle, down = (max(a[0], b[0]) + min(a[2], b[2])) / 2, np.array([0.0, 1.0])
    point = np.array([middle, a[1] - 1.0])
    above, below = (ray_crossings(part.edges, point, down)[0] for part in (upper, lower))
    below = below[below > above.max(initial=-np.inf)] if len(above) else below[:0]
    if not len(below):
        return None
    start, end = a[1] - 1.0 + above.max(), a[1] - 1.0 + below.min()
    return np.array([middle, start]), np.array([middle, end])


def _where_nearest(upper: _Part, lower: _Part) -> tuple[np.ndarray, np.ndarray]:
    nearest = lower.places.nearest(upper.points)
    at = int(np.argmin(nearest.distance))
    return upper.points[at], nearest.point[at]


def flowing(whole: Path, strip: Path, width_mm: float) -> Path:
    """A shape that a strip was welded to, with the corners beside the strip rounded by half its width."""
    radius = width_mm / 2
    closed = offset(offset(whole, distance_mm=radius).path, distance_mm=-radius).path
    return union(whole, intersection(closed, offset(strip, distance_mm=2 * radius).path).path).path


def _reaching(start: np.ndarray, end: np.ndarray, width: float) -> Path:
    """A strip between two edges that reaches into both."""
    way = end - start
    size = float(np.hypot(*way))
    into = way / size * width * REACH if size > 1e-9 else np.array([0.0, width * REACH])
    return _strip(start - into, end + into, width)
