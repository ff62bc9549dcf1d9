"""Corners of traced outlines: where a line turns sharply, put back to where its two sides meet.

Pixels and blur round every corner off, so near it no point is true. Each side is therefore carried on from where it is
true, as a line where it is one and else as a parabola, over as long an arm as one fits the points to within their
noise. Where both sides, carried on, meet at an angle there is a corner; round a bend they go over into each other.
How far corners are rounded, and how long arms must be, follows the blur and the noise that were measured.
"""

from __future__ import annotations

import math

import numpy as np

from ...geometry.compiled import kernel
from ...geometry.kernels.point_measures import circle_through
from .blunt import SOFT, UNEVEN, blunted, is_sharp
from .sides import at_length, corner_at, meeting, rounded_px, side_of, sides_about
from .spread_ends import end_between
from .tips import end_of

#: The least turn, in radians, that is looked at over the arms.
LEAST_TURN = 0.3
#: From this turn on a corner is a tip, whose end is told by the coverage.
SLIM = 2.2
#: Where the outline's points do not show a corner that turns by more than this, the coverage may, if no more than this
#: share of what makes a corner blunt is missing.
PLAIN, SURE = 0.9, 0.5
#: A circle so small, in pixels, bends like a corner.
SMALL = 14.0
#: With less than so many pixels between their rounded parts two corners may be one.
NEAR = 2.4


@kernel("f8(f8, f8)")
def arm_px(blur, noise):
    """Arms over which a turn shows."""
    return 1.5 + 2.0 * blur + 8.0 * noise


@kernel("f8(f8[:, ::1], f8[::1], i8, f8)")
def turn_at(points, run, i, arm):
    """How far the direction turns at a point, in radians, over arms of a length."""
    bx, by = at_length(points, run, run[i] - arm)
    fx, fy = at_length(points, run, run[i] + arm)
    ax, ay = points[i, 0] - bx, points[i, 1] - by
    cx, cy = fx - points[i, 0], fy - points[i, 1]
    return math.atan2(ax * cy - ay * cx, ax * cx + ay * cy)


@kernel("void(f8[:, ::1], f8[::1], f8, b1[::1])")
def candidates(points, run, arm, found):
    """Marks where one closed outline turns most, of all places within an arm."""
    n = len(points)
    strength = np.empty(n)
    for i in range(n):
        turn = abs(turn_at(points, run, i, arm))
        strength[i] = turn if turn > LEAST_TURN else 0.0
    for i in range(n):
        if strength[i] == 0:
            continue
        best = True
        for step in (1, -1):
            j, away = i, 0.0
            while best:
                k = j + step
                k = k - n if k >= n else (k + n if k < 0 else k)
                away += run[j + 1] - run[j] if step > 0 else run[k + 1] - run[k]
                if away > arm or k == i:
                    break
                best = strength[k] < strength[i] or (strength[k] == strength[i] and k > i)
                j = k
        found[i] = best


@kernel("b1(f8[:, ::1], f8, f8)")
def is_round(own, blur, noise):
    """Whether a small closed outline is a circle as far as can be told: a small one has bends as tight as corners."""
    x, y, radius, _most = circle_through(own)
    off = 0.0
    for i in range(len(own)):
        d = math.hypot(own[i, 0] - x, own[i, 1] - y) - radius
        off += d * d
    off = math.sqrt(off / len(own))
    # The corners of a square stand out from the circle about as much by a tenth of its radius.
    return radius < SMALL and off < 1.5 * noise + 0.05 and off < 0.06 * radius


@kernel("f8(f8[::1], f8, f8, f8)")
def ahead(run, length, a, b):
    """How far one place of a closed outline lies ahead of another."""
    gap = run[np.int64(b)] - run[np.int64(a)]
    return gap + length if gap <= 0 else gap


