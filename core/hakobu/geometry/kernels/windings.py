"""Winding numbers on both sides of edges, by rays whose crossings are found on the true curves."""

from __future__ import annotations

import numpy as np

from ..compiled import kernel
from .curves import curve_at


@kernel("Tuple((f8, f8, f8, f8))(i8, f8[::1], f8, f8, f8)")
def turned_at(kind, g, t, cos, sin):
    """Point and derivative of a curve in the frame whose first axis is the ray."""
    x, y, dx, dy = curve_at(kind, g, t)
    return x * cos + y * sin, y * cos - x * sin, dx * cos + dy * sin, dy * cos - dx * sin


@kernel("f8(i8, f8[::1], f8, f8, f8, f8, f8)")
def where_level(kind, g, t0, t1, level, cos, sin):
    """How far along the ray's direction a span that passes a level passes it, by halving."""
    _, y0, _, _ = turned_at(kind, g, t0, cos, sin)
    for _ in range(60):
        t = (t0 + t1) / 2
        _, y, _, _ = turned_at(kind, g, t, cos, sin)
        if (y < level) == (y0 < level):
            t0 = t
        else:
            t1 = t
    x, _, _, _ = turned_at(kind, g, (t0 + t1) / 2, cos, sin)
    return x


@kernel(
    "Tuple((i8[:, ::1], i8[:, ::1]))(f8[:, ::1], f8[:, ::1], i8[::1], f8[:, ::1], i8[::1], f8[:, ::1], i8[:, ::1],"
    " Array(i8, 1, 'C', readonly=True), f8[:, ::1], f8, f8, f8, f8[::1])"
)
def windings(first, last, edge, between, segment, span, net, kind, geometry, near, cos, sin, at):
    """Windings right and left of each edge (E, O), at a place on it by its parameter at (E,); none where that is not a
    number. Chords (C, 2) in the ray's frame, of which edge each is, and the parameters on its curve at both ends; near:
    how far a chord may lie from its curve; cos, sin: of the ray's direction."""
    edges, operands = net.shape
    low, high = np.inf, -np.inf
    for i in range(len(first)):
        low = min(low, first[i, 1], last[i, 1])
        high = max(high, first[i, 1], last[i, 1])
    rows = max(min(len(first), 200_000), 1)
    step = max((high - low) / rows, 1e-12)
    begin = np.zeros(rows + 1, np.int64)
    member = np.empty(0, np.int64)
    fill = begin[:-1].copy()
    for turn in range(2):
        if turn == 1:
            for k in range(rows):
                begin[k + 1] += begin[k]
            member = np.empty(begin[rows], np.int64)
            fill = begin[:-1].copy()
        for i in range(len(first)):
            a = int((min(first[i, 1], last[i, 1]) - near - low) / step)
            b = int((max(first[i, 1], last[i, 1]) + near - low) / step)
            for r in range(min(max(a, 0), rows - 1), min(max(b, 0), rows - 1) + 1):
                if turn == 0:
                    begin[r + 1] += 1
                else:
                    member[fill[r]] = i
                    fill[r] += 1
    right, left = np.zeros((edges, operands), np.int64), np.zeros((edges, operands), np.int64)
    sum_ = np.zeros(operands, np.int64)
    for e in range(edges):
        if at[e] != at[e]:
            continue
        s = segment[e]
        px, py, _, dy = turned_at(kind[s], geometry[s], at[e], cos, sin)
        down = dy > 0
        sum_[:] = 0
        r = min(max(int((py - low) / step), 0), rows - 1)
        for p in range(begin[r], begin[r + 1]):
            i = member[p]
            # The edge may come back across its own ray, but not where the ray begins.
            if edge[i] == e and between[i, 0] <= at[e] <= between[i, 1]:
                continue
            y0, y1 = first[i, 1], last[i, 1]
            if (y0 <= py) == (y1 <= py):
                continue
            share = (py - y0) / (y1 - y0)
            x = first[i, 0] + share * (last[i, 0] - first[i, 0])
            if abs(x - px) <= 4 * near + 1e-3 * abs(last[i, 0] - first[i, 0]):
                c = segment[edge[i]]
                x = where_level(kind[c], geometry[c], between[i, 0], between[i, 1], py, cos, sin)
            if x > px:
                way = 1 if y1 > y0 else -1
                for o in range(operands):
                    sum_[o] += way * net[edge[i], o]
        for o in range(operands):
            own = net[e, o] if down else -net[e, o]
            # An edge that runs down has the ray's side on its left.
            if down:
                left[e, o], right[e, o] = sum_[o], sum_[o] + own
            else:
                right[e, o], left[e, o] = sum_[o], sum_[o] + own
    return right, left
