"""Which lines and arcs have another side near them at all: only those need be looked at piece by piece."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ...kernels.elements import RADIUS, SWEEP, UX, UY, VX, VY
from .bitangent_pairs import ONE_SIDE, box_gap, nearest_pair


@kernel("b1(f8[::1], f8[::1])")
def only_a_corner(a, b):
    """Whether two elements, the second beginning where the first ends, turn too little to face each other again beyond
    the corner between them, towards which the distance falls to nothing."""
    turn = math.atan2(a[VX] * b[UY] - a[VY] * b[UX], a[VX] * b[UX] + a[VY] * b[UY])
    return abs(a[SWEEP]) + abs(b[SWEEP]) < math.pi - abs(turn) - 1e-3


@kernel(
    "b1[::1](f8[:, ::1], f8[:, ::1], i8[::1], i8[::1], f8[:, ::1], i8[::1], i8[::1], i8[::1], f8[::1], f8[::1],"
    " f8[:, ::1], b1, f8, i8, i8)"
)
def sides_near(
    table, node, level, order, box, before, after, outline, turned, around, heading, either, below, first, last
):  # fmt: skip
    """Whether an element, or another one that faces it, may have a place nearer than `below` on the other (E,), with
    the arguments of `facing_pairs`. Never misses one: what an element is asked for here is met by any piece of it."""
    near = np.zeros(len(table), np.bool_)
    stack, height, best = np.empty(200, np.int64), np.empty(200), np.empty(4)
    for i in range(first, last):
        if abs(table[i, SWEEP]) > ONE_SIDE and 2 * table[i, RADIUS] < below:
            near[i] = True
        stack[0], height[0], left = 0, len(level) - 2, 1
        while left > 0:
            left -= 1
            k, up = stack[left], int(height[left])
            if box_gap(node[level[up] + k], box[i]) >= below:
                continue
            if up > 0:
                size = level[up] - level[up - 1]
                for c in range(2 * k, min(2 * k + 2, size)):
                    stack[left], height[left] = c, up - 1
                    left += 1
                continue
            j = order[k]
            if j <= i or (near[i] and near[j]):
                continue
            if after[i] == j and only_a_corner(table[i], table[j]):
                continue
            if before[i] == j and only_a_corner(table[j], table[i]):
                continue
            slack = heading[i, 1] + heading[j, 1] + 1e-3
            apart = heading[i, 0] - heading[j, 0] - math.pi
            apart -= 2 * math.pi * math.floor(apart / (2 * math.pi) + 0.5)
            if abs(apart) > slack and not (either and math.pi - abs(apart) <= slack):
                continue
            if outline[i] == outline[j]:
                between = turned[j + 1] - turned[i]
                beyond = around[outline[i]] - (turned[j] - turned[i + 1])
                if min(between, beyond) < ONE_SIDE:
                    continue
            if nearest_pair(table[i], table[j], best) < below:
                near[i], near[j] = True, True
    return near
