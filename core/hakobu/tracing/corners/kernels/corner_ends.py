"""What the corners of blurred and noisy outlines end in, each by itself, so that the work can be shared out: it is most
of what tracing such a picture takes."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from .blurred_ends import end_between
from .chamfers import SOFT, UNEVEN
from .corner_candidates import arm_px, candidates, grouped, is_round, room_of, with_pinned
from .corner_sides import rounded_px, sides_about

#: What a row holds: the point up to which candidates from one on are looked at together, -1 for none; the room before
#: and after them; whether they are alone; how many corners there are, as `end_between` says, or none yet; where; how
#: far from them the outline is not true; and the points that they lie by.
HI, BEFORE, AFTER, ALONE, CORNERS, PLACES, FREE, FROM, TO, ROW = 0, 1, 2, 3, 4, 5, 9, 10, 11, 12
NOT_YET = -2.0
#: The ends of a cut that are farther apart than this, in pixels, have sides of their own, if there is so much room.
APART, ROOM = 3.5, 4.0
#: A side that is known over less than this, in pixels, may not be one; two corners in its place fit within so many
#: times what noise leaves.
SHORT, FITTING = 5.0, 0.2


@kernel("Tuple((f8[::1], i8[::1], i8[::1], f8[:, ::1]))(f8[:, ::1], i8[::1], b1[::1], f8, f8, f8)")
def candidates_of(points, start, pinned, dead, blur, noise):
    """Of closed outlines: the lengths up to each point, with the whole after the last of each, (N+K,); the points that
    may be corners, (C,), by outlines from first (K+1,) on; and what is to be found of each, (C, ROW). pinned (N,):
    points that are corners by themselves."""
    outlines = len(start) - 1
    run = np.zeros(len(points) + outlines)
    at, first = np.empty(len(points), np.int64), np.zeros(outlines + 1, np.int64)
    known = np.empty((len(points), ROW))
    unclear = blur > SOFT or dead > UNEVEN
    near = rounded_px(blur, noise)
    count = 0
    for k in range(outlines):
        own = points[start[k] : start[k + 1]]
        n = len(own)
        along = run[start[k] + k : start[k + 1] + k + 1]
        for i in range(n):
            j = i + 1 if i + 1 < n else 0
            along[i + 1] = along[i] + length(own[j, 0] - own[i, 0], own[j, 1] - own[i, 1])
        whole = along[n]
        begin = count
        if n >= 6 and whole > 5:
            marked = np.zeros(n, np.bool_)
            reach = min(arm_px(blur, noise), whole / 6)
            candidates(own, along, reach, marked)
            held = pinned[start[k] : start[k + 1]]
            with_pinned(along, held, reach, marked)
            for i in range(n):
                if marked[i]:
                    at[count] = i
                    count += 1
            known[begin:count, HI] = -1.0
            if unclear and count > begin and not is_round(own, blur, noise):
                some = at[begin:count].copy()
                lo, hi = np.empty_like(some), np.empty_like(some)
                groups = grouped(own, along, some, len(some), near, reach, held, lo, hi)
                for g in range(groups):
                    if held[lo[g]]:
                        continue
                    row = known[begin + np.searchsorted(some, lo[g])]
                    row[HI], row[ALONE], row[CORNERS] = hi[g], groups == 1, NOT_YET
                    row[BEFORE], row[AFTER] = room_of(along, whole, lo, hi, groups, g)
        first[k + 1] = count
    return run, at[:count].copy(), first, known[:count].copy()


@kernel("Tuple((i8, f8))(f8[:, ::1], f8[::1], i8, i8, f8, f8)")
def nearest_on(own, run, i, step, x, y):
    """The first point of a closed outline, from one on, after which it goes away from a place, and how far it is."""
    n = len(own)
    away, d = 0.0, length(own[i, 0] - x, own[i, 1] - y)
    for _ in range(n // 2):
        j = (i + step) % n
        further = length(own[j, 0] - x, own[j, 1] - y)
        if further >= d:
            break
        away += run[i + 1] - run[i] if step > 0 else run[j + 1] - run[j]
        i, d = j, further
    return i, away


@kernel("i8(f8[:, ::1], f8[::1], i8, i8, f8)")
def gone_along(own, run, i, step, far):
    """The point of a closed outline so far along from one."""
    n = len(own)
    away = 0.0
    while away < far:
        j = (i + step) % n
        away += run[i + 1] - run[i] if step > 0 else run[j + 1] - run[j]
        i = j
    return i


@kernel(
    "void(Array(f4, 2, 'C', readonly=True), f8[:, ::1], f8[::1], f8[::1], f8, f8, f8, i8, i8, f8, f8, b1, f8,"
    " f8[:, ::1], f8[::1], f8[::1], f8[::1])"
)
def found_between(
    grey, own, run, levels, dead, blur, noise, lo, hi, before, after, alone, within, arm, first, second, row
):
    """Writes down what two sides end in between two points: whatever it is where that is asked by a negative `within`,
    else only two corners that fit within so many times what noise leaves."""
    there, free = sides_about(own, run, lo, hi, before, after, alone, blur, noise, arm, first, second)
    if within < 0:
        row[FREE], row[FROM], row[TO] = free, lo, hi
    if not there:
        return
    corners, ax, ay, bx, by, fits = end_between(
        grey, levels, dead, blur, noise, first, second, own[lo, 0], own[lo, 1], own[hi, 0], own[hi, 1]
    )
    if within < 0 or (corners == 2 and fits < within):
        row[CORNERS], row[PLACES], row[PLACES + 1], row[PLACES + 2], row[PLACES + 3] = corners, ax, ay, bx, by
        row[FREE], row[FROM], row[TO] = free, lo, hi


@kernel(
    "void(Array(f4, 2, 'C', readonly=True), f8[:, ::1], f8[::1], f8[::1], f8, f8, f8, i8, f8[:, ::1], f8[::1], f8[::1],"
    " f8[::1])"
)
def find_end(grey, own, run, levels, dead, blur, noise, lo, arm, first, second, row):
    """Writes down what two sides about candidates from a point on end in. arm, first, second: room to work in."""
    hi, alone = np.int64(row[HI]), row[ALONE] > 0
    before, after = row[BEFORE], row[AFTER]
    row[CORNERS] = -1.0
    found_between(
        grey, own, run, levels, dead, blur, noise, lo, hi, before, after, alone, -1.0, arm, first, second, row
    )  # fmt: skip
    if lo != hi or row[CORNERS] < 0:
        return
    short_one, short_two = first[7] < SHORT, second[7] < SHORT
    ax, ay, bx, by = row[PLACES], row[PLACES + 1], row[PLACES + 2], row[PLACES + 3]
    if row[CORNERS] == 2 and length(bx - ax, by - ay) > APART:
        # One place that is two corners: what the sides were taken from may have been round one of them.
        from_, back = nearest_on(own, run, lo, -1, ax, ay)
        to, fore = nearest_on(own, run, hi, 1, bx, by)
        if min(before - back, after - fore) > ROOM and from_ != to:
            found_between(
                grey, own, run, levels, dead, blur, noise, from_, to, before - back, after - fore, alone, np.inf, arm,
                first, second, row,
            )  # fmt: skip
    elif dead <= UNEVEN:
        # A side that is known only so far may be the other corner of a short one, which shows where there is no noise.
        for which in range(2):
            if not (short_one if which == 0 else short_two):
                continue
            far = row[FREE] + SHORT / 2
            moved = gone_along(own, run, lo, -1 if which == 0 else 1, far)
            from_, to = (moved, hi) if which == 0 else (lo, moved)
            back, fore = (far, 0.0) if which == 0 else (0.0, far)
            if min(before - back, after - fore) > ROOM:
                found_between(
                    grey, own, run, levels, dead, blur, noise, from_, to, before - back, after - fore, alone, FITTING,
                    arm, first, second, row,
                )  # fmt: skip


@kernel(
    "void(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], f8[::1], i8[::1], i8[::1], f8[:, ::1], f8, f8, f8,"
    " f8[:, ::1], i8, i8)"
)
def find_ends(grey, points, start, run, at, first, levels, dead, blur, noise, known, begin, end):
    """The same of all candidates from one to before another."""
    arm, one, two = np.empty((160, 2)), np.empty(9), np.empty(9)
    k = np.searchsorted(first, begin, side="right") - 1
    for c in range(begin, end):
        while first[k + 1] <= c:
            k += 1
        if known[c, HI] >= 0:
            own, along = points[start[k] : start[k + 1]], run[start[k] + k : start[k + 1] + k + 1]
            find_end(grey, own, along, levels[k], dead, blur, noise, at[c], arm, one, two, known[c])
