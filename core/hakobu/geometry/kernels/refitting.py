"""Outlines of lines and arcs with fewer curves: long lines and arcs stay, what lies between is fitted anew."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from ..proximity.kernels.reach import place_on
from .cubic_fit import HOPELESS, NEAR_ENOUGH, next_end, span_through
from .curves import length
from .elements import CX, CY, RADIUS, SWEEP, UX, UY, VX, VY, X0, X1, Y0, Y1
from .free_end import span_to
from .parallels import size_of
from .point_measures import off_chord, ways_to

LINE, CUBIC, ARC = 0, 1, 2
#: Where an outline turns more, in radians, it has a corner.
SHARP = 0.2
#: Points along an arc are no farther apart than this, in radians; and on every piece there are so many at least.
APART, LEAST = 0.2, 2
#: Parts of the way from one point to the next between which a curve is looked at.
LOOKS = 6
#: The share of the tolerance that is kept to at those places, so that it is kept to in between.
SURE = 0.99
#: A curve is given up where it does not reach so many points in a row.
MISSES = 8
#: Runs of so few points are fitted both ways, with free ends and with ends on the line itself.
FEW = 50
#: A handle's length, as a share of the chord; a third is what an even run has.
SHORTEST, LONGEST = 0.1, 1.0
#: Circles whose centres and radii differ by less than this, in mm, are one.
ALIKE_MM = 1e-8
#: Points nearer to a straight line than this, in mm, are one.
STRAIGHT_MM = 1e-5


@kernel("i8(f8[::1])")
def steps_on(row):
    return max(LEAST, math.ceil(abs(row[SWEEP]) / APART))


@kernel("i8(f8[:, ::1], i8, i8, f8[:, ::1], f8[:, ::1], f8[:, ::1], i8[::1])")
def sampled(rows, a, count, p, arriving, leaving, of):
    """Points along so many rows from a on, round from the last to the first, with the directions before and after each
    and the row that goes on from it; their number."""
    n = 0
    for j in range(count):
        r = (a + j) % len(rows)
        row = rows[r]
        steps = steps_on(row)
        for k in range(steps):
            of[n] = r
            if k == 0:
                p[n, 0], p[n, 1], leaving[n, 0], leaving[n, 1] = row[X0], row[Y0], row[UX], row[UY]
                if j == 0:
                    arriving[n] = leaving[n]
            else:
                x, y, ux, uy = place_on(row, k / steps)
                p[n, 0], p[n, 1] = x, y
                arriving[n, 0], arriving[n, 1] = ux, uy
                leaving[n] = arriving[n]
            n += 1
        p[n, 0], p[n, 1] = row[X1], row[Y1]
        arriving[n, 0], arriving[n, 1] = row[VX], row[VY]
        leaving[n] = arriving[n]
    return n + 1


@kernel("void(f8[::1], f8[::1], f8[::1], f8[::1], f8[:, ::1])")
def as_short(a, z, t0, t1, c):
    """The cubic between two places with handles of a third of their distance."""
    third = length(z[0] - a[0], z[1] - a[1]) / 3
    for k in range(2):
        c[0, k], c[3, k] = a[k], z[k]
        c[1, k], c[2, k] = a[k] + third * t0[k], z[k] + third * t1[k]


@kernel("b1(f8[:, ::1])")
def even(c):
    """Whether both handles of a cubic are neither so short nor so long that it may leave few points in between."""
    chord = length(c[3, 0] - c[0, 0], c[3, 1] - c[0, 1])
    first, last = length(c[1, 0] - c[0, 0], c[1, 1] - c[0, 1]), length(c[3, 0] - c[2, 0], c[3, 1] - c[2, 1])
    return min(first, last) >= SHORTEST * chord and max(first, last) <= LONGEST * chord


@kernel("b1(f8[:, ::1], f8[::1], i8, i8, i8[::1], f8[:, ::1], f8)")
def strays(c, u, i0, i1, of, rows, tolerance):
    """Whether a cubic leaves the rows by more than the tolerance between its points."""
    for i in range(i0, i1):
        row = rows[of[i]]
        for k in range(1, LOOKS):
            t = u[i] + (u[i + 1] - u[i]) * k / LOOKS
            s = 1 - t
            b0, b1, b2, b3 = s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t
            x = b0 * c[0, 0] + b1 * c[1, 0] + b2 * c[2, 0] + b3 * c[3, 0]
            y = b0 * c[0, 1] + b1 * c[1, 1] + b2 * c[2, 1] + b3 * c[3, 1]
            if row[SWEEP] == 0:
                off = abs((x - row[X0]) * row[UY] - (y - row[Y0]) * row[UX])
            else:
                off = abs(length(x - row[CX], y - row[CY]) - row[RADIUS])
            if off > tolerance:
                return True
    return False


@kernel(
    "Tuple((b1, b1))(f8[:, ::1], f8[::1], i8, i8, i8, f8[::1], f8[::1], i8[::1], f8[:, ::1], f8[::1], b1, b1, b1,"
    " f8[::1], f8[:, ::1])"
)
def fits_between(p, run, i0, i1, n, t0, arriving, of, rows, within, corner0, corner1, free, u, c):
    """Whether one cubic c from a point in direction t0 to another keeps within what its rows allow, and whether it is
    so far off that one of half the length should be tried. Its end is free, where that is asked for, but at the last of
    n points; at a corner that a run begins or ends with it may have another direction."""
    t1 = -arriving
    if i1 - i0 < 2:
        as_short(p[i0], p[i1], t0, t1, c)
        return True, False
    tolerance = within[of[i0]]
    for i in range(i0 + 1, i1):
        tolerance = min(tolerance, within[of[i]])
    tolerance *= SURE
    last = i1 == n - 1
    if last or not free:
        most, _ = span_through(p, run, i0, i1, t0, t1, tolerance, u, c)
    else:
        most = span_to(p, run, i0, i1, t0, t1, tolerance, u, c)
    if most <= tolerance and even(c) and not strays(c, u, i0, i1, of, rows, tolerance):
        return True, False
    hopeless = most > HOPELESS * tolerance
    begins, ends = corner0 and i0 == 0, corner1 and last
    if hopeless or not (begins or ends):
        return False, hopeless
    any_way = np.zeros(2)
    most, _ = span_through(p, run, i0, i1, any_way if begins else t0, any_way if ends else t1, tolerance, u, c)
    return most <= tolerance and even(c) and not strays(c, u, i0, i1, of, rows, tolerance), False


@kernel(
    "i8(f8[:, ::1], f8[:, ::1], f8[:, ::1], i8[::1], f8[:, ::1], i8, b1, b1, b1, b1, f8[::1], f8[:, :, ::1],"
    " u1[::1], i8[::1], i8)"
)
def fitted(p, arriving, leaving, of, rows, n, loop, corner0, corner1, free, within, ctrl, kind, source, m):
    """Cubics through n points with known directions, each as far as its rows allow; the next free place."""
    u, c, best = np.zeros(n), np.zeros((4, 2)), np.zeros((4, 2))
    t0, run = leaving[0].copy(), np.zeros(n)
    ways_to(p[:n], run)
    i0, guess = 0, 6
    while i0 < n - 1:
        most_end = n if i0 > 0 or not loop else n // 2 + 1
        good, bad = i0, most_end
        i1 = min(i0 + guess, bad - 1)
        while True:
            does, hopeless = fits_between(
                p, run, i0, i1, n, t0, arriving[i1], of, rows, within, corner0, corner1, free, u, c
            )
            if does:
                good = i1
                best[:] = c
            else:
                bad = i1
            if bad - good <= 1 + (good - i0) // NEAR_ENOUGH:
                break
            i1 = next_end(i0, good, bad, most_end, i1, hopeless)
        # How far a curve can go differs from point to point: a little farther may do again.
        j, missed = good + 1, 0
        while j < most_end and missed < MISSES:
            missed += 1
            does, _ = fits_between(p, run, i0, j, n, t0, arriving[j], of, rows, within, corner0, corner1, free, u, c)
            if does:
                good, missed = j, 0
                best[:] = c
            j += 1
        ctrl[m], kind[m], source[m] = best, CUBIC, of[i0]
        if off_chord(best, 0, 3) <= STRAIGHT_MM:
            kind[m] = LINE
            for k in range(2):
                step = (best[3, k] - best[0, k]) / 3
                ctrl[m, 1, k], ctrl[m, 2, k] = best[0, k] + step, best[3, k] - step
        m += 1
        # The next one goes on from there, turned from the direction at its point as this one is.
        dx, dy = best[3, 0] - best[2, 0], best[3, 1] - best[2, 1]
        size = length(dx, dy)
        cos = (dx * arriving[good, 0] + dy * arriving[good, 1]) / size
        sin = (arriving[good, 0] * dy - arriving[good, 1] * dx) / size
        t0[0] = leaving[good, 0] * cos - leaving[good, 1] * sin
        t0[1] = leaving[good, 0] * sin + leaving[good, 1] * cos
        p[good] = best[3]
        guess, i0 = good - i0, good
    return m


@kernel("i8(f8[:, ::1], i8, f8[:, :, ::1], u1[::1], f8[::1], i8[::1], i8)")
def as_it_is(rows, r, ctrl, kind, bulge, source, m):
    """A row as one segment, or two where an arc is more than half a circle; the next free place."""
    row = rows[r]
    parts = 1 if abs(row[SWEEP]) <= math.pi + 1e-9 else 2
    for part in range(parts):
        x0, y0 = row[X0], row[Y0]
        x1, y1 = row[X1], row[Y1]
        if parts == 2:
            x, y, _, _ = place_on(row, 0.5)
            if part == 0:
                x1, y1 = x, y
            else:
                x0, y0 = x, y
        ctrl[m, 0, 0], ctrl[m, 0, 1], ctrl[m, 3, 0], ctrl[m, 3, 1] = x0, y0, x1, y1
        for k in range(2):
            step = (ctrl[m, 3, k] - ctrl[m, 0, k]) / 3
            ctrl[m, 1, k], ctrl[m, 2, k] = ctrl[m, 0, k] + step, ctrl[m, 3, k] - step
        kind[m], bulge[m], source[m] = LINE, 0.0, r
        if row[SWEEP] != 0 and row[RADIUS] > 0:
            kind[m] = ARC
            # Half circles are so to the bit.
            turn = math.tan(row[SWEEP] / parts / 4)
            bulge[m] = min(max(turn, -1.0), 1.0) if abs(abs(turn) - 1) > 1e-12 else math.copysign(1.0, turn)
        m += 1
    return m


@kernel("b1(f8[:, ::1])")
def is_circle(own):
    """Whether rows are one full circle."""
    turned = 0.0
    for row in own:
        near = abs(row[CX] - own[0, CX]) + abs(row[CY] - own[0, CY]) + abs(row[RADIUS] - own[0, RADIUS]) < ALIKE_MM
        if row[SWEEP] == 0 or not near:
            return False
        turned += row[SWEEP]
    return abs(abs(turned) - 2 * math.pi) < 1e-6


@kernel(
    "Tuple((f8[:, :, ::1], u1[::1], f8[::1], i8[::1], i8[::1]))(f8[:, ::1], b1[::1], i8[::1], b1[::1], f8[::1], f8)"
)
def refitted(rows, plain, start, whole, within, keep):
    """Outlines (K+1,) of rows as ctrl (M, 4, 2), kind, bulge (M,), start (K+1,) and the row that each segment begins in
    (M,), within so much of each (R,). plain (R,): lines and arcs that were drawn as such; those longer than `keep`
    stay. whole (K,): whether an outline is one, which ends where it begins, or a part of one."""
    room = 16 + 2 * len(rows) + FEW
    for r in range(len(rows)):
        room += steps_on(rows[r])
    ctrl, kind, bulge = np.empty((room, 4, 2)), np.zeros(room, np.uint8), np.zeros(room)
    source, begin = np.empty(room, np.int64), np.zeros(len(start), np.int64)
    p, arriving, leaving, of = np.empty((room, 2)), np.empty((room, 2)), np.empty((room, 2)), np.empty(room, np.int64)
    m = 0
    for k in range(len(start) - 1):
        a, count = start[k], start[k + 1] - start[k]
        own = rows[a : a + count]
        if whole[k] and is_circle(own):
            # Two half circles, to the bit.
            turn = math.copysign(1.0, own[0, SWEEP])
            x, y = own[0, X0] - own[0, CX], own[0, Y0] - own[0, CY]
            for half in range(2):
                for i in range(4):
                    share = 1 - 2 * i / 3 if half == 0 else 2 * i / 3 - 1
                    ctrl[m, i, 0], ctrl[m, i, 1] = own[0, CX] + share * x, own[0, CY] + share * y
                kind[m], bulge[m], source[m] = ARC, turn, 0
                m += 1
            ctrl[m - 1, 0], ctrl[m - 1, 3] = ctrl[m - 2, 3], ctrl[m - 2, 0]
            source[begin[k] : m] = a
            begin[k + 1] = m
            continue
        breaks, sharp = np.zeros(count, np.bool_), np.zeros(count, np.bool_)
        first = -1
        for j in range(count):
            before = own[j - 1] if j > 0 else own[count - 1]
            cross = before[VX] * own[j, UY] - before[VY] * own[j, UX]
            dot = before[VX] * own[j, UX] + before[VY] * own[j, UY]
            stays = plain[a + j] and size_of(own[j]) >= keep
            i = j - 1 if j > 0 else count - 1
            stayed = plain[a + i] and size_of(before) >= keep
            sharp[j] = abs(math.atan2(cross, dot)) > SHARP
            breaks[j] = stays or stayed or sharp[j]
            breaks[j] = breaks[j] or (j == 0 and not whole[k])
            if breaks[j] and first < 0:
                first = j
        loop = first < 0
        first = max(first, 0)
        j = 0
        while j < count:
            size = 1
            while j + size < count and (loop or not breaks[(first + j + size) % count]):
                size += 1
            at = first + j
            alone = size == 1 and not loop
            beginning = m
            if alone:
                m = as_it_is(own, at % count, ctrl, kind, bulge, source, m)
            else:
                n = sampled(own, at % count, size, p, arriving, leaving, of)
                corner0, corner1 = sharp[at % count] and not loop, sharp[(at + size) % count] and not loop
                allowed = within[a : a + count]
                m = fitted(
                    p, arriving, leaving, of, own, n, loop, corner0, corner1, True, allowed, ctrl, kind, source, m
                )
                if n <= FEW and m - beginning > 1:
                    # Where there is no noise, ends on the line itself often come out better.
                    n = sampled(own, at % count, size, p, arriving, leaving, of)
                    end = fitted(
                        p, arriving, leaving, of, own, n, loop, corner0, corner1, False, allowed, ctrl, kind, source, m
                    )
                    if end - m <= m - beginning:
                        for i in range(end - m):
                            ctrl[beginning + i] = ctrl[m + i]
                            kind[beginning + i], source[beginning + i] = kind[m + i], source[m + i]
                        m = beginning + end - m
                drawn = True
                for i in range(size):
                    drawn = drawn and plain[a + (at + i) % count]
                if drawn and m - beginning >= size:
                    m = beginning
                    for i in range(size):
                        m = as_it_is(own, (at + i) % count, ctrl, kind, bulge, source, m)
            j += size
        for i in range(begin[k], m):
            source[i] += a
        # The end meets the beginning to the bit.
        if m > begin[k] and whole[k]:
            ctrl[m - 1, 3] = ctrl[begin[k], 0]
        begin[k + 1] = m
    return ctrl[:m].copy(), kind[:m].copy(), bulge[:m].copy(), begin, source[:m].copy()
