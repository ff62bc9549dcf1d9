"""One curve at a time: lines and cubics by their control points, arcs by centre, radius, first angle and sweep.

A curve is a kind and a row of eight numbers: the control points, or centre x and y, radius, angle, sweep and zeros.
"""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from ..tolerances import STRAIGHT_BULGE

LINE, ARC = 0, 2


@kernel("f8(f8, f8)")
def length(x, y):
    """Of a vector; coordinates in mm neither overflow nor vanish when they are squared."""
    return math.sqrt(x * x + y * y)


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


@kernel("f8[:, ::1](i8[::1], f8[::1], Array(i8, 1, 'C', readonly=True), f8[:, ::1])")
def curves_at(curve, t, kind, geometry):
    """Points and derivatives of curves at parameters (N, 4)."""
    made = np.empty((len(curve), 4))
    for i in range(len(curve)):
        s = curve[i]
        made[i, 0], made[i, 1], made[i, 2], made[i, 3] = curve_at(kind[s], geometry[s], t[i])
    return made


@kernel(
    "f8[:, ::1](Array(i8, 1, 'C', readonly=True), Array(f8, 1, 'C', readonly=True), Array(u1, 1, 'C', readonly=True),"
    " Array(f8, 3, 'C', readonly=True), Array(f8, 1, 'C', readonly=True))"
)
def points_on(curve, t, kind, ctrl, bulge):
    """Points of a path's curves at parameters (N, 2), ends met exactly, by their kinds, control points (M, 4, 2) and
    bulges."""
    made = np.empty((len(curve), 2))
    for i in range(len(curve)):
        c, u = ctrl[curve[i]], t[i]
        if u == 0 or u == 1:
            k = 0 if u == 0 else 3
            made[i, 0], made[i, 1] = c[k, 0], c[k, 1]
            continue
        b = bulge[curve[i]]
        if kind[curve[i]] == ARC and abs(b) >= STRAIGHT_BULGE:
            side, angle = (1 - b * b) / (4 * b), 4 * math.atan(b) * u
            ux, uy = c[3, 0] - c[0, 0], c[3, 1] - c[0, 1]
            x, y = ux / 2 - uy * side, uy / 2 + ux * side
            cos, sin = math.cos(angle), math.sin(angle)
            made[i, 0], made[i, 1] = c[0, 0] + x - x * cos + y * sin, c[0, 1] + y - x * sin - y * cos
            continue
        s = 1 - u
        f0, f1, f2, f3 = s * s * s, 3 * s * s * u, 3 * s * u * u, u * u * u
        made[i, 0] = f0 * c[0, 0] + f1 * c[1, 0] + f2 * c[2, 0] + f3 * c[3, 0]
        made[i, 1] = f0 * c[0, 1] + f1 * c[1, 1] + f2 * c[2, 1] + f3 * c[3, 1]
    return made


@kernel("Tuple((f8, f8))(i8, f8[::1], f8)")
def bending_at(kind, g, t):
    """The second derivative at a parameter."""
    if kind == ARC:
        x, y, _, _ = curve_at(kind, g, t)
        return (g[0] - x) * g[4] * g[4], (g[1] - y) * g[4] * g[4]
    a, b = 6 * (1 - t), 6 * t
    x = a * (g[0] - 2 * g[2] + g[4]) + b * (g[2] - 2 * g[4] + g[6])
    return x, a * (g[1] - 2 * g[3] + g[5]) + b * (g[3] - 2 * g[5] + g[7])


