"""Edges between the same two nodes that are one."""

from __future__ import annotations

import numpy as np

from ...compiled import kernel
from .curves import curve_at, length, nearest_between

LINE = 0


@kernel("b1(i8, i8, i8[::1], f8[:, ::1], Array(i8, 1, 'C', readonly=True), f8[:, ::1], f8)")
def lies_on(j, i, segment, span, kind, geometry, same):
    """Whether edge j is on edge i all along."""
    s, other = segment[i], segment[j]
    # A straight line and another with the same ends.
    if kind[s] == LINE and kind[other] == LINE:
        return True
    for look in (0.31, 0.5, 0.73):
        t = span[j, 0] + look * (span[j, 1] - span[j, 0])
        x, y, _, _ = curve_at(kind[other], geometry[other], t)
        _, away = nearest_between(kind[s], geometry[s], span[i, 0], span[i, 1], x, y)
        if away > same:
            return False
    return True


@kernel("i8(i8, i8, i8[::1], f8[:, ::1], Array(i8, 1, 'C', readonly=True), f8[:, ::1])")
def way_round(j, i, segment, span, kind, geometry):
    """Whether loop j runs the same way as loop i (1), or the other (-1): by which end its first step is near."""
    s, other = segment[i], segment[j]
    t = span[i, 0] + 0.1 * (span[i, 1] - span[i, 0])
    u = span[j, 0] + 0.1 * (span[j, 1] - span[j, 0])
    v = span[j, 0] + 0.9 * (span[j, 1] - span[j, 0])
    x, y, _, _ = curve_at(kind[s], geometry[s], t)
    ux, uy, _, _ = curve_at(kind[other], geometry[other], u)
    vx, vy, _, _ = curve_at(kind[other], geometry[other], v)
    return 1 if length(ux - x, uy - y) < length(vx - x, vy - y) else -1


@kernel(
    "Tuple((i8[::1], i8[::1]))(i8, i8[:, ::1], i8[::1], f8[:, ::1], Array(i8, 1, 'C', readonly=True), f8[:, ::1], f8)"
)
def same_edges(nodes, ends, segment, span, kind, geometry, same):
    """The edge that stands for each (E,), the first of those that lie on each other, and whether it runs the same way
    (1 or -1). same: how near to each other, in mm, edges are one."""
    n = len(segment)
    begin = np.zeros(nodes + 1, np.int64)
    for e in range(n):
        begin[min(ends[e, 0], ends[e, 1]) + 1] += 1
    for k in range(nodes):
        begin[k + 1] += begin[k]
    member, fill = np.empty(n, np.int64), begin[:-1].copy()
    for e in range(n):
        low = min(ends[e, 0], ends[e, 1])
        member[fill[low]] = e
        fill[low] += 1
    lead, sign = np.arange(n), np.ones(n, np.int64)
    for k in range(nodes):
        for p in range(begin[k], begin[k + 1]):
            i = member[p]
            if lead[i] != i:
                continue
            high = max(ends[i, 0], ends[i, 1])
            for q in range(p + 1, begin[k + 1]):
                j = member[q]
                if lead[j] != j or max(ends[j, 0], ends[j, 1]) != high:
                    continue
                if lies_on(j, i, segment, span, kind, geometry, same):
                    lead[j] = i
                    if k != high:
                        sign[j] = 1 if ends[j, 0] == ends[i, 0] else -1
                    else:
                        sign[j] = way_round(j, i, segment, span, kind, geometry)
    return lead, sign


@kernel("Tuple((i8[::1], i8[::1], i8[::1], i8[::1]))(i8[::1], i8[::1], i8[::1])")
def nets(lead, sign, operand):
    """How often each operand's outlines run along each edge that stands for others, with its direction less against:
    the edges kept (K,), the first entry of each (K+1,), the operand and the net number of each entry. operand (E,) is
    -1 for lines that bound nothing. Edges that are run along as often one way as the other part nothing from nothing;
    they are kept only where such a line runs there."""
    n = len(lead)
    count = np.zeros(n + 1, np.int64)
    for e in range(n):
        count[lead[e] + 1] += 1
    for e in range(n):
        count[e + 1] += count[e]
    member, fill = np.empty(n, np.int64), count[:-1].copy()
    for e in range(n):
        member[fill[lead[e]]] = e
        fill[lead[e]] += 1
    kept, begin = np.empty(n, np.int64), np.zeros(n + 1, np.int64)
    who, net = np.empty(n, np.int64), np.empty(n, np.int64)
    k, m = 0, 0
    for e in range(n):
        first, line = m, False
        for p in range(count[e], count[e + 1]):
            o, way = operand[member[p]], sign[member[p]]
            if o < 0:
                line = True
                continue
            at = first
            while at < m and who[at] != o:
                at += 1
            if at == m:
                who[m], net[m] = o, 0
                m += 1
            net[at] += way
        last, m = m, first
        for p in range(first, last):
            if net[p] != 0:
                who[m], net[m] = who[p], net[p]
                m += 1
        if m > first or line:
            kept[k] = e
            k += 1
            begin[k] = m
    return kept[:k].copy(), begin[: k + 1].copy(), who[:m].copy(), net[:m].copy()
