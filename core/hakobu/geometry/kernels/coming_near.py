"""Which segments may meet others: told by the boxes of their control points, halved until they part. What is said to
meet may not; what is said not to does not."""

from __future__ import annotations

import math

import numpy as np

from ..compiled import kernel
from .boxtree import go_down

#: How often curves are halved, and pairs of parts that are looked at, before they are said to meet.
HALVINGS, MOST_PARTS = 10, 4_000
#: Where one curve goes on from another: the second where the first ends, and the first where the second ends.
ONWARD, BACK = 1, 2


@kernel("Tuple((f8[:, ::1], f8[:, ::1]))(Array(f8, 2, 'C', readonly=True), Array(f8, 1, 'C', readonly=True), f8)")
def hulls(ctrl, bulge, slack):
    """Four points whose hull each segment keeps to (M, 8), and the boxes of these, wider by slack: low x and y, high x
    and y (M, 4). Of an arc the inner two are where the tangents at its ends cut the one at its middle. ctrl (M, 8)."""
    hull, box = ctrl.copy(), np.empty((len(ctrl), 4))
    for i in range(len(ctrl)):
        g, own, b = hull[i], box[i], bulge[i]
        if b != 0:
            x, y = g[6] - g[0], g[7] - g[1]
            along, across = (1 - b * b) / 4, b / 2
            g[2], g[3] = g[0] + along * x + across * y, g[1] + along * y - across * x
            g[4], g[5] = g[6] - along * x + across * y, g[7] - along * y - across * x
        own[0], own[1] = min(min(g[0], g[2]), min(g[4], g[6])), min(min(g[1], g[3]), min(g[5], g[7]))
        own[2], own[3] = max(max(g[0], g[2]), max(g[4], g[6])), max(max(g[1], g[3]), max(g[5], g[7]))
        own[0], own[1], own[2], own[3] = own[0] - slack, own[1] - slack, own[2] + slack, own[3] + slack
    return hull, box


@kernel("b1(f8[::1], f8[::1], f8)")
def boxes_apart(a, b, slack):
    """Whether the boxes of two curves' control points are farther than slack from each other."""
    for axis in range(2):
        a0, a1, a2, a3 = a[axis], a[2 + axis], a[4 + axis], a[6 + axis]
        b0, b1, b2, b3 = b[axis], b[2 + axis], b[4 + axis], b[6 + axis]
        if max(max(a0, a1), max(a2, a3)) + slack < min(min(b0, b1), min(b2, b3)):
            return True
        if max(max(b0, b1), max(b2, b3)) + slack < min(min(a0, a1), min(a2, a3)):
            return True
    return False


@kernel("b1(f8[::1], f8[::1])")
def part_at_joint(a, b):
    """Whether a line through the joint where b goes on from a has one on either side, so that they meet nowhere
    else."""
    x, y = a[6], a[7]
    ax, ay, bx, by = x - a[0], y - a[1], b[6] - x, b[7] - y
    long_a, long_b = math.sqrt(ax * ax + ay * ay), math.sqrt(bx * bx + by * by)
    if long_a == 0 or long_b == 0:
        return False
    nx, ny = ax / long_a + bx / long_b, ay / long_a + by / long_b
    for k in range(3):
        if nx * (x - a[2 * k]) + ny * (y - a[2 * k + 1]) <= 0:
            return False
        if nx * (b[2 * k + 2] - x) + ny * (b[2 * k + 3] - y) <= 0:
            return False
    return True


@kernel("b1(f8[::1], f8[::1])")
def part_at_chord(a, b):
    """Whether the chord of two curves that make a round between them has one on either side, so that they meet nowhere
    but at its ends."""
    x, y = a[6] - a[0], a[7] - a[1]
    side = x * (a[3] - a[1]) - y * (a[2] - a[0])
    for g, sign in ((a, 1.0), (b, -1.0)):
        for k in range(1, 3):
            if sign * side * (x * (g[2 * k + 1] - a[1]) - y * (g[2 * k] - a[0])) <= 0:
                return False
    return True


@kernel("void(f8[::1], f8[::1], f8[::1])")
def halves(g, first, second):
    """A cubic's two halves (de Casteljau 1959)."""
    for axis in range(2):
        p, q, r, s = g[axis], g[2 + axis], g[4 + axis], g[6 + axis]
        pq, qr, rs = (p + q) / 2, (q + r) / 2, (r + s) / 2
        one, other = (pq + qr) / 2, (qr + rs) / 2
        middle = (one + other) / 2
        first[axis], first[2 + axis], first[4 + axis], first[6 + axis] = p, pq, one, middle
        second[axis], second[2 + axis], second[4 + axis], second[6 + axis] = middle, other, rs, s