@kernel("Tuple((f8, f8))(i8, f8[::1], f8, f8, f8)")
def foot_near(kind, g, x, y, t):
    """The parameter nearest to a point, from a first guess, and the distance there: Newton's method on the squared
    distance, without its second derivative where that would lead uphill, and halved where it overshoots."""
    px, py, dx, dy = curve_at(kind, g, t)
    best = length(px - x, py - y)
    for _ in range(60):
        square = dx * dx + dy * dy
        if square == 0:
            break
        bx, by = bending_at(kind, g, t)
        whole = square + (px - x) * bx + (py - y) * by
        step = ((x - px) * dx + (y - py) * dy) / (whole if whole > 0.1 * square else square)
        moved = False
        for _half in range(30):
            u = min(max(t + step, 0.0), 1.0)
            qx, qy, ex, ey = curve_at(kind, g, u)
            away = length(qx - x, qy - y)
            if away < best or (away == best and u != t):
                moved = abs(u - t) > 1e-16
                t, px, py, dx, dy, best = u, qx, qy, ex, ey, away
                break
            step /= 2
        if not moved:
            break
    return t, best


@kernel("f8(f8[::1], f8)")
def bend_at(g, t):
    """Three quarters of the size of a cubic's second difference at a parameter: over a step h its curve leaves its
    chord by no more than the larger one of both ends times h^2 (|B''| h^2 / 8)."""
    x = (1 - t) * (g[0] - 2 * g[2] + g[4]) + t * (g[2] - 2 * g[4] + g[6])
    y = (1 - t) * (g[1] - 2 * g[3] + g[5]) + t * (g[3] - 2 * g[5] + g[7])
    return 0.75 * length(x, y)


@kernel("Tuple((f8, f8))(i8, f8[::1], f8, f8, f8, f8)")
def nearest_between(kind, g, t0, t1, x, y):
    """The parameter between two of the place nearest to a point, and its distance.

    Branch and bound: a part of the curve is dropped where its chord, less how far the curve may leave it, is no nearer
    than the best place so far, and halved until it is nearly straight; from there Newton's method goes on.
    """
    if kind == LINE:
        dx, dy = g[6] - g[0], g[7] - g[1]
        square = dx * dx + dy * dy
        t = ((x - g[0]) * dx + (y - g[1]) * dy) / square if square > 0 else 0.0
        t = min(max(t, t0), t1)
        return t, length(g[0] + t * dx - x, g[1] + t * dy - y)
    best, near = t0, np.inf
    for t in (t0, t1):
        px, py, _, _ = curve_at(kind, g, t)
        away = length(px - x, py - y)
        if away < near:
            best, near = t, away
    if kind == ARC:
        turn = math.atan2(y - g[1], x - g[0]) - (g[3] + g[4] / 2)
        turn -= 2 * math.pi * math.floor(turn / (2 * math.pi) + 0.5)
        t, away = 0.5 + turn / g[4], abs(length(x - g[0], y - g[1]) - g[2])
        return (t, away) if t0 < t < t1 and away < near else (best, near)
    first, last = np.empty(64), np.empty(64)
    first[0], last[0] = t0, t1
    left = 1
    while left > 0:
        left -= 1
        a, b = first[left], last[left]
        ax, ay, _, _ = curve_at(kind, g, a)
        bx, by, _, _ = curve_at(kind, g, b)
        square = (bx - ax) * (bx - ax) + (by - ay) * (by - ay)
        share = ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / square if square > 0 else 0.5
        share = min(max(share, 0.0), 1.0)
        away = length(ax + share * (bx - ax) - x, ay + share * (by - ay) - y)
        off = max(bend_at(g, a), bend_at(g, b)) * (b - a) * (b - a)
        if away - off >= near:
            continue
        if (off * off <= 1e-4 * square and b - a <= 0.25) or b - a < 1e-7 or left > 60:
            t, away = foot_near(kind, g, x, y, a + share * (b - a))
            if t0 <= t <= t1 and away < near:
                best, near = t, away
            continue
        # The nearer half last, so that it is looked at first.
        middle = (a + b) / 2
        if share < 0.5:
            first[left], last[left], first[left + 1], last[left + 1] = middle, b, a, middle
        else:
            first[left], last[left], first[left + 1], last[left + 1] = a, middle, middle, b
        left += 2
    return best, near


@kernel("Tuple((f8, f8))(i8, f8[::1], f8, f8)")
def foot(kind, g, x, y):
    """The parameter of a curve's place nearest to a point, and its distance."""
    return nearest_between(kind, g, 0.0, 1.0, x, y)
