"""Runs of raw pieces as rows of their own, linked into closed outlines."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from ..proximity.kernels.reach import place_on
from .curves import length
from .elements import ANGLE, COLUMNS, CX, CY, RADIUS, SWEEP, UX, UY, VX, VY, X0, X1, Y0, Y1
from .parallels import size_of

#: A piece goes on as the one after it where both are left up to their ends and the gap is less, in mm.
STEP_MM = 1e-4


@kernel("f8[:, ::1](f8[:, ::1], i8[::1], f8[:, ::1])")
def cut_out(pieces, owner, shares):
    """The rows of runs between two shares of pieces."""
    made = np.empty((len(owner), COLUMNS))
    for r in range(len(owner)):
        row = pieces[owner[r]]
        made[r] = row
        low, high = shares[r]
        if low > 0:
            made[r, X0], made[r, Y0], made[r, UX], made[r, UY] = place_on(row, low)
        if high < 1:
            made[r, X1], made[r, Y1], made[r, VX], made[r, VY] = place_on(row, high)
        made[r, ANGLE], made[r, SWEEP] = row[ANGLE] + low * row[SWEEP], row[SWEEP] * (high - low)
    return made


@kernel("i8[::1](f8[:, ::1], i8[::1], f8[:, ::1], i8[::1])")
def succeeded(rows, owner, shares, following):
    """The run that goes on where each ends, by the order of the pieces; -1 where that is cut off."""
    head = np.full(len(following), -1, np.int64)
    for r in range(len(owner)):
        if shares[r, 0] == 0:
            head[owner[r]] = r
    after = np.full(len(owner), -1, np.int64)
    for r in range(len(owner)):
        if shares[r, 1] < 1:
            continue
        f = following[owner[r]]
        if f >= 0 and head[f] >= 0:
            q = head[f]
            if length(rows[q, X0] - rows[r, X1], rows[q, Y0] - rows[r, Y1]) <= STEP_MM:
                after[r] = q
    return after


@kernel("void(i8[::1], i8[::1], i8[::1], b1[::1])")
def matched(last, first, after, taken):
    """Links ends to beginnings in the order of the pairs given. taken (R,): beginnings that are linked."""
    for k in range(len(last)):
        e, s = last[k], first[k]
        if after[e] < 0 and not taken[s]:
            after[e], taken[s] = s, True


@kernel("f8[::1](f8[:, ::1])")
def sizes_of(rows):
    """The length of each row."""
    made = np.empty(len(rows))
    for r in range(len(rows)):
        made[r] = size_of(rows[r])
    return made


@kernel("Tuple((i8[::1], i8[::1]))(i8[::1])")
def rings_of(after):
    """The runs of each closed outline in order, and where each begins (K+1,)."""
    order, start = np.empty(len(after), np.int64), np.empty(len(after) + 1, np.int64)
    used = np.zeros(len(after), np.bool_)
    n, k = 0, 0
    start[0] = 0
    for r in range(len(after)):
        if used[r]:
            continue
        at = r
        while at >= 0 and not used[at]:
            used[at] = True
            order[n] = at
            n += 1
            at = after[at]
        k += 1
        start[k] = n
    return order[:n].copy(), start[: k + 1].copy()


@kernel("void(f8[::1], f8, f8, f8, f8)")
def moved_to(row, x0, y0, x1, y1):
    """A row's ends put where they meet others; an arc keeps its centre."""
    if row[SWEEP] != 0:
        first, last = math.atan2(y0 - row[CY], x0 - row[CX]), math.atan2(y1 - row[CY], x1 - row[CX])
        change = first - row[ANGLE]
        change -= 2 * math.pi * math.floor(change / (2 * math.pi) + 0.5)
        change_end = last - row[ANGLE] - row[SWEEP]
        change_end -= 2 * math.pi * math.floor(change_end / (2 * math.pi) + 0.5)
        sweep = row[SWEEP] + change_end - change
        row[ANGLE] = row[ANGLE] + change
        row[SWEEP] = sweep if sweep * row[SWEEP] > 0 else row[SWEEP] * 1e-9
    row[X0], row[Y0], row[X1], row[Y1] = x0, y0, x1, y1


@kernel("b1(f8[::1], f8[::1], f8)")
def goes_on(row, after, within):
    """Whether a row goes on as the next along the same line or circle, at most half of that together."""
    if row[UX] * after[UX] + row[UY] * after[UY] <= 0 and row[SWEEP] == 0:
        return False
    if row[SWEEP] == 0 or after[SWEEP] == 0:
        if row[SWEEP] != after[SWEEP]:
            return False
        dx, dy = after[X1] - row[X0], after[Y1] - row[Y0]
        size = max(length(dx, dy), 1e-300)
        return abs((row[X1] - row[X0]) * dy - (row[Y1] - row[Y0]) * dx) <= within * size
    near = length(row[CX] - after[CX], row[CY] - after[CY]) <= within
    near = near and abs(row[RADIUS] - after[RADIUS]) <= within and row[SWEEP] * after[SWEEP] > 0
    return near and abs(row[SWEEP] + after[SWEEP]) <= math.pi + 1e-9


@kernel("Tuple((f8[:, ::1], i8[::1], b1[::1], i8[::1]))(f8[:, ::1], i8[::1], b1[::1], i8[::1], i8[::1], f8)")
def joined_up(rows, owner, plain, order, start, within):
    """Rows in the order of their outlines, each beginning where the one before it ends, those that go on along one line
    or circle made one and those of no length left out: rows, owner, plain, start."""
    made, made_owner = np.empty((len(order), COLUMNS)), np.empty(len(order), np.int64)
    made_plain, made_start = np.empty(len(order), np.bool_), np.zeros(len(start), np.int64)
    n = 0
    outlines = 0
    for k in range(len(start) - 1):
        a, count = start[k], start[k + 1] - start[k]
        first = n
        for j in range(count):
            r, q = order[a + j], order[a + (j - 1) % count]
            f = order[a + (j + 1) % count]
            x0, y0 = (rows[q, X1] + rows[r, X0]) / 2, (rows[q, Y1] + rows[r, Y0]) / 2
            x1, y1 = (rows[r, X1] + rows[f, X0]) / 2, (rows[r, Y1] + rows[f, Y0]) / 2
            made[n] = rows[r]
            moved_to(made[n], x0, y0, x1, y1)
            made_owner[n], made_plain[n] = owner[r], plain[r]
            if n > first and goes_on(made[n - 1], made[n], within):
                made[n - 1, X1], made[n - 1, Y1] = made[n, X1], made[n, Y1]
                made[n - 1, VX], made[n - 1, VY] = made[n, VX], made[n, VY]
                made[n - 1, SWEEP] += made[n, SWEEP]
                continue
            n += 1
        while n - first > 1 and goes_on(made[n - 1], made[first], within):
            made[first, X0], made[first, Y0] = made[n - 1, X0], made[n - 1, Y0]
            made[first, UX], made[first, UY] = made[n - 1, UX], made[n - 1, UY]
            made[first, ANGLE] = made[n - 1, ANGLE]
            made[first, SWEEP] += made[n - 1, SWEEP]
            n -= 1
        outlines += 1
        made_start[outlines] = n
    return made[:n].copy(), made_owner[:n].copy(), made_plain[:n].copy(), made_start[: outlines + 1].copy()
