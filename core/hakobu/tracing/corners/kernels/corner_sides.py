"""The two sides of a corner, carried on from where the outline is true, and where they meet."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length

#: The least turn, in radians, that makes a corner.
SHARP = 0.3
#: Pixels: the longest arm, and how much shorter each next try is.
LONGEST, SHORTER = 28.0, 0.72
#: Pixels between the rounded parts of two corners that an arm needs at least.
TIGHT = 1.6
#: Points of an arm leave its line by no more than so many times the noise.
WITHIN = 2.6
#: A slim corner's outline is untrue so many times as far as a right angle's, at most.
SLIMMEST = 2.5


@kernel("f8(f8, f8)")
def rounded_px(blur, noise):
    """How far from a corner of a right angle its outline is not true, in pixels."""
    return 0.5 + 2.1 * blur


@kernel("Tuple((f8, f8))(f8[:, ::1], f8[::1], f8)")
def at_length(points, run, s):
    """The point at a length along a closed outline; run (n+1,) holds the lengths up to each point."""
    n = len(points)
    s = s % run[n]
    i = np.searchsorted(run, s, side="right") - 1
    i = min(max(i, 0), n - 1)
    j = i + 1 if i + 1 < n else 0
    step = run[i + 1] - run[i]
    t = (s - run[i]) / step if step > 0 else 0.0
    return points[i, 0] + t * (points[j, 0] - points[i, 0]), points[i, 1] + t * (points[j, 1] - points[i, 1])


@kernel("Tuple((i8, f8))(f8[:, ::1], f8[::1], i8, i8, f8, f8, f8[:, ::1])")
def arm_points(points, run, i, step, near, far, arm):
    """The points between two distances along from one of them, the nearest first; their number, and the distance of the
    last."""
    n = len(points)
    m, away, j = 0, 0.0, i
    last = 0.0
    while m < len(arm):
        k = j + step
        k = k - n if k >= n else (k + n if k < 0 else k)
        away += run[j + 1] - run[j] if step > 0 else run[k + 1] - run[k]
        if away > far or k == i:
            break
        if away >= near:
            arm[m, 0], arm[m, 1] = points[k, 0], points[k, 1]
            m += 1
            last = away
        j = k
    return m, last


@kernel("f8(f8[:, ::1], i8, i8, f8[::1])")
def carried_on(arm, m, order, side):
    """A line (order 1) or a parabola (2) through an arm's first m points by least squares: side holds a point, the
    direction towards the corner, height, slope and bend over it, how long its known part is and of how many points.
    Returns how far the points lie off, as the root of the mean square over what freedom is left."""
    ox, oy = arm[0, 0], arm[0, 1]
    ux, uy = ox - arm[m - 1, 0], oy - arm[m - 1, 1]
    size = length(ux, uy)
    if not size > 0:
        return np.inf
    ux, uy = ux / size, uy / size
    s0 = s1 = s2 = s3 = s4 = 0.0
    q0 = q1 = q2 = 0.0
    for k in range(m):
        x, y = arm[k, 0] - ox, arm[k, 1] - oy
        t, v = x * ux + y * uy, -x * uy + y * ux
        s0 += 1
        s1 += t
        s2 += t * t
        s3 += t * t * t
        s4 += t * t * t * t
        q0 += v
        q1 += v * t
        q2 += v * t * t
    a = b = c = 0.0
    if order == 1:
        det = s0 * s2 - s1 * s1
        if not det > 1e-9:
            return np.inf
        a, b = (q0 * s2 - q1 * s1) / det, (s0 * q1 - s1 * q0) / det
    else:
        c00, c01, c02 = s2 * s4 - s3 * s3, s2 * s3 - s1 * s4, s1 * s3 - s2 * s2
        c11, c12, c22 = s0 * s4 - s2 * s2, s1 * s2 - s0 * s3, s0 * s2 - s1 * s1
        det = s0 * c00 + s1 * c01 + s2 * c02
        if not det > 1e-9:
            return np.inf
        a, b = (c00 * q0 + c01 * q1 + c02 * q2) / det, (c01 * q0 + c11 * q1 + c12 * q2) / det
        c = (c02 * q0 + c12 * q1 + c22 * q2) / det
    off = 0.0
    for k in range(m):
        x, y = arm[k, 0] - ox, arm[k, 1] - oy
        t, v = x * ux + y * uy, -x * uy + y * ux
        d = v - a - b * t - c * t * t
        off += d * d
    side[0], side[1], side[2], side[3] = ox, oy, ux, uy
    side[4], side[5], side[6] = a, b, c
    side[7], side[8] = size, m
    return math.sqrt(off / max(m - order - 1, 1))


@kernel("i8(f8[:, ::1], f8[::1], i8, i8, f8, f8, f8, f8[:, ::1], f8[::1])")
def side_of(points, run, i, step, near, far, noise, arm, side):
    """The side of a corner on one hand, as long as it can be told from its points: 0 where there are too few, 1 where
    they lie about no line nor parabola within the noise, 2 where they do."""
    reach = min(far, near + LONGEST)
    while True:
        m, _ = arm_points(points, run, i, step, near, reach, arm)
        if m < 2:
            return 0
        limit = noise * (1 + (WITHIN - 1) / math.sqrt(m))
        off = carried_on(arm, m, 1, side)
        if off <= limit:
            return 2
        if m <= 4:
            return 0 if off == np.inf else (2 if off <= 2.5 * noise + 0.02 else 1)
        if m >= 7 and carried_on(arm, m, 2, side) <= limit:
            return 2
        reach = near + (reach - near) * SHORTER


@kernel("void(f8[:, ::1], f8[::1], i8, i8, f8, f8[::1])")
def short_side(points, run, i, step, gap, side):
    """The side between two near corners: through its middle, which is rounded least, in the direction there."""
    reach = 0.15 * gap
    ax, ay = at_length(points, run, run[i] + step * (gap / 2 + reach))
    bx, by = at_length(points, run, run[i] + step * (gap / 2 - reach))
    size = length(bx - ax, by - ay)
    side[0], side[1] = (ax + bx) / 2, (ay + by) / 2
    side[2], side[3] = ((bx - ax) / size, (by - ay) / size) if size > 0 else (1.0, 0.0)
    side[4] = side[5] = side[6] = 0.0
    side[7], side[8] = max(2 * reach, 1.0), 0.0


@kernel("f8(f8[:, ::1], f8[::1], i8, f8, f8, f8)")
def off_outline(points, run, i, reach, x, y):
    """How far a place lies from the outline about one of its points, less what the points may be apart there."""
    n = len(points)
    best = length(points[i, 0] - x, points[i, 1] - y)
    widest = 1.0
    for step in (-1, 1):
        j, away = i, 0.0
        while away < reach:
            k = j + step
            k = k - n if k >= n else (k + n if k < 0 else k)
            if k == i:
                break
            ux, uy = points[k, 0] - points[j, 0], points[k, 1] - points[j, 1]
            size = ux * ux + uy * uy
            t = ((x - points[j, 0]) * ux + (y - points[j, 1]) * uy) / size if size > 0 else 0.0
            t = min(max(t, 0.0), 1.0)
            best = min(best, length(points[j, 0] + t * ux - x, points[j, 1] + t * uy - y))
            away += math.sqrt(size)
            widest = max(widest, math.sqrt(size))
            j = k
    return best - (widest - 1) / 2


@kernel("Tuple((f8, f8, f8, f8))(f8[::1], f8)")
def along_side(side, t):
    """A point on a side so far from its beginning, and the direction there."""
    v = side[4] + side[5] * t + side[6] * t * t
    slope = side[5] + 2 * side[6] * t
    x = side[0] + side[2] * t - side[3] * v
    y = side[1] + side[3] * t + side[2] * v
    dx, dy = side[2] - side[3] * slope, side[3] + side[2] * slope
    size = length(dx, dy)
    return x, y, dx / size, dy / size


@kernel("f8(f8[::1], f8, f8)")
def across(side, x, y):
    """How far a place lies to the right of a side, seen along it."""
    dx, dy = x - side[0], y - side[1]
    t = dx * side[2] + dy * side[3]
    return dy * side[2] - dx * side[3] - (side[4] + side[5] * t + side[6] * t * t)


@kernel("Tuple((b1, f8, f8, f8))(f8[::1], f8[::1], f8)")
def meeting(first, second, far):
    """Where two sides meet, and by how much the line turns there, in radians; False where they do not."""
    t, s = 0.0, 0.0
    x = y = turn = 0.0
    for _ in range(8):
        ax, ay, ux, uy = along_side(first, t)
        bx, by, vx, vy = along_side(second, s)
        cross = ux * vy - uy * vx
        turn = math.pi - abs(math.atan2(cross, ux * vx + uy * vy))
        if abs(cross) < 0.02:
            return False, 0.0, 0.0, 0.0
        p = ((bx - ax) * vy - (by - ay) * vx) / cross
        q = ((bx - ax) * uy - (by - ay) * ux) / cross
        x, y = ax + p * ux, ay + p * uy
        t, s = t + p, s + q
        if abs(t) > far or abs(s) > far:
            return False, 0.0, 0.0, 0.0
        if abs(p) + abs(q) < 1e-6:
            break
    return True, x, y, turn


@kernel("i8(f8[:, ::1], f8[::1], i8, i8, f8, f8, b1, f8, f8[:, ::1], f8[::1])")
def find_side(points, run, i, step, gap, near, alone, noise, arm, side):
    """A side of a corner, of which near is not true, as side_of says it. Where another corner is too near for an arm
    to stand between them, by the middle of what is between."""
    if not alone and gap < 2 * near + TIGHT:
        short_side(points, run, i, step, gap, side)
        return 1
    return side_of(points, run, i, step, near, gap - (0.0 if alone else near), noise, arm, side)


@kernel("Tuple((b1, f8))(f8[:, ::1], f8[::1], i8, i8, f8, f8, b1, f8, f8, f8[:, ::1], f8[::1], f8[::1])")
def sides_about(points, run, lo, hi, before, after, alone, blur, noise, arm, first, second):
    """The sides before one point and after another, or the same; whether both are there, and how far from these points
    the outline is not true."""
    near = rounded_px(blur, noise)
    slim, reach = 1.0, near
    for _ in range(2):
        reach = near * min(slim, SLIMMEST)
        back = reach if before > 2 * reach + TIGHT else min(near, before / 2)
        fore = reach if after > 2 * reach + TIGHT else min(near, after / 2)
        one = find_side(points, run, lo, -1, before, back, alone, noise, arm, first)
        other = find_side(points, run, hi, 1, after, fore, alone, noise, arm, second)
        if one == 0 or other == 0:
            return False, reach
        met, _, _, turn = meeting(first, second, 4 * reach + 2)
        if not met:
            break
        slim = max(math.tan(min(turn, 3.0) / 2), 1.0)
    return True, reach


@kernel("Tuple((b1, f8, f8, f8, f8))(f8[:, ::1], f8[::1], i8, f8, f8, b1, f8, f8, f8, f8[:, ::1], f8[::1], f8[::1])")
def corner_at(points, run, i, before, after, alone, blur, noise, loose, arm, first, second):
    """Whether there is a corner near a point, where, how far from it the outline is not true, and how far it turns, not
    at all where both sides do not meet.
    before and after are the free lengths on either hand, to the next corner or, where it is alone, half-way round.
    loose: how far along the outline the corner may lie from the point."""
    near = rounded_px(blur, noise) + 0.6 * loose
    px, py = points[i, 0], points[i, 1]
    slim, reach, turn = 1.0, near, 0.0
    one, other = 0, 0
    for _ in range(2):
        reach = near * min(slim, 4.0)
        back = reach if before > 2 * reach + TIGHT else min(near, before / 2)
        fore = reach if after > 2 * reach + TIGHT else min(near, after / 2)
        one = find_side(points, run, i, -1, before, back, alone, noise, arm, first)
        other = find_side(points, run, i, 1, after, fore, alone, noise, arm, second)
        if one == 0 or other == 0:
            return False, px, py, reach, 0.0
        met, x, y, turn = meeting(first, second, 4 * reach + 2)
        if not met or turn < SHARP:
            return False, px, py, reach, 0.0
        slim = max(math.tan(min(turn, 3.0) / 2), 1.0)
    off = off_outline(points, run, i, reach, x, y)
    # A side that is bent right up to the corner is the beginning of a bend.
    room = 0.5 if one == 2 and other == 2 else 0.2
    return off <= (room + 0.6 * blur) * slim + 3 * noise + loose / 2, x, y, reach, turn
