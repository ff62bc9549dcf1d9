"""One cubic through points: the least-squares step and the reparametrisation of Schneider 1990."""

from __future__ import annotations

import math

import numpy as np

from ..compiled import kernel
from .curves import length

#: Through so few points a free end may not turn back.
FEW = 8


@kernel("b1(f8[:, ::1], f8[::1], i8)")
def solve(a, b, n):
    """Gauss elimination with pivoting of n equations, in place; False where they have no answer."""
    for c in range(n):
        p = c
        for r in range(c + 1, n):
            if abs(a[r, c]) > abs(a[p, c]):
                p = r
        if abs(a[p, c]) < 1e-14:
            return False
        if p != c:
            for k in range(n):
                a[c, k], a[p, k] = a[p, k], a[c, k]
            b[c], b[p] = b[p], b[c]
        for r in range(c + 1, n):
            f = a[r, c] / a[c, c]
            for k in range(c, n):
                a[r, k] -= f * a[c, k]
            b[r] -= f * b[c]
    for c in range(n - 1, -1, -1):
        for k in range(c + 1, n):
            b[c] -= a[c, k] * b[k]
        b[c] /= a[c, c]
    return True


@kernel("Tuple((b1, f8, f8))(f8[:, ::1], i8, i8, f8[::1], f8[::1], f8[::1])", any_order=True)
def handle_lengths(p, i0, i1, u, t0, t1):
    """The lengths of both handles, along given tangents, that bring the cubic nearest to the points at parameters u,
    and whether there are such."""
    x0, y0, x1, y1 = p[i0, 0], p[i0, 1], p[i1, 0], p[i1, 1]
    s11 = s12 = s22 = q0 = q1 = 0.0
    for i in range(i0 + 1, i1):
        t = u[i]
        s = 1 - t
        b1, b2 = 3 * s * s * t, 3 * s * t * t
        first, last = s * s * s + b1, t * t * t + b2
        dx, dy = p[i, 0] - first * x0 - last * x1, p[i, 1] - first * y0 - last * y1
        s11 += b1 * b1
        s12 += b1 * b2
        s22 += b2 * b2
        q0 += b1 * (dx * t0[0] + dy * t0[1])
        q1 += b2 * (dx * t1[0] + dy * t1[1])
    s12 *= t0[0] * t1[0] + t0[1] * t1[1]
    det = s11 * s22 - s12 * s12
    if not det > 1e-12 * s11 * s22:
        return False, 0.0, 0.0
    return True, (q0 * s22 - q1 * s12) / det, (q1 * s11 - q0 * s12) / det


@kernel("b1(f8, f8, f8, f8, f8, f8)")
def turns_back(x, y, x0, y0, x1, y1):
    """Whether a curve turns back on its way along its chord x, y, perhaps in a loop, though its handles at the start
    and at the end point along it: a quadratic with the Bezier coefficients a, b, c, as the derivative is, sinks below
    zero between its ends where b is less than minus the root of ac."""
    square = x * x + y * y
    first, last = x0 * x + y0 * y, -(x1 * x + y1 * y)
    return first > 0 and last > 0 and first + last - math.sqrt(first * last) > square