@kernel(
    "Tuple((i8, f8, f8, f8, f8, f8))(Array(f4, 2, 'C', readonly=True), f8[:, ::1], f8[::1], i8, i8, f8, f8, b1,"
    " f8[::1], f8, f8, f8, f8[:, ::1], f8[::1], f8[::1])"
)
def tip_at(grey, points, run, lo, hi, before, after, alone, levels, dead, blur, noise, arm, first, second):
    """The end of something slim between two of its points: the number of its corners and their places, and how far
    from it the outline is not true."""
    near = rounded_px(blur, noise) + 0.5
    if before < near + 2 or after < near + 2:
        return 0, 0.0, 0.0, 0.0, 0.0, near
    if side_of(points, run, lo, -1, near, before - (0.0 if alone else near), noise, arm, first) == 0:
        return 0, 0.0, 0.0, 0.0, 0.0, near
    if side_of(points, run, hi, 1, near, after - (0.0 if alone else near), noise, arm, second) == 0:
        return 0, 0.0, 0.0, 0.0, 0.0, near
    if first[2] * second[2] + first[3] * second[3] < 0.1:
        return 0, 0.0, 0.0, 0.0, 0.0, near
    # Ink lies on the right of the line.
    ink = first[2] * (second[1] - first[1]) - first[3] * (second[0] - first[0]) > 0
    count, ax, ay, bx, by = end_of(grey, first, second, ink, levels[0], levels[1], levels[2], dead, blur)
    if count == 2:
        # So little may be missing from a point that it is one.
        met, x, y, _ = meeting(first, second, 4 * near + 2)
        if met and is_sharp(grey, levels, first, second, x, y, dead, blur, noise, 1.0):
            return 1, x, y, 0.0, 0.0, near
    return count, ax, ay, bx, by, near


@kernel(
    "i8(Array(f4, 2, 'C', readonly=True), f8[::1], f8, f8, f8, b1, f8[::1], f8[::1], i8, f8, f8, f8, f8, i8[::1],"
    " f8[:, ::1], f8[:, ::1])"
)
def put(grey, levels, dead, blur, noise, tips, first, second, i, x, y, reach, length, where, place, free):
    """Writes a corner down, or the two of one that is cut off, or none of a bend; gives how many. tips: whether the
    picture tells."""
    where[0], where[1] = i, i
    place[0, 0], place[0, 1] = x, y
    free[0, 0] = free[0, 1] = reach
    if not tips:
        return 1
    count, ax, ay, bx, by = blunted(grey, levels, first, second, x, y, dead, blur, noise)
    if count < 2:
        return count
    place[0, 0], place[0, 1], place[1, 0], place[1, 1] = ax, ay, bx, by
    free[0, 1] = free[1, 0] = length
    free[1, 1] = reach
    return 2


@kernel("i8(i8, i8, i8, f8, f8, f8, f8, f8, f8, f8, i8[::1], f8[:, ::1], f8[:, ::1])")
def put_ends(corners, lo, hi, ax, ay, bx, by, reach, between, length, where, place, free):
    """Writes down the one or two corners, or none, that two sides end in between two points; gives how many."""
    if corners > 0:
        where[0], place[0, 0], place[0, 1] = lo, ax, ay
        free[0, 0], free[0, 1] = reach, (reach + between if corners == 1 else length)
    if corners == 2:
        where[1], place[1, 0], place[1, 1] = hi, bx, by
        free[1, 0], free[1, 1] = length, reach
    return corners


