"""Corners of traced outlines: where a line turns sharply, put back to where its two sides meet.

Pixels and blur round every corner off, so near it no point is true. Each side is therefore carried on from where it is
true, as a line where it is one and else as a parabola, over as long an arm as one fits the points to within their
noise. Where both sides, carried on, meet at an angle there is a corner; round a bend they go over into each other.
How far corners are rounded, and how long arms must be, follows the blur and the noise that were measured.
"""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from .chamfers import SOFT, UNEVEN, blunted, is_sharp
from .corner_candidates import NEAR, ahead, arm_px, grouped, is_round, room_of
from .corner_ends import AFTER, ALONE, BEFORE, CORNERS, FREE, FROM, HI, NOT_YET, PLACES, TO, find_end
from .corner_sides import corner_at, meeting, rounded_px, side_of
from .cusps import end_of
from .serif_flares import put_flare

#: From this turn on a corner is a tip, whose end is told by the coverage.
SLIM = 2.2
#: Where the outline's points do not show a corner that turns by more than this, the coverage may, if no more than this
#: share of what makes a corner blunt is missing.
PLAIN, SURE = 0.9, 0.5


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
        if met:
            # A short end may be cut off aslant.
            corners, px, py, qx, qy = blunted(grey, levels, first, second, x, y, dead, blur, noise)
            if corners == 2:
                return 2, px, py, qx, qy, near
    return count, ax, ay, bx, by, near


@kernel(
    "i8(Array(f4, 2, 'C', readonly=True), f8[:, ::1], f8[::1], f8[::1], f8, f8, f8, b1, f8[::1], f8[::1], i8, f8, f8,"
    " f8, i8[::1], f8[:, ::1], f8[:, ::1])"
)
def place_corner(grey, own, run, levels, dead, blur, noise, tips, first, second, i, x, y, reach, where, place, free):
    """Writes a corner down, or the two of one that is cut off, or none of a bend; gives how many. tips: whether the
    picture tells."""
    where[0], where[1] = i, i
    place[0, 0], place[0, 1] = x, y
    free[0, 0] = free[0, 1] = reach
    if not tips:
        return 1
    clean = dead <= UNEVEN and blur <= SOFT
    if clean and put_flare(own, run, i, reach, noise, x, y, first, second, where, place, free):
        return 1
    count, ax, ay, bx, by = blunted(grey, levels, first, second, x, y, dead, blur, noise)
    if count < 2:
        return count
    place[0, 0], place[0, 1], place[1, 0], place[1, 1] = ax, ay, bx, by
    free[0, 1] = free[1, 0] = run[len(own)]
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
    "i8(Array(f4, 2, 'C', readonly=True), f8[:, ::1], f8[::1], b1[::1], f8[::1], f8, f8, f8, b1, i8[::1], f8[:, ::1],"
    " i8[::1], f8[:, ::1], f8[:, ::1], f8[:, ::1], f8[::1], f8[::1])"
)
def found_corners(
    grey, own, run, pinned, levels, dead, blur, noise, tips, candidate, known, where, place, free, arm, first, second
):
    """The corners of one closed outline: where (C,) says at which point, place (C, 2) where they belong, free (C, 2)
    how far before and after them it is not true, a length of the whole where the other corner of a square end comes
    next. Returns their number.

    candidate: the points that may be corners, in order, with those that are pinned (N,), which are where they lie;
    known: what is known of the ends at each, as in known_ends, no row where the points tell. tips: whether ends of
    what is slim may be told from the picture."""
    n = len(own)
    length = run[n]
    near = rounded_px(blur, noise)
    at, count = candidate.copy(), len(candidate)
    # An open chain's way back is longer than any outline.
    reach = min(arm_px(blur, noise), length / 6)
    again = length > 1e5 or count == 0 or not is_round(own, blur, noise)
    made = 0
    lo, hi = np.empty(len(at), np.int64), np.empty(len(at), np.int64)
    while again and count:
        again = False
        groups = grouped(own, run, at, count, near, reach, pinned, lo, hi)
        made = 0
        kept = 0
        alone = groups == 1
        for g in range(groups):
            if pinned[lo[g]]:
                at[kept] = lo[g]
                kept += 1
                made += put_ends(
                    1, lo[g], lo[g], own[lo[g], 0], own[lo[g], 1], 0.0, 0.0, 0.0, 0.0, length, where[made:],
                    place[made:], free[made:],
                )  # fmt: skip
                continue
            before, after = room_of(run, length, lo, hi, groups, g)
            between = ahead(run, length, lo[g], hi[g]) if lo[g] != hi[g] else 0.0
            if len(known):
                row = known[np.searchsorted(candidate, lo[g])]
                if row[HI] != hi[g] or row[BEFORE] != before or row[AFTER] != after or row[CORNERS] == NOT_YET:
                    row[HI], row[BEFORE], row[AFTER], row[ALONE] = hi[g], before, after, alone
                    find_end(grey, own, run, levels, dead, blur, noise, lo[g], arm, first, second, row)
                corners, r = np.int64(row[CORNERS]), row[FREE]
                ax, ay, bx, by = row[PLACES], row[PLACES + 1], row[PLACES + 2], row[PLACES + 3]
                if corners >= 0:
                    at[kept] = lo[g]
                    kept += 1
                    if hi[g] != lo[g]:
                        at[kept] = hi[g]
                        kept += 1
                    from_, to = np.int64(row[FROM]), np.int64(row[TO])
                    between = ahead(run, length, from_, to) if from_ != to else 0.0
                    made += put_ends(
                        corners, from_, to, ax, ay, bx, by, r, between, length, where[made:], place[made:], free[made:]
                    )
                    continue
            # Two candidates so near may be one corner that was seen twice.
            middle, loose = lo[g], between / 2
            while loose > 0 and ahead(run, length, lo[g], middle) % length < loose:
                middle = (middle + 1) % n
            if between < 2 * near + NEAR:
                good, x, y, r, turn = corner_at(
                    own, run, middle, before + loose, after + loose, alone, blur, noise, loose, arm, first, second
                )
                if tips and not good and turn > PLAIN:
                    good = is_sharp(grey, levels, first, second, x, y, dead, blur, noise, SURE)
                if good and (turn < SLIM or not tips):
                    at[kept] = middle
                    kept += 1
                    made += place_corner(
                        grey, own, run, levels, dead, blur, noise, tips, first, second, middle, x, y, r, where[made:],
                        place[made:], free[made:],
                    )  # fmt: skip
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
                        own, run, i, before if which == 0 else gap, gap if which == 0 else after, False, blur, noise,
                        0.0, arm, first, second,
                    )  # fmt: skip
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
        count = kept
    return made


