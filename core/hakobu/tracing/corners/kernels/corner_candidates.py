"""Where an outline turns most and so may have corners, and which of these places are looked at together."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from ....geometry.kernels.point_measures import circle_through
from .corner_sides import at_length

#: The least turn, in radians, that is looked at over the arms.
LEAST_TURN = 0.3
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


@kernel("Tuple((i8, f8, f8))(f8[:, ::1], f8[::1], i8, f8)")
def gone_on(points, run, place, s):
    """The point at a length along a closed outline, from a place before it: the number of the last point up to there,
    which goes on over the end and begins before the first, and x and y."""
    n = len(points)
    whole = run[n]
    while True:
        following = place + 1
        if following < 0:
            there = run[following + n] - whole
        elif following > n:
            there = run[following - n] + whole
        else:
            there = run[following]
        if there > s:
            break
        place = following
    i = place + n if place < 0 else (place - n if place >= n else place)
    j = i + 1 if i + 1 < n else 0
    step = run[i + 1] - run[i]
    t = (s - there) / step + 1 if step > 0 else 0.0
    return place, points[i, 0] + t * (points[j, 0] - points[i, 0]), points[i, 1] + t * (points[j, 1] - points[i, 1])


@kernel("void(f8[:, ::1], f8[::1], f8, b1[::1])")
def candidates(points, run, arm, found):
    """Marks where one closed outline turns most, of all places within an arm, which is less than a third of it."""
    n = len(points)
    strength = np.empty(n)
    back = 0
    while run[n + back] + arm > run[n]:
        back -= 1
    fore = 0
    least = math.cos(LEAST_TURN)
    for i in range(n):
        back, bx, by = gone_on(points, run, back, run[i] - arm)
        fore, fx, fy = gone_on(points, run, fore, run[i] + arm)
        ax, ay = points[i, 0] - bx, points[i, 1] - by
        cx, cy = fx - points[i, 0], fy - points[i, 1]
        along = ax * cx + ay * cy
        strength[i] = 0.0
        if not (along > 0 and along * along > least * least * (ax * ax + ay * ay) * (cx * cx + cy * cy)):
            strength[i] = abs(math.atan2(ax * cy - ay * cx, along))
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


@kernel("void(f8[::1], b1[::1], f8, b1[::1])")
def with_pinned(run, pinned, arm, found):
    """Marks the pinned points of a closed outline and none within an arm of them."""
    n = len(pinned)
    for i in range(n):
        if not pinned[i]:
            continue
        for step in (1, -1):
            j, away = i, 0.0
            while True:
                k = (j + step) % n
                away += run[j + 1] - run[j] if step > 0 else run[k + 1] - run[k]
                if away > arm or k == i:
                    break
                found[k] = False
                j = k
    for i in range(n):
        found[i] = found[i] or pinned[i]


@kernel("b1(f8[:, ::1], f8, f8)")
def is_round(own, blur, noise):
    """Whether a small closed outline is a circle as far as can be told: a small one has bends as tight as corners."""
    x, y, radius, _most = circle_through(own)
    off = 0.0
    for i in range(len(own)):
        d = length(own[i, 0] - x, own[i, 1] - y) - radius
        off += d * d
    off = math.sqrt(off / len(own))
    # The corners of a square stand out from the circle about as much by a tenth of its radius.
    return radius < SMALL and off < 1.5 * noise + 0.05 and off < 0.06 * radius


@kernel("f8(f8[::1], f8, f8, f8)")
def ahead(run, whole, a, b):
    """How far one place of a closed outline lies ahead of another."""
    gap = run[np.int64(b)] - run[np.int64(a)]
    return gap + whole if gap <= 0 else gap


@kernel("i8(f8[:, ::1], f8[::1], i8[::1], i8, f8, f8, b1[::1], i8[::1], i8[::1])")
def grouped(own, run, at, count, near, reach, pinned, lo, hi):
    """Puts together two candidates that may be one corner, or the two of something slim that ends: from which point to
    which each group is, into lo and hi; how many there are. near: how far corners are rounded; reach: the arms' length
    that turns are told by; pinned (N,): points that are corners by themselves."""
    whole = run[len(own)]
    groups, a = 0, 0
    while a < count:
        lo[groups] = hi[groups] = at[a]
        free = a + 1 < count and not (pinned[at[a]] or pinned[at[a + 1]])
        if free and ahead(run, whole, at[a], at[a + 1]) < 2 * near + NEAR:
            t0, t1 = turn_at(own, run, at[a], reach), turn_at(own, run, at[a + 1], reach)
            if t0 * t1 > 0:
                hi[groups] = at[a + 1]
                a += 1
        groups += 1
        a += 1
    round_again = groups > 1 and lo[groups - 1] == hi[groups - 1] and lo[0] == hi[0]
    round_again = round_again and not (pinned[lo[groups - 1]] or pinned[lo[0]])
    if round_again and ahead(run, whole, at[count - 1], at[0]) < 2 * near + NEAR:
        t0, t1 = turn_at(own, run, lo[groups - 1], reach), turn_at(own, run, lo[0], reach)
        if t0 * t1 > 0:
            lo[0] = lo[groups - 1]
            groups -= 1
    return groups


@kernel("Tuple((f8, f8))(f8[::1], f8, i8[::1], i8[::1], i8, i8)")
def room_of(run, whole, lo, hi, groups, g):
    """How far a group of candidates lies from the ones before and after it."""
    if groups == 1:
        return whole / 2, whole / 2
    before = ahead(run, whole, hi[(g + groups - 1) % groups], lo[g])
    return before, ahead(run, whole, hi[g], lo[(g + 1) % groups])
