"""Outlines in sections from corner to corner, each made ready by itself, so that the work can be shared out."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ...edges.kernels.straight_runs import section

#: Points to each side that tell how much an outline bends.
BESIDE = 4


@kernel("i8(f8[:, ::1])")
def most_bent(p):
    """The point of a closed outline at which it bends most: begun there, no straight run is cut in two."""
    n, most, first = len(p), -2.0, 0
    for i in range(n):
        b = i - BESIDE if i >= BESIDE else (i - BESIDE) % n
        f = i + BESIDE if i + BESIDE < n else (i + BESIDE) % n
        ux, uy = p[i, 0] - p[b, 0], p[i, 1] - p[b, 1]
        vx, vy = p[f, 0] - p[i, 0], p[f, 1] - p[i, 1]
        # The cosine falls as the turn grows, and tells it without an arc.
        size = math.sqrt((ux * ux + uy * uy) * (vx * vx + vy * vy))
        turn = -(ux * vx + uy * vy) / size if size > 0 else 0.0
        if turn > most:
            most, first = turn, i
    return first


@kernel("Tuple((f8[:, ::1], b1[::1], i8[:, ::1], i8[::1]))(f8[:, ::1], i8[::1], b1[::1], b1[::1])")
def sections_of(points, start, corner, closed):
    """Outlines (K+1,) row by row, the closed ones begun at a corner if they have one and ended on their first point:
    points and corners (N,), the first and the last row of each section (S, 2), and which sections each has (K+1,)."""
    room = len(points) + len(start)
    own, marks = np.empty((room, 2)), np.zeros(room, np.bool_)
    ends, begun = np.empty((room, 2), np.int64), np.zeros(len(start), np.int64)
    m, count = 0, 0
    for k in range(len(start) - 1):
        a, n = start[k], start[k + 1] - start[k]
        first = most_bent(points[a : a + n]) if closed[k] and not corner[a] else 0
        before = m
        for i in range(n + closed[k]):
            j = first + i
            j = a + (j if j < n else j - n)
            own[m, 0], own[m, 1], marks[m] = points[j, 0], points[j, 1], corner[j]
            if i > 0 and (marks[m] or i == n - 1 + closed[k]):
                ends[count, 0], ends[count, 1] = before, m
                before = m
                count += 1
            m += 1
        begun[k + 1] = count
    return own[:m].copy(), marks[:m].copy(), ends[:count].copy(), begun


@kernel(
    "Tuple((f8[:, ::1], b1[::1], f8[:, ::1], i8[::1]))(f8[:, ::1], b1[::1], i8[:, ::1], f8[::1], b1[::1], f8, i8, i8)"
)
def made_ready(own, marks, ends, noises, open_ends, waves, first, last):
    """Sections from first to before last as `straight.section` writes them: points, corners, directions, and how many
    each has. open_ends (S,): whether an open outline ends with a section, whose last point stays."""
    room = 2 * (ends[last - 1, 1] - ends[first, 0] + 1) + 8
    out, mark, direction = np.empty((room, 2)), np.zeros(room, np.bool_), np.zeros((room, 2))
    counts = np.empty(last - first, np.int64)
    m = 0
    for s in range(first, last):
        before, a, b = m, ends[s, 0], ends[s, 1]
        m = section(own[a : b + 1], marks[a], marks[b], noises[s], waves, out, mark, direction, m)
        if open_ends[s]:
            out[m], mark[m], direction[m] = own[b], True, 0.0
            m += 1
        counts[s - first] = m - before
    return out[:m].copy(), mark[:m].copy(), direction[:m].copy(), counts


@kernel(
    "Tuple((f8[:, ::1], b1[::1], f8[:, ::1], i8[::1]))(f8[:, ::1], b1[::1], f8[:, ::1], i8[::1], b1[::1], f8[:, ::1],"
    " b1[::1], i8[:, ::1], i8[::1])"
)
def with_small(out, mark, direction, start, small, own, marks, ends, begun):
    """Outlines made ready (K+1,) with those that are too small for sides (K,) as they were."""
    room = len(out) + len(own)
    points, corner, way = np.empty((room, 2)), np.zeros(room, np.bool_), np.zeros((room, 2))
    begin = np.zeros(len(start), np.int64)
    m = 0
    for k in range(len(small)):
        if small[k]:
            for i in range(ends[begun[k], 0], ends[begun[k + 1] - 1, 1]):
                points[m], corner[m] = own[i], marks[i]
                m += 1
        else:
            for i in range(start[k], start[k + 1]):
                points[m], corner[m], way[m] = out[i], mark[i], direction[i]
                m += 1
        begin[k + 1] = m
    return points[:m].copy(), corner[:m].copy(), way[:m].copy(), begin
