"""Two sides and their ends moved until they fit a picture's pixels best, by Gauss and Newton's method, damped
(Levenberg 1944, Marquardt 1963)."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.one_cubic import solve
from .blur_model import CUT, LONGEST, MOVES, SHARP, beyond, faced, model_of, moved_side
from .corner_sides import meeting

#: Steps of the fit, the longest of them, and the one that is the last, in pixels.
STEPS, LONGEST_STEP, SETTLED = 14, 1.5, 0.01
#: Damping at first, the least and the most, and by what it falls and rises.
DAMPED, LEAST_DAMPED, MOST_DAMPED, FALLS, RISES = 1e-2, 3e-3, 1e4, 0.2, 10.0
#: After so many steps one that is not worth it is given up.
PATIENCE = 5
#: Nor is another worth it when the fit gets better by no more than this and this share, or is to get by so much of it.
SETTLED_COST, SETTLED_SHARE, EXPECTED = 0.05, 0.002, 0.2
#: The least that a bend takes off either side, in pixels.
SHORTEST = 0.05


@kernel(
    "f8(f8[:, ::1], f8[::1], f8[::1], f8[::1], f8, i8, f8[::1], i8, f8[::1], f8[::1], f8[::1], b1, f8[:, ::1],"
    " f8[:, :, ::1], f8[::1], f8[::1])"
)
def fit_residual(
    seen, first, second, known, level, kind, frame, size, tried, one, two, moves, model, change, row, weights
):
    """The sum of squares, over the noise's, of what is seen beside what two sides would be with some moves, which are
    left in one and two, and that of the moves over how far they are known (6,); model holds the differences, not a
    number where pixels do not count. Infinite where sides do not meet that should; how far they go on is put right."""
    moved_side(first, tried[:3], first[7], one)
    moved_side(second, tried[3:6], second[7], two)
    if kind != CUT:
        met, x, y, _ = meeting(one, two, LONGEST)
        if not met:
            return np.inf
        t1 = (x - one[0]) * one[2] + (y - one[1]) * one[3]
        t2 = (x - two[0]) * two[2] + (y - two[1]) * two[3]
        if kind == SHARP:
            tried[6], tried[7] = t1, t2
        else:
            tried[6], tried[7] = min(tried[6], t1 - SHORTEST), min(tried[7], t2 - SHORTEST)
    if abs(tried[6]) > LONGEST or abs(tried[7]) > LONGEST:
        return np.inf
    far = beyond(size, frame[4])
    base = 1.0 if faced(one, two, first[7], second[7], tried[6], tried[7], far, frame) else 0.0
    model_of(one, two, first[7], second[7], tried[6], tried[7], kind, frame, size, moves, model, change, row, weights)
    cost = 0.0
    ex, ey = int(frame[2]), int(frame[3])
    for j in range(2 * size + 1):
        for i in range(2 * size + 1):
            # From pixels along the rows of the model to those of the picture.
            u, v = i - size, j - size
            off = seen[size + u * ey + v * ex, size + u * ex - v * ey] - model[j, i] - base
            model[j, i] = off
            if not math.isnan(off):
                cost += off * off
    cost /= level * level
    for p in range(6):
        cost += (tried[p] / known[p]) ** 2
    return cost


@kernel("void(f8[:, ::1], f8[:, :, ::1], i8, i8, f8, f8[::1], f8[::1], f8[:, ::1], f8[::1])")
def normal_equations(model, change, size, moves, level, known, found, matrix, right):
    """Of the differences and what the moves change of them, over the noise, and of what is known of the moves."""
    matrix[:], right[:] = 0.0, 0.0
    for j in range(2 * size + 1):
        for i in range(2 * size + 1):
            off, by = model[j, i], change[j, i]
            if math.isnan(off):
                continue
            for p in range(MOVES):
                w = by[p]
                # Most pixels know of few moves.
                if w == 0.0:
                    continue
                right[p] += w * off
                for q in range(p + 1):
                    matrix[p, q] += w * by[q]
    for p in range(moves):
        right[p] /= level * level
        for q in range(p + 1):
            matrix[p, q] /= level * level
            matrix[q, p] = matrix[p, q]
        if p < 6:
            matrix[p, p] += 1 / known[p] ** 2
            right[p] -= found[p] / known[p] ** 2


@kernel(
    "f8(f8[:, ::1], f8[::1], f8[::1], f8[::1], f8, i8, f8[::1], i8, f8[::1], f8[::1], f8[::1], f8[:, ::1],"
    " f8[:, :, ::1], f8[::1], f8[::1], f8)"
)
def fitted(seen, first, second, known, level, kind, frame, size, found, one, two, model, change, row, weights, goal):
    """Moves two sides and their ends until the model fits what is seen, from what is found (8,): three moves of each
    side and how far each goes on. Returns what `held_against` says of the last; the sides as moved are in one and
    two. goal: what it must come under to be of use; where it does not soon, it is given up."""
    moves = 6 if kind == SHARP else MOVES
    matrix, right = np.empty((MOVES, MOVES)), np.empty(MOVES)
    damped, step, tried = np.empty((MOVES, MOVES)), np.empty(MOVES), np.empty(MOVES)
    best, damping = np.inf, DAMPED
    tried[:] = found
    for tries in range(STEPS):
        if tries >= PATIENCE and best > goal:
            break
        cost = fit_residual(
            seen, first, second, known, level, kind, frame, size, tried, one, two, True, model, change, row, weights
        )
        if cost < best:
            settled = damping <= DAMPED and best - cost < SETTLED_COST + SETTLED_SHARE * cost
            best = cost
            found[:] = tried
            if settled:
                break
            damping = max(damping * FALLS, LEAST_DAMPED)
            normal_equations(model, change, size, moves, level, known, found, matrix, right)
        elif best == np.inf or damping > MOST_DAMPED:
            break
        else:
            damping *= RISES
        damped[:], step[:] = matrix, right
        for p in range(moves):
            damped[p, p] += damping * (matrix[p, p] + 1e-9)
        if not solve(damped, step, moves):
            break
        most, gain = 0.0, 0.0
        tried[:] = found
        for p in range(moves):
            by = min(max(step[p], -LONGEST_STEP), LONGEST_STEP)
            most = max(most, abs(by))
            tried[p] += by
            gain += 2 * right[p] * step[p]
            for q in range(moves):
                gain -= step[p] * matrix[p, q] * step[q]
        if most < SETTLED or gain < EXPECTED * (SETTLED_COST + SETTLED_SHARE * best):
            break
    moved_side(first, found[:3], first[7], one)
    moved_side(second, found[3:6], second[7], two)
    return best
