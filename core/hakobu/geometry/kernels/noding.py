"""Places that are one made one, and curves cut there into edges."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .curves import curve_at, foot_near, length

#: Cuts of a segment at one node farther apart than this are two passes through it.
NEAR_PARAMETER = 0.01


@kernel("i8(i8[::1], i8)")
def root_of(parent, i):
    while parent[i] != i:
        parent[i] = parent[parent[i]]
        i = parent[i]
    return i


@kernel("void(i8[::1], i8, i8)")
def join(parent, i, j):
    """The lower number stands for both."""
    a, b = root_of(parent, i), root_of(parent, j)
    if a < b:
        parent[b] = a
    elif b < a:
        parent[a] = b


@kernel("u8(i8, i8)")
def hash_of(x, y):
    h = np.uint64(x) * np.uint64(0x9E3779B97F4A7C15) ^ np.uint64(y) * np.uint64(0xC2B2AE3D27D4EB4F)
    h ^= h >> np.uint64(29)
    h *= np.uint64(0x165667B19E3779F9)
    return h ^ (h >> np.uint64(32))


@kernel("i8[::1](f8[:, ::1], f8)")
def snapped(point, snap):
    """The point that stands for each (N,), the first of those that are one: points within snap of each other are, and
    so on from one to the next. Points are kept in a table of cells many times as large, so that most need one look."""
    n = len(point)
    cell = 16 * snap
    size = 16
    while size < 3 * n:
        size *= 2
    mask = np.uint64(size - 1)
    slot_x, slot_y = np.empty(size, np.int64), np.empty(size, np.int64)
    head, after = np.full(size, -1, np.int64), np.full(n, -1, np.int64)
    parent = np.arange(n)
    for i in range(n):
        x, y = point[i, 0], point[i, 1]
        cx, cy = math.floor(x / cell), math.floor(y / cell)
        x0, x1 = math.floor((x - snap) / cell), math.floor((x + snap) / cell)
        y0, y1 = math.floor((y - snap) / cell), math.floor((y + snap) / cell)
        same = False
        for u in range(x0, x1 + 1):
            for v in range(y0, y1 + 1):
                k = hash_of(u, v) & mask
                while head[k] >= 0 and (slot_x[k] != u or slot_y[k] != v):
                    k = (k + np.uint64(1)) & mask
                j = head[k]
                while j >= 0:
                    if length(point[j, 0] - x, point[j, 1] - y) <= snap:
                        join(parent, i, j)
                        same = same or (point[j, 0] == x and point[j, 1] == y)
                    j = after[j]
        # Of points that are the same to the bit one is enough.
        if same:
            continue
        k = hash_of(cx, cy) & mask
        while head[k] >= 0 and (slot_x[k] != cx or slot_y[k] != cy):
            k = (k + np.uint64(1)) & mask
        slot_x[k], slot_y[k] = cx, cy
        after[i] = head[k]
        head[k] = i
    for i in range(n):
        parent[i] = root_of(parent, i)
    return parent


@kernel("void(f8[::1], i8[::1], b1[::1], i8, i8)")
def sort_cuts(at, label, own, a, b):
    """Sorts the cuts a to b by their parameter; there are few."""
    for i in range(a + 1, b):
        t, n, o = at[i], label[i], own[i]
        j = i - 1
        while j >= a and at[j] > t:
            at[j + 1], label[j + 1], own[j + 1] = at[j], label[j], own[j]
            j -= 1
        at[j + 1], label[j + 1], own[j + 1] = t, n, o


@kernel(
    "Tuple((i8[::1], f8[:, ::1], i8[:, ::1], i8[::1]))(i8, i8[::1], i8[::1], i8[::1], f8[::1], i8[::1], b1[::1],"
    " f8[:, ::1],"
    " Array(i8, 1, 'C', readonly=True), f8[:, ::1], f8)"
)
def edges_of(segments, first, last, cut_of, cut_at, cut_node, cut_own, point, kind, geometry, snap):
    """Spans between the cuts of each segment: its number (E,), the parameters (E, 2) and nodes (E, 2) at the ends, and
    the first edge of each segment (M+1,).

    first, last (M,): nodes at the ends of each segment. cut_of, cut_at, cut_node, cut_own (C,): the segment,
    parameter and node of each cut, and whether the node lies just there;
    point (N, 2): where nodes lie. Cuts of a segment that are one node have one
    parameter: the end's where one of them is an end, else that of the place nearest to the node. Spans that go nowhere
    are no edges.
    """
    total = len(cut_of)
    begin = np.zeros(segments + 1, np.int64)
    for c in range(total):
        begin[cut_of[c] + 1] += 1
    for i in range(segments):
        begin[i + 1] += begin[i] + 2
    at, label = np.empty(begin[segments]), np.empty(begin[segments], np.int64)
    own = np.zeros(begin[segments], np.bool_)
    fill = begin[:-1].copy()
    for i in range(segments):
        at[fill[i]], label[fill[i]] = 0.0, first[i]
        fill[i] += 1
    for c in range(total):
        i = cut_of[c]
        at[fill[i]], label[fill[i]], own[fill[i]] = cut_at[c], cut_node[c], cut_own[c]
        fill[i] += 1
    segment = np.empty(begin[segments], np.int64)
    span, ends = np.empty((begin[segments], 2)), np.empty((begin[segments], 2), np.int64)
    edge_begin = np.zeros(segments + 1, np.int64)
    n = 0
    for i in range(segments):
        edge_begin[i] = n
        a, b = begin[i], begin[i + 1]
        at[b - 1], label[b - 1] = 1.0, last[i]
        sort_cuts(at, label, own, a, b)
        k = a
        while k < b:
            m = k
            while m + 1 < b and label[m + 1] == label[k] and at[m + 1] - at[m] <= NEAR_PARAMETER:
                m += 1
            one = at[k]
            for r in range(k, m + 1):
                if own[r]:
                    one = at[r]
                    break
            else:
                if at[k] > 0 and at[m] < 1:
                    x, y = point[label[k]]
                    one, _ = foot_near(kind[i], geometry[i], x, y, at[k])
            if at[k] == 0.0 or at[m] == 1.0:
                one = 0.0 if at[k] == 0.0 else 1.0
            for r in range(k, m + 1):
                at[r] = one
            k = m + 1
        for k in range(a, b - 1):
            t0, t1 = at[k], at[k + 1]
            if label[k] == label[k + 1]:
                if t1 - t0 <= 1e-6:
                    continue
                # An edge from a node to itself is a loop only where it goes somewhere between.
                x0, y0, _, _ = curve_at(kind[i], geometry[i], t0)
                x1, y1, _, _ = curve_at(kind[i], geometry[i], (t0 + t1) / 2)
                if length(x1 - x0, y1 - y0) <= snap:
                    continue
            segment[n], span[n, 0], span[n, 1], ends[n, 0], ends[n, 1] = i, t0, t1, label[k], label[k + 1]
            n += 1
    edge_begin[segments] = n
    return segment[:n].copy(), span[:n].copy(), ends[:n].copy(), edge_begin
