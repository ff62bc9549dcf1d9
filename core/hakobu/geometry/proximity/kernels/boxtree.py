"""A packed tree of boxes over chords: what is nearest to a point, and how often outlines wind round it.

Boxes are sorted along a Z curve (Morton 1966) and packed two by two: node k of a level holds 2k and 2k + 1 of the one
below. All levels lie in one table, the leaves first.
"""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from ...kernels.chords import AX, AY, BX, BY, T0, T1
from ...kernels.curves import curve_at, nearest_between
from ...kernels.extremes import passes_level


@kernel("u8(u8)")
def spread(v):
    """Every bit of the lower half of a number moved to twice its place."""
    v = (v | (v << np.uint64(16))) & np.uint64(0x0000FFFF0000FFFF)
    v = (v | (v << np.uint64(8))) & np.uint64(0x00FF00FF00FF00FF)
    v = (v | (v << np.uint64(4))) & np.uint64(0x0F0F0F0F0F0F0F0F)
    v = (v | (v << np.uint64(2))) & np.uint64(0x3333333333333333)
    return (v | (v << np.uint64(1))) & np.uint64(0x5555555555555555)


@kernel("u8[::1](f8[:, ::1])")
def z_order(box):
    """The place of each box along a Z curve over all of them."""
    n = len(box)
    key = np.empty(n, np.uint64)
    x0, y0, x1, y1 = np.inf, np.inf, -np.inf, -np.inf
    for i in range(n):
        x, y = box[i, 0] + box[i, 2], box[i, 1] + box[i, 3]
        x0, x1, y0, y1 = min(x0, x), max(x1, x), min(y0, y), max(y1, y)
    scale = 65535.0 / max(max(x1 - x0, y1 - y0), 1e-300)
    for i in range(n):
        x, y = (box[i, 0] + box[i, 2] - x0) * scale, (box[i, 1] + box[i, 3] - y0) * scale
        key[i] = spread(np.uint64(x)) | (spread(np.uint64(y)) << np.uint64(1))
    return key


@kernel("Tuple((f8[:, ::1], i8[::1]))(f8[:, ::1], i8[::1])")
def packed(box, order):
    """The boxes of all levels, leaves first in the order given, and the first box of each level (L+1,)."""
    n = len(order)
    level = np.zeros(66, np.int64)
    count, levels, total = n, 0, 0
    while True:
        level[levels] = total
        total += count
        levels += 1
        if count <= 1:
            break
        count = (count + 1) // 2
    level[levels] = total
    node = np.empty((total, 4))
    for k in range(n):
        node[k] = box[order[k]]
    for up in range(1, levels):
        below, size = level[up - 1], level[up] - level[up - 1]
        for k in range(level[up + 1] - level[up]):
            a, b = below + 2 * k, below + min(2 * k + 1, size - 1)
            row = node[level[up] + k]
            row[0], row[1] = min(node[a, 0], node[b, 0]), min(node[a, 1], node[b, 1])
            row[2], row[3] = max(node[a, 2], node[b, 2]), max(node[a, 3], node[b, 3])
    return node, level[: levels + 1].copy()


@kernel("i8(i8[::1], i8, i8, i8[::1], i8)")
def go_down(level, k, up, stack, left):
    """Puts the two boxes under box k of a level on a stack of numbers and levels that holds `left`; how many it holds
    then."""
    for c in range(2 * k, min(2 * k + 2, level[up] - level[up - 1])):
        stack[2 * left], stack[2 * left + 1] = c, up - 1
        left += 1
    return left


@kernel("f8(f8[::1], f8, f8)")
def away_from(box, x, y):
    """The square of the distance between a box and a point."""
    dx, dy = max(max(box[0] - x, x - box[2]), 0.0), max(max(box[1] - y, y - box[3]), 0.0)
    return dx * dx + dy * dy


