"""The bands along lines and arcs as closed loops, with any joins and ends: what is within a distance across, as SVG has
strokes. Every loop winds the same way round what it covers, so that their union is all that any of them winds round."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .curves import length
from .elements import COLUMNS, CX, CY, RADIUS, SWEEP, UX, UY, VX, VY, X0, X1, Y0, Y1
from .parallels import shifted, turn_between

ROUND, MITRE, BEVEL = 0, 1, 2
FLAT, SQUARE = 1, 2
#: Sides that are nearer than this, in mm, are one.
ONE_MM = 1e-6


@kernel("void(f8[::1])")
def turned(row):
    """A row run the other way, in place; what it says of angles is not used here."""
    row[X0], row[Y0], row[X1], row[Y1] = row[X1], row[Y1], row[X0], row[Y0]
    row[UX], row[UY], row[VX], row[VY] = -row[VX], -row[VY], -row[UX], -row[UY]
    row[SWEEP] = -row[SWEEP]


@kernel("i8(f8[:, ::1], i8[:, ::1], i8, f8, f8, f8, i8, b1)")
def line_to(made, mark, n, x, y, bulge, part, plain):
    """Goes on to a point, by a line or an arc of a bulge; the next free row. A row holds both ends and the bulge."""
    made[n, 2], made[n, 3], made[n, 4] = x, y, bulge
    if abs(x - made[n, 0]) + abs(y - made[n, 1]) == 0:
        return n
    mark[n, 0], mark[n, 1] = part, int(plain)
    made[n + 1, 0], made[n + 1, 1] = x, y
    return n + 1


@kernel("i8(f8[:, ::1], i8[:, ::1], i8, f8, f8, f8, f8, f8, f8, f8, f8, i8, f8, i8)")
def joint(made, mark, n, x, y, ux, uy, vx, vy, left, turn, how, limit, part):
    """Goes on round a vertex to the beginning of the next side; the next free row."""
    bx, by = x + left * vy, y - left * vx
    if abs(turn * left) <= ONE_MM:
        return line_to(made, mark, n, bx, by, 0.0, part, False)
    if turn * left < 0:
        n = line_to(made, mark, n, x, y, 0.0, part, False)
        return line_to(made, mark, n, bx, by, 0.0, part, False)
    if how == ROUND:
        if abs(turn) > 3:
            cos, sin = math.cos(turn / 2), math.sin(turn / 2)
            wx, wy = ux * cos - uy * sin, uy * cos + ux * sin
            n = line_to(made, mark, n, x + left * wy, y - left * wx, math.tan(turn / 8), part, True)
            return line_to(made, mark, n, bx, by, math.tan(turn / 8), part, True)
        return line_to(made, mark, n, bx, by, math.tan(turn / 4), part, abs(turn) > 0.1)
    cos = math.cos(turn / 2)
    if how == MITRE and cos * limit >= 1:
        scale = left / (2 * cos * cos)
        n = line_to(made, mark, n, x + scale * (uy + vy), y - scale * (ux + vx), 0.0, part, True)
    return line_to(made, mark, n, bx, by, 0.0, part, True)


@kernel("i8(f8[:, ::1], i8[:, ::1], i8, f8, f8, f8, f8, f8, i8, i8)")
def ended(made, mark, n, x, y, ux, uy, distance, how, part):
    """Goes round the end of a line that arrives there, from its left side to its right; the next free row."""
    if how == SQUARE:
        n = line_to(made, mark, n, x + distance * (uy + ux), y + distance * (uy - ux), 0.0, part, True)
        n = line_to(made, mark, n, x + distance * (ux - uy), y + distance * (uy + ux), 0.0, part, True)
    elif how == ROUND:
        n = line_to(made, mark, n, x + distance * ux, y + distance * uy, math.tan(math.pi / 8), part, True)
        return line_to(made, mark, n, x - distance * uy, y + distance * ux, math.tan(math.pi / 8), part, True)
    return line_to(made, mark, n, x - distance * uy, y + distance * ux, 0.0, part, True)


@kernel("i8(f8[:, ::1], f8, i8, b1, f8[:, ::1], i8[:, ::1], i8)")
def side_of(one, left, part, plain, made, mark, n):
    """Goes along the parallel of an element from its beginning; where none is left of an arc, over its centre; the next
    free row. one (2, 13): the element, and room for its parallel."""
    row = one[0]
    if shifted(row, left, one[1]):
        bulge = math.tan(row[SWEEP] / 4)
        return line_to(made, mark, n, one[1, X1], one[1, Y1], bulge, part, plain)
    n = line_to(made, mark, n, row[X0], row[Y0], 0.0, part, False)
    n = line_to(made, mark, n, row[CX], row[CY], 0.0, part, False)
    n = line_to(made, mark, n, row[X1], row[Y1], 0.0, part, False)
    return line_to(made, mark, n, row[X1] + left * row[VY], row[Y1] - left * row[VX], 0.0, part, False)


@kernel("i8(f8[::1], f8, f8[:, ::1], i8[:, ::1], i8, i8)")
def beyond_centre(row, left, made, mark, n, part):
    """The loop beyond an arc's centre that its normals still reach; the next free row, the same where there is none."""
    further = abs(left) - row[RADIUS]
    if row[SWEEP] * left >= 0 or further <= ONE_MM:
        return n
    x, y = row[CX], row[CY]
    ax, ay = (x - row[X0]) / row[RADIUS] * further, (y - row[Y0]) / row[RADIUS] * further
    bx, by = (x - row[X1]) / row[RADIUS] * further, (y - row[Y1]) / row[RADIUS] * further
    way = 1.0
    if row[SWEEP] < 0:
        ax, ay, bx, by, way = bx, by, ax, ay, -1.0
    made[n, 0], made[n, 1] = x, y
    n = line_to(made, mark, n, x + ax, y + ay, 0.0, part, False)
    n = line_to(made, mark, n, x + bx, y + by, math.tan(way * row[SWEEP] / 4), part, True)
    return line_to(made, mark, n, x, y, 0.0, part, False)


