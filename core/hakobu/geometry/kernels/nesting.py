"""Which face each component of an arrangement lies in: one ray from its farthest place to the next other curve."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from ..proximity.kernels.grid import cell_of
from .chords import AX, AY, BX, BY, REACH, T0, T1
from .curves import curve_at, length
from .extremes import bound_along, farthest_along, passes_level

#: Rays are cast at these angles, odd ones that people seldom draw along; the next where one leaves a doubt.
FIRST_ANGLE, NEXT_ANGLE, TRIES = 0.5772156649, 1.3247179572, 6
#: Two hits nearer to each other than this, in mm, or one nearer to the start, and hits that run within this sine of the
#: ray, leave a doubt.
DOUBT_MM, DOUBT_SINE = 1e-7, 1e-5


@kernel("i8(i8, f8, i8[::1], f8[:, ::1])")
def edge_at(segment, t, edge_begin, span):
    """The edge of a segment that holds a parameter, -1 where there is none."""
    low, high = edge_begin[segment], edge_begin[segment + 1]
    if low == high:
        return -1
    while high - low > 1:
        middle = (low + high) // 2
        if span[middle, 0] <= t:
            low = middle
        else:
            high = middle
    return low


@kernel(
    "Tuple((i8, b1))(f8, f8, f8, f8, i8, f8[:, ::1], i8[::1], i8[::1], i8[::1], f8, f8, f8, i8, i8, i8[::1],"
    " f8[:, ::1], i8[::1], i8[::1], i8[::1], i8[::1], Array(i8, 1, 'C', readonly=True), f8[:, ::1], f8[::1],"
    " f8[::1])"
)
def half_edge_ahead(
    x, y, dx, dy, own, table, owner, begin, member, x0, y0, cell, columns, rows, edge_begin, all_span, lead, sign,
    number, component, kind, geometry, found, stops,
):  # fmt: skip
    """The half-edge whose face a ray from a place enters last before it meets a component other than its own, -1 where
    it meets none; and whether that is beyond doubt. found, stops: room for three and for six numbers."""
    nx, ny = -dy, dx
    level = nx * x + ny * y
    c, r = cell_of(x, x0, cell, columns), cell_of(y, y0, cell, rows)
    start = dx * x + dy * y - DOUBT_MM
    step_c, step_r = (1 if dx > 0 else -1), (1 if dy > 0 else -1)
    best, second, half, sure = np.inf, np.inf, -1, True
    while True:
        for p in range(begin[r * columns + c], begin[r * columns + c + 1]):
            chord = table[member[p]]
            a, b = nx * chord[AX] + ny * chord[AY] - level, nx * chord[BX] + ny * chord[BY] - level
            # What lies behind, as all of its own component does.
            if max(dx * chord[AX] + dy * chord[AY], dx * chord[BX] + dy * chord[BY]) + chord[REACH] < start:
                continue
            if (a > chord[REACH] and b > chord[REACH]) or (a < -chord[REACH] and b < -chord[REACH]):
                continue
            s = owner[member[p]]
            many = passes_level(kind[s], geometry[s], chord[T0], chord[T1], nx, ny, level, found, stops)
            for k in range(many):
                e = edge_at(s, found[k], edge_begin, all_span)
                if e < 0 or number[lead[e]] < 0:
                    continue
                e_lead = number[lead[e]]
                if component[e_lead] == own:
                    continue
                px, py, tx, ty = curve_at(kind[s], geometry[s], found[k])
                along = dx * (px - x) + dy * (py - y)
                if along < -DOUBT_MM:
                    continue
                if along < best:
                    if half >= 0 and half >> 1 != e_lead:
                        second = best
                    best = along
                    size = length(tx, ty)
                    # The side that is met: right of the edge's own direction, or left.
                    turn = (-ty * dx + tx * dy) * sign[e]
                    half = 2 * e_lead + (0 if turn < 0 else 1)
                    sure = abs(turn) > DOUBT_SINE * size and along > DOUBT_MM
                elif half >> 1 != e_lead:
                    second = min(second, along)
        next_c = c + 1 if step_c > 0 else c
        next_r = r + 1 if step_r > 0 else r
        to_c = (x0 + next_c * cell - x) / dx if 0 < next_c < columns else np.inf
        to_r = (y0 + next_r * cell - y) / dy if 0 < next_r < rows else np.inf
        if best <= min(to_c, to_r) or (to_c == np.inf and to_r == np.inf):
            break
        if to_c < to_r:
            c += step_c
        else:
            r += step_r
    return half, half < 0 or (sure and second - best > DOUBT_MM)


@kernel(
    "Tuple((i8[::1], b1))(i8[::1], i8[::1], f8[:, ::1], f8[:, ::1], i8[::1], i8[::1], i8[::1], f8, f8, f8, i8, i8,"
    " i8[::1], f8[:, ::1], i8[::1], i8[::1], i8[::1], i8, Array(i8, 1, 'C', readonly=True), f8[:, ::1])"
)
def nested(
    component, segment, span, table, owner, begin, member, x0, y0, cell, columns, rows, edge_begin, all_span, lead,
    sign, number, components, kind, geometry,
):  # fmt: skip
    """For each component the half-edge whose face it lies in, -1 for none; and whether all were found.

    component, segment, span: of the edges kept (K,). table to rows: chords in their grid. edge_begin (M+1,), all_span,
    lead, sign (E,): all edges, by their segments; number (E,): of each, its number among those kept, or -1.
    """
    parent = np.full(components, -1, np.int64)
    settled = np.zeros(components, np.bool_)
    stops, found, turns = np.empty(4), np.empty(3), np.empty(6)
    far, at, where = np.empty(components), np.empty(components), np.empty(components, np.int64)
    for turn in range(TRIES):
        angle = FIRST_ANGLE + turn * NEXT_ANGLE
        dx, dy = math.cos(angle), math.sin(angle)
        far[:] = -np.inf
        for e in range(len(segment)):
            k = component[e]
            if settled[k]:
                continue
            s = segment[e]
            if bound_along(kind[s], geometry[s], dx, dy) <= far[k]:
                continue
            t, reached = farthest_along(kind[s], geometry[s], span[e, 0], span[e, 1], dx, dy, stops)
            if reached > far[k]:
                far[k], at[k], where[k] = reached, t, s
        left = 0
        for k in range(components):
            if settled[k]:
                continue
            x, y, _, _ = curve_at(kind[where[k]], geometry[where[k]], at[k])
            parent[k], settled[k] = half_edge_ahead(
                x, y, dx, dy, k, table, owner, begin, member, x0, y0, cell, columns, rows, edge_begin, all_span, lead,
                sign, number, component, kind, geometry, found, turns,
            )  # fmt: skip
            left += not settled[k]
        if left == 0:
            return parent, True
    return parent, False