@kernel(
    "Tuple((i8[::1], f8[::1], f8[::1]))(f8[:, ::1], f8[:, ::1], i8[::1], i8[::1], f8[:, ::1], i8[::1],"
    " Array(i8, 1, 'C', readonly=True), f8[:, ::1])"
)
def nearest_places(point, node, level, order, table, owner, kind, geometry):
    """For each point (N, 2) the curve nearest to it, the parameter on it and the distance."""
    n, top = len(point), len(level) - 2
    curve, at, near = np.full(n, -1, np.int64), np.zeros(n), np.full(n, np.inf)
    stack, height, bound = np.empty(160, np.int64), np.empty(160, np.int64), np.empty(160)
    for i in range(n):
        x, y = point[i]
        stack[0], height[0], bound[0], left = 0, top, away_from(node[level[top]], x, y), 1
        while left > 0:
            left -= 1
            k, up = stack[left], height[left]
            if bound[left] >= near[i] * near[i]:
                continue
            if up == 0:
                c = order[k]
                s = owner[c]
                t, away = nearest_between(kind[s], geometry[s], table[c, T0], table[c, T1], x, y)
                if away < near[i]:
                    curve[i], at[i], near[i] = s, t, away
                continue
            below, size = level[up - 1], level[up] - level[up - 1]
            first, second = 2 * k, min(2 * k + 1, size - 1)
            a, b = away_from(node[below + first], x, y), away_from(node[below + second], x, y)
            if a < b:
                first, second, a, b = second, first, b, a
            if first != second:
                stack[left], height[left], bound[left] = first, up - 1, a
                left += 1
            stack[left], height[left], bound[left] = second, up - 1, b
            left += 1
    return curve, at, near


@kernel(
    "i8[::1](f8[:, ::1], f8[:, ::1], i8[::1], i8[::1], f8[:, ::1], i8[::1], Array(i8, 1, 'C', readonly=True),"
    " f8[:, ::1])"
)
def windings_at(point, node, level, order, table, owner, kind, geometry):
    """How often the curves wind round each point (N, 2), positive from +x towards +y: crossings of a ray along +x. The
    ends of chords are the same to the bit where curves are joined, so none is counted twice."""
    n, top = len(point), len(level) - 2
    made = np.zeros(n, np.int64)
    stack, height = np.empty(160, np.int64), np.empty(160, np.int64)
    found, stops = np.empty(3), np.empty(6)
    for i in range(n):
        x, y = point[i]
        stack[0], height[0], left = 0, top, 1
        while left > 0:
            left -= 1
            k, up = stack[left], height[left]
            box = node[level[up] + k]
            if box[1] > y or box[3] < y or box[2] < x:
                continue
            if up > 0:
                size = level[up] - level[up - 1]
                stack[left], height[left] = 2 * k, up - 1
                left += 1
                if 2 * k + 1 < size:
                    stack[left], height[left] = 2 * k + 1, up - 1
                    left += 1
                continue
            chord = table[order[k]]
            if box[0] > x:
                # All of it lies on the ray's side: only its ends count.
                made[i] += int(chord[BY] > y) - int(chord[AY] > y)
                continue
            s = owner[order[k]]
            # Where the rounding of an end and of its curve differ, the end decides.
            many = passes_level(kind[s], geometry[s], chord[T0], chord[T1], 0.0, 1.0, y, found, stops)
            over, last = chord[AY] > y, chord[BY] > y
            skip = -1
            if many > 0 and many % 2 != int(over != last):
                # One that the rounding made at an end.
                skip = 0 if found[0] - chord[T0] < chord[T1] - found[many - 1] else many - 1
            for m in range(many):
                if m == skip:
                    continue
                px, _, _, _ = curve_at(kind[s], geometry[s], found[m])
                if px > x:
                    made[i] += -1 if over else 1
                over = not over
            if over != last and many == 0:
                # It passes at the end that lies on the ray.
                px = chord[BX] if abs(chord[BY] - y) < abs(chord[AY] - y) else chord[AX]
                if px > x:
                    made[i] += 1 if last else -1
    return made
