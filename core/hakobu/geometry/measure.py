"""Exact measures of paths: bounds, length, signed area."""

from __future__ import annotations

import numpy as np

from .arcs import centre_and_radius
from .bezier import point_at
from .path import ARC, CUBIC, Path
from .tolerances import STRAIGHT_BULGE

# Left, top, right, bottom.
Box = tuple[float, float, float, float]


def bounds(path: Path) -> Box | None:
    """(left, top, right, bottom) of the true curves, or None of an empty path."""
    if not path.segment_count:
        return None
    boxes = segment_bounds(path)
    low, high = boxes[:, :2].min(axis=0), boxes[:, 2:].max(axis=0)
    return float(low[0]), float(low[1]), float(high[0]), float(high[1])


def box_of(path: Path) -> Box:
    """The bounds of a path that has segments. Raises ValueError for an empty one."""
    box = bounds(path)
    if box is None:
        raise ValueError("an empty path has no bounds")
    return box


def outline_bounds(path: Path) -> np.ndarray:
    """(left, top, right, bottom) of each outline, (K, 4)."""
    if not len(path):
        return np.zeros((0, 4))
    boxes = segment_bounds(path)
    low = np.minimum.reduceat(boxes[:, :2], path.start[:-1])
    return np.hstack([low, np.maximum.reduceat(boxes[:, 2:], path.start[:-1])])


def segment_bounds(path: Path) -> np.ndarray:
    """(left, top, right, bottom) of each segment, (M, 4)."""
    from .kernels.measures import boxes_of_cubics

    boxes = boxes_of_cubics(path.ctrl)
    arc = np.flatnonzero(path.kind == ARC)
    if len(arc):
        first, last = path.ctrl[arc, 0], path.ctrl[arc, 3]
        boxes[arc] = np.hstack([np.minimum(first, last), np.maximum(first, last)])
        _grow_by_arcs(path, arc[np.abs(path.bulge[arc]) >= STRAIGHT_BULGE], boxes)
    return boxes


def _grow_by_arcs(path: Path, arc: np.ndarray, boxes: np.ndarray) -> None:
    first, last, bulge = path.ctrl[arc, 0], path.ctrl[arc, 3], path.bulge[arc]
    low, high = boxes[arc, :2], boxes[arc, 2:]
    centre, radius = centre_and_radius(first, last, bulge)
    start = np.arctan2(first[:, 1] - centre[:, 1], first[:, 0] - centre[:, 0])
    sweep = 4 * np.arctan(bulge)
    for quarter in range(4):
        angle = quarter * np.pi / 2
        ahead = np.where(sweep >= 0, angle - start, start - angle) % (2 * np.pi)
        inside = ahead <= np.abs(sweep)
        point = centre + radius[:, None] * (round(np.cos(angle)), round(np.sin(angle)))
        low[inside] = np.minimum(low[inside], point[inside])
        high[inside] = np.maximum(high[inside], point[inside])
    boxes[arc, :2], boxes[arc, 2:] = low, high


def length(path: Path) -> float:
    """The length of all outlines together."""
    return float(segment_lengths(path).sum())


def lengths(path: Path) -> np.ndarray:
    """The length of each outline, (K,)."""
    return np.add.reduceat(segment_lengths(path), path.start[:-1]) if len(path) else np.zeros(0)


def segment_lengths(path: Path) -> np.ndarray:
    """The length of each segment, (M,); of cubics to 1e-6 relative or better."""
    chord = np.hypot(*(path.ctrl[:, 3] - path.ctrl[:, 0]).T)
    result = chord.copy()
    arc = (path.kind == ARC) & (np.abs(path.bulge) >= STRAIGHT_BULGE)
    bulge = np.abs(path.bulge[arc])
    result[arc] = chord[arc] * (1 + bulge**2) / bulge * np.arctan(bulge)
    curve = np.flatnonzero(path.kind == CUBIC)
    if len(curve):
        from .kernels.measures import lengths_of

        result[curve] = lengths_of(path.ctrl, curve)
    return result


