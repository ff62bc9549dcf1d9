"""Where lines and arcs come nearest to each other: pairs of points that face each other over the least distance."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ...kernels.curves import curve_at, length, nearest_between
from ...kernels.elements import CX, CY, RADIUS, SWEEP, UX, UY, VX, VY, X0, X1, Y0, Y1
from .boxtree import away_from
from .reach import nearest_on, place_on

#: Where on an element a point is: within it, at its beginning, at its end.
WITHIN, FIRST, LAST = 0, 1, 2
#: Distances that differ by less, in mm, are the same.
SAME_MM = 1e-9
#: Parts of an outline between which it turns less than this are not two sides of anything: half a circle, but for what
#: counts as running beside each other.
ONE_SIDE = math.pi - 0.25
#: The sine of the angle up to which two elements run beside each other: five degrees.
BESIDE = 0.087
#: What is so many times as long as it is wide is a strip.
STRIP = 2.0
#: So much of the circle on two points that are square to one of such elements is within them both: its cosine.
SQUARE_SHARE = 0.996


@kernel("b1(f8[::1], f8, f8)")
def on_arc(row, x, y):
    """Whether a direction from an arc's centre is within its sweep."""
    way = 1.0 if row[SWEEP] > 0 else -1.0
    ax, ay, bx, by = row[X0] - row[CX], row[Y0] - row[CY], row[X1] - row[CX], row[Y1] - row[CY]
    return way * (ax * y - ay * x) >= 0 and way * (x * by - y * bx) >= 0


@kernel("i8(f8[::1], f8, f8)")
def where_on(row, x, y):
    """Whether a point of an element is one of its ends."""
    if length(x - row[X0], y - row[Y0]) <= SAME_MM:
        return FIRST
    return LAST if length(x - row[X1], y - row[Y1]) <= SAME_MM else WITHIN


@kernel("f8(f8[::1], f8[::1], f8[::1])")
def nearest_pair(a, b, best):
    """The least distance of two elements that do not cross, and the points there, best (4,)."""
    least = np.inf
    for k in range(2):
        row, other = (a, b) if k == 0 else (b, a)
        for end in range(2):
            x, y = (row[X0], row[Y0]) if end == 0 else (row[X1], row[Y1])
            fx, fy, away = nearest_on(other, x, y)
            if away < least:
                least = away
                best[2 * k], best[2 * k + 1], best[2 - 2 * k], best[3 - 2 * k] = x, y, fx, fy
    if a[SWEEP] == 0 and b[SWEEP] == 0:
        return least
    if a[SWEEP] != 0 and b[SWEEP] != 0:
        dx, dy = b[CX] - a[CX], b[CY] - a[CY]
        far = length(dx, dy)
        if far < 1e-9:
            return least
        dx, dy = dx / far, dy / far
        for k in range(4):
            s, t = (1.0 if k % 2 == 0 else -1.0), (1.0 if k < 2 else -1.0)
            px, py = a[CX] + s * a[RADIUS] * dx, a[CY] + s * a[RADIUS] * dy
            qx, qy = b[CX] + t * b[RADIUS] * dx, b[CY] + t * b[RADIUS] * dy
            away = length(px - qx, py - qy)
            if away < least and on_arc(a, s * dx, s * dy) and on_arc(b, t * dx, t * dy):
                least = away
                best[0], best[1], best[2], best[3] = px, py, qx, qy
        return least
    straight, arc, k = (a, b, 0) if a[SWEEP] == 0 else (b, a, 1)
    px, py, far = nearest_on(straight, arc[CX], arc[CY])
    if far > SAME_MM and where_on(straight, px, py) == WITHIN:
        dx, dy = (px - arc[CX]) / far, (py - arc[CY]) / far
        for t in (1.0, -1.0):
            qx, qy = arc[CX] + t * arc[RADIUS] * dx, arc[CY] + t * arc[RADIUS] * dy
            away = length(px - qx, py - qy)
            if away < least and on_arc(arc, t * dx, t * dy):
                least = away
                best[2 * k], best[2 * k + 1], best[2 - 2 * k], best[3 - 2 * k] = px, py, qx, qy
    return least


