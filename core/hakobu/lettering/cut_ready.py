"""Letters made ready to be cut: counters filled or bridged, loose dots joined. Closed outlines in mm, y down."""

from __future__ import annotations

import numpy as np

from ..geometry import Path, bounds, figures, flatten, rotation, signed_areas, transform, translation
from ..geometry.affine import compose
from ..geometry.boolean import difference, union
from ..geometry.inner import inner_point
from ..geometry.nesting import shapes_of
from ..geometry.places import Places

#: A bridge and a strip reach so far into what they join, as a share of their width, so that no hair is left.
REACH = 0.5


def filled(path: Path) -> Path:
    """A letter without its counters."""
    return union(path.take(np.flatnonzero(signed_areas(path) > 0))).path


def bridged(path: Path, count: int, width_mm: float, turn: float) -> Path:
    """A letter with so many bridges from each counter through the stroke around it: strips that stay standing, so that
    a counter does not fall out of a stencil. The first runs up, turned by an angle in radians; the others are spread
    evenly round."""
    holes = np.flatnonzero(signed_areas(path) < 0)
    strips = [strip for hole in holes for strip in _bridges(path, int(hole), count, width_mm, turn)]
    return difference(path, *strips).path if strips else path


def _bridges(path: Path, hole: int, count: int, width: float, turn: float):
    counter = path.take([hole])
    left, top, right, bottom = bounds(counter)
    centre = np.array([(left + right) / 2, (top + bottom) / 2])
    if not Places(counter).contains(centre)[0]:
        centre = inner_point(counter)
    for nth in range(count):
        angle = turn + 2 * np.pi * nth / count
        way = np.array([np.sin(angle), -np.cos(angle)])
        end = _through(path, hole, centre, way)
        if end is not None:
            yield _strip(centre, centre + way * (end + width * REACH), width)


def _through(path: Path, hole: int, centre: np.ndarray, way: np.ndarray) -> float | None:
    """How far from the middle of a counter the stroke around it ends, that way."""
    at, outline = _meetings(path, centre, way)
    edges = at[outline == hole]
    beyond = at[(outline != hole) & (at > edges.max(initial=0.0))] if len(edges) else at[:0]
    return float(beyond.min()) if len(beyond) else None


def _meetings(path: Path, point: np.ndarray, way: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Where a ray meets outlines: how far from its point (N,), and which outline (N,)."""
    first, last, owner = flatten(path, 1e-3).edges()
    across = np.array([-way[1], way[0]])
    a, b = (first - point) @ across, (last - point) @ across
    hit = (a <= 0) != (b <= 0)
    share = a[hit] / (a[hit] - b[hit])
    far = (first[hit] + share[:, None] * (last - first)[hit] - point) @ way
    return far[far > 0], owner[hit][far > 0]


def _strip(start: np.ndarray, end: np.ndarray, width: float) -> Path:
    """A rectangle about the line between two points."""
    way = end - start
    flat = figures.rectangle(0.0, -width / 2, float(np.hypot(*way)), width)
    return transform(flat, compose(translation(*start), rotation(float(np.arctan2(way[1], way[0])))))


def parts_joined(path: Path, width_mm: float) -> Path:
    """A letter whose loose parts, such as the dot of an i or an accent, are joined to it by strips of a width: straight
    up and down where one part stands over the other, else where they are nearest."""
    parts = [path.take(rows) for rows in shapes_of(path)]
    parts.sort(key=lambda part: -abs(float(signed_areas(part).sum())))
    whole, rest = parts[:1], parts[1:]
    while rest:
        strips = [(_joint(part, other, width_mm), part) for part in rest for other in whole]
        (_, strip), part = min(strips, key=lambda found: found[0][0])
        whole += [strip, part]
        rest = [other for other in rest if other is not part]
    return union(*whole).path if len(whole) > 1 else path


def _joint(part: Path, other: Path, width: float) -> tuple[float, Path]:
    """How far two parts lie apart, and the strip that joins them."""
    upper, lower = sorted((part, other), key=lambda path: sum(bounds(path)[1::2]))
    a, b = bounds(upper), bounds(lower)
    middle = (max(a[0], b[0]) + min(a[2], b[2])) / 2
    if max(a[0], b[0]) < min(a[2], b[2]):
        down = np.array([0.0, 1.0])
        above, below = (_meetings(path, np.array([middle, a[1] - 1.0]), down)[0] for path in (upper, lower))
        below = below[below > above.max(initial=-np.inf)] if len(above) else below[:0]
        if len(below):
            start, end = a[1] - 1.0 + above.max(), a[1] - 1.0 + below.min()
            return end - start, _reaching(np.array([middle, start]), np.array([middle, end]), width)
    nearest = Places(lower).nearest(_nodes(upper))
    at = int(np.argmin(nearest.distance))
    return float(nearest.distance[at]), _reaching(_nodes(upper)[at], nearest.point[at], width)


def _nodes(path: Path) -> np.ndarray:
    return path.ctrl[:, 0]


def _reaching(start: np.ndarray, end: np.ndarray, width: float) -> Path:
    """A strip between two edges that reaches into both."""
    way = end - start
    size = float(np.hypot(*way))
    into = way / size * width * REACH if size > 1e-9 else np.array([0.0, width * REACH])
    return _strip(start - into, end + into, width)
