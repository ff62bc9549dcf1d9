"""Pairs of chords of different curves that come near each other."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ...kernels.chords import AX, AY, BX, BY, CONE, REACH
from ...kernels.curves import length
from .grid import cell_of

#: Curves whose tangents come within this angle of each other may meet more than once there.
ANGLE_SLACK = 1e-3


@kernel("Tuple((f8, f8, f8))(f8[::1], f8[::1])")
def chords_apart(a, b):
    """The distance between two chords, and the shares along them where they are nearest."""
    ux, uy = a[BX] - a[AX], a[BY] - a[AY]
    vx, vy = b[BX] - b[AX], b[BY] - b[AY]
    wx, wy = a[AX] - b[AX], a[AY] - b[AY]
    p, q, r = ux * ux + uy * uy, ux * vx + uy * vy, vx * vx + vy * vy
    d, e = ux * wx + uy * wy, vx * wx + vy * wy
    det = p * r - q * q
    s = min(max((q * e - r * d) / det, 0.0), 1.0) if det > 1e-14 * p * r else 0.5
    t = (q * s + e) / r if r > 0 else 0.0
    if t < 0 or t > 1:
        t = min(max(t, 0.0), 1.0)
        s = min(max((q * t - d) / p, 0.0), 1.0) if p > 0 else 0.0
    return length(wx + s * ux - t * vx, wy + s * uy - t * vy), s, t


@kernel("b1(f8[::1], f8[::1])")
def once_at_most(a, b):
    """Whether no tangents of the two curves along these chords are parallel: then they meet there once at most."""
    ux, uy = a[BX] - a[AX], a[BY] - a[AY]
    vx, vy = b[BX] - b[AX], b[BY] - b[AY]
    angle = math.atan2(abs(ux * vy - uy * vx), abs(ux * vx + uy * vy))
    return angle > a[CONE] + b[CONE] + ANGLE_SLACK


@kernel("b1(f8[::1], f8[::1])")
def goes_on(a, b):
    """Whether two chords, the second beginning where the first ends, belong to curves that meet nowhere else: all
    tangents of both are within a right angle of one direction."""
    ux, uy = a[BX] - a[AX], a[BY] - a[AY]
    vx, vy = b[BX] - b[AX], b[BY] - b[AY]
    if max(a[CONE], b[CONE]) < math.pi / 4 - ANGLE_SLACK and ux * vx + uy * vy >= 0:
        return True
    angle = math.atan2(abs(ux * vy - uy * vx), ux * vx + uy * vy)
    return angle / 2 + max(a[CONE], b[CONE]) < math.pi / 2 - ANGLE_SLACK


@kernel(
    "Tuple((i8[:, ::1], f8[:, ::1], b1[::1], i8))(f8[:, ::1], f8[:, ::1], i8[::1], i8[::1], i8[::1], i8[::1], i8[::1],"
    " i8[::1], b1[::1], f8, f8, f8, f8, i8, i8, i8, i8, i8)"
)
def near_chords(
    table,
    box,
    owner,
    chords_begin,
    following,
    group,
    begin,
    member,
    slanting,
    slack,
    x0,
    y0,
    cell,
    columns,
    rows,
    first,
    last,
    most,
):
    """Pairs of chords of different curves of one group whose curves may come within slack of each other: their numbers,
    that of the lower curve first, the shares along them, whether they meet once at most; and how many there are: those
    beyond the most are counted but not listed. first, last: the rows of the grid that are looked at."""
    pairs, shares, once = np.empty((most, 2), np.int64), np.empty((most, 2)), np.empty(most, np.bool_)
    found = 0
    for r in range(first, last):
        for c in range(columns):
            k = r * columns + c
            for p in range(begin[k], begin[k + 1]):
                i = member[p]
                si, a, low_x, low_y, high_x, high_y = owner[i], table[i], box[i, 0], box[i, 1], box[i, 2], box[i, 3]
                for q in range(p + 1, begin[k + 1]):
                    j = member[q]
                    if box[j, 0] > high_x or box[j, 2] < low_x or box[j, 1] > high_y or box[j, 3] < low_y:
                        continue
                    sj, b = owner[j], table[j]
                    if si == sj or group[si] != group[sj]:
                        continue
                    # Of all cells that both stand in, the pair counts in the one with the corner of what their boxes
                    # share.
                    whole = not (slanting[i] or slanting[j])
                    if whole:
                        x, y = max(low_x, box[j, 0]), max(low_y, box[j, 1])
                        if cell_of(x, x0, cell, columns) != c or cell_of(y, y0, cell, rows) != r:
                            continue
                    joined = following[si] == sj and i == chords_begin[si + 1] - 1 and j == chords_begin[sj]
                    if joined and goes_on(a, b):
                        continue
                    joined = following[sj] == si and j == chords_begin[sj + 1] - 1 and i == chords_begin[si]
                    if joined and goes_on(b, a):
                        continue
                    away, s, t = chords_apart(a, b)
                    reach = a[REACH] + b[REACH] + slack
                    if away > reach:
                        continue
                    # Of cells that only chords pass, it counts in the one of the place between them that both reach.
                    part = (a[REACH] + slack / 2) / reach
                    x, y = a[AX] + s * (a[BX] - a[AX]), a[AY] + s * (a[BY] - a[AY])
                    x += part * (b[AX] + t * (b[BX] - b[AX]) - x)
                    y += part * (b[AY] + t * (b[BY] - b[AY]) - y)
                    if not whole and (cell_of(x, x0, cell, columns) != c or cell_of(y, y0, cell, rows) != r):
                        continue
                    if found < most:
                        swap = si > sj
                        pairs[found, 0], pairs[found, 1] = (j, i) if swap else (i, j)
                        shares[found, 0], shares[found, 1] = (t, s) if swap else (s, t)
                        once[found] = once_at_most(a, b)
                    found += 1
    listed = min(found, most)
    return pairs[:listed].copy(), shares[:listed].copy(), once[:listed].copy(), found
