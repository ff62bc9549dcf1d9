"""The order of edges round their nodes, and the cycles of half-edges that run round the faces between them.

Half-edge 2e runs along edge e, 2e + 1 against it; each has the face on its right, which with y down lies towards
growing angles.
"""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .curves import ARC, curve_at, length
from .noding import join, root_of

LINE = 0
#: Where tangents at a node are this far apart, as `turn_of` counts them, they tell the order; else it is read off
#: farther away.
CLEAR = 0.02


@kernel("f8(i8, f8[::1], f8, f8, f8, f8)")
def reach_of(kind, g, t0, t1, x, y):
    """How far a span gets from its first node before it comes back."""
    most = 0.0
    for k in range(1, 17):
        px, py, _, _ = curve_at(kind, g, t0 + (t1 - t0) * k / 16)
        away = length(px - x, py - y)
        if away < most:
            break
        most = away
    return most


@kernel("f8(f8, f8)")
def turn_of(dx, dy):
    """A number from 0 to 4 that grows with the angle of a direction, without a trigonometric function."""
    part = dy / (abs(dx) + abs(dy))
    return (2 - part) if dx < 0 else (part if dy >= 0 else 4 + part)


@kernel("Tuple((f8, f8))(i8, f8[::1], f8, f8, f8)")
def leaving_along(kind, g, t, x, y):
    """The direction of a curve at a parameter, where it is at (x, y)."""
    if kind == ARC:
        return (g[1] - y) * g[4], (x - g[0]) * g[4]
    _, _, dx, dy = curve_at(kind, g, t)
    return dx, dy


@kernel("f8(i8, f8[::1], f8, f8, f8, f8, f8)")
def angle_at(kind, g, t0, t1, x, y, radius):
    """The direction in which a span leaves a node, seen at a distance from it, which tells tangent curves apart."""
    low, high = t0, t0
    for k in range(1, 33):
        t = t0 + (t1 - t0) * k / 32
        px, py, _, _ = curve_at(kind, g, t)
        if length(px - x, py - y) >= radius:
            high = t
            break
        low = high = t
    for _ in range(50):
        t = (low + high) / 2
        px, py, _, _ = curve_at(kind, g, t)
        if length(px - x, py - y) >= radius:
            high = t
        else:
            low = t
    px, py, _, _ = curve_at(kind, g, high)
    return turn_of(px - x, py - y)


@kernel("void(f8[::1], i8[::1], i8)")
def sort_angles(angle, half, n):
    for i in range(1, n):
        a, h = angle[i], half[i]
        j = i - 1
        while j >= 0 and angle[j] > a:
            angle[j + 1], half[j + 1] = angle[j], half[j]
            j -= 1
        angle[j + 1], half[j + 1] = a, h


@kernel("b1(f8[::1], i8)")
def all_clear(angle, n):
    for i in range(n):
        gap = angle[i + 1] - angle[i] if i + 1 < n else angle[0] + 4 - angle[i]
        if gap < CLEAR:
            return False
    return True


@kernel("i8[::1](f8[:, ::1], i8[::1], f8[:, ::1], i8[:, ::1], Array(i8, 1, 'C', readonly=True), f8[:, ::1])")
def turned_back(node, segment, span, ends, kind, geometry):
    """For each half-edge (2E,), the one that leaves the same node just before it in the order of growing angles."""
    n = len(segment)
    begin = np.zeros(len(node) + 1, np.int64)
    for e in range(n):
        begin[ends[e, 0] + 1] += 1
        begin[ends[e, 1] + 1] += 1
    most = 0
    for k in range(len(node)):
        most = max(most, begin[k + 1])
        begin[k + 1] += begin[k]
    leaving, fill = np.empty(2 * n, np.int64), begin[:-1].copy()
    for e in range(n):
        for side in range(2):
            a = ends[e, side]
            leaving[fill[a]] = 2 * e + side
            fill[a] += 1
    before = np.empty(2 * n, np.int64)
    angle, half = np.empty(most), np.empty(most, np.int64)
    for a in range(len(node)):
        degree = begin[a + 1] - begin[a]
        if degree <= 2:
            for p in range(begin[a], begin[a + 1]):
                before[leaving[p]] = leaving[begin[a] + (p - begin[a] + 1) % degree]
            continue
        x, y = node[a]
        clear = True
        for p in range(degree):
            h = leaving[begin[a] + p]
            e, side = h >> 1, h & 1
            s = segment[e]
            dx, dy = leaving_along(kind[s], geometry[s], span[e, side], x, y)
            way = 1.0 if side == 0 else -1.0
            clear = clear and dx * dx + dy * dy > 0
            angle[p], half[p] = turn_of(way * dx, way * dy), h
        sort_angles(angle, half, degree)
        if not (clear and all_clear(angle, degree)):
            radius = np.inf
            for p in range(degree):
                e, side = half[p] >> 1, half[p] & 1
                s = segment[e]
                radius = min(radius, reach_of(kind[s], geometry[s], span[e, side], span[e, 1 - side], x, y))
            for p in range(degree):
                e, side = half[p] >> 1, half[p] & 1
                s = segment[e]
                t0, t1 = span[e, side], span[e, 1 - side]
                angle[p] = angle_at(kind[s], geometry[s], t0, t1, x, y, 0.4 * radius)
            sort_angles(angle, half, degree)
        for p in range(degree):
            before[half[p]] = half[(p - 1) % degree]
    return before