@kernel("f8(f8[::1], f8[::1])")
def box_gap(a, b):
    """The distance between two boxes."""
    return length(max(max(a[0] - b[2], b[0] - a[2]), 0.0), max(max(a[1] - b[3], b[1] - a[3]), 0.0))


@kernel("b1(f8[:, ::1], i8, i8, f8, f8, f8, f8, i8[::1], i8[::1], i8)")
def nearer_beyond(table, i, place, x, y, wx, wy, before, after, other):
    """Whether the outline goes on beyond an element's end towards a point (wx, wy) away."""
    if place == WITHIN:
        return False
    f = after[i] if place == LAST else before[i]
    if f < 0 or f == other:
        return False
    tx, ty = (table[f, UX], table[f, UY]) if place == LAST else (-table[f, VX], -table[f, VY])
    return tx * wx + ty * wy > 1e-6 * length(wx, wy)


@kernel("f8(f8[::1], f8[::1], f8[::1])")
def across_middle(a, b, best):
    """How far apart two elements are that run beside each other for longer than they are apart, from the middle of one
    of them, and the points there, best (4,); infinite where they do not. Between two straight caps a strip is nowhere
    narrower than about its corners, though it is narrow all along."""
    for k in range(2):
        row, other = (a, b) if k == 0 else (b, a)
        x, y, ux, uy = place_on(row, 0.5)
        fx, fy, away = nearest_on(other, x, y)
        if away <= SAME_MM or where_on(other, fx, fy) != WITHIN:
            continue
        if abs(ux * (fx - x) + uy * (fy - y)) > BESIDE * away:
            continue
        if min(length(a[X1] - a[X0], a[Y1] - a[Y0]), length(b[X1] - b[X0], b[Y1] - b[Y0])) < STRIP * away:
            continue
        best[2 * k], best[2 * k + 1], best[2 - 2 * k], best[3 - 2 * k] = x, y, fx, fy
        return away
    return np.inf


@kernel("b1(f8[:, ::1], i8, i8, f8, i8[::1], i8[::1], f8[::1])")
def least_about(table, i, j, least, before, after, best):
    """Whether no pair of elements about a pair is nearer."""
    for di in range(-1, 2):
        a = i if di == 0 else (before[i] if di < 0 else after[i])
        if a < 0:
            continue
        for dj in range(-1, 2):
            b = j if dj == 0 else (before[j] if dj < 0 else after[j])
            if b < 0 or (di == 0 and dj == 0):
                continue
            if a == b or nearest_pair(table[a], table[b], best) < least - SAME_MM:
                return False
    return True


@kernel("b1(f8[:, ::1], i8, i8, f8, f8[::1], i8[::1], i8[::1], f8[::1])")
def is_least(table, i, j, least, best, before, after, spare):
    """Whether the outlines come no nearer to each other about the nearest points, best (4,), of two elements."""
    px, py, qx, qy = best
    if nearer_beyond(table, i, where_on(table[i], px, py), px, py, qx - px, qy - py, before, after, j):
        return False
    if nearer_beyond(table, j, where_on(table[j], qx, qy), qx, qy, px - qx, py - qy, before, after, i):
        return False
    return least_about(table, i, j, least, before, after, spare)


@kernel("b1(f8, f8, f8, f8[:, ::1], f8[:, ::1], i8[::1], i8[::1], i8[::1], f8[::1])")
def is_empty(x, y, radius, table, node, level, order, stack, height):
    """Whether nothing comes nearer to a point than a radius."""
    stack[0], height[0], left = 0, len(level) - 2, 1
    while left > 0:
        left -= 1
        k, up = stack[left], int(height[left])
        if away_from(node[level[up] + k], x, y) >= radius * radius:
            continue
        if up == 0:
            _, _, away = nearest_on(table[order[k]], x, y)
            if away < radius:
                return False
            continue
        size = level[up] - level[up - 1]
        for c in range(2 * k, min(2 * k + 2, size)):
            stack[left], height[left] = c, up - 1
            left += 1
    return True