def area(path: Path) -> float:
    """The sum of the signed areas: the painted area only where no outlines overlap and holes run the other way."""
    return float(signed_areas(path).sum())


def signed_areas(path: Path) -> np.ndarray:
    """The signed area of each outline, (K,), an open one closed by its chord; positive from +x towards +y.

    Green's theorem in closed form: half the integral of B x B' is a fixed combination of the cross products of the
    control points (derived in the tests); an arc adds its circular segment.
    """
    if not len(path):
        return np.zeros(0)
    from .kernels.measures import areas_beside

    found = areas_beside(path.ctrl, path.start)
    arc = np.flatnonzero((path.kind == ARC) & (np.abs(path.bulge) >= STRAIGHT_BULGE))
    if not len(arc):
        return found
    bulge = path.bulge[arc]
    sweep = 4 * np.arctan(np.abs(bulge))
    chord2 = ((path.ctrl[arc, 3] - path.ctrl[arc, 0]) ** 2).sum(axis=1)
    radius2 = chord2 * ((1 + bulge**2) / (4 * bulge)) ** 2
    np.add.at(found, path.outline_of[arc], np.sign(bulge) * radius2 * (sweep - np.sin(sweep)) / 2)
    return found


def centre_of_area(path: Path) -> tuple[float, float] | None:
    """Where the outlines' signed areas balance; None where they have none together.

    Green's theorem: x^2 / 2 dy and -y^2 / 2 dx round the outlines. On cubics these are polynomials of the eighth
    degree, for which Gauss's rule of five nodes is exact; on arcs they are in closed form.
    """
    whole = area(path)
    if not path.segment_count or whole == 0:
        return None
    origin = path.ctrl[0, 0]
    total = np.zeros(2)
    nodes, weights = np.polynomial.legendre.leggauss(5)
    arc = (path.kind == ARC) & (np.abs(path.bulge) >= STRAIGHT_BULGE)
    q = path.ctrl[~arc] - origin
    a, b, c = (
        3 * (q[:, 1] - q[:, 0]),
        6 * (q[:, 2] - 2 * q[:, 1] + q[:, 0]),
        3 * (q[:, 3] - 3 * q[:, 2] + 3 * q[:, 1] - q[:, 0]),
    )
    for node, weight in zip((nodes + 1) / 2, weights / 2, strict=True):
        x, y = point_at(q, np.full(len(q), node)).T
        dx, dy = (a + node * (b + node * c)).T
        total += weight * np.array([(x * x * dy).sum() / 2, -(y * y * dx).sum() / 2])
    # The chords that close open outlines, straight.
    ends, starts = path.ctrl[path.start[1:] - 1, 3] - origin, path.ctrl[path.start[:-1], 0] - origin
    step = starts - ends
    square = (ends**2 + ends * starts + starts**2) / 3
    total += np.array([(square[:, 0] * step[:, 1]).sum() / 2, -(square[:, 1] * step[:, 0]).sum() / 2])
    if arc.any():
        total += _arc_moments(path.ctrl[arc, 0] - origin, path.ctrl[arc, 3] - origin, path.bulge[arc])
    return tuple((total / whole + origin).tolist())


def _arc_moments(first: np.ndarray, last: np.ndarray, bulge: np.ndarray) -> np.ndarray:
    """The integrals of x^2 / 2 dy and of -y^2 / 2 dx along arcs, all together."""
    centre, radius = centre_and_radius(first, last, bulge)
    low = np.arctan2(first[:, 1] - centre[:, 1], first[:, 0] - centre[:, 0])
    high = low + 4 * np.arctan(bulge)

    def up_to(angle: np.ndarray) -> np.ndarray:
        cos, sin = np.cos(angle), np.sin(angle)
        (x, y), r = centre.T, radius
        along_x = x * x * r * sin + x * r * r * (angle + sin * cos) + r**3 * (sin - sin**3 / 3)
        along_y = -y * y * r * cos + y * r * r * (angle - sin * cos) + r**3 * (cos**3 / 3 - cos)
        return np.array([along_x.sum(), along_y.sum()]) / 2

    return up_to(high) - up_to(low)
