"""One curve at a time: lines and cubics by their control points, arcs by centre, radius, first angle and sweep.

A curve is a kind and a row of eight numbers: the control points, or centre x and y, radius, angle, sweep and zeros.
"""

from __future__ import annotations

import math

import numpy as np

from ..compiled import kernel

ARC = 2
#: Looks along a curve for the nearest place, before Newton's method goes on from the best one.
LOOKS = 16


@kernel("Tuple((f8, f8, f8, f8))(i8, f8[::1], f8)")
def curve_at(kind, g, t):
    """Point and derivative at a parameter."""
    if kind == ARC:
        angle = g[3] + g[4] * t
        cos, sin = math.cos(angle), math.sin(angle)
        return g[0] + g[2] * cos, g[1] + g[2] * sin, -g[2] * sin * g[4], g[2] * cos * g[4]
    s = 1 - t
    a, b, c, d = s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t
    x = a * g[0] + b * g[2] + c * g[4] + d * g[6]
    y = a * g[1] + b * g[3] + c * g[5] + d * g[7]
    p, q, r = 3 * s * s, 6 * s * t, 3 * t * t
    dx = p * (g[2] - g[0]) + q * (g[4] - g[2]) + r * (g[6] - g[4])
    dy = p * (g[3] - g[1]) + q * (g[5] - g[3]) + r * (g[7] - g[5])
    return x, y, dx, dy


@kernel("Tuple((f8, f8))(i8, f8[::1], f8, f8, f8)")
def foot_near(kind, g, x, y, t):
    """The parameter nearest to a point, from a first guess, and the distance there: Newton on the slope of the squared
    distance, with the second derivative left out so that it never runs away; it is then halved where it overshoots."""
    px, py, dx, dy = curve_at(kind, g, t)
    best = math.hypot(px - x, py - y)
    for _ in range(60):
        square = dx * dx + dy * dy
        if square == 0:
            break
        step = ((x - px) * dx + (y - py) * dy) / square
        moved = False
        for _half in range(30):
            u = min(max(t + step, 0.0), 1.0)
            qx, qy, ex, ey = curve_at(kind, g, u)
            away = math.hypot(qx - x, qy - y)
            if away < best or (away == best and u != t):
                moved = abs(u - t) > 1e-16
                t, px, py, dx, dy, best = u, qx, qy, ex, ey, away
                break
            step /= 2
        if not moved:
            break
    return t, best


@kernel("Tuple((f8, f8))(i8, f8[::1], f8, f8)")
def foot(kind, g, x, y):
    """The parameter of the place nearest to a point, and its distance; the first of equals."""
    away = np.empty(LOOKS + 1)
    for k in range(LOOKS + 1):
        px, py, _, _ = curve_at(kind, g, k / LOOKS)
        away[k] = math.hypot(px - x, py - y)
    best, near = 0.0, np.inf
    for k in range(LOOKS + 1):
        # From every look that is nearer than its neighbours: a curve may come by more than once.
        if (k > 0 and away[k - 1] < away[k]) or (k < LOOKS and away[k + 1] < away[k]):
            continue
        t, d = foot_near(kind, g, x, y, k / LOOKS)
        if d < near:
            best, near = t, d
    return best, near