@kernel(
    "Tuple((i8[:, ::1], f8[:, ::1]))(f8[:, ::1], f8[:, ::1], i8[::1], i8[::1], f8[:, ::1], i8[::1], i8[::1], i8[::1],"
    " f8[::1], f8[::1], f8[:, ::1], b1[::1], f8[:, ::1], i8[::1], i8[::1], b1, b1, f8, i8, i8)"
)
def facing_pairs(
    table, node, level, order, box, before, after, outline, turned, around, heading, near, near_node, near_level,
    near_order, either, whole, below, first, last
):  # fmt: skip
    """Pairs of elements (N, 2) between which two points face each other at a distance that is least about there, less
    than `below` and with nothing in between; those points and the distance (N, 5).

    before, after (E,): neighbours along outlines, or -1; turned (E + 1,): how much an outline has turned up to each
    element, in all, and around (K,): how much it turns in all, where it is closed, else infinite; heading (E, 2): the
    middle of the directions that the outline has along each element and about its ends, and how far they are from it;
    near (E,): the elements that are asked, and near_node, near_level, near_order: a tree of these alone; either:
    whether two sides that face each other may run the same way; whole: whether the elements may be long, so that strips
    of one element to a side count as a place. Only elements from `first` to `last` are taken as the first of a pair.
    """
    most, n = 256, 0
    pairs, found = np.empty((most, 2), np.int64), np.empty((most, 5))
    stack, height = np.empty(200, np.int64), np.empty(200)
    best, spare = np.empty(4), np.empty(4)
    inner, inner_height = np.empty(200, np.int64), np.empty(200)
    for i in range(first, last):
        if not near[i]:
            continue
        stack[0], height[0], left = 0, len(near_level) - 2, 1
        while left > 0:
            left -= 1
            k, up = stack[left], int(height[left])
            if box_gap(near_node[near_level[up] + k], box[i]) >= below:
                continue
            if up > 0:
                size = near_level[up] - near_level[up - 1]
                for c in range(2 * k, min(2 * k + 2, size)):
                    stack[left], height[left] = c, up - 1
                    left += 1
                continue
            j = near_order[k]
            if j <= i or after[i] == j or before[i] == j:
                continue
            # The shortest way between two sides is square to both.
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
            least = nearest_pair(table[i], table[j], best)
            if least >= below or least <= SAME_MM:
                continue
            share = 1 - 1e-6
            if not is_least(table, i, j, least, best, before, after, spare):
                if not whole:
                    continue
                least, share = across_middle(table[i], table[j], best), SQUARE_SHARE
                if least >= below:
                    continue
            px, py, qx, qy = best
            radius = least / 2 * share - SAME_MM
            if not is_empty((px + qx) / 2, (py + qy) / 2, radius, table, node, level, order, inner, inner_height):
                continue
            if n == most:
                more, more_found = np.empty((2 * most, 2), np.int64), np.empty((2 * most, 5))
                more[:n], more_found[:n] = pairs, found
                pairs, found, most = more, more_found, 2 * most
            pairs[n, 0], pairs[n, 1] = i, j
            found[n, 0], found[n, 1], found[n, 2], found[n, 3], found[n, 4] = px, py, qx, qy, least
            n += 1
    return pairs[:n].copy(), found[:n].copy()


@kernel("void(f8[:, ::1], i8[:, ::1], Array(i8, 1, 'C', readonly=True), f8[:, ::1])")
def converge(found, segment, kind, geometry):
    """Points that face each other (N, 5) moved, in place, to where their own segments (N, 2) are nearest to each other:
    by turns each to the place nearest to the other."""
    for n in range(len(found)):
        p, q = segment[n]
        for _ in range(20):
            before = found[n, 4]
            t, _ = nearest_between(kind[p], geometry[p], 0.0, 1.0, found[n, 2], found[n, 3])
            found[n, 0], found[n, 1], _, _ = curve_at(kind[p], geometry[p], t)
            t, found[n, 4] = nearest_between(kind[q], geometry[q], 0.0, 1.0, found[n, 0], found[n, 1])
            found[n, 2], found[n, 3], _, _ = curve_at(kind[q], geometry[q], t)
            if abs(found[n, 4] - before) < 1e-12:
                break