@kernel("b1(f8[:, ::1], i8[:, ::1], f8)")
def may_meet(part, told, slack):
    """Whether two cubics, the first two parts, come nearer than slack to each other but at their joints. told: which
    joints there are of two parts, and how often they were halved. Both have room for those that wait, and part for
    four halves more."""
    left, looked, made = 1, 0, len(part) - 4
    while left > 0:
        left -= 1
        looked += 1
        joints, depth = told[left]
        a, b = part[2 * left], part[2 * left + 1]
        if joints == 0 and boxes_apart(a, b, slack):
            continue
        if (joints == ONWARD and part_at_joint(a, b)) or (joints == BACK and part_at_joint(b, a)):
            continue
        if joints == ONWARD + BACK and part_at_chord(a, b):
            continue
        if depth == HALVINGS or looked == MOST_PARTS:
            return True
        halves(a, part[made], part[made + 1])
        halves(b, part[made + 2], part[made + 3])
        for k in range(4):
            one, other = part[made + k // 2], part[made + 2 + k % 2]
            for c in range(8):
                part[2 * (left + k), c], part[2 * (left + k) + 1, c] = one[c], other[c]
            told[left + k, 0], told[left + k, 1] = 0, depth + 1
        # The end of the one is with the beginning of the other, and the beginning with the end.
        told[left + 2, 0], told[left + 1, 0] = joints & ONWARD, joints & BACK
        left += 4
    return False


@kernel("b1(f8[::1])")
def may_meet_itself(g):
    """Whether a cubic may cross itself: where all its legs go on in one direction, along its chord or the bisector of
    its ends, it does not."""
    ax, ay, bx, by = g[2] - g[0], g[3] - g[1], g[6] - g[4], g[7] - g[5]
    long_a, long_b = math.sqrt(ax * ax + ay * ay), math.sqrt(bx * bx + by * by)
    if long_a == 0 or long_b == 0:
        return True
    for x, y in ((g[6] - g[0], g[7] - g[1]), (ax / long_a + bx / long_b, ay / long_a + by / long_b)):
        on = True
        for k in range(3):
            on = on and x * (g[2 * k + 2] - g[2 * k]) + y * (g[2 * k + 3] - g[2 * k + 1]) > 0
        if on:
            return False
    return True


@kernel("void(f8[:, ::1], b1[::1], i8[::1], b1[::1], f8[:, ::1], f8[:, ::1], i8[::1], f8, b1[::1], i8, i8)")
def coming_near(hull, is_arc, following, drawn, box, node, level, slack, near, first, last):
    """Marks as near (M,) which segments may meet others, or themselves, but at the joints of neighbours, where one of
    the two is of those that are drawn (M,) from first to before last. hull, box: as `hulls` makes them; following (M,):
    the segment that goes on from each, or -1; node, level: a tree of the boxes in their order."""
    stack = np.empty(400, np.int64)
    room = 3 * HALVINGS + 4
    part, told = np.empty((2 * room + 4, 8)), np.empty((room, 2), np.int64)
    all_drawn = drawn.all()
    for i in range(first, last):
        if not drawn[i]:
            continue
        near[i] = near[i] or (not is_arc[i] and may_meet_itself(hull[i]))
        left, high, right, low = box[i, 0], box[i, 1], box[i, 2], box[i, 3]
        waiting = 1
        stack[0], stack[1] = 0, len(level) - 2
        while waiting > 0:
            waiting -= 1
            k, up = stack[2 * waiting], stack[2 * waiting + 1]
            # What comes before was asked already.
            if all_drawn and (k + 1) << up <= i:
                continue
            m = level[up] + k
            if node[m, 0] > right or node[m, 1] > low or node[m, 2] < left or node[m, 3] < high:
                continue
            if up > 0:
                waiting = go_down(level, k, up, stack, waiting)
                continue
            if k == i or (drawn[k] and k < i) or (near[i] and near[k]):
                continue
            for c in range(8):
                part[0, c], part[1, c] = hull[i, c], hull[k, c]
            told[0, 0] = ONWARD * (following[i] == k) + BACK * (following[k] == i)
            # An arc's hull is looked at once: halved as a cubic's it would be another one's.
            told[0, 1] = HALVINGS if is_arc[i] or is_arc[k] else 0
            if may_meet(part, told, slack):
                near[i] = near[k] = True