@kernel(
    "Tuple((f8[:, ::1], i8[:, ::1], i8[::1]))(f8[:, ::1], b1[::1], i8[::1], Array(b1, 1, 'C', readonly=True), f8, b1,"
    " b1, i8, f8, i8)"
)
def band_loops(table, plain, start, closed, distance, on_left, on_right, join, limit, end):
    """Closed loops of lines and arcs: both ends and the bulge of each (N, 5), the element it is of and whether it is a
    line or an arc that was drawn as such (N, 2), and the first of each loop (L+1,). All on the left of closed outlines
    are parallels only, which wind round the shape as well; those on the right go backwards."""
    room = 14 * len(table) + 12 * len(closed) + 16
    made, mark = np.empty((room, 5)), np.empty((room, 2), np.int64)
    begin, loops, n = np.empty(4 * len(table) + 2 * len(closed) + 2, np.int64), 0, 0
    begin[0] = 0
    one, spare = np.empty((2, COLUMNS)), np.empty(COLUMNS)
    for k in range(len(closed)):
        a, b = start[k], start[k + 1]
        if a == b:
            continue
        for side in range(2):
            if (side == 0 and not on_left) or (side == 1 and not on_right):
                continue
            # The right side is the left one of the outline run backwards.
            for j in range(b - a):
                e = a + j if side == 0 else b - 1 - j
                f = e + 1 if side == 0 else e - 1
                one[0] = table[e]
                spare[:] = table[(a if f == b else f) if side == 0 else (b - 1 if f == a - 1 else f)]
                if side == 1:
                    turned(one[0])
                    turned(spare)
                row = one[0]
                if n == begin[loops]:
                    made[n, 0], made[n, 1] = row[X0] + distance * row[UY], row[Y0] - distance * row[UX]
                n = side_of(one, distance, e, plain[e], made, mark, n)
                last = j == b - a - 1
                if not last or closed[k]:
                    turn = turn_between(row, spare)
                    n = joint(
                        made, mark, n, row[X1], row[Y1], row[VX], row[VY], spare[UX], spare[UY], distance, turn, join,
                        limit, e,
                    )  # fmt: skip
                else:
                    n = ended(made, mark, n, row[X1], row[Y1], row[VX], row[VY], distance, end, e)
            if closed[k] or side == 1:
                # Back to where it began, to the bit.
                x, y = made[begin[loops], 0], made[begin[loops], 1]
                if n > begin[loops]:
                    if length(made[n - 1, 2] - x, made[n - 1, 3] - y) <= ONE_MM:
                        made[n - 1, 2], made[n - 1, 3] = x, y
                    else:
                        n = line_to(made, mark, n, x, y, 0.0, mark[n - 1, 0], False)
                    loops += 1
                    begin[loops] = n
        for side in range(2):
            if (side == 0 and not on_left) or (side == 1 and not on_right):
                continue
            for e in range(a, b):
                one[0] = table[e]
                if side == 1:
                    turned(one[0])
                before = n
                n = beyond_centre(one[0], distance, made, mark, n, e)
                if n > before:
                    loops += 1
                    begin[loops] = n
    return made[:n].copy(), mark[:n].copy(), begin[: loops + 1].copy()
