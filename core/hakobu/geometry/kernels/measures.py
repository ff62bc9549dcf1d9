"""Lengths, boxes, areas and turns of curves, one after the other."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .curves import ARC, curve_at
from .extremes import turns_along

#: Eight-point Gauss-Legendre nodes on [0, 1]: exact to degree 15, so a smooth cubic needs no splitting but the one that
#: shows it.
_AT, _BY = np.polynomial.legendre.leggauss(8)
NODES, WEIGHTS = tuple((_AT + 1) / 2), tuple(_BY / 2)
#: Halving goes on where it changes the sum by more than this share, and so many times at most.
ROUGH, DEEPEST = 1e-6, 20


@kernel("f8(f8, f8, f8, f8, f8, f8, f8, f8)")
def by_nodes(ax, ay, bx, by, cx, cy, t0, t1):
    """The length of the span of a cubic whose derivative is a + b t + c t^2."""
    total = 0.0
    for k in range(8):
        t = t0 + NODES[k] * (t1 - t0)
        x, y = ax + t * (bx + t * cx), ay + t * (by + t * cy)
        total += WEIGHTS[k] * math.sqrt(x * x + y * y)
    return total * (t1 - t0)


@kernel("f8[::1](Array(f8, 3, 'C', readonly=True), i8[::1])")
def lengths_of(ctrl, rows):
    """The length of some cubics of (M, 4, 2) control points (N,), halved where one more halving still changes it."""
    made = np.empty(len(rows))
    low, high, rough = np.empty(2 * DEEPEST), np.empty(2 * DEEPEST), np.empty(2 * DEEPEST)
    for k in range(len(rows)):
        p = ctrl[rows[k]]
        ax, ay = 3 * (p[1, 0] - p[0, 0]), 3 * (p[1, 1] - p[0, 1])
        bx, by = 6 * (p[2, 0] - 2 * p[1, 0] + p[0, 0]), 6 * (p[2, 1] - 2 * p[1, 1] + p[0, 1])
        cx = 3 * (p[3, 0] - 3 * p[2, 0] + 3 * p[1, 0] - p[0, 0])
        cy = 3 * (p[3, 1] - 3 * p[2, 1] + 3 * p[1, 1] - p[0, 1])
        low[0], high[0], rough[0] = 0.0, 1.0, by_nodes(ax, ay, bx, by, cx, cy, 0.0, 1.0)
        left, total = 1, 0.0
        while left > 0:
            left -= 1
            t0, t1, whole = low[left], high[left], rough[left]
            middle = (t0 + t1) / 2
            first = by_nodes(ax, ay, bx, by, cx, cy, t0, middle)
            second = by_nodes(ax, ay, bx, by, cx, cy, middle, t1)
            # The halves err by thousands of times less than they differ from the whole.
            even = abs(first + second - whole) <= ROUGH * max(first + second, 1e-9)
            if even or t1 - t0 < 2.0**-DEEPEST:
                total += first + second
                continue
            low[left], high[left], rough[left] = t0, middle, first
            low[left + 1], high[left + 1], rough[left + 1] = middle, t1, second
            left += 2
        made[k] = total
    return made


@kernel("f8[:, ::1](Array(f8, 3, 'C', readonly=True))")
def boxes_of_cubics(ctrl):
    """Left, top, right and bottom of cubics of (M, 4, 2) control points (M, 4)."""
    made = np.empty((len(ctrl), 4))
    row, found = np.empty(8), np.empty(2)
    for k in range(len(ctrl)):
        row[:] = ctrl[k].ravel()
        for axis in range(2):
            a, b, c, d = row[axis], row[2 + axis], row[4 + axis], row[6 + axis]
            low, high = min(a, d), max(a, d)
            # Most curves are drawn from turn to turn.
            if min(b, c) < low or max(b, c) > high:
                for n in range(turns_along(1, row, 1.0 - axis, 0.0 + axis, found)):
                    x, y, _, _ = curve_at(1, row, found[n])
                    low, high = min(low, y if axis else x), max(high, y if axis else x)
            made[k, axis], made[k, 2 + axis] = low, high
    return made


@kernel("f8[::1](Array(f8, 3, 'C', readonly=True), Array(i8, 1, 'C', readonly=True))")
def areas_beside(ctrl, start):
    """The signed area between each outline's cubics and its first point (K,), by Green's theorem in closed form: half
    the integral of B x B' is a fixed combination of the cross products of the control points."""
    made = np.zeros(len(start) - 1)
    for k in range(len(made)):
        x, y = 0.0, 0.0
        if start[k] < start[k + 1]:
            # About the first point of each outline, so that far from the origin no digits are lost.
            x, y = ctrl[start[k], 0, 0], ctrl[start[k], 0, 1]
        for m in range(start[k], start[k + 1]):
            c = ctrl[m]
            x0, y0, x1, y1 = c[0, 0] - x, c[0, 1] - y, c[1, 0] - x, c[1, 1] - y
            x2, y2, x3, y3 = c[2, 0] - x, c[2, 1] - y, c[3, 0] - x, c[3, 1] - y
            made[k] += 0.3 * (x0 * y1 - y0 * x1 + x2 * y3 - y2 * x3)
            made[k] += 0.15 * (x0 * y2 - y0 * x2 + x1 * y2 - y1 * x2 + x1 * y3 - y1 * x3)
            made[k] += 0.05 * (x0 * y3 - y0 * x3)
    return made


@kernel(
    "Tuple((f8[:, ::1], f8[:, ::1]))(Array(f8, 3, 'C', readonly=True), Array(u1, 1, 'C', readonly=True),"
    " Array(f8, 1, 'C', readonly=True))"
)
def directions_of(ctrl, kind, bulge):
    """In which curves leave their first points, and arrive at their last (M, 2); nothing where one has no length. A
    handle that lies on its node hands the direction on to the next control point."""
    leaving, arriving = np.zeros((len(ctrl), 2)), np.zeros((len(ctrl), 2))
    for k in range(len(ctrl)):
        c = ctrl[k]
        for i in range(1, 4):
            leaving[k, 0], leaving[k, 1] = c[i, 0] - c[0, 0], c[i, 1] - c[0, 1]
            if leaving[k, 0] != 0 or leaving[k, 1] != 0:
                break
        for i in range(1, 4):
            arriving[k, 0], arriving[k, 1] = c[3, 0] - c[3 - i, 0], c[3, 1] - c[3 - i, 1]
            if arriving[k, 0] != 0 or arriving[k, 1] != 0:
                break
        if kind[k] == ARC:
            half = 2 * math.atan(bulge[k])
            cos, sin = math.cos(half), math.sin(half)
            x, y = leaving[k, 0], leaving[k, 1]
            leaving[k, 0], leaving[k, 1] = x * cos + y * sin, y * cos - x * sin
            x, y = arriving[k, 0], arriving[k, 1]
            arriving[k, 0], arriving[k, 1] = x * cos - y * sin, x * sin + y * cos
    return leaving, arriving