@kernel(
    "Tuple((f8[:, ::1], i8[::1], b1[::1]))(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], b1[::1], f8[::1],"
    " i8[::1], i8[::1], f8[:, ::1], f8[:, ::1], f8, f8, f8, i8, i8)"
)
def with_corners(grey, points, start, pinned, lengths, candidate, begun, known, levels, dead, blur, noise, k0, k1):
    """The outlines from one to before another again, with corners put where they belong, marked, and without the points
    about them that are not true; those with corners begin at one. pinned (N,): points that are corners by themselves;
    lengths, candidate, begun, known: as `candidates_of` gives them; levels (K, 3): limit, black and white of each."""
    total = start[k1] - start[k0]
    out = np.empty((2 * total + 64, 2))
    mark = np.zeros(2 * total + 64, np.bool_)
    begin = np.zeros(k1 - k0 + 1, np.int64)
    arm, first, second = np.empty((160, 2)), np.empty(9), np.empty(9)
    m = 0
    for k in range(k0, k1):
        own = points[start[k] : start[k + 1]]
        n = len(own)
        run = lengths[start[k] + k : start[k + 1] + k + 1]
        length = run[n]
        some = candidate[begun[k] : begun[k + 1]]
        ends = known[begun[k] : begun[k + 1]] if blur > SOFT or dead > UNEVEN else known[:0]
        at = np.empty(2 * len(some) + 2, np.int64)
        place, free = np.empty((len(at), 2)), np.empty((len(at), 2))
        count = found_corners(
            grey, own, run, pinned[start[k] : start[k + 1]], levels[k], dead, blur, noise, True, some, ends, at, place,
            free, arm, first, second,
        )  # fmt: skip
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
            # A tip that the picture's rim just cuts off ends there.
            out[m, 0] = min(max(place[a, 0], 0.0), float(grey.shape[1]))
            out[m, 1] = min(max(place[a, 1], 0.0), float(grey.shape[0]))
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
                j = i + step if i + step < n else i + step - n
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
        begin[k - k0 + 1] = m
    return out[:m].copy(), begin, mark[:m].copy()
