"""Which outlines lie in which: each by one place, in those whose boxes hold its own."""

from __future__ import annotations

import numpy as np

from ..compiled import kernel


@kernel("b1(f8, f8, f8[:, ::1], i8, i8)")
def is_inside(x, y, points, first, last):
    """Whether a level ray from a place meets the chords through points first to last an odd number of times."""
    inside = False
    for k in range(first, last - 1):
        y0, y1 = points[k, 1], points[k + 1, 1]
        if (y0 > y) != (y1 > y):
            x0 = points[k, 0]
            if x0 + (y - y0) / (y1 - y0) * (points[k + 1, 0] - x0) > x:
                inside = not inside
    return inside


@kernel("b1(f8[:, ::1], f8[::1], i8, i8, f8)")
def may_lie_in(box, area, i, j, larger):
    """Whether an outline's box is in that of another one, which is larger by a factor; by their left sides it is."""
    within = box[i, 1] >= box[j, 1] and box[i, 3] <= box[j, 3] and box[i, 2] <= box[j, 2]
    return within and i != j and area[j] > area[i] * larger


@kernel("Tuple((b1[::1], b1[::1]))(f8[:, ::1], f8[::1], i8[::1], f8)")
def boxes_in_boxes(box, area, order, larger):
    """Which outlines have others in their boxes, or lie in such a box (K,), and which have (K,)."""
    count = len(order)
    asked, holds = np.zeros(count, np.bool_), np.zeros(count, np.bool_)
    left = np.empty(count)
    for n in range(count):
        left[n] = box[order[n], 0]
    for j in range(count):
        n = np.searchsorted(left, box[j, 0], "left")
        while n < count and left[n] <= box[j, 2]:
            i = order[n]
            n += 1
            if may_lie_in(box, area, i, j, larger):
                asked[i], asked[j], holds[j] = True, True, True
    return asked, holds


@kernel("i8[::1](f8[:, ::1], f8[:, ::1], f8[::1], i8[::1], f8[:, ::1], i8[::1], f8)")
def smallest_about(place, box, area, order, points, start, larger):
    """For each outline the smallest one that its place lies in, -1 for none (K,). order: the outlines by the left sides
    of their boxes; points, start: chords of each. One that another lies in is larger by a factor."""
    count = len(place)
    parent = np.full(count, -1)
    left = np.empty(count)
    for n in range(count):
        left[n] = box[order[n], 0]
    for j in range(count):
        n = np.searchsorted(left, box[j, 0], "left")
        while n < count and left[n] <= box[j, 2]:
            i = order[n]
            n += 1
            if not may_lie_in(box, area, i, j, larger) or (parent[i] >= 0 and area[parent[i]] <= area[j]):
                continue
            if is_inside(place[i, 0], place[i, 1], points, start[j], start[j + 1]):
                parent[i] = j
    return parent