@kernel(
    "i8(Array(f4, 2, 'C', readonly=True), f8[:, ::1], f8[::1], f8[::1], f8, f8, f8, b1, i8[::1], i8[::1],"
    " f8[:, ::1],"
    " f8[:, ::1], f8[:, ::1], f8[::1], f8[::1])"
)
def found_corners(grey, own, run, levels, dead, blur, noise, tips, at, where, place, free, arm, first, second):
    """The corners of one closed outline: where (C,) says at which point, place (C, 2) where they belong, free (C,
    2) how far before and after them it is not true, a length of the whole where the other corner of a square end
    comes next.
    Returns their number; at holds the candidates, as many as are not negative. tips: whether ends of what is slim may
    be told from the picture."""
    n = len(own)
    length = run[n]
    near = rounded_px(blur, noise)
    count = 0
    while count < len(at) and at[count] >= 0:
        count += 1
    # An open chain's way back is longer than any outline.
    reach = min(arm_px(blur, noise), length / 6)
    again = length > 1e5 or count == 0 or not is_round(own, blur, noise)
    unclear = tips and (blur > SOFT or dead > UNEVEN)
    made = 0
    lo, hi = np.empty(len(at), np.int64), np.empty(len(at), np.int64)
    while again and count:
        again = False
        # Two that may be one, or two ends of something slim, are looked at together.
        groups, a = 0, 0
        first_gap = ahead(run, length, at[count - 1], at[0]) if count > 1 else length
        while a < count:
            lo[groups] = hi[groups] = at[a]
            if a + 1 < count and ahead(run, length, at[a], at[a + 1]) < 2 * near + NEAR:
                t0, t1 = turn_at(own, run, at[a], reach), turn_at(own, run, at[a + 1], reach)
                if t0 * t1 > 0:
                    hi[groups] = at[a + 1]
                    a += 1
            groups += 1
            a += 1
        round_again = groups > 1 and lo[groups - 1] == hi[groups - 1] and lo[0] == hi[0]
        if round_again and first_gap < 2 * near + NEAR:
            t0, t1 = turn_at(own, run, lo[groups - 1], reach), turn_at(own, run, lo[0], reach)
            if t0 * t1 > 0:
                lo[0] = lo[groups - 1]
                groups -= 1
        made = 0
        kept = 0
        alone = groups == 1
        for g in range(groups):
            before = ahead(run, length, hi[(g + groups - 1) % groups], lo[g]) if not alone else length / 2
            after = ahead(run, length, hi[g], lo[(g + 1) % groups]) if not alone else length / 2
            done = False
            between = ahead(run, length, lo[g], hi[g]) if lo[g] != hi[g] else 0.0
            if unclear:
                there, r = sides_about(own, run, lo[g], hi[g], before, after, alone, blur, noise, arm, first, second)
                corners = -1
                if there:
                    corners, ax, ay, bx, by = end_between(
                        grey, levels, dead, blur, noise, first, second, own[lo[g], 0], own[lo[g], 1], own[hi[g], 0],
                        own[hi[g], 1],
                    )  # fmt: skip
                if corners >= 0:
                    at[kept] = lo[g]
                    kept += 1
                    if hi[g] != lo[g]:
                        at[kept] = hi[g]
                        kept += 1
                    made += put_ends(
                        corners,
                        lo[g],
                        hi[g],
                        ax,
                        ay,
                        bx,
                        by,
                        r,
                        between,
                        length,
                        where[made:],
                        place[made:],
                        free[made:],
                    )
                    continue
            if lo[g] != hi[g]:
                gap = ahead(run, length, lo[g], hi[g])
                # One corner that was seen twice?
                if gap < 2 * near + NEAR:
                    middle = lo[g]
                    while ahead(run, length, lo[g], middle) % length < gap / 2:
                        middle = (middle + 1) % n
                    good, x, y, r, turn = corner_at(
                        own,
                        run,
                        middle,
                        before + gap / 2,
                        after + gap / 2,
                        alone,
                        blur,
                        noise,
                        gap / 2,
                        arm,
                        first,
                        second,
                    )
                    if tips and not good and turn > PLAIN:
                        good = is_sharp(grey, levels, first, second, x, y, dead, blur, noise, SURE)
                    if good and (turn < SLIM or not tips):
                        at[kept] = middle
                        kept += 1
                        made += put(
                            grey, levels, dead, blur, noise, tips, first, second, middle, x, y, r, length, where[made:],
                            place[made:], free[made:],
                        )  # fmt: skip
                        done = True
            else:
                good, x, y, r, turn = corner_at(
                    own, run, lo[g], before, after, alone, blur, noise, 0.0, arm, first, second
                )
                if tips and not good and turn > PLAIN:
                    good = is_sharp(grey, levels, first, second, x, y, dead, blur, noise, SURE)
                if good and (turn < SLIM or not tips):
                    at[kept] = lo[g]
                    kept += 1
                    made += put(
                        grey, levels, dead, blur, noise, tips, first, second, lo[g], x, y, r, length, where[made:],
                        place[made:], free[made:],
                    )  # fmt: skip
                    done = True
            if done:
                continue
            corners, ax, ay, bx, by, r = 0, 0.0, 0.0, 0.0, 0.0, near
            if tips:
                corners, ax, ay, bx, by, r = tip_at(
                    grey, own, run, lo[g], hi[g], before, after, alone, levels, dead, blur, noise, arm, first, second
                )
            if corners > 0:
                at[kept] = lo[g]
                kept += 1
                if hi[g] != lo[g]:
                    at[kept] = hi[g]
                    kept += 1
                made += put_ends(
                    corners, lo[g], hi[g], ax, ay, bx, by, r, between, length, where[made:], place[made:], free[made:]
                )
            elif lo[g] != hi[g]:
                # Two corners on their own, with a short side between them.
                gap = ahead(run, length, lo[g], hi[g])
                for which in range(2):
                    i = lo[g] if which == 0 else hi[g]
                    good, x, y, r, turn = corner_at(
                        own,
                        run,
                        i,
                        before if which == 0 else gap,
                        gap if which == 0 else after,
                        False,
                        blur,
                        noise,
                        0.0,
                        arm,
                        first,
                        second,
                    )
                    if good:
                        at[kept] = i
                        kept += 1
                        where[made] = i
                        place[made, 0], place[made, 1] = x, y
                        free[made] = r
                        made += 1
                    else:
                        again = True
            else:
                again = True
        at[kept:] = -1
        count = kept
    return made


