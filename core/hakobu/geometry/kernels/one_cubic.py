"""One cubic through points: the least-squares step and the reparametrisation of Schneider 1990."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
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


@kernel("UniTuple(f8, 7)(f8[:, ::1], i8, i8, f8[::1])", any_order=True)
def normal_sums(p, i0, i1, u):
    """What the normal equations of a cubic through points at parameters u are made of: the sums of the products of the
    Bernstein polynomials b1 and b2, 11, 12 and 22, and of each by what its ends alone leave of the points, x and y."""
    x0, y0, x1, y1 = p[i0, 0], p[i0, 1], p[i1, 0], p[i1, 1]
    s11 = s12 = s22 = x_1 = y_1 = x_2 = y_2 = 0.0
    # Parts that begin at 0: that no number is negative lets several points be reckoned at once.
    own, at = p[i0:i1], u[i0:i1]
    for i in range(1, len(own)):
        t = at[i]
        s = 1 - t
        b1, b2 = 3 * s * s * t, 3 * s * t * t
        first, last = s * s * s + b1, t * t * t + b2
        dx, dy = own[i, 0] - first * x0 - last * x1, own[i, 1] - first * y0 - last * y1
        s11 += b1 * b1
        s12 += b1 * b2
        s22 += b2 * b2
        x_1 += b1 * dx
        y_1 += b1 * dy
        x_2 += b2 * dx
        y_2 += b2 * dy
    return s11, s12, s22, x_1, y_1, x_2, y_2


@kernel("b1(f8, f8, f8, f8, f8, f8)")
def turns_back(x, y, x0, y0, x1, y1):
    """Whether a curve turns back on its way along its chord x, y, perhaps in a loop, though its handles at the start
    and at the end point along it: a quadratic with the Bezier coefficients a, b, c, as the derivative is, sinks below
    zero between its ends where b is less than minus the root of ac."""
    square = x * x + y * y
    first, last = x0 * x + y0 * y, -(x1 * x + y1 * y)
    return first > 0 and last > 0 and first + last - math.sqrt(first * last) > square


@kernel("Tuple((b1, f8, f8))(UniTuple(f8, 7), f8[::1], f8[::1])")
def handle_lengths(sums, t0, t1):
    """The lengths of both handles, along given tangents, that bring the cubic nearest to the points, and whether there
    are such."""
    s11, s12, s22, x_1, y_1, x_2, y_2 = sums
    s12 *= t0[0] * t1[0] + t0[1] * t1[1]
    det = s11 * s22 - s12 * s12
    if not det > 1e-12 * s11 * s22:
        return False, 0.0, 0.0
    q0, q1 = x_1 * t0[0] + y_1 * t0[1], x_2 * t1[0] + y_2 * t1[1]
    return True, (q0 * s22 - q1 * s12) / det, (q1 * s11 - q0 * s12) / det


@kernel("void(UniTuple(f8, 7), i8, f8, f8, f8, f8[::1], f8[::1], b1, b1, f8[:, ::1])")
def free_handles(sums, count, x, y, chord, t0, t1, free0, free1, c):
    """The inner control points where one end or both have any direction; x, y: the chord; count: how many points the
    last one is from the first."""
    s11, s12, s22, x_1, y_1, x_2, y_2 = sums
    # The directions of the unknowns: x and y of a free handle, the tangent of another one.
    way, side = np.zeros((4, 2)), np.zeros(4, np.int64)
    n = 0
    for end in range(2):
        tangent, free = (t0, free0) if end == 0 else (t1, free1)
        if free:
            way[n, 0], way[n + 1, 1] = 1.0, 1.0
            side[n] = side[n + 1] = end
            n += 2
        else:
            way[n, 0], way[n, 1], side[n] = tangent[0], tangent[1], end
            n += 1
    a, b = np.zeros((4, 4)), np.zeros(4)
    for r in range(n):
        qx, qy = (x_1, y_1) if side[r] == 0 else (x_2, y_2)
        b[r] = way[r, 0] * qx + way[r, 1] * qy
        for q in range(n):
            product = s12 if side[r] != side[q] else (s11 if side[r] == 0 else s22)
            a[r, q] = product * (way[r, 0] * way[q, 0] + way[r, 1] * way[q, 1])
    # Two free ends go through two points in between whatever way they like.
    good = count > n and solve(a, b, n)
    k = 0
    for end in range(2):
        tangent, free = (t0, free0) if end == 0 else (t1, free1)
        # On towards the other end.
        on = 1.0 if end == 0 else -1.0
        if free:
            hx, hy = b[k], b[k + 1]
            k += 2
        else:
            good = good and b[k] > 1e-6 * chord
            hx, hy = b[k] * tangent[0], b[k] * tangent[1]
            k += 1
        ahead = on * (hx * x + hy * y) > 0
        if not good or not length(hx, hy) < 3 * chord or (free and not ahead and count < FEW):
            hx, hy = (on * x / 3, on * y / 3) if free else (tangent[0] * chord / 3, tangent[1] * chord / 3)
        c[1 + end, 0], c[1 + end, 1] = c[3 * end, 0] + hx, c[3 * end, 1] + hy
    if turns_back(x, y, c[1, 0] - c[0, 0], c[1, 1] - c[0, 1], c[2, 0] - c[3, 0], c[2, 1] - c[3, 1]):
        for k in range(2):
            step = (c[3, k] - c[0, k]) / 3
            c[1, k] = c[0, k] + (step if free0 else t0[k] * chord / 3)
            c[2, k] = c[3, k] + (-step if free1 else t1[k] * chord / 3)


@kernel("void(f8[:, ::1], i8, i8, f8[::1], f8[::1], f8[::1], f8[:, ::1])")
def least_squares(p, i0, i1, u, t0, t1, c):
    """The inner control points that bring the cubic nearest to the points at parameters u. A tangent of zeros leaves
    its handle free."""
    free0, free1 = t0[0] == 0 and t0[1] == 0, t1[0] == 0 and t1[1] == 0
    x, y = p[i1, 0] - p[i0, 0], p[i1, 1] - p[i0, 1]
    chord = length(x, y)
    sums = normal_sums(p, i0, i1, u)
    for k in range(2):
        c[0, k], c[3, k] = p[i0, k], p[i1, k]
    if free0 or free1:
        free_handles(sums, i1 - i0, x, y, chord, t0, t1, free0, free1, c)
    else:
        good, h0, h1 = handle_lengths(sums, t0, t1)
        good = good and not turns_back(x, y, h0 * t0[0], h0 * t0[1], h1 * t1[0], h1 * t1[1])
        if not good or not 1e-6 * chord < h0 < 3 * chord:
            h0 = chord / 3
        if not good or not 1e-6 * chord < h1 < 3 * chord:
            h1 = chord / 3
        for k in range(2):
            c[1, k], c[2, k] = p[i0, k] + h0 * t0[k], p[i1, k] + h1 * t1[k]


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
