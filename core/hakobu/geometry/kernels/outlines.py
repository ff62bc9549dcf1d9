"""Half-edges linked into outlines, spans that go on along one curve made one again."""

from __future__ import annotations

import numpy as np

from ...compiled import kernel


@kernel("Tuple((i8[::1], i8[::1]))(i8[::1], i8[::1], b1[::1])")
def rims(before, cycle, inside):
    """Outlines of what is inside: the half-edges in order, and the first of each outline (K+1,). Each has the inside on
    its right; at each node it goes on along the first edge that is met on the inner side."""
    n = len(before)
    kept, used = np.zeros(n, np.bool_), np.zeros(n, np.bool_)
    for h in range(n):
        kept[h] = inside[cycle[h]] and not inside[cycle[h ^ 1]]
    order, start = np.empty(n, np.int64), np.zeros(n + 1, np.int64)
    m, outlines = 0, 0
    for first in range(n):
        if not kept[first] or used[first]:
            continue
        h = first
        while not used[h]:
            used[h] = True
            order[m] = h
            m += 1
            h = before[h ^ 1]
            while not kept[h]:
                h = before[h]
        outlines += 1
        start[outlines] = m
    return order[:m].copy(), start[: outlines + 1].copy()


@kernel("Tuple((i8[::1], i8[::1]))(i8[::1], i8[::1], i8)")
def all_cycles(before, cycle, cycles):
    """The half-edges of each cycle in order, and the first of each (C+1,)."""
    n = len(before)
    order, start = np.empty(n, np.int64), np.zeros(cycles + 1, np.int64)
    m, done = 0, 0
    for first in range(n):
        # Cycles are numbered by their first half-edge.
        if cycle[first] != done:
            continue
        h = first
        while True:
            order[m] = h
            m += 1
            h = before[h ^ 1]
            if h == first:
                break
        done += 1
        start[done] = m
    return order, start


@kernel("Tuple((i8[::1], f8[:, ::1], i8[:, ::1], i8[::1]))(i8[::1], i8[::1], i8[::1], f8[:, ::1], i8[:, ::1])")
def rejoined(order, start, segment, span, ends):
    """Outlines of half-edges as spans: the segment, parameters and nodes of each, and the first of each outline."""
    n = len(order)
    out_segment, out_span, out_ends = np.empty(n, np.int64), np.empty((n, 2)), np.empty((n, 2), np.int64)
    out_start = np.zeros(len(start), np.int64)
    m = 0
    for k in range(len(start) - 1):
        a, b = start[k], start[k + 1]
        # Begins where one curve ends and another begins, where there is such a place.
        shift = 0
        for p in range(a, b):
            h, g = order[p], order[p - 1 if p > a else b - 1]
            e, f = h >> 1, g >> 1
            if segment[e] != segment[f] or (h ^ g) & 1 or span[e, h & 1] != span[f, 1 - (g & 1)]:
                shift = p - a
                break
        for p in range(b - a):
            h = order[a + (p + shift) % (b - a)]
            e, side = h >> 1, h & 1
            t0, t1 = span[e, side], span[e, 1 - side]
            going = m > out_start[k] and out_segment[m - 1] == segment[e] and out_span[m - 1, 1] == t0
            if going and (out_span[m - 1, 1] > out_span[m - 1, 0]) == (t1 > t0):
                out_span[m - 1, 1], out_ends[m - 1, 1] = t1, ends[e, 1 - side]
            else:
                out_segment[m], out_span[m, 0], out_span[m, 1] = segment[e], t0, t1
                out_ends[m, 0], out_ends[m, 1] = ends[e, side], ends[e, 1 - side]
                m += 1
        out_start[k + 1] = m
    return out_segment[:m].copy(), out_span[:m].copy(), out_ends[:m].copy(), out_start