@kernel("void(f8[:, ::1], i8, i8, f8[::1], f8[::1], f8[::1], f8[:, ::1])")
def least_squares(p, i0, i1, u, t0, t1, c):
    """The inner control points that bring the cubic nearest to the points at parameters u. A tangent of zeros leaves
    its handle free."""
    free0 = t0[0] == 0 and t0[1] == 0
    free1 = t1[0] == 0 and t1[1] == 0
    if not free0 and not free1:
        chord = length(p[i1, 0] - p[i0, 0], p[i1, 1] - p[i0, 1])
        good, h0, h1 = handle_lengths(p, i0, i1, u, t0, t1)
        good = good and not turns_back(
            p[i1, 0] - p[i0, 0], p[i1, 1] - p[i0, 1], h0 * t0[0], h0 * t0[1], h1 * t1[0], h1 * t1[1]
        )
        if not good or not 1e-6 * chord < h0 < 3 * chord:
            h0 = chord / 3
        if not good or not 1e-6 * chord < h1 < 3 * chord:
            h1 = chord / 3
        for k in range(2):
            c[0, k], c[3, k] = p[i0, k], p[i1, k]
            c[1, k], c[2, k] = p[i0, k] + h0 * t0[k], p[i1, k] + h1 * t1[k]
        return
    unknowns = (2 if free0 else 1) + (2 if free1 else 1)
    a = np.zeros((4, 4))
    b = np.zeros(4)
    row_x = np.zeros(4)
    row_y = np.zeros(4)
    for i in range(i0, i1 + 1):
        t = u[i]
        s = 1 - t
        b1, b2 = 3 * s * s * t, 3 * s * t * t
        first, last = s * s * s + b1, t * t * t + b2
        if free0:
            row_x[0], row_y[0] = b1, 0.0
            row_x[1], row_y[1] = 0.0, b1
            k = 2
        else:
            row_x[0], row_y[0] = b1 * t0[0], b1 * t0[1]
            k = 1
        if free1:
            row_x[k], row_y[k] = b2, 0.0
            row_x[k + 1], row_y[k + 1] = 0.0, b2
        else:
            row_x[k], row_y[k] = b2 * t1[0], b2 * t1[1]
        dx = p[i, 0] - first * p[i0, 0] - last * p[i1, 0]
        dy = p[i, 1] - first * p[i0, 1] - last * p[i1, 1]
        for r in range(unknowns):
            b[r] += row_x[r] * dx + row_y[r] * dy
            for q in range(unknowns):
                a[r, q] += row_x[r] * row_x[q] + row_y[r] * row_y[q]
    chord = length(p[i1, 0] - p[i0, 0], p[i1, 1] - p[i0, 1])
    # Two free ends go through two points in between whatever way they like.
    good = i1 - i0 > unknowns and solve(a, b, unknowns)
    c[0], c[3] = p[i0], p[i1]
    k = 0
    for end in range(2):
        tangent = t0 if end == 0 else t1
        anchor, far = (i0, i1) if end == 0 else (i1, i0)
        free = free0 if end == 0 else free1
        if free:
            hx, hy = b[k], b[k + 1]
            k += 2
        else:
            good = good and b[k] > 1e-6 * chord
            hx, hy = b[k] * tangent[0], b[k] * tangent[1]
            k += 1
        # A handle points on towards the other end.
        ahead = hx * (p[far, 0] - p[anchor, 0]) + hy * (p[far, 1] - p[anchor, 1]) > 0
        if not good or not length(hx, hy) < 3 * chord or (free and not ahead and i1 - i0 < FEW):
            if free:
                hx, hy = (p[far, 0] - p[anchor, 0]) / 3, (p[far, 1] - p[anchor, 1]) / 3
            else:
                hx, hy = tangent[0] * chord / 3, tangent[1] * chord / 3
        c[1 + end, 0] = p[anchor, 0] + hx
        c[1 + end, 1] = p[anchor, 1] + hy
    x, y = p[i1, 0] - p[i0, 0], p[i1, 1] - p[i0, 1]
    if turns_back(x, y, c[1, 0] - c[0, 0], c[1, 1] - c[0, 1], c[2, 0] - c[3, 0], c[2, 1] - c[3, 1]):
        for k in range(2):
            step = (p[i1, k] - p[i0, k]) / 3
            c[1, k] = p[i0, k] + (step if free0 else t0[k] * chord / 3)
            c[2, k] = p[i1, k] + (-step if free1 else t1[k] * chord / 3)


@kernel("UniTuple(f8, 4)(f8[:, ::1], i8)")
def powers(c, k):
    """What stands before each power of the parameter in one coordinate of a cubic."""
    return (
        c[0, k],
        3 * (c[1, k] - c[0, k]),
        3 * (c[0, k] - 2 * c[1, k] + c[2, k]),
        c[3, k] - c[0, k] + 3 * (c[1, k] - c[2, k]),
    )


@kernel("Tuple((f8, f8))(f8[:, ::1], i8, i8, f8[::1], f8[:, ::1])", any_order=True)
def farthest(p, i0, i1, u, c):
    """The largest distance of the points from the cubic at their parameters, and the sum of all."""
    x0, x1, x2, x3 = powers(c, 0)
    y0, y1, y2, y3 = powers(c, 1)
    most, total = 0.0, 0.0
    for i in range(i0 + 1, i1):
        t = u[i]
        d = length(x0 - p[i, 0] + t * (x1 + t * (x2 + t * x3)), y0 - p[i, 1] + t * (y1 + t * (y2 + t * y3)))
        total += d
        most = d if d > most else most
    return most, total


@kernel("void(f8[:, ::1], i8, i8, f8[::1], f8[:, ::1])", any_order=True)
def nearer(p, i0, i1, u, c):
    """One Newton step of each parameter towards the point of the cubic nearest to its point."""
    x0, x1, x2, x3 = powers(c, 0)
    y0, y1, y2, y3 = powers(c, 1)
    for i in range(i0 + 1, i1):
        t = u[i]
        x, y = x0 - p[i, 0] + t * (x1 + t * (x2 + t * x3)), y0 - p[i, 1] + t * (y1 + t * (y2 + t * y3))
        along_x, along_y = x1 + t * (2 * x2 + 3 * t * x3), y1 + t * (2 * y2 + 3 * t * y3)
        dot = x * along_x + y * along_y
        slope = along_x * along_x + along_y * along_y + 2 * (x * (x2 + 3 * t * x3) + y * (y2 + 3 * t * y3))
        step = dot / slope if abs(slope) > 1e-14 else 0.0
        u[i] = min(max(t - step, 0.0), 1.0)
