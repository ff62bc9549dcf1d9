"""Where straight lines and arcs of circles meet, in closed form, where that is well-conditioned."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .chords import AX, AY, BEYOND, BX, BY, REACH, T0, T1
from .curves import ARC, curve_at, length
from .meetings import MEET

LINE = 0
#: Lines that meet at a smaller sine, and circles that meet in a chord shorter than this share of the smaller one, are
#: left to the search; as are those that miss each other by less than this.
SINE, SHARE, CLEARLY_MM = 1e-2, 1e-2, 1e-2


@kernel("f8(f8[::1], f8, f8)")
def along_arc(g, x, y):
    """The parameter of an arc towards a point: from the middle of the arc, so that it jumps at the far side."""
    turn = math.atan2(y - g[1], x - g[0]) - (g[3] + g[4] / 2)
    turn -= 2 * math.pi * math.floor(turn / (2 * math.pi) + 0.5)
    return 0.5 + turn / g[4]


@kernel("f8(f8[::1], f8, f8)")
def along_line(g, x, y):
    dx, dy = g[6] - g[0], g[7] - g[1]
    return ((x - g[0]) * dx + (y - g[1]) * dy) / (dx * dx + dy * dy)


@kernel("b1(f8, f8, f8[::1])")
def beside(x, y, chord):
    """Whether a point is outside of a chord's box."""
    reach = chord[REACH] + CLEARLY_MM
    if x < min(chord[AX], chord[BX]) - reach or x > max(chord[AX], chord[BX]) + reach:
        return True
    return y < min(chord[AY], chord[BY]) - reach or y > max(chord[AY], chord[BY]) + reach


@kernel("f8(i8, f8[::1])")
def size_of(kind, g):
    return max(abs(g[2] * g[4]) if kind == ARC else length(g[6] - g[0], g[7] - g[1]), 1e-12)


@kernel("i8(i8, f8[::1], i8, f8[::1], f8[:, ::1])")
def common_points(kind_a, a, kind_b, b, found):
    """Writes the points, two at most, that the whole lines or circles have in common; gives how many, or -1 where they
    come too near to touching each other to be told so."""
    if kind_a == LINE and kind_b == LINE:
        ux, uy, vx, vy = a[6] - a[0], a[7] - a[1], b[6] - b[0], b[7] - b[1]
        cross = ux * vy - uy * vx
        if abs(cross) < SINE * length(ux, uy) * length(vx, vy):
            return -1
        t = ((b[0] - a[0]) * vy - (b[1] - a[1]) * vx) / cross
        found[0, 0], found[0, 1] = a[0] + t * ux, a[1] + t * uy
        return 1
    if kind_a == ARC and kind_b == ARC:
        ux, uy = b[0] - a[0], b[1] - a[1]
        apart = length(ux, uy)
        low = min(a[2], b[2])
        if apart > a[2] + b[2] + CLEARLY_MM or apart < abs(a[2] - b[2]) - CLEARLY_MM:
            return 0
        if apart <= CLEARLY_MM and abs(a[2] - b[2]) <= CLEARLY_MM:
            return -1
        ux, uy = ux / apart, uy / apart
        foot = (apart * apart + (a[2] - b[2]) * (a[2] + b[2])) / (2 * apart)
        half, cx, cy = (a[2] - foot) * (a[2] + foot), a[0] + foot * ux, a[1] + foot * uy
    else:
        line, arc = (a, b) if kind_a == LINE else (b, a)
        ux, uy = line[6] - line[0], line[7] - line[1]
        size = length(ux, uy)
        ux, uy = -uy / size, ux / size
        foot = (line[0] - arc[0]) * ux + (line[1] - arc[1]) * uy
        low = arc[2]
        if abs(foot) > low + CLEARLY_MM:
            return 0
        half, cx, cy = (low - foot) * (low + foot), arc[0] + foot * ux, arc[1] + foot * uy
    if half < SHARE * SHARE * low * low:
        return -1
    half = math.sqrt(half)
    found[0, 0], found[0, 1] = cx - half * uy, cy + half * ux
    found[1, 0], found[1, 1] = cx + half * uy, cy - half * ux
    return 2


