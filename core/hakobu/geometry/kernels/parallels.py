"""Raw offsets: the parallel of every line and arc, and an arc about every corner that is convex on its side."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .curves import length
from .elements import ANGLE, COLUMNS, CX, CY, RADIUS, SWEEP, UX, UY, VX, VY, X0, X1, Y0, Y1

#: What a raw piece is: the parallel of an element, an arc about a corner, a round end.
SHIFTED, CORNER, END = 0, 1, 2
#: A joint that turns to the concave side by less, in radians, is smooth.
SMOOTH = 1e-9
#: A corner that opens a gap of less, in mm, gets no arc.
NO_GAP_MM = 1e-7


@kernel("void(f8[::1], f8[::1])")
def turn_back(row, made):
    """The same piece run the other way."""
    made[:] = row
    made[X0], made[Y0], made[X1], made[Y1] = row[X1], row[Y1], row[X0], row[Y0]
    made[UX], made[UY], made[VX], made[VY] = -row[VX], -row[VY], -row[UX], -row[UY]
    made[ANGLE], made[SWEEP] = row[ANGLE] + row[SWEEP], -row[SWEEP]


@kernel("b1(f8[::1], f8, f8[::1])")
def shifted(row, left, made):
    """The parallel so far to the left of an element; False where none is left of an arc."""
    made[:] = row
    made[X0], made[Y0] = row[X0] + left * row[UY], row[Y0] - left * row[UX]
    made[X1], made[Y1] = row[X1] + left * row[VY], row[Y1] - left * row[VX]
    if row[SWEEP] == 0:
        return True
    made[RADIUS] = row[RADIUS] + (left if row[SWEEP] > 0 else -left)
    return made[RADIUS] > 1e-7


@kernel("void(f8, f8, f8, f8, f8, f8, f8[::1])")
def arc_about(x, y, ux, uy, left, sweep, made):
    """An arc about a point, from the left of a direction there, turning by so much."""
    made[CX], made[CY], made[RADIUS], made[SWEEP] = x, y, abs(left), sweep
    made[ANGLE] = math.atan2(-left * ux, left * uy)
    cos, sin = math.cos(sweep), math.sin(sweep)
    vx, vy = ux * cos - uy * sin, uy * cos + ux * sin
    made[X0], made[Y0] = x + left * uy, y - left * ux
    made[X1], made[Y1] = x + left * vy, y - left * vx
    way = 1.0 if left * sweep > 0 else -1.0
    made[UX], made[UY], made[VX], made[VY] = way * ux, way * uy, way * vx, way * vy


@kernel("b1(f8[::1], f8)")
def gentle(row, left):
    """Whether an element bends so little that, where it goes on smoothly, it comes no nearer to the parallel of what
    goes before it than that is to its own source."""
    toward = row[SWEEP] * left < 0
    return abs(row[SWEEP]) <= math.pi / 2 and (not toward or row[RADIUS] >= abs(left))


@kernel("f8(f8[::1], f8[::1])")
def turn_between(before, after):
    """The angle by which the direction changes from one element to the next."""
    cross = before[VX] * after[UY] - before[VY] * after[UX]
    return math.atan2(cross, before[VX] * after[UX] + before[VY] * after[UY])


@kernel("i8(f8[:, ::1], i8, i8, i8, b1, f8, b1)")
def passed_over(table, e, first, last, closed, left, forward):
    """The element after or before another that its parallel need not be held against, or -1."""
    if forward:
        f = e + 1 if e + 1 < last else (first if closed else -1)
    else:
        f = e - 1 if e > first else (last - 1 if closed else -1)
    if f < 0 or f == e or not gentle(table[f], left) or not gentle(table[e], left):
        return -1
    before, after = (table[e], table[f]) if forward else (table[f], table[e])
    cross = before[VX] * after[UY] - before[VY] * after[UX]
    dot = before[VX] * after[UX] + before[VY] * after[UY]
    return f if dot > 0 and (cross * left >= 0 or abs(cross) <= SMOOTH * dot) else -1


@kernel("Tuple((f8[:, ::1], i8[:, ::1], i8[::1]))(f8[:, ::1], i8[::1], Array(b1, 1, 'C', readonly=True), f8, b1, b1)")
def raw_pieces(table, start, closed, distance, on_left, on_right):
    """The raw pieces (P, 13); what each is, of which elements, and which elements it need not be held against, or -1
    (P, 5); and the piece that goes on where each ends (P,), or -1. start (K+1,), closed (K,): outlines of elements.
    What is inside is on the right of each piece."""
    most = 4 * len(table) + 4 * len(closed) + 8
    pieces, what, following = np.empty((most, COLUMNS)), np.empty((most, 5), np.int64), np.empty(most, np.int64)
    spare = np.empty(COLUMNS)
    n = 0
    for k in range(len(closed)):
        a, b = start[k], start[k + 1]
        if a == b:
            continue
        ring = n
        for side in range(2):
            if (side == 0 and not on_left) or (side == 1 and not on_right):
                continue
            # Round the right side of a line backwards, so that the line lies on the right of that too; inside a shape
            # forwards.
            back = side == 1 and on_left
            left = distance if side == 0 else -distance
            if closed[k] or side == 0:
                ring = n
            for j in range(b - a):
                e = b - 1 - j if back else a + j
                row = table[e]
                if shifted(row, left, pieces[n]):
                    if back:
                        spare[:] = pieces[n]
                        turn_back(spare, pieces[n])
                    what[n, 0], what[n, 1], what[n, 2] = SHIFTED, e, e
                    what[n, 3] = passed_over(table, e, a, b, closed[k], left, False)
                    what[n, 4] = passed_over(table, e, a, b, closed[k], left, True)
                    n += 1
                at_end = e == a if back else e == b - 1
                if at_end and not closed[k]:
                    continue
                f = (e - 1 if back else e + 1) if not at_end else (b - 1 if back else a)
                one, two = (f, e) if back else (e, f)
                before, after = table[one], table[two]
                cross = before[VX] * after[UY] - before[VY] * after[UX]
                if cross * left < 0 and before[VX] * after[UX] + before[VY] * after[UY] > 0:
                    continue
                turn = turn_between(before, after)
                if turn * left > 0 and abs(turn) * distance > NO_GAP_MM:
                    arc_about(before[X1], before[Y1], before[VX], before[VY], left, turn, pieces[n])
                    if back:
                        spare[:] = pieces[n]
                        turn_back(spare, pieces[n])
                    what[n, 0], what[n, 1], what[n, 2] = CORNER, e, f
                    what[n, 3] = e if gentle(table[e], left) else -1
                    what[n, 4] = f if gentle(table[f], left) else -1
                    n += 1
            if not closed[k]:
                end = table[a] if back else table[b - 1]
                if on_left and on_right:
                    if back:
                        arc_about(end[X0], end[Y0], -end[UX], -end[UY], distance, math.pi, pieces[n])
                    else:
                        arc_about(end[X1], end[Y1], end[VX], end[VY], distance, math.pi, pieces[n])
                    what[n, 0] = END
                    what[n, 1] = what[n, 2] = a if back else b - 1
                    what[n, 3] = what[n, 4] = -1
                    n += 1
            if closed[k] or side == 1:
                for p in range(ring, n):
                    following[p] = p + 1
                if n > ring:
                    following[n - 1] = ring
    return pieces[:n].copy(), what[:n].copy(), following[:n].copy()


@kernel("f8(f8[::1])")
def size_of(row):
    """The length of a piece."""
    if row[SWEEP] == 0:
        return length(row[X1] - row[X0], row[Y1] - row[Y0])
    return row[RADIUS] * abs(row[SWEEP])


@kernel("f8[:, ::1](f8[:, ::1])")
def boxes_about(table):
    """The box of each line or arc (E, 4): low x and y, high x and y."""
    box = np.empty((len(table), 4))
    for i in range(len(table)):
        row = table[i]
        box[i, 0], box[i, 2] = min(row[X0], row[X1]), max(row[X0], row[X1])
        box[i, 1], box[i, 3] = min(row[Y0], row[Y1]), max(row[Y0], row[Y1])
        if row[SWEEP] != 0:
            low, high = min(row[ANGLE], row[ANGLE] + row[SWEEP]), max(row[ANGLE], row[ANGLE] + row[SWEEP])
            quarter = math.ceil(low / (math.pi / 2))
            while quarter * (math.pi / 2) <= high:
                way = quarter % 4
                if way == 0:
                    box[i, 2] = row[CX] + row[RADIUS]
                elif way == 1:
                    box[i, 3] = row[CY] + row[RADIUS]
                elif way == 2:
                    box[i, 0] = row[CX] - row[RADIUS]
                else:
                    box[i, 1] = row[CY] - row[RADIUS]
                quarter += 1
    return box
