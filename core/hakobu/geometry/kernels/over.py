"""Which shapes lie over which, told by their boxes and by the places of the lower ones."""

from __future__ import annotations

import numpy as np

from ...compiled import kernel
from ..proximity.kernels.boxtree import go_down


@kernel("b1(f8[::1], f8[::1])")
def overlap(a, b):
    """Whether two boxes have a place in common."""
    return a[0] <= b[2] and b[0] <= a[2] and a[1] <= b[3] and b[1] <= a[3]


@kernel("i8(f8[:, ::1], i8[::1], i8[::1], f8[:, ::1], i8[::1], b1[::1], i8, i8[::1], i8[::1])")
def later_over(node, level, order, box, group, covers, i, stack, listed):
    """Numbers of the shapes after i, of its group, that cover and whose boxes overlap its own, into listed; how many.
    node, level, order: a tree of the boxes."""
    left, count = 1, 0
    stack[0], stack[1] = 0, len(level) - 2
    while left > 0:
        left -= 1
        k, up = stack[2 * left], stack[2 * left + 1]
        if not overlap(node[level[up] + k], box[i]):
            continue
        if up == 0:
            j = order[k]
            if j > i and covers[j] and group[j] == group[i]:
                listed[count] = j
                count += 1
            continue
        left = go_down(level, k, up, stack, left)
    return count


@kernel("i8[::1](f8[:, ::1], i8[::1], i8[::1], f8[:, ::1], i8[::1], b1[::1], b1[::1], f8)")
def held_by_later(node, level, order, box, group, covers, asked, slack):
    """How many later shapes that cover lie over each one that is asked for (N,), by their boxes; 0 where these together
    do not hold its own box within a slack."""
    count = len(order)
    many = np.zeros(count, np.int64)
    stack, listed = np.empty(400, np.int64), np.empty(count, np.int64)
    for i in range(count):
        if not asked[i]:
            continue
        found = later_over(node, level, order, box, group, covers, i, stack, listed)
        low_x, low_y, high_x, high_y = np.inf, np.inf, -np.inf, -np.inf
        for n in range(found):
            b = box[listed[n]]
            low_x, low_y, high_x, high_y = min(low_x, b[0]), min(low_y, b[1]), max(high_x, b[2]), max(high_y, b[3])
        b = box[i]
        if low_x <= b[0] + slack and low_y <= b[1] + slack and high_x >= b[2] - slack and high_y >= b[3] - slack:
            many[i] = found
    return many


#: Where a place is to a shape.
OUTSIDE, NEAR_ITS_LINE, INSIDE = 0, 1, 2


@kernel("i8(f8, f8, f8[:, ::1], i8[::1], i8, i8, f8)")
def where(x, y, points, start, first, last, near):
    """Whether closed chords, outlines first to last of those at start, wind round a place, or come so near to it."""
    winding = 0
    for k in range(first, last):
        a, b = start[k], start[k + 1]
        for m in range(a, b):
            x0, y0 = points[m, 0], points[m, 1]
            n = m + 1 if m + 1 < b else a
            x1, y1 = points[n, 0], points[n, 1]
            dx, dy = x1 - x0, y1 - y0
            square = dx * dx + dy * dy
            share = 0.0 if square == 0 else min(max(((x - x0) * dx + (y - y0) * dy) / square, 0.0), 1.0)
            if (x0 + share * dx - x) ** 2 + (y0 + share * dy - y) ** 2 <= near * near:
                return NEAR_ITS_LINE
            if (y0 > y) != (y1 > y) and x0 + (y - y0) / dy * dx > x:
                winding += 1 if y1 > y0 else -1
    return INSIDE if winding != 0 else OUTSIDE


@kernel("b1(i8, i8, f8[:, ::1], i8[::1], i8[::1], f8)")
def holds_all(i, j, points, start, first, near):
    """Whether all places of shape i lie in shape j or near its line, and one in it and not near."""
    inside = False
    for m in range(start[first[i]], start[first[i + 1]]):
        at = where(points[m, 0], points[m, 1], points, start, first[j], first[j + 1], near)
        if at == OUTSIDE:
            return False
        inside |= at == INSIDE
    return inside


@kernel("b1(i8, i8[::1], i8, f8[:, ::1], f8[:, ::1], i8[::1], i8[::1], f8)")
def each_held(i, listed, found, box, points, start, first, near):
    """Whether each place of shape i lies in one of those listed, or near its line."""
    last = 0
    for m in range(start[first[i]], start[first[i + 1]]):
        x, y = points[m, 0], points[m, 1]
        held = False
        # The one that held the last place often holds the next.
        for n in range(found):
            at = (last + n) % found
            j = listed[at]
            b = box[j]
            if x < b[0] - near or x > b[2] + near or y < b[1] - near or y > b[3] + near:
                continue
            if where(x, y, points, start, first[j], first[j + 1], near) != OUTSIDE:
                held, last = True, at
                break
        if not held:
            return False
    return True


@kernel(
    "Tuple((b1[::1], i8[::1], i8[::1]))(f8[:, ::1], i8[::1], i8[::1], f8[:, ::1], i8[::1], b1[::1], i8[::1], "
    "f8[:, ::1], i8[::1], i8[::1], b1[::1], b1[::1], i8[::1], f8)"
)
def under_later(node, level, order, box, group, covers, many, points, start, first, bare, plain, crossing, near):
    """Of the shapes with later ones over them (many, N) the bare ones that lie in a plain one of them (N,); of the
    others those of which every place lies in some of them, or nearly: the later ones of each, in order, and where each
    shape's begin (N + 1,). points, start: places along all outlines; first: the outlines of each shape; bare: which are
    painted inside their outlines only; plain: which are one outline that does not cross itself; crossing: i * N + j,
    sorted, of those that cross."""
    count = len(order)
    in_one, begin = np.zeros(count, np.bool_), np.zeros(count + 1, np.int64)
    over = np.empty(many.sum(), np.int64)
    stack, listed = np.empty(400, np.int64), np.empty(count, np.int64)
    used = 0
    for i in range(count):
        if many[i] > 0:
            found = later_over(node, level, order, box, group, covers, i, stack, listed)
            if each_held(i, listed, found, box, points, start, first, near):
                for n in range(found if bare[i] else 0):
                    j = listed[n]
                    key = i * count + j
                    at = np.searchsorted(crossing, key)
                    if not plain[j] or (at < len(crossing) and crossing[at] == key):
                        continue
                    if holds_all(i, j, points, start, first, near):
                        in_one[i] = True
                        break
                if not in_one[i]:
                    over[used : used + found] = np.sort(listed[:found])
                    used += found
        begin[i + 1] = used
    return in_one, over[:used], begin
