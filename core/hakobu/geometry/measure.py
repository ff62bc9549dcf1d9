"""Exact measures of paths: bounds, length, signed area."""

from __future__ import annotations

import numpy as np

from .arcs import centre_and_radius
from .bezier import extrema, point_at, split_half
from .path import ARC, CUBIC, Path
from .tolerances import STRAIGHT_BULGE

#: Eight-point Gauss-Legendre nodes on [0, 1]: exact to degree 15, so a smooth cubic needs no splitting but the one that
#: shows it.
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(8)
_NODES, _WEIGHTS = (_NODES + 1) / 2, _WEIGHTS / 2


def bounds(path: Path) -> tuple[float, float, float, float] | None:
    """(left, top, right, bottom) of the true curves, or None of an empty path."""
    if not path.segment_count:
        return None
    boxes = segment_bounds(path)
    low, high = boxes[:, :2].min(axis=0), boxes[:, 2:].max(axis=0)
    return float(low[0]), float(low[1]), float(high[0]), float(high[1])


def outline_bounds(path: Path) -> np.ndarray:
    """(left, top, right, bottom) of each outline, (K, 4)."""
    if not len(path):
        return np.zeros((0, 4))
    boxes = segment_bounds(path)
    low = np.minimum.reduceat(boxes[:, :2], path.start[:-1])
    return np.hstack([low, np.maximum.reduceat(boxes[:, 2:], path.start[:-1])])


def segment_bounds(path: Path) -> np.ndarray:
    """(left, top, right, bottom) of each segment, (M, 4)."""
    first, last = path.ctrl[:, 0], path.ctrl[:, 3]
    low, high = np.minimum(first, last), np.maximum(first, last)
    curve = np.flatnonzero(path.kind == CUBIC)
    if len(curve):
        roots = extrema(path.ctrl[curve])
        for i in range(2):
            for axis in range(2):
                # Most curves are drawn from turn to turn.
                turning = np.flatnonzero(roots[:, i, axis])
                rows = curve[turning]
                value = point_at(path.ctrl[rows], roots[turning, i, axis])[:, axis]
                low[rows, axis] = np.minimum(low[rows, axis], value)
                high[rows, axis] = np.maximum(high[rows, axis], value)
    arc = np.flatnonzero((path.kind == ARC) & (np.abs(path.bulge) >= STRAIGHT_BULGE))
    if len(arc):
        _grow_by_arcs(path, arc, low, high)
    return np.hstack([low, high])


def _grow_by_arcs(path: Path, arc: np.ndarray, low: np.ndarray, high: np.ndarray) -> None:
    first, last, bulge = path.ctrl[arc, 0], path.ctrl[arc, 3], path.bulge[arc]
    centre, radius = centre_and_radius(first, last, bulge)
    start = np.arctan2(first[:, 1] - centre[:, 1], first[:, 0] - centre[:, 0])
    sweep = 4 * np.arctan(bulge)
    for quarter in range(4):
        angle = quarter * np.pi / 2
        ahead = np.where(sweep >= 0, angle - start, start - angle) % (2 * np.pi)
        inside = ahead <= np.abs(sweep)
        point = centre + radius[:, None] * (round(np.cos(angle)), round(np.sin(angle)))
        low[arc[inside]] = np.minimum(low[arc[inside]], point[inside])
        high[arc[inside]] = np.maximum(high[arc[inside]], point[inside])


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
    curve = path.kind == CUBIC
    result[curve] = _cubic_lengths(path.ctrl[curve])
    return result


def _cubic_lengths(ctrl: np.ndarray, deepest: int = 20) -> np.ndarray:
    """Gauss-Legendre quadrature, halving the curves on which one more halving still changes the sum."""
    total = np.zeros(len(ctrl))
    owner, whole = np.arange(len(ctrl)), _quadrature(ctrl)
    for _ in range(deepest):
        if not len(ctrl):
            return total
        halves = split_half(ctrl)
        parts = _quadrature(halves)
        summed = parts.reshape(-1, 2).sum(axis=1)
        # The halves err by thousands of times less than they differ from the whole.
        rough = np.abs(summed - whole) > 1e-6 * np.maximum(summed, 1e-9)
        np.add.at(total, owner[~rough], summed[~rough])
        ctrl, whole, owner = halves[np.repeat(rough, 2)], parts[np.repeat(rough, 2)], np.repeat(owner[rough], 2)
    np.add.at(total, owner, whole)
    return total


def _quadrature(ctrl: np.ndarray) -> np.ndarray:
    """The length of each cubic by one rule, (M,): its derivative is a quadratic, whose coefficients serve all nodes."""
    p0, p1, p2, p3 = (np.ascontiguousarray(ctrl[:, i].T) for i in range(4))
    a, b, c = 3 * (p1 - p0), 6 * (p2 - 2 * p1 + p0), 3 * (p3 - 3 * p2 + 3 * p1 - p0)
    total = np.zeros(len(ctrl))
    for node, weight in zip(_NODES, _WEIGHTS, strict=True):
        x, y = a + node * (b + node * c)
        total += weight * np.sqrt(x * x + y * y)
    return total


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
    # About the first point of each outline, so that far from the origin no digits are lost.
    origin = np.repeat(path.ctrl[path.start[:-1], 0], np.diff(path.start), axis=0)
    p = path.ctrl - origin[:, None]

    def cross(i: int, j: int) -> np.ndarray:
        return p[:, i, 0] * p[:, j, 1] - p[:, i, 1] * p[:, j, 0]

    part = 0.3 * (cross(0, 1) + cross(2, 3)) + 0.15 * (cross(0, 2) + cross(1, 2) + cross(1, 3)) + 0.05 * cross(0, 3)
    arc = (path.kind == ARC) & (np.abs(path.bulge) >= STRAIGHT_BULGE)
    bulge = path.bulge[arc]
    sweep = 4 * np.arctan(np.abs(bulge))
    chord2 = ((path.ctrl[arc, 3] - path.ctrl[arc, 0]) ** 2).sum(axis=1)
    radius2 = chord2 * ((1 + bulge**2) / (4 * bulge)) ** 2
    part[arc] += np.sign(bulge) * radius2 * (sweep - np.sin(sweep)) / 2
    return np.add.reduceat(part, path.start[:-1])


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
