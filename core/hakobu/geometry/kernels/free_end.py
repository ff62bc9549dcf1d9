"""One cubic from a fixed place and direction through points to an end that is free within limits: across the line that
the points follow, and in its direction. Least squares and reparametrisation as in `one_cubic` (Schneider 1990), with
two unknowns more: noise of a single point then decides neither where a curve ends nor how it goes on."""

from __future__ import annotations

import numpy as np

from ...compiled import kernel
from .curves import length
from .one_cubic import farthest, nearer

#: Rounds that bring parameters nearer, before a span is given up.
ROUNDS = 6
#: A span whose error is more than so many times the tolerance is given up at once, as is one whose error a round leaves
#: at more than this share.
HOPELESS, SLOW = 2.5, 0.93
#: What holds the end back, beside the sums of squares over the points: across, and in its direction.
HELD_ACROSS, HELD_ASIDE = 0.1, 1.0
#: The farthest that an end goes across, as a share of the tolerance, and aside, of its handle's length.
ACROSS, ASIDE = 0.9, 0.4
#: What a handle's length may be, as a share of the chord; a third, where it is not.
LEAST, MOST = 1e-6, 3.0


@kernel("Tuple((b1, f8, f8, f8, f8))(f8[:, ::1], i8, i8, f8[::1], f8[::1], f8[::1])")
def unknowns(p, i0, i1, u, t0, t1):
    """The lengths of both handles, how far the end lies across from its point, and its handle's end besides; whether
    there are such. Solved by the square root of the matrix (Cholesky)."""
    x0, y0, x1, y1 = p[i0, 0], p[i0, 1], p[i1, 0], p[i1, 1]
    nx, ny = -t1[1], t1[0]
    a00 = a01 = a02 = a11 = a22 = a23 = 0.0
    q0 = q1 = q2 = q3 = 0.0
    for i in range(i0 + 1, i1):
        t = u[i]
        s = 1 - t
        b1, b2 = 3 * s * s * t, 3 * s * t * t
        start, end = s * s * s + b1, t * t * t + b2
        dx, dy = p[i, 0] - start * x0 - end * x1, p[i, 1] - start * y0 - end * y1
        along0, along1, across = dx * t0[0] + dy * t0[1], dx * t1[0] + dy * t1[1], dx * nx + dy * ny
        a00 += b1 * b1
        a01 += b1 * b2
        a02 += b1 * end
        a11 += b2 * b2
        a22 += end * end
        a23 += end * b2
        q0 += b1 * along0
        q1 += b2 * along1
        q2 += end * across
        q3 += b2 * across
    same, cross = t0[0] * t1[0] + t0[1] * t1[1], t0[0] * nx + t0[1] * ny
    a03, a33 = a01 * cross, a11 + HELD_ASIDE
    a01, a02, a22 = a01 * same, a02 * cross, a22 + HELD_ACROSS
    if not a00 > 0:
        return False, 0.0, 0.0, 0.0, 0.0
    l00 = np.sqrt(a00)
    l10, l20, l30 = a01 / l00, a02 / l00, a03 / l00
    d1 = a11 - l10 * l10
    if not d1 > 1e-12 * a11:
        return False, 0.0, 0.0, 0.0, 0.0
    l11 = np.sqrt(d1)
    l21, l31 = -l20 * l10 / l11, -l30 * l10 / l11
    d2 = a22 - l20 * l20 - l21 * l21
    if not d2 > 1e-12 * a22:
        return False, 0.0, 0.0, 0.0, 0.0
    l22 = np.sqrt(d2)
    l32 = (a23 - l30 * l20 - l31 * l21) / l22
    d3 = a33 - l30 * l30 - l31 * l31 - l32 * l32
    if not d3 > 1e-12 * a33:
        return False, 0.0, 0.0, 0.0, 0.0
    y_0 = q0 / l00
    y_1 = (q1 - l10 * y_0) / l11
    y_2 = (q2 - l20 * y_0 - l21 * y_1) / l22
    z3 = (q3 - l30 * y_0 - l31 * y_1 - l32 * y_2) / d3
    z2 = (y_2 - l32 * z3) / l22
    z1 = (y_1 - l21 * z2 - l31 * z3) / l11
    z0 = (y_0 - l10 * z1 - l20 * z2 - l30 * z3) / l00
    return True, z0, z1, z2, z3


@kernel("void(f8[:, ::1], i8, i8, f8[::1], f8[::1], f8[::1], f8, f8[:, ::1])")
def to_free_end(p, i0, i1, u, t0, t1, tolerance, c):
    """The cubic c nearest to the points at parameters u."""
    good, h0, h1, across, aside = unknowns(p, i0, i1, u, t0, t1)
    chord = length(p[i1, 0] - p[i0, 0], p[i1, 1] - p[i0, 1])
    if not good or not LEAST * chord < h0 < MOST * chord:
        h0 = chord / 3
    if not good or not LEAST * chord < h1 < MOST * chord:
        h1 = chord / 3
    across = min(max(across, -ACROSS * tolerance), ACROSS * tolerance) if good else 0.0
    aside = min(max(aside, -ASIDE * h1), ASIDE * h1) if good else 0.0
    nx, ny = -t1[1], t1[0]
    c[0, 0], c[0, 1] = p[i0, 0], p[i0, 1]
    c[1, 0], c[1, 1] = p[i0, 0] + h0 * t0[0], p[i0, 1] + h0 * t0[1]
    c[3, 0], c[3, 1] = p[i1, 0] + across * nx, p[i1, 1] + across * ny
    c[2, 0], c[2, 1] = c[3, 0] + h1 * t1[0] + aside * nx, c[3, 1] + h1 * t1[1] + aside * ny


@kernel("f8(f8[:, ::1], f8[::1], i8, i8, f8[::1], f8[::1], f8, f8[::1], f8[:, ::1])")
def span_to(p, run, i0, i1, t0, t1, tolerance, u, c):
    """One cubic c through points from one to another: the largest distance. It stops where that is within the
    tolerance, or hopeless. run (N,): the way to each point."""
    whole = run[i1] - run[i0]
    for i in range(i0, i1 + 1):
        u[i] = (run[i] - run[i0]) / whole if whole > 0 else 1.0
    before = np.inf
    most = np.inf
    for round_ in range(ROUNDS + 1):
        to_free_end(p, i0, i1, u, t0, t1, tolerance, c)
        most, _ = farthest(p, i0, i1, u, c)
        if most <= tolerance or most > HOPELESS * tolerance or round_ == ROUNDS or most > SLOW * before:
            break
        before = most
        nearer(p, i0, i1, u, c)
    return most
