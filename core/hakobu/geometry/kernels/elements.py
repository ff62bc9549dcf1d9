"""Curves as few lines and arcs that stay within a distance: what an offset is made of, since a line's parallel is a
line and an arc's an arc."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .biarc import joint_of
from .chords import cone_of
from .curves import ARC, LINE, bend_at, curve_at, length

#: The columns of a table of lines and arcs: both ends, the centre, radius, first angle and sweep of an arc, which is 0
#: of a line, and the directions at both ends.
X0, Y0, X1, Y1, CX, CY, RADIUS, ANGLE, SWEEP, UX, UY, VX, VY = range(13)
COLUMNS = 13
#: A span that turns more than this from its chord, in radians, is halved first.
WIDE = 0.8
#: Places along each span where the arcs are held against it.
LOOKS = 9
#: A span that does not hold is cut into so many times as many parts as its error asks for.
MORE = 1.04
#: An arc of a smaller bulge is a line: its ends' directions are then off by as little.
FLAT = 1e-7


@kernel("void(f8[::1], f8, f8, f8, f8, f8)")
def set_element(row, x0, y0, x1, y1, bulge):
    """Fills in a line, or an arc of a bulge, between two points."""
    row[X0], row[Y0], row[X1], row[Y1] = x0, y0, x1, y1
    dx, dy = x1 - x0, y1 - y0
    chord = max(length(dx, dy), 1e-300)
    ux, uy = dx / chord, dy / chord
    row[UX], row[UY], row[VX], row[VY] = ux, uy, ux, uy
    row[CX], row[CY], row[RADIUS], row[ANGLE], row[SWEEP] = 0.0, 0.0, 0.0, 0.0, 0.0
    if abs(bulge) < FLAT:
        return
    lift = (1 - bulge * bulge) / (4 * bulge)
    row[CX], row[CY] = (x0 + x1) / 2 - dy * lift, (y0 + y1) / 2 + dx * lift
    row[RADIUS] = chord * (1 + bulge * bulge) / (4 * abs(bulge))
    row[ANGLE] = math.atan2(y0 - row[CY], x0 - row[CX])
    row[SWEEP] = 4 * math.atan(bulge)
    # The directions at the ends are the chord's, turned by half the sweep.
    square = bulge * bulge
    cos, sin = (1 - square) / (1 + square), 2 * bulge / (1 + square)
    row[UX], row[UY] = ux * cos + uy * sin, uy * cos - ux * sin
    row[VX], row[VY] = ux * cos - uy * sin, uy * cos + ux * sin


@kernel("f8(f8[::1], f8, f8, f8[::1], f8[::1])")
def off_arcs(g, t0, t1, first, second):
    """How far a span of a cubic is from two arcs at most, from each up to the line across their joint."""
    x, y, ux, uy = first[X1], first[Y1], first[VX], first[VY]
    most = 0.0
    for k in range(1, LOOKS):
        px, py, _, _ = curve_at(1, g, t0 + (t1 - t0) * k / LOOKS)
        row = first if (px - x) * ux + (py - y) * uy < 0 else second
        if row[SWEEP] == 0:
            off = abs((px - row[X0]) * row[UY] - (py - row[Y0]) * row[UX])
        else:
            off = abs(length(px - row[CX], py - row[CY]) - row[RADIUS])
        most = max(most, off)
    return most


@kernel("Tuple((f8, f8))(f8[::1], f8, f8)")
def direction_at(g, t, inward):
    """The direction of a cubic at one of a span's ends; where it stands still there, of a place just inward."""
    _, _, x, y = curve_at(1, g, t)
    size = length(x, y)
    hull = length(g[6] - g[0], g[7] - g[1]) + length(g[4] - g[2], g[5] - g[3])
    if size <= 1e-9 * hull:
        _, _, x, y = curve_at(1, g, t + 1e-4 * inward)
        size = length(x, y)
    size = max(size, 1e-300)
    return x / size, y / size


