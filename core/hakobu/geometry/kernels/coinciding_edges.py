"""Edges between the same two nodes that are one."""

from __future__ import annotations

import math

import numpy as np

from ..compiled import kernel
from .curves import LOOKS, curve_at, foot_near


@kernel("f8(i8, f8[::1], f8, f8, f8, f8)")
def off_span(kind, g, t0, t1, x, y):
    """How far a point is from a span of a curve."""
    away = np.empty(LOOKS + 1)
    for k in range(LOOKS + 1):
        px, py, _, _ = curve_at(kind, g, t0 + (t1 - t0) * k / LOOKS)
        away[k] = math.hypot(px - x, py - y)
    best = min(away[0], away[LOOKS])
    slack = 1e-6
    for k in range(LOOKS + 1):
        if (k > 0 and away[k - 1] < away[k]) or (k < LOOKS and away[k + 1] < away[k]):
            continue
        t, near = foot_near(kind, g, x, y, t0 + (t1 - t0) * k / LOOKS)
        if t0 - slack <= t <= t1 + slack:
            best = min(best, near)
    return best


@kernel(
    "Tuple((i8[::1], i8[::1]))(i8[::1], i8[::1], i8[::1], i8[::1], f8[:, ::1], Array(i8, 1, 'C', readonly=True),"
    " f8[:, ::1], f8)"
)
def same_edges(low, high, first, segment, span, kind, geometry, same):
    """For edges sorted by their nodes: the edge that stands for each, and whether it runs the same way (1 or -1). same:
    how near to each other, in mm, edges are one."""
    n = len(low)
    lead, sign = np.arange(n), np.ones(n, np.int64)
    for i in range(n):
        if lead[i] != i:
            continue
        s = segment[i]
        j = i + 1
        while j < n and low[j] == low[i] and high[j] == high[i]:
            if lead[j] == j:
                other = segment[j]
                one = True
                for look in (0.31, 0.5, 0.73):
                    t = span[j, 0] + look * (span[j, 1] - span[j, 0])
                    x, y, _, _ = curve_at(kind[other], geometry[other], t)
                    one = one and off_span(kind[s], geometry[s], span[i, 0], span[i, 1], x, y) <= same
                if one:
                    lead[j] = i
                    if low[i] != high[i]:
                        sign[j] = 1 if first[j] == first[i] else -1
                    else:
                        # A loop: the same way where the first steps are on the same side.
                        t = span[i, 0] + 0.1 * (span[i, 1] - span[i, 0])
                        u = span[j, 0] + 0.1 * (span[j, 1] - span[j, 0])
                        v = span[j, 0] + 0.9 * (span[j, 1] - span[j, 0])
                        x, y, _, _ = curve_at(kind[s], geometry[s], t)
                        ux, uy, _, _ = curve_at(kind[other], geometry[other], u)
                        vx, vy, _, _ = curve_at(kind[other], geometry[other], v)
                        near = math.hypot(ux - x, uy - y) < math.hypot(vx - x, vy - y)
                        sign[j] = 1 if near else -1
            j += 1
    return lead, sign