@kernel("f8(i8, f8[::1], f8, f8)")
def bulge_of(kind, g, t0, t1):
    """The area between a span and its chord, positive where it turns towards growing angles: Green's theorem; for
    cubics by Gauss's rule of three nodes, which is exact for a polynomial of the fifth degree."""
    if kind == LINE:
        return 0.0
    if kind == ARC:
        sweep = g[4] * (t1 - t0)
        return g[2] * g[2] * (sweep - math.sin(sweep)) / 2
    x0, y0, _, _ = curve_at(kind, g, t0)
    total, middle, half = 0.0, (t0 + t1) / 2, (t1 - t0) / 2
    for k in range(3):
        px, py, dx, dy = curve_at(kind, g, middle + (k - 1) * half * 0.7745966692414834)
        total += (8 if k == 1 else 5) / 9 * ((px - x0) * dy - (py - y0) * dx)
    return total * half / 2


@kernel(
    "Tuple((i8[::1], f8[::1], i8[::1], i8[::1], b1))(i8[::1], f8[:, ::1], i8[::1], f8[:, ::1], i8[:, ::1],"
    " Array(i8, 1, 'C', readonly=True), f8[:, ::1])"
)
def cycles_of(before, node, segment, span, ends, kind, geometry):
    """The cycle that each half-edge is of (2E,), the area of each cycle, its component, the cycle round the outside of
    each component; and whether everything lies in a plane: by Euler's formula, nodes - edges + cycles are two for each
    component, which a wrong order at any node, or a crossing that was missed, breaks."""
    n = len(segment)
    parent = np.arange(len(node))
    for e in range(n):
        join(parent, ends[e, 0], ends[e, 1])
    used = np.zeros(len(node), np.bool_)
    for e in range(n):
        used[ends[e, 0]] = used[ends[e, 1]] = True
    number = np.full(len(node), -1, np.int64)
    components, nodes = 0, 0
    for a in range(len(node)):
        if used[a]:
            nodes += 1
            if root_of(parent, a) == a:
                number[a] = components
                components += 1
    bulge = np.empty(n)
    for e in range(n):
        bulge[e] = bulge_of(kind[segment[e]], geometry[segment[e]], span[e, 0], span[e, 1])
    cycle = np.full(2 * n, -1, np.int64)
    area, component = np.empty(2 * n), np.empty(2 * n, np.int64)
    outside = np.full(components, -1, np.int64)
    cycles = 0
    for first in range(2 * n):
        if cycle[first] >= 0:
            continue
        root = root_of(parent, ends[first >> 1, 0])
        x, y = node[root]
        total, h = 0.0, first
        while cycle[h] < 0:
            cycle[h] = cycles
            e, side = h >> 1, h & 1
            a, b = ends[e, side], ends[e, 1 - side]
            total += ((node[a, 0] - x) * (node[b, 1] - y) - (node[a, 1] - y) * (node[b, 0] - x)) / 2
            total += bulge[e] if side == 0 else -bulge[e]
            h = before[h ^ 1]
        area[cycles], component[cycles] = total, number[root]
        c = number[root]
        if outside[c] < 0 or total < area[outside[c]]:
            outside[c] = cycles
        cycles += 1
    planar = nodes - n + cycles == 2 * components
    return cycle, area[:cycles].copy(), component[:cycles].copy(), outside, planar
