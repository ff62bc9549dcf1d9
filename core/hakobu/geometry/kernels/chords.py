"""Curves as few chords with all that a search for meetings asks of them: how far the curve leaves each, and how much
it turns along it."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .curves import ARC, bend_at, curve_at, length

#: The columns of a table of chords: both ends, the parameters there, how far the curve may be from the chord, and the
#: largest angle between the chord and a tangent of its curve.
AX, AY, BX, BY, T0, T1, REACH, CONE = range(8)
#: The most that an arc turns along one chord.
TURN = math.pi / 8
#: How far beyond a chord's ends, as a parameter, a meeting still belongs to it.
BEYOND = 1e-9
LINE = 0


@kernel("f8(f8[::1])")
def hull_of(g):
    """The length of a control polygon."""
    return length(g[2] - g[0], g[3] - g[1]) + length(g[4] - g[2], g[5] - g[3]) + length(g[6] - g[4], g[7] - g[5])


@kernel("f8(f8[::1], f8, f8, f8, f8)")
def cone_of(g, t0, t1, cx, cy):
    """The largest angle between a chord (cx, cy) of a cubic and the hodograph's control vectors there, which hold all
    tangents between them; pi where one of them turns back."""
    chord = length(cx, cy)
    if chord == 0:
        return math.pi
    # The square of the cosine, so that one root and one arc cosine do for all three.
    least = 1.0
    for k in range(3):
        u, v = (t0, t0) if k == 0 else ((t0, t1) if k == 1 else (t1, t1))
        a, b, c = (1 - u) * (1 - v), u * (1 - v) + v * (1 - u), u * v
        x = a * (g[2] - g[0]) + b * (g[4] - g[2]) + c * (g[6] - g[4])
        y = a * (g[3] - g[1]) + b * (g[5] - g[3]) + c * (g[7] - g[5])
        square, along = x * x + y * y, x * cx + y * cy
        if along < 0:
            return math.pi
        if square > 0:
            least = min(least, along * along / (square * chord * chord))
    return math.acos(math.sqrt(least))


@kernel("void(i8, f8[::1], f8[::1])")
def measure(kind, g, row):
    """Fills in how far the curve leaves a chord, and its cone."""
    t0, t1 = row[T0], row[T1]
    if kind == ARC:
        half = abs(g[4]) * (t1 - t0) / 2
        row[REACH], row[CONE] = g[2] * (1 - math.cos(half)), half
    elif kind == LINE:
        row[REACH], row[CONE] = 0.0, 0.0
    else:
        row[REACH] = max(bend_at(g, t0), bend_at(g, t1)) * (t1 - t0) * (t1 - t0)
        row[CONE] = cone_of(g, t0, t1, row[BX] - row[AX], row[BY] - row[AY])


@kernel("void(i8, f8[::1], f8[::1], f8[::1], f8[::1])")
def halve(kind, g, row, low, high):
    """The two halves of a chord."""
    middle = (row[T0] + row[T1]) / 2
    x, y, _, _ = curve_at(kind, g, middle)
    low[AX], low[AY], low[T0] = row[AX], row[AY], row[T0]
    low[BX], low[BY], low[T1] = x, y, middle
    high[AX], high[AY], high[T0] = x, y, middle
    high[BX], high[BY], high[T1] = row[BX], row[BY], row[T1]
    measure(kind, g, low)
    measure(kind, g, high)


@kernel(
    "Tuple((f8[:, ::1], i8[::1], i8[::1]))(Array(i8, 1, 'C', readonly=True), f8[:, ::1],"
    " Array(f8, 3, 'C', readonly=True), f8)"
)
def chords_of(kind, geometry, ctrl, share):
    """The table of chords (C, 8) of all curves, of which curve each is (C,), and the first chord of each curve (M+1,).
    ctrl (M, 4, 2): control points, whose first and last the chords meet to the bit; share: how far, of its own size, a
    cubic may leave its chords. A curve of no size has none."""
    m = len(kind)
    begin = np.zeros(m + 1, np.int64)
    for i in range(m):
        g = geometry[i]
        if kind[i] == ARC:
            count = max(math.ceil(abs(g[4]) / TURN - 1e-9), 1)
        else:
            hull = hull_of(g)
            count = 1 if hull > 0 else 0
            if kind[i] != LINE and hull > 0:
                bend = max(bend_at(g, 0.0), bend_at(g, 1.0))
                count = max(math.ceil(math.sqrt(bend / (share * hull))), 1)
        begin[i + 1] = begin[i] + count
    table = np.empty((begin[m], 8))
    owner = np.empty(begin[m], np.int64)
    for i in range(m):
        count, g = begin[i + 1] - begin[i], geometry[i]
        x, y = ctrl[i, 0]
        for k in range(count):
            row = table[begin[i] + k]
            row[AX], row[AY], row[T0], row[T1] = x, y, k / count, (k + 1) / count
            if k + 1 < count:
                x, y, _, _ = curve_at(kind[i], g, (k + 1) / count)
            else:
                x, y = ctrl[i, 3]
            row[BX], row[BY] = x, y
            measure(kind[i], g, row)
            owner[begin[i] + k] = i
    return table, owner, begin
