"""What of each raw piece of an offset stays: that to which nothing of the source comes nearer than the distance."""

from __future__ import annotations

import numpy as np

from ...compiled import kernel
from ..proximity.kernels.boxtree import away_from
from ..proximity.kernels.reach import EVENTS, nearest_on, place_on, within_reach
from .curves import length
from .elements import CX, CY, RADIUS, SWEEP
from .parallels import SHIFTED, size_of

#: What is nearer by less than this, in mm, is as near: rounding.
ALIKE_MM = 1e-9
#: What comes from the other side is dropped where it leaves less than this, in mm, so that walls of exactly twice the
#: distance leave nothing.
FACING_MM = 1e-6
#: Runs that stay of one piece, at most.
RUNS = 60


@kernel("i8(f8[:, ::1], i8, f8, f8)")
def taken_from(left, count, low, high):
    """Runs without what lies between two shares; their new number, -1 where there are too many."""
    k = 0
    while k < count:
        a, b = left[k, 0], left[k, 1]
        if high <= a or low >= b:
            k += 1
            continue
        before, after = low > a, high < b
        if before and after:
            if count >= RUNS:
                return -1
            left[count, 0], left[count, 1] = high, b
            left[k, 1] = low
            count += 1
            k += 1
        elif before:
            left[k, 1] = low
            k += 1
        elif after:
            left[k, 0] = high
            k += 1
        else:
            count -= 1
            left[k] = left[count]
    return count


@kernel("i8(f8[::1], f8[::1], f8, f8, f8[:, ::1], i8, f8, f8, f8[::1], f8[:, ::1])")
def trimmed_by(row, other, distance, side, left, count, low, high, event, run):
    """Runs without what one element comes nearer to. What faces the piece, from where its own source does not lie,
    takes what leaves hardly anything too."""
    many = within_reach(row, other, distance + FACING_MM, low, high, event, run)
    plainly = False
    for k in range(many):
        a, b = run[k, 0], run[k, 1]
        x, y, ux, uy = place_on(row, (a + b) / 2)
        px, py, away = nearest_on(other, x, y)
        if side * (ux * (py - y) - uy * (px - x)) < -0.5 * away:
            count = taken_from(left, count, a, b)
            if count < 0:
                return count
        else:
            plainly = True
    if plainly:
        many = within_reach(row, other, distance - ALIKE_MM, low, high, event, run)
        for k in range(many):
            count = taken_from(left, count, run[k, 0], run[k, 1])
            if count < 0:
                return count
    return count


@kernel("Tuple((f8, f8))(f8[::1], f8, f8, f8, f8, f8, f8, f8, f8, f8)")
def between(other, wx, wy, away, ux, uy, half, bend, x, y):
    """Bounds of the distance from an element along a piece, half so long to either side of a place (x, y), bent by so
    much, that runs along (ux, uy) there: by its slope and the most that it can bend. (wx, wy): to the nearest point."""
    slope = abs(ux * wx + uy * wy) / away if away > 0 else 1.0
    square = half * half / 2
    # Only from inside an arc is the distance bent downwards.
    down = 0.0
    if other[SWEEP] != 0:
        inner = length(x - other[CX], y - other[CY])
        if inner < other[RADIUS]:
            down = 1 / (inner - half) if inner > 2 * half else np.inf
    least = max(away - half, away - half * slope - square * (bend + down))
    up = 1 / (away - half) if away > 2 * half else np.inf
    return least, min(away + half, away + half * slope + square * (bend + up))


@kernel("Tuple((i8[::1], f8[:, ::1], b1))(f8[:, ::1], i8[:, ::1], f8[:, ::1], f8[:, ::1], i8[::1], i8[::1], f8, f8)")
def trimmed(pieces, what, table, node, level, order, distance, side):
    """The runs that stay: of which piece each is (R,), in order, and the shares where it begins and ends (R, 2); and
    whether there was room for all. table (E, 13): the source, node, level and order: the tree of its boxes. side: 1
    where the source lies on the right of the pieces, -1 where on their left, as inside a shape."""
    most, n = len(pieces) + 64, 0
    owner, shares = np.empty(most, np.int64), np.empty((most, 2))
    left, event, run = np.empty((RUNS + 4, 2)), np.empty(EVENTS), np.empty((EVENTS + 1, 2))
    stack, height, bound = np.empty(200, np.int64), np.empty(200, np.int64), np.empty(200)
    row = np.empty(pieces.shape[1])
    top, good = len(level) - 2, True
    for p in range(len(pieces)):
        row[:] = pieces[p]
        whole = size_of(row)
        if not whole > ALIKE_MM:
            continue
        left[0, 0], left[0, 1], count = 0.0, 1.0, 1
        low, high = 0.0, 1.0
        x, y, ux, uy = place_on(row, 0.5)
        half = whole / 2
        bend = 1 / row[RADIUS] if row[SWEEP] != 0 else 0.0
        stack[0], height[0], bound[0], waiting = 0, top, away_from(node[level[top]], x, y), 1
        while waiting > 0:
            waiting -= 1
            k, up = stack[waiting], height[waiting]
            reach = distance + FACING_MM + half
            if bound[waiting] >= reach * reach:
                continue
            if up > 0:
                below, size = level[up - 1], level[up] - level[up - 1]
                first, second = 2 * k, min(2 * k + 1, size - 1)
                a, b = away_from(node[below + first], x, y), away_from(node[below + second], x, y)
                if a < b:
                    first, second, a, b = second, first, b, a
                if first != second:
                    stack[waiting], height[waiting], bound[waiting] = first, up - 1, a
                    waiting += 1
                stack[waiting], height[waiting], bound[waiting] = second, up - 1, b
                waiting += 1
                continue
            e = order[k]
            if (what[p, 0] == SHIFTED and what[p, 1] == e) or what[p, 3] == e or what[p, 4] == e:
                continue
            other = table[e]
            fx, fy, away = nearest_on(other, x, y)
            if away >= reach:
                continue
            least, most_away = between(other, fx - x, fy - y, away, ux, uy, half, bend, x, y)
            if least >= distance + FACING_MM:
                continue
            if most_away < distance - ALIKE_MM:
                count = 0
                break
            before = count
            count = trimmed_by(row, other, distance, side, left, count, low, high, event, run)
            if count < 0:
                good, count = False, before
                break
            if count == 0:
                break
            # Go on with what is left only.
            new_low, new_high = left[0, 0], left[0, 1]
            for i in range(1, count):
                new_low, new_high = min(new_low, left[i, 0]), max(new_high, left[i, 1])
            if new_low != low or new_high != high:
                low, high = new_low, new_high
                x, y, ux, uy = place_on(row, (low + high) / 2)
                half = whole * (high - low) / 2
                for i in range(waiting):
                    bound[i] = away_from(node[level[height[i]] + stack[i]], x, y)
        if n + count > most:
            most = 2 * most + count
            more_owner, more = np.empty(most, np.int64), np.empty((most, 2))
            more_owner[:n], more[:n] = owner[:n], shares[:n]
            owner, shares = more_owner, more
        for i in range(1, count):
            a, b, j = left[i, 0], left[i, 1], i - 1
            while j >= 0 and left[j, 0] > a:
                left[j + 1] = left[j]
                j -= 1
            left[j + 1, 0], left[j + 1, 1] = a, b
        for i in range(count):
            if (left[i, 1] - left[i, 0]) * whole > ALIKE_MM:
                owner[n] = p
                shares[n] = left[i]
                n += 1
    return owner[:n].copy(), shares[:n].copy(), good