@kernel(
    "Tuple((f8[:, ::1], i8[::1], b1[::1]))(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], f8[:, ::1],"
    " f8, f8, f8)"
)
def with_corners(grey, points, start, levels, dead, blur, noise):
    """The outlines again with corners put where they belong, marked, and without the points about them that are not
    true; those with corners begin at one. levels (K, 3): limit, black and white of each."""
    total = len(points)
    out = np.empty((2 * total + 64, 2))
    mark = np.zeros(2 * total + 64, np.bool_)
    begin = np.zeros(len(start), np.int64)
    arm, first, second = np.empty((160, 2)), np.empty(9), np.empty(9)
    m = 0
    for k in range(len(start) - 1):
        own = points[start[k] : start[k + 1]]
        n = len(own)
        run = np.zeros(n + 1)
        for i in range(n):
            j = i + 1 if i + 1 < n else 0
            run[i + 1] = run[i] + math.hypot(own[j, 0] - own[i, 0], own[j, 1] - own[i, 1])
        length = run[n]
        marked = np.zeros(n, np.bool_)
        if n >= 6 and length > 5:
            candidates(own, run, min(arm_px(blur, noise), length / 6), marked)
        some = np.flatnonzero(marked)
        candidate = np.full(len(some) + 1, -1)
        candidate[: len(some)] = some
        at = np.empty(2 * len(some) + 2, np.int64)
        place, free = np.empty((len(at), 2)), np.empty((len(at), 2))
        count = found_corners(
            grey, own, run, levels[k], dead, blur, noise, True, candidate, at, place, free, arm, first, second
        )
        order = np.argsort(at[:count], kind="mergesort")
        at[:count], place[:count], free[:count] = at[:count][order], place[:count][order], free[:count][order]
        unlike = 0
        for a in range(count):
            if a == 0 or at[a] != at[unlike - 1] or free[unlike - 1, 1] >= length:
                at[unlike] = at[a]
                place[unlike], free[unlike] = place[a], free[a]
                unlike += 1
        count = unlike
        before = m
        for a in range(count):
            i, following = at[a], at[(a + 1) % count]
            gap = ahead(run, length, i, following) if count > 1 else length
            out[m] = place[a]
            mark[m] = True
            m += 1
            if free[a, 1] >= length:
                # The other corner of a square end comes next.
                continue
            near, far = free[a, 1], gap - free[(a + 1) % count, 0]
            if near + gap - far > 0.8 * gap and count > 1:
                # Two near corners share out what is between them.
                share = 0.8 * gap / (near + gap - far)
                near, far = near * share, gap - (gap - far) * share
            steps = following - i if following > i else following - i + n
            for step in range(1, steps):
                j = (i + step) % n
                along = run[j] - run[i]
                along = along if along >= 0 else along + length
                if near < along < far:
                    out[m] = own[j]
                    m += 1
        if m - before < 3:
            # No corner, or so slim that only its tips are left: as it was found.
            mark[before:m] = False
            out[before : before + n] = own
            m = before + n
        begin[k + 1] = m
    return out[:m].copy(), begin, mark[:m].copy()
