"""Pairs of straight segments that cross, found through a grid of cells."""

from __future__ import annotations

import math

import numpy as np

from ..compiled import kernel

#: Two segments cross where each one's ends lie on different sides of the other by more than this share of its length:
#: what only touches does not cross.
CLEARLY = 1e-9


@kernel("Tuple((i8, i8))(f8, f8, f8, f8, i8)")
def cell_range(a, b, origin, cell, count):
    low = math.floor((min(a, b) - origin) / cell)
    high = math.floor((max(a, b) - origin) / cell)
    last = count - 1
    return min(max(low, 0), last), min(max(high, 0), last)


@kernel("Tuple((i8, i8))(f8, f8, f8, f8, f8, f8, f8, i8, i8)")
def row_range(ax, ay, bx, by, x0, y0, cell, columns, r):
    """The columns that a segment passes within a row of cells."""
    low, high = ax, bx
    if ay != by:
        t0 = (y0 + r * cell - ay) / (by - ay)
        t1 = (y0 + (r + 1) * cell - ay) / (by - ay)
        t0, t1 = min(max(min(t0, t1), 0.0), 1.0), min(max(max(t0, t1), 0.0), 1.0)
        low, high = ax + t0 * (bx - ax), ax + t1 * (bx - ax)
    # A hair's breadth more, so that rounding loses no cell.
    slack = 1e-9 * cell
    return cell_range(min(low, high) - slack, max(low, high) + slack, x0, cell, columns)


@kernel("f8(f8, f8, f8, f8, f8, f8)")
def side(ax, ay, bx, by, px, py):
    return (bx - ax) * (py - ay) - (by - ay) * (px - ax)


@kernel(
    "Tuple((i8[:, ::1], f8[:, ::1]))"
    "(Array(f8, 2, 'C', readonly=True), Array(f8, 2, 'C', readonly=True), Array(i8, 1, 'C', readonly=True), f8, i8)"
)
def crossing_pairs(first, last, group, cell, most):
    """pairs (N, 2), i < j, of segments of one group that cross, and places (N, 2); at most so many."""
    n = len(first)
    x0 = min(first[:, 0].min(), last[:, 0].min())
    y0 = min(first[:, 1].min(), last[:, 1].min())
    columns = int((max(first[:, 0].max(), last[:, 0].max()) - x0) / cell) + 1
    rows = int((max(first[:, 1].max(), last[:, 1].max()) - y0) / cell) + 1
    begin = np.zeros(columns * rows + 1, np.int64)
    for i in range(n):
        r0, r1 = cell_range(first[i, 1], last[i, 1], y0, cell, rows)
        for r in range(r0, r1 + 1):
            c0, c1 = row_range(first[i, 0], first[i, 1], last[i, 0], last[i, 1], x0, y0, cell, columns, r)
            for c in range(c0, c1 + 1):
                begin[r * columns + c + 1] += 1
    for k in range(columns * rows):
        begin[k + 1] += begin[k]
    member = np.empty(begin[columns * rows], np.int64)
    fill = begin[:-1].copy()
    for i in range(n):
        r0, r1 = cell_range(first[i, 1], last[i, 1], y0, cell, rows)
        for r in range(r0, r1 + 1):
            c0, c1 = row_range(first[i, 0], first[i, 1], last[i, 0], last[i, 1], x0, y0, cell, columns, r)
            for c in range(c0, c1 + 1):
                k = r * columns + c
                member[fill[k]] = i
                fill[k] += 1
    pairs = np.empty((most, 2), np.int64)
    places = np.empty((most, 2), np.float64)
    found = 0
    for r in range(rows):
        for c in range(columns):
            k = r * columns + c
            for a in range(begin[k], begin[k + 1]):
                i = member[a]
                for b in range(a + 1, begin[k + 1]):
                    j = member[b]
                    if group[i] != group[j]:
                        continue
                    if max(first[i, 0], last[i, 0]) < min(first[j, 0], last[j, 0]):
                        continue
                    if max(first[j, 0], last[j, 0]) < min(first[i, 0], last[i, 0]):
                        continue
                    if max(first[i, 1], last[i, 1]) < min(first[j, 1], last[j, 1]):
                        continue
                    if max(first[j, 1], last[j, 1]) < min(first[i, 1], last[i, 1]):
                        continue
                    ax, ay, bx, by = first[i, 0], first[i, 1], last[i, 0], last[i, 1]
                    cx, cy, dx, dy = first[j, 0], first[j, 1], last[j, 0], last[j, 1]
                    near = CLEARLY * math.hypot(bx - ax, by - ay) * math.hypot(dx - cx, dy - cy)
                    s1, s2 = side(ax, ay, bx, by, cx, cy), side(ax, ay, bx, by, dx, dy)
                    if not ((s1 > near and s2 < -near) or (s1 < -near and s2 > near)):
                        continue
                    t1, t2 = side(cx, cy, dx, dy, ax, ay), side(cx, cy, dx, dy, bx, by)
                    if not ((t1 > near and t2 < -near) or (t1 < -near and t2 > near)):
                        continue
                    share = t1 / (t1 - t2)
                    x, y = ax + share * (bx - ax), ay + share * (by - ay)
                    cc, _ = cell_range(x, x, x0, cell, columns)
                    rr, _ = cell_range(y, y, y0, cell, rows)
                    # Two that share several cells are counted in the one where they cross.
                    if cc != c or rr != r:
                        continue
                    if found == most:
                        return pairs, places
                    pairs[found, 0], pairs[found, 1] = min(i, j), max(i, j)
                    places[found, 0], places[found, 1] = x, y
                    found += 1
    return pairs[:found].copy(), places[:found].copy()