@kernel("Tuple((f8[:, ::1], i8[::1], f8[::1]))(f8[:, ::1], i8[::1], f8[::1], i8, i8)")
def longer(table, owner, far, n, most):
    """The same n rows with room for more."""
    more, more_owner, more_far = np.empty((most, COLUMNS)), np.empty(most, np.int64), np.zeros(most)
    more[:n], more_owner[:n], more_far[:n] = table[:n], owner[:n], far[:n]
    return more, more_owner, more_far


@kernel(
    "Tuple((f8[:, ::1], i8[::1], i8[::1], f8[::1]))(Array(i8, 1, 'C', readonly=True), f8[:, ::1],"
    " Array(f8, 3, 'C', readonly=True), Array(f8, 1, 'C', readonly=True), f8)"
)
def elements_of(kind, geometry, ctrl, bulge, within):
    """The table (E, 13) of lines and arcs within a distance of all segments, of which segment each is (E,), the first
    of each segment (M+1,), and how far each is from its segment at most (E,). Ends are the same to the bit where
    segments join; a segment of no size has none. Cubics become pairs of arcs with common tangents (Bolton 1975),
    halved until they hold."""
    m = len(kind)
    most, n = 2 * m + 64, 0
    table, owner, begin = np.empty((most, COLUMNS)), np.empty(most, np.int64), np.zeros(m + 1, np.int64)
    far = np.zeros(most)
    low, high = np.empty(128), np.empty(128)
    first, second = np.empty(COLUMNS), np.empty(COLUMNS)
    for i in range(m):
        g = geometry[i]
        if n + 130 > most:
            most = 2 * most + 130
            table, owner, far = longer(table, owner, far, n, most)
        begin[i] = n
        ax, ay, zx, zy = ctrl[i, 0, 0], ctrl[i, 0, 1], ctrl[i, 3, 0], ctrl[i, 3, 1]
        if kind[i] == LINE or kind[i] == ARC:
            if ax != zx or ay != zy:
                set_element(table[n], ax, ay, zx, zy, bulge[i] if kind[i] == ARC else 0.0)
                owner[n] = i
                n += 1
            continue
        if bend_at(g, 0.0) == 0 and bend_at(g, 1.0) == 0 and ax == zx and ay == zy:
            continue
        low[0], high[0], left = 0.0, 1.0, 1
        while left > 0:
            left -= 1
            t0, t1 = low[left], high[left]
            x0, y0, _, _ = curve_at(1, g, t0)
            x1, y1, _, _ = curve_at(1, g, t1)
            ux, uy = direction_at(g, t0, t1 - t0)
            vx, vy = direction_at(g, t1, t0 - t1)
            if t0 == 0:
                x0, y0 = ax, ay
            if t1 == 1:
                x1, y1 = zx, zy
            parts, off = 2, within
            final = t1 - t0 < 1e-6 or left > 60
            good, x, y, turn0, turn1 = joint_of(x0, y0, x1, y1, ux, uy, vx, vy)
            if good:
                good = max(abs(turn0), abs(turn1)) < 0.5
                set_element(first, x0, y0, x, y, turn0)
                set_element(second, x, y, x1, y1, turn1)
            if good and not final:
                good = cone_of(g, t0, t1, x1 - x0, y1 - y0) < WIDE
                if good:
                    off = off_arcs(g, t0, t1, first, second)
                    good = off <= within
                    # The error goes with the third power of the length.
                    parts = min(max(2, math.ceil(MORE * (off / within) ** (1 / 3))), 8)
            if not good and not final:
                for k in range(parts - 1, -1, -1):
                    low[left], high[left] = t0 + (t1 - t0) * k / parts, t0 + (t1 - t0) * (k + 1) / parts
                    left += 1
                high[left - parts] = t1
                continue
            if n + 4 > most:
                most = 2 * most + 130
                table, owner, far = longer(table, owner, far, n, most)
            if not good:
                if x0 != x1 or y0 != y1:
                    set_element(table[n], x0, y0, x1, y1, 0.0)
                    owner[n], far[n] = i, off
                    n += 1
            else:
                table[n], table[n + 1] = first, second
                owner[n] = owner[n + 1] = i
                far[n] = far[n + 1] = off
                n += 2
    begin[m] = n
    return table[:n].copy(), owner[:n].copy(), begin, far[:n].copy()
