"""Which segments cross others: told by the boxes of their control points, halved until they part or a place is found
where they cross. What is said to cross does, and what is said to come near may; what is said not to does not."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ...kernels.curves import curve_at
from ...kernels.meetings import CUBIC, MEET, PARALLEL, loop_of, meet_near
from .boxtree import go_down

#: How often curves are halved, and pairs of parts that are looked at, before they are said to meet.
HALVINGS, MOST_PARTS = 10, 4_000
#: What is told of two curves: that they stay apart, that they come near each other, that they cross.
APART, NEAR, CROSS = 0, 1, 2
#: A crossing this near to the end of a curve, in mm, may be one of a node; at less of an angle than its sine, or with
#: sides that differ by less than an angle, it may be a touch.
AT_END_MM, CLEAR_SINE, CLEAR = 1e-5, 10 * PARALLEL, 1e-6
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


@kernel("b1(f8[::1], f8[::1], i8, f8)")
def hulls_part(a, b, joints, slack):
    """Whether two curves are told by their hulls to come no nearer than slack but at their joints."""
    if joints == 0:
        return boxes_apart(a, b, slack)
    if joints == ONWARD:
        return part_at_joint(a, b)
    return part_at_joint(b, a) if joints == BACK else part_at_chord(a, b)


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


@kernel("Tuple((f8, f8, f8))(f8[::1], f8, f8)")
def directions_at(g, t, look):
    """The angles of a cubic's way on from a parameter and of its way back, to places a little off, and how near in mm
    its ends are. look: how far off, in mm."""
    size = 0.0
    for k in range(3):
        size += math.sqrt((g[2 * k + 2] - g[2 * k]) ** 2 + (g[2 * k + 3] - g[2 * k + 1]) ** 2)
    step = min(look / max(size, 1e-12), 0.25)
    x, y, _, _ = curve_at(CUBIC, g, t)
    ax, ay, _, _ = curve_at(CUBIC, g, min(t + step, 1.0))
    bx, by, _, _ = curve_at(CUBIC, g, max(t - step, 0.0))
    end = min(math.sqrt((x - g[0]) ** 2 + (y - g[1]) ** 2), math.sqrt((x - g[6]) ** 2 + (y - g[7]) ** 2))
    return math.atan2(ay - y, ax - x), math.atan2(by - y, bx - x), end


@kernel("b1(f8[::1], f8[::1], f8, f8, f8)")
def clearly_cross(a, b, t, u, look):
    """Whether one cubic runs from one side of another to the other side where they meet, clear of doubt; t, u: the
    parameters there. Sides are seen a little off, in mm."""
    ahead, back, end_a = directions_at(a, t, look)
    on, off, end_b = directions_at(b, u, look)
    if min(end_a, end_b) <= AT_END_MM:
        return False
    round_ = 2 * math.pi
    to_back, to_on, to_off = (back - ahead) % round_, (on - ahead) % round_, (off - ahead) % round_
    for way in (to_on, to_off):
        if min(abs(way - to_back), min(way, round_ - way)) <= CLEAR:
            return False
    return (to_on < to_back) != (to_off < to_back)


@kernel("i8(f8[:, ::1], i8[:, ::1], f8[::1], f8[::1], f8, f8)")
def told_of(part, told, first, second, slack, look):
    """Whether two cubics come nearer than slack to each other but at their joints, and whether they cross there: the
    first two parts are these whole. told: which joints there are of two parts, how often they were halved, and the
    numbers of both among as many parts. Both have room for those that wait, and part for four halves more."""
    left, looked, made = 1, 0, len(part) - 4
    while left > 0:
        left -= 1
        looked += 1
        joints, depth, of_a, of_b = told[left]
        a, b = part[2 * left], part[2 * left + 1]
        if hulls_part(a, b, joints, slack):
            continue
        if depth == HALVINGS or looked == MOST_PARTS:
            whole = 2.0**depth
            t, u, apart, sine = meet_near(CUBIC, first, CUBIC, second, (of_a + 0.5) / whole, (of_b + 0.5) / whole)
            clear = apart <= MEET and sine > CLEAR_SINE and clearly_cross(first, second, t, u, look)
            return CROSS if clear else NEAR
        halves(a, part[made], part[made + 1])
        halves(b, part[made + 2], part[made + 3])
        for k in range(4):
            one, other = part[made + k // 2], part[made + 2 + k % 2]
            for c in range(8):
                part[2 * (left + k), c], part[2 * (left + k) + 1, c] = one[c], other[c]
            told[left + k, 0], told[left + k, 1] = 0, depth + 1
            told[left + k, 2], told[left + k, 3] = 2 * of_a + k // 2, 2 * of_b + k % 2
        # The end of the one is with the beginning of the other, and the beginning with the end.
        told[left + 2, 0], told[left + 1, 0] = joints & ONWARD, joints & BACK
        left += 4
    return APART


@kernel("b1(f8[::1], f8[::1], f8, f8[:, ::1], i8[::1])")
def keeps_off(g, other, slack, part, halved):
    """Whether a cubic is told, by the boxes of its parts, to come no nearer than slack to what keeps to another hull,
    as an arc does. part, halved: room for the parts that wait, two of which are made of one, and how often each was."""
    left, made = 1, len(part) - 2
    part[0], halved[0] = g, 0
    while left > 0:
        left -= 1
        if boxes_apart(part[left], other, slack):
            continue
        if halved[left] == HALVINGS:
            return False
        halves(part[left], part[made], part[made + 1])
        halved[left] += 1
        halved[left + 1] = halved[left]
        part[left], part[left + 1] = part[made], part[made + 1]
        left += 2
    return True


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


@kernel("i8(f8[::1], f8)")
def told_of_itself(g, look):
    """Whether a cubic crosses itself, or may."""
    if not may_meet_itself(g):
        return APART
    t, u = loop_of(g)
    if u <= t:
        return APART
    return CROSS if clearly_cross(g, g, t, u, look) else NEAR


@kernel("void(f8[:, ::1], b1[::1], i8[::1], b1[::1], f8[:, ::1], f8[:, ::1], i8[::1], f8, f8, i8[::1], i8, i8)")
def coming_near(hull, is_arc, following, drawn, box, node, level, slack, look, seen, first, last):
    """Tells of segments whether they cross others or themselves, or come near them but at the joints of neighbours,
    where one of the two is of those that are drawn (M,) from first to before last: seen (M,) is raised to NEAR or
    CROSS. hull, box: as `hulls` makes them; following (M,): the segment that goes on from each, or -1; node, level: a
    tree of the boxes in their order; look: how far off sides are seen, in mm."""
    stack = np.empty(400, np.int64)
    room = 3 * HALVINGS + 4
    part, told = np.empty((2 * room + 4, 8)), np.empty((room, 4), np.int64)
    halved = np.empty(room, np.int64)
    all_drawn = drawn.all()
    for i in range(first, last):
        if not drawn[i]:
            continue
        how = APART if is_arc[i] else told_of_itself(hull[i], look)
        if how > seen[i]:
            seen[i] = how
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
            if k == i or (drawn[k] and k < i) or (seen[i] != APART and seen[k] != APART):
                continue
            for c in range(8):
                part[0, c], part[1, c] = hull[i, c], hull[k, c]
            told[0, 0] = ONWARD * (following[i] == k) + BACK * (following[k] == i)
            told[0, 1], told[0, 2], told[0, 3] = 0, 0, 0
            if is_arc[i] or is_arc[k]:
                # An arc's hull is looked at whole: halved as a cubic's it would be another one's.
                apart = hulls_part(hull[i], hull[k], told[0, 0], slack)
                if not apart and told[0, 0] == 0 and is_arc[i] != is_arc[k]:
                    cubic, arc = (k, i) if is_arc[i] else (i, k)
                    apart = keeps_off(hull[cubic], hull[arc], slack, part, halved)
                how = APART if apart else NEAR
            else:
                how = told_of(part, told, hull[i], hull[k], slack, look)
            # Several threads raise them: nothing is written back that was not raised, which another may have been.
            if how > seen[i]:
                seen[i] = how
            if how > seen[k]:
                seen[k] = how
