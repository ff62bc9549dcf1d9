"""Cubics through many points, within a distance (Schneider 1990, "An algorithm for automatically fitting digitized
curves"), with three changes: spans are as long as the distance allows, one after the other, rather than halves of what
fails; at a corner the end handle is free, not bound to a guessed tangent; and whole outlines are straight lines or
circles where they can be.
"""

from __future__ import annotations

import numpy as np

from ...compiled import kernel
from .one_cubic import farthest, least_squares, nearer
from .point_measures import circle_through, off_chord, tangent_at, tangent_where_closed, ways_to

LINE, CUBIC, ARC = 0, 1, 2
#: Newton steps that bring a point's parameter nearer, before a span is given up.
ROUNDS = 6
#: A span whose error is more than so many times the tolerance is given up at once.
HOPELESS = 6.0
#: A round that leaves more than this share of the error is the last.
SLOW = 0.93
#: A span ends within this part of its length of where it could end at most.
NEAR_ENOUGH = 9


@kernel("Tuple((f8, f8))(f8[:, ::1], f8[::1], i8, i8, f8[::1], f8[::1], f8, f8[::1], f8[:, ::1])")
def span_through(p, run, i0, i1, t0, t1, tolerance, u, c):
    """One cubic c through points from one to another with given tangents, by least squares: the largest distance and
    the sum of all. It stops where that is within the tolerance, or hopeless. run: the way to each point."""
    whole = run[i1] - run[i0]
    for i in range(i0, i1 + 1):
        u[i] = (run[i] - run[i0]) / whole if whole > 0 else 1.0
    u[i0] = 0.0
    most, gone, before = np.inf, 0.0, np.inf
    for round_ in range(ROUNDS + 1):
        least_squares(p, i0, i1, u, t0, t1, c)
        most, gone = farthest(p, i0, i1, u, c)
        if most <= tolerance or most > HOPELESS * tolerance or round_ == ROUNDS or most > SLOW * before:
            break
        before = most
        nearer(p, i0, i1, u, c)
    return most, gone


