"""Edges linked into outlines: at each node the next one is the first that is met on the inner side."""

from __future__ import annotations

import math

import numpy as np

from ..compiled import kernel
from .curves import curve_at


@kernel("f8(i8, f8[::1], f8, f8, f8, f8, f8)")
def angle_at(kind, g, t0, t1, x, y, radius):
    """The direction in which a span leaves a node, seen at a distance from it, which tells tangent curves apart."""
    low, high = t0, t0
    for k in range(1, 33):
        t = t0 + (t1 - t0) * k / 32
        px, py, _, _ = curve_at(kind, g, t)
        if math.hypot(px - x, py - y) >= radius:
            high = t
            break
        low = high = t
    for _ in range(50):
        t = (low + high) / 2
        px, py, _, _ = curve_at(kind, g, t)
        if math.hypot(px - x, py - y) >= radius:
            high = t
        else:
            low = t
    px, py, _, _ = curve_at(kind, g, high)
    return math.atan2(py - y, px - x)


@kernel("f8(i8, f8[::1], f8, f8, f8, f8)")
def reach_of(kind, g, t0, t1, x, y):
    """How far a span gets from its first node before it comes back."""
    most = 0.0
    for k in range(1, 17):
        px, py, _, _ = curve_at(kind, g, t0 + (t1 - t0) * k / 16)
        away = math.hypot(px - x, py - y)
        if away < most:
            break
        most = away
    return most


@kernel(
    "Tuple((i8[::1], i8[::1], b1))(f8[:, ::1], i8[::1], f8[:, ::1], i8[:, ::1], Array(i8, 1, 'C', readonly=True),"
    " f8[:, ::1])"
)
def link(node, segment, span, ends, kind, geometry):
    """Outlines of directed edges (spans may run backwards) with the inside on their right: the edges in order (E,), the
    first place of each outline (K+1,), and whether every node had as many edges in as out."""
    n = len(segment)
    degree = np.zeros(len(node) + 1, np.int64)
    for e in range(n):
        degree[ends[e, 0] + 1] += 1
    for k in range(len(node)):
        degree[k + 1] += degree[k]
    leaving = np.empty(n, np.int64)
    fill = degree[:-1].copy()
    balance = np.zeros(len(node), np.int64)
    for e in range(n):
        leaving[fill[ends[e, 0]]] = e
        fill[ends[e, 0]] += 1
        balance[ends[e, 0]] += 1
        balance[ends[e, 1]] -= 1
    good = not balance.any()
    radius = np.full(len(node), np.inf)
    for e in range(n):
        s = segment[e]
        for side in range(2):
            a = ends[e, side]
            t0, t1 = (span[e, 0], span[e, 1]) if side == 0 else (span[e, 1], span[e, 0])
            radius[a] = min(radius[a], 0.4 * reach_of(kind[s], geometry[s], t0, t1, node[a, 0], node[a, 1]))
    out_angle, in_angle = np.zeros(n), np.zeros(n)
    for e in range(n):
        a, b, s = ends[e, 0], ends[e, 1], segment[e]
        if degree[a + 1] - degree[a] > 1:
            out_angle[e] = angle_at(kind[s], geometry[s], span[e, 0], span[e, 1], node[a, 0], node[a, 1], radius[a])
        if degree[b + 1] - degree[b] > 1:
            in_angle[e] = angle_at(kind[s], geometry[s], span[e, 1], span[e, 0], node[b, 0], node[b, 1], radius[b])
    used = np.zeros(n, np.bool_)
    order = np.empty(n, np.int64)
    start = np.zeros(n + 1, np.int64)
    outlines, m = 0, 0
    for first in range(n):
        if used[first]:
            continue
        e = first
        while not used[e]:
            used[e] = True
            order[m] = e
            m += 1
            b = ends[e, 1]
            best, nearest = -1, np.inf
            for p in range(degree[b], degree[b + 1]):
                f = leaving[p]
                if used[f] and f != first:
                    continue
                if degree[b + 1] - degree[b] == 1:
                    best = f
                    break
                # Turning from where it came over the right, which with y down is against growing angles.
                turn = (in_angle[e] - out_angle[f]) % (2 * math.pi)
                turn = turn if turn > 0 else 2 * math.pi
                if turn < nearest:
                    best, nearest = f, turn
            if best < 0:
                good = False
                break
            e = best
        good = good and e == first
        outlines += 1
        start[outlines] = m
    return order[:m].copy(), start[: outlines + 1].copy(), good