@kernel("Tuple((f8, f8, f8))(i8, f8[::1], f8, f8)")
def leaving(kind, g, x, y):
    """How far a point is off a whole line or circle, and the direction of that there."""
    if kind == ARC:
        dx, dy = x - g[0], y - g[1]
        return abs(length(dx, dy) - g[2]), -dy, dx
    dx, dy = g[6] - g[0], g[7] - g[1]
    return abs((x - g[0]) * dy - (y - g[1]) * dx) / length(dx, dy), dx, dy


@kernel(
    "Tuple((b1[::1], i8[:, ::1], f8[:, ::1]))(f8[:, ::1], i8[::1], i8[:, ::1], Array(i8, 1, 'C', readonly=True),"
    " f8[:, ::1])"
)
def exactly(table, owner, pairs, kind, geometry):
    """Which pairs of chords (N,) are done with in closed form, and their meetings: the pairs of curves (G, 2) and each
    meeting as `refine` gives it (G, 6)."""
    n = len(pairs)
    done = np.zeros(n, np.bool_)
    of, made, point = np.empty((2 * n, 2), np.int64), np.empty((2 * n, 6)), np.empty((2, 2))
    m = 0
    for p in range(n):
        i, j = owner[pairs[p, 0]], owner[pairs[p, 1]]
        if (kind[i] != LINE and kind[i] != ARC) or (kind[j] != LINE and kind[j] != ARC):
            continue
        a, b, ga, gb = table[pairs[p, 0]], table[pairs[p, 1]], geometry[i], geometry[j]
        count = common_points(kind[i], ga, kind[j], gb, point)
        good, first = count >= 0, m
        for k in range(count):
            x, y = point[k]
            if beside(x, y, a) or beside(x, y, b):
                continue
            t = along_line(ga, x, y) if kind[i] == LINE else along_arc(ga, x, y)
            u = along_line(gb, x, y) if kind[j] == LINE else along_arc(gb, x, y)
            # What lies a little beyond an end may still be its own.
            near_t, near_u = 1e-5 + 2 * MEET / size_of(kind[i], ga), 1e-5 + 2 * MEET / size_of(kind[j], gb)
            if t < a[T0] - near_t or t > a[T1] + near_t or u < b[T0] - near_u or u > b[T1] + near_u:
                continue
            if 0 <= t <= 1 and 0 <= u <= 1:
                # The place lies on both as they are; how closely is seen without going round by the parameters.
                off_a, adx, ady = leaving(kind[i], ga, x, y)
                off_b, bdx, bdy = leaving(kind[j], gb, x, y)
                away, px, py = off_a + off_b, x, y
            else:
                t, u = min(max(t, 0.0), 1.0), min(max(u, 0.0), 1.0)
                px, py, adx, ady = curve_at(kind[i], ga, t)
                qx, qy, bdx, bdy = curve_at(kind[j], gb, u)
                away = length(px - qx, py - qy)
            # Near an end and off the other curve: whether they meet is seen by looking closer.
            good = good and away <= MEET
            if t < a[T0] - BEYOND or t > a[T1] + BEYOND or u < b[T0] - BEYOND or u > b[T1] + BEYOND:
                continue
            size = length(adx, ady) * length(bdx, bdy)
            made[m, 0], made[m, 1], made[m, 2], made[m, 4], made[m, 5] = t, u, away, px, py
            made[m, 3] = abs(adx * bdy - ady * bdx) / size if size > 0 else 0.0
            of[m, 0], of[m, 1] = i, j
            m += 1
        done[p] = good
        if not good:
            m = first
    return done, of[:m].copy(), made[:m].copy()