@kernel("i8(i8, i8, i8, i8, i8, b1)")
def next_end(i0, good, bad, most_end, i1, hopeless):
    """The end of a span that is tried after another, i1: farther while that works, else less far; then in between."""
    if good == i0:
        return i0 + max(int((0.5 if hopeless else 0.7) * (bad - i0)), 1)
    if i1 == good and good < bad - 1 and bad >= most_end:
        return min(good + max((good - i0) // 3, 1), bad - 1)
    return (good + bad) // 2


@kernel("Tuple((i8, f8, f8))(f8[:, ::1], b1, f8[::1], f8[::1], f8, f8[:, :, ::1], u1[::1], i8)")
def fit_section(p, loop, leaving, arriving, tolerance, ctrl, kind, m):
    """Segments through points from the first to the last, written from place m on, in given directions at both ends
    where these are not zeros. Returns the next place, the sum and the largest of the distances."""
    n = len(p)
    worst, total = 0.0, 0.0
    if not loop:
        off = off_chord(p, 0, n - 1)
        if off <= tolerance:
            ctrl[m, 0], ctrl[m, 3] = p[0], p[n - 1]
            for k in range(2):
                step = (p[n - 1, k] - p[0, k]) / 3
                ctrl[m, 1, k], ctrl[m, 2, k] = p[0, k] + step, p[n - 1, k] - step
            kind[m] = LINE
            # A mean of a third of the largest is what a straight run with even noise has.
            return m + 1, off / 3 * (n - 2), off
    u, run, c, best = np.zeros(n), np.zeros(n), np.zeros((4, 2)), np.zeros((4, 2))
    t0, t1, last, tangent, node, kept = np.zeros(2), np.zeros(2), np.zeros(2), np.zeros(2), np.zeros(2), np.zeros(2)
    t0[:], last[:] = leaving, -arriving
    if loop:
        tangent_where_closed(p, tolerance, t0)
        last[:] = -t0
    ways_to(p, run)
    i0, guess = 0, max(n // 8, 2)
    while i0 < n - 1:
        # The farthest end that works: as far as last time, then twice as far or half, then in between. One cubic hardly
        # ever makes a whole loop.
        most_end = n if i0 > 0 or not loop else n // 2 + 1
        good, bad = i0, most_end
        most_good, gone_good = 0.0, 0.0
        i1 = min(i0 + guess, bad - 1)
        while True:
            node[:] = p[i1]
            if i1 == n - 1:
                t1[:] = last
            else:
                tangent_at(p, run, i1, tolerance, tangent)
                t1[:] = -tangent
            most, gone = span_through(p, run, i0, i1, t0, t1, tolerance, u, c)
            if most <= tolerance or i1 - i0 < 2:
                good, most_good, gone_good = i1, most, gone
                best[:], kept[:] = c, tangent
            else:
                bad = i1
            p[i1] = node
            if bad - good <= 1 + (good - i0) // NEAR_ENOUGH:
                break
            i1 = next_end(i0, good, bad, most_end, i1, most > HOPELESS * tolerance)
        ctrl[m], kind[m] = best, CUBIC
        m += 1
        p[good] = best[3]
        worst, total = max(worst, most_good), total + gone_good
        guess, i0 = good - i0, good
        t0[:] = kept
    return m, total, worst


@kernel(
    "Tuple((f8[:, :, ::1], u1[::1], f8[::1], i8[::1], f8, f8))"
    "(Array(f8, 2, 'C', readonly=True), Array(i8, 1, 'C', readonly=True), Array(b1, 1, 'C', readonly=True),"
    " Array(b1, 1, 'C', readonly=True), Array(f8, 2, 'C', readonly=True), f8)"
)
def fit_outlines(points, start, closed, corner, direction, tolerance):
    """ctrl (M, 4, 2), kind, bulge (M,), start (K+1,); the mean and the largest distance of the points."""
    room = len(points) + 3 * len(start) + 2
    ctrl = np.zeros((room, 4, 2))
    kind = np.zeros(room, np.uint8)
    bulge = np.zeros(room)
    begin = np.zeros(len(start), np.int64)
    m, total, worst = 0, 0.0, 0.0
    for k in range(len(start) - 1):
        n = start[k + 1] - start[k]
        own = np.empty((n + 1, 2))
        way = np.zeros((n + 1, 2))
        # Where a section ends: at corners, and where a direction is given.
        marks = np.zeros(n + 1, np.bool_)
        first = 0
        if closed[k]:
            for i in range(n):
                j = start[k] + i
                if corner[j] or direction[j, 0] != 0 or direction[j, 1] != 0:
                    first = i
                    break
        for i in range(n):
            j = start[k] + (first + i) % n
            own[i], way[i] = points[j], direction[j]
            marks[i] = corner[j] or way[i, 0] != 0 or way[i, 1] != 0
        own[n], way[n] = own[0], way[0]
        marks[n] = marks[0]
        if closed[k] and not marks[0]:
            x, y, radius, off = circle_through(own[:n])
            if off <= tolerance and n >= 4:
                area = 0.0
                for i in range(n):
                    area += own[i, 0] * own[i + 1, 1] - own[i + 1, 0] * own[i, 1]
                turn = 1.0 if area > 0 else -1.0
                for half in range(2):
                    side = 1.0 if half == 0 else -1.0
                    ctrl[m, :, 1] = y
                    for j in range(4):
                        ctrl[m, j, 0] = x + side * radius * (1 - 2 * j / 3)
                    kind[m], bulge[m] = ARC, turn
                    m += 1
                ctrl[m - 1, 3] = ctrl[m - 2, 0]
                ctrl[m - 1, 0] = ctrl[m - 2, 3]
                total += off / 3 * n
                worst = max(worst, off)
            else:
                m, gone, most = fit_section(own, True, way[0], way[0], tolerance, ctrl, kind, m)
                total += gone
                worst = max(worst, most)
        else:
            last = n if closed[k] else n - 1
            a = 0
            for b in range(1, last + 1):
                if b == last or marks[b]:
                    m, gone, most = fit_section(own[a : b + 1].copy(), False, way[a], way[b], tolerance, ctrl, kind, m)
                    total += gone
                    worst = max(worst, most)
                    a = b
        begin[k + 1] = m
    return ctrl[:m].copy(), kind[:m].copy(), bulge[:m].copy(), begin, total / max(len(points), 1), worst
