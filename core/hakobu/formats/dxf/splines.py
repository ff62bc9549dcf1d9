"""SPLINE as cubics: exact where it is one of degree 3 or less without weights, within a distance where it is not.

Source: Piegl and Tiller 1997, "The NURBS Book": knot insertion (A5.1), derivatives of rational curves (A4.2).
"""

from __future__ import annotations

import numpy as np

#: How far a rational spline, or one of a higher degree, may be from its cubics, in mm.
WITHIN_MM = 2e-4
#: A span is halved so many times at most.
DEEPEST = 12


def cubics_of(degree: int, knots: np.ndarray, points: np.ndarray, weights: np.ndarray | None, scale: float):
    """Bezier segments (N, 4, 2) along a spline. knots (n + degree + 1,), points (n, 2); scale: mm in a unit.

    Raises ValueError where the numbers do not fit together.
    """
    knots, points = np.asarray(knots, float), np.asarray(points, float)
    if len(knots) != len(points) + degree + 1 or degree < 1 or len(points) <= degree:
        raise ValueError("its knots and points do not fit together")
    if (np.diff(knots) < 0).any() or not np.isfinite(knots).all() or not np.isfinite(points).all():
        raise ValueError("its knots do not rise")
    if weights is not None and (len(weights) != len(points) or (np.asarray(weights) <= 0).any()):
        raise ValueError("its weights are not above nothing")
    plain = weights is None or np.ptp(weights) < 1e-12 * np.max(weights)
    if plain and degree <= 3:
        return _raised(_beziers(degree, knots, points), degree)
    homogeneous = np.column_stack([points, np.ones(len(points))])
    if not plain:
        homogeneous *= np.asarray(weights, float)[:, None]
    beziers = _beziers(degree, knots, homogeneous)
    return np.array([piece for curve in beziers for piece in _within(curve, WITHIN_MM / scale)]).reshape(-1, 4, 2)


def _beziers(degree: int, knots: np.ndarray, points: np.ndarray) -> np.ndarray:
    """Control points (S, degree + 1, D) of each span between knots, by inserting every knot up to its degree."""
    first, last = knots[degree], knots[-degree - 1]
    inner, times = np.unique(knots[degree + 1 : -degree - 1], return_counts=True)
    clamped = first == knots[0] and last == knots[-1]
    if clamped and (times == degree).all() and (inner > first).all() and (inner < last).all():
        # It is written as Bezier curves one after the other.
        return points[np.arange(len(inner) + 1)[:, None] * degree + np.arange(degree + 1)]
    for u in np.unique(knots[(knots >= first) & (knots <= last)]):
        times = int((knots == u).sum())
        for _ in range(degree - times):
            knots, points = _inserted(degree, knots, points, u)
    # Where an inner knot stands more often than the degree, the curve jumps there: the extra point is its new start.
    spans = []
    for k in range(len(knots) - 1):
        if knots[k] < knots[k + 1] and first <= knots[k] and knots[k + 1] <= last:
            spans.append(points[k - degree : k + 1])
    return np.array(spans)


def _inserted(degree: int, knots: np.ndarray, points: np.ndarray, u: float) -> tuple[np.ndarray, np.ndarray]:
    """One knot more, the curve as it was."""
    k = int(np.searchsorted(knots, u, side="right")) - 1
    times = int((knots == u).sum())
    made = np.empty((len(points) + 1, points.shape[1]))
    made[: k - degree + 1] = points[: k - degree + 1]
    made[k - times + 1 :] = points[k - times :]
    for i in range(k - degree + 1, k - times + 1):
        share = (u - knots[i]) / (knots[i + degree] - knots[i])
        made[i] = share * points[i] + (1 - share) * points[i - 1]
    return np.insert(knots, k + 1, u), made


def _raised(curves: np.ndarray, degree: int) -> np.ndarray:
    """The same curves of degree 3."""
    while degree < 3:
        n = degree + 1
        share = (np.arange(1, n) / n)[:, None]
        inner = share * curves[:, :-1] + (1 - share) * curves[:, 1:]
        curves, degree = np.concatenate([curves[:, :1], inner, curves[:, -1:]], axis=1), n
    return curves


def _within(curve: np.ndarray, within: float, deep: int = 0) -> list[np.ndarray]:
    """Cubics along one rational Bezier (degree + 1, 3), by place and derivative at both ends (Hermite)."""
    t = np.linspace(0, 1, 9)
    places, derivative = _at(curve, t)
    made = np.array([places[0], places[0] + derivative[0] / 3, places[-1] - derivative[-1] / 3, places[-1]])
    s = t[:, None]
    own = ((1 - s) ** 3 * made[0] + 3 * s * (1 - s) ** 2 * made[1] + 3 * s**2 * (1 - s) * made[2]) + s**3 * made[3]
    if deep >= DEEPEST or np.hypot(*(own - places).T).max() <= within:
        return [made]
    left, right = _halved(curve)
    return _within(left, within, deep + 1) + _within(right, within, deep + 1)


def _at(curve: np.ndarray, t: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Places and derivatives (N, 2) of a rational Bezier curve."""
    levels = [np.repeat(curve[None], len(t), axis=0)]
    while levels[-1].shape[1] > 1:
        c = levels[-1]
        levels.append(c[:, :-1] * (1 - t)[:, None, None] + c[:, 1:] * t[:, None, None])
    point, slope = levels[-1][:, 0], (levels[-2][:, 1] - levels[-2][:, 0]) * (len(curve) - 1)
    place = point[:, :2] / point[:, 2:]
    return place, (slope[:, :2] - slope[:, 2:] * place) / point[:, 2:]


def _halved(curve: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    left, right, row = [curve[0]], [curve[-1]], curve
    while len(row) > 1:
        row = (row[:-1] + row[1:]) / 2
        left.append(row[0])
        right.append(row[-1])
    return np.array(left), np.array(right[::-1])
