"""Which closed outline lies in which: a ray from a place on each through chords sorted into rows."""

from __future__ import annotations

import numpy as np

from ..compiled import kernel


@kernel("Tuple((i8[::1], i8[::1], f8, f8))(f8[:, ::1], i8[::1], i8)")
def in_rows(points, start, rows):
    """The chords of closed polygons, by their first points, in level rows: the first of each row (R+1,), the members,
    the level of the lowest row and a row's height."""
    low, high = points[:, 1].min(), points[:, 1].max()
    size = max((high - low) / rows, 1e-300)
    count = np.zeros(rows + 1, np.int64)
    for turn in range(2):
        if turn == 1:
            for r in range(rows):
                count[r + 1] += count[r]
            member = np.empty(count[rows], np.int64)
            place = count[:-1].copy()
        for k in range(len(start) - 1):
            for i in range(start[k], start[k + 1] - 1):
                a, b = points[i, 1], points[i + 1, 1]
                first = min(max(int((min(a, b) - low) / size), 0), rows - 1)
                last = min(max(int((max(a, b) - low) / size), 0), rows - 1)
                for r in range(first, last + 1):
                    if turn == 0:
                        count[r + 1] += 1
                    else:
                        member[place[r]] = i
                        place[r] += 1
    return count, member, low, size


@kernel("i8[::1](f8[:, ::1], i8[::1], f8[::1], f8[:, ::1], i8)")
def parents(points, start, area, place, rows):
    """For each closed polygon (K,) the smallest one that its place (K, 2) lies in and that is larger, -1 for none. The
    last point of each is its first."""
    k_count = len(start) - 1
    parent = np.full(k_count, -1, np.int64)
    if len(points) == 0:
        return parent
    owner = np.empty(len(points), np.int64)
    for k in range(k_count):
        owner[start[k] : start[k + 1]] = k
    count, member, low, size = in_rows(points, start, rows)
    hits, met = np.zeros(k_count, np.int64), np.empty(k_count, np.int64)
    for k in range(k_count):
        x, y = place[k, 0], place[k, 1]
        r = min(max(int((y - low) / size), 0), rows - 1)
        n = 0
        for q in range(count[r], count[r + 1]):
            i = member[q]
            a, b = points[i], points[i + 1]
            if (a[1] > y) == (b[1] > y):
                continue
            o = owner[i]
            # A copy of the same outline is not inside the other.
            if o == k or area[o] <= area[k] * (1 + 1e-6):
                continue
            if x < a[0] + (y - a[1]) / (b[1] - a[1]) * (b[0] - a[0]):
                if hits[o] == 0:
                    met[n] = o
                    n += 1
                hits[o] += 1
        best = -1
        for q in range(n):
            o = met[q]
            if hits[o] % 2 == 1 and (best < 0 or area[o] < area[best]):
                best = o
            hits[o] = 0
        parent[k] = best
    return parent
