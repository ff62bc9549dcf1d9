"""Which outlines lie in which: each by one place, in those whose boxes hold its own."""

from __future__ import annotations

import numpy as np

from ...compiled import kernel
from ..proximity.kernels.boxtree import go_down


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


@kernel("i8(f8[:, ::1], i8[::1], i8[::1], f8[:, ::1], i8, i8[::1], i8[::1])")
def boxes_in(node, level, order, box, j, stack, listed):
    """Numbers of outlines whose boxes lie in that of outline j, from a tree of all boxes, into listed; how many."""
    left, count, top = 1, 0, len(level) - 2
    stack[0], stack[1] = 0, top
    while left > 0:
        left -= 1
        k, up = stack[2 * left], stack[2 * left + 1]
        b = node[level[up] + k]
        if b[2] < box[j, 0] or b[0] > box[j, 2] or b[3] < box[j, 1] or b[1] > box[j, 3]:
            continue
        if up == 0:
            if b[0] >= box[j, 0] and b[2] <= box[j, 2] and b[1] >= box[j, 1] and b[3] <= box[j, 3]:
                listed[count] = order[k]
                count += 1
            continue
        left = go_down(level, k, up, stack, left)
    return count


@kernel("Tuple((b1[::1], b1[::1]))(f8[:, ::1], i8[::1], i8[::1], f8[:, ::1], f8[::1], f8)")
def boxes_in_boxes(node, level, order, box, area, larger):
    """Which outlines have others in their boxes, or lie in such a box (K,), and which have (K,); node, level, order: a
    tree of the boxes. What lies in another is smaller by a factor."""
    count = len(order)
    asked, holds = np.zeros(count, np.bool_), np.zeros(count, np.bool_)
    stack, listed = np.empty(400, np.int64), np.empty(count, np.int64)
    for j in range(count):
        for n in range(boxes_in(node, level, order, box, j, stack, listed)):
            i = listed[n]
            if i != j and area[j] > area[i] * larger:
                asked[i], asked[j], holds[j] = True, True, True
    return asked, holds


@kernel("i8[::1](f8[:, ::1], f8[:, ::1], i8[::1], i8[::1], f8[:, ::1], f8[::1], f8[:, ::1], i8[::1], f8)")
def smallest_about(place, node, level, order, box, area, points, start, larger):
    """For each outline the smallest one that its place lies in, -1 for none (K,). node, level, order: a tree of the
    boxes; points, start: chords of each. One that another lies in is larger by a factor."""
    count = len(place)
    parent = np.full(count, -1)
    stack, listed = np.empty(400, np.int64), np.empty(count, np.int64)
    for j in range(count):
        if start[j + 1] == start[j]:
            continue
        for n in range(boxes_in(node, level, order, box, j, stack, listed)):
            i = listed[n]
            if i == j or area[j] <= area[i] * larger or (parent[i] >= 0 and area[parent[i]] <= area[j]):
                continue
            if is_inside(place[i, 0], place[i, 1], points, start[j], start[j + 1]):
                parent[i] = j
    return parent
