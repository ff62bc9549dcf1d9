"""Places where curves meet, refined on the true curves from first guesses."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .curves import ARC, curve_at, foot, foot_near, length

#: Kinds of curves.
LINE, CUBIC = 0, 1
#: Both curves pass within this of a stated meeting, in mm.
MEET = 1e-6
#: Curves that stay within this of each other are one there, in mm.
SAME = 2e-5
#: The sine of the angle below which two curves are taken to touch, not to cross.
PARALLEL = 1e-3
#: And below which it is looked whether they touch nearby more closely than they come here.
TOUCHING = 0.05
#: Steps that do not help after which a guess is given up.
IDLE = 6


@kernel("f8(f8, f8, f8, f8)")
def sine_of(ax, ay, bx, by):
    """The sine of the angle between two directions, 0 where one has no length."""
    long = length(ax, ay) * length(bx, by)
    return abs(ax * by - ay * bx) / long if long > 0 else 0.0


@kernel("Tuple((f8, f8, f8, f8))(i8, f8[::1], i8, f8[::1], f8, f8, f8, f8)")
def touch_near(kind_a, a, kind_b, b, t, u, best, sine):
    """The place near a meeting where the tangents are parallel, by the secant method, if the curves are nearer there;
    else the meeting. Where curves touch, Newton's method for their distance comes to the place slowly."""
    before, cross_before = t, 0.0
    at, foot = t, u
    for step in range(20):
        _, _, adx, ady = curve_at(kind_a, a, at)
        ax, ay, _, _ = curve_at(kind_a, a, at)
        foot, away = foot_near(kind_b, b, ax, ay, foot)
        _, _, bdx, bdy = curve_at(kind_b, b, foot)
        cross = adx * bdy - ady * bdx
        if away < best:
            t, u, best, sine = at, foot, away, sine_of(adx, ady, bdx, bdy)
        if step == 0:
            after = at + 1e-4 if at < 0.5 else at - 1e-4
        else:
            if cross == cross_before:
                break
            after = at - cross * (at - before) / (cross - cross_before)
        before, cross_before = at, cross
        after = min(max(after, 0.0), 1.0)
        if abs(after - at) < 1e-15 or abs(after - t) > 0.1:
            break
        at = after
    return t, u, best, sine


@kernel("Tuple((f8, f8, f8, f8))(i8, f8[::1], i8, f8[::1], f8, f8)")
def meet_near(kind_a, a, kind_b, b, t, u):
    """The parameters where two curves are nearest, from a first guess, their distance there and the sine of the angle
    between them. Newton's method where they cross, Levenberg and Marquardt's (1963) where they run alike."""
    ax, ay, adx, ady = curve_at(kind_a, a, t)
    bx, by, bdx, bdy = curve_at(kind_b, b, u)
    fx, fy = ax - bx, ay - by
    best = length(fx, fy)
    damp, idle = 0.0, 0
    for _ in range(80):
        if best < 1e-13 or idle > IDLE:
            break
        # (J^T J + damp) step = -J^T F for J = [A', -B'].
        p, q, r = adx * adx + ady * ady, -(adx * bdx + ady * bdy), bdx * bdx + bdy * bdy
        g, h = adx * fx + ady * fy, -(bdx * fx + bdy * fy)
        det = (p * (1 + damp)) * (r * (1 + damp)) - q * q
        if det <= 1e-14 * p * r:
            damp = max(damp * 10, 1e-9)
            if damp > 1e6:
                break
            continue
        dt = -(r * (1 + damp) * g - q * h) / det
        du = -(p * (1 + damp) * h - q * g) / det
        t2, u2 = min(max(t + dt, 0.0), 1.0), min(max(u + du, 0.0), 1.0)
        ax2, ay2, adx2, ady2 = curve_at(kind_a, a, t2)
        bx2, by2, bdx2, bdy2 = curve_at(kind_b, b, u2)
        away = length(ax2 - bx2, ay2 - by2)
        if away < best:
            still = abs(t2 - t) + abs(u2 - u) < 1e-15
            # Far from a meeting and no longer nearing one.
            idle = idle + 1 if away > SAME and away > 0.9 * best else 0
            t, u, best = t2, u2, away
            adx, ady, bdx, bdy = adx2, ady2, bdx2, bdy2
            fx, fy = ax2 - bx2, ay2 - by2
            damp = damp / 10 if damp > 1e-12 else 0.0
            if still:
                break
        else:
            damp = max(damp * 10, 1e-6)
            idle += best > SAME
            if damp > 1e8:
                break
    sine = sine_of(adx, ady, bdx, bdy)
    if sine < TOUCHING and 1e-13 < best < SAME:
        t, u, best, sine = touch_near(kind_a, a, kind_b, b, t, u, best, sine)
    return t, u, best, sine


@kernel("f8[:, ::1](Array(i8, 2, 'C', readonly=True), f8[:, ::1], Array(i8, 1, 'C', readonly=True), f8[:, ::1])")
def refine(pairs, guess, kind, geometry):
    """For pairs of curves with first guesses (N, 2): parameters on both, distance there, sine of the angle between
    them, x and y of the place on the first (N, 6)."""
    n = len(pairs)
    made = np.empty((n, 6))
    for k in range(n):
        i, j = pairs[k]
        t, u, d, s = meet_near(kind[i], geometry[i], kind[j], geometry[j], guess[k, 0], guess[k, 1])
        x, y, _, _ = curve_at(kind[i], geometry[i], t)
        made[k, 0], made[k, 1], made[k, 2], made[k, 3], made[k, 4], made[k, 5] = t, u, d, s, x, y
    return made


@kernel(
    "f8[::1](Array(i8, 2, 'C', readonly=True), Array(f8, 2, 'C', readonly=True), Array(i8, 1, 'C', readonly=True),"
    " f8[:, ::1])"
)
def apart_at(pairs, parameter, kind, geometry):
    """How far the first curve of each pair is from the second, at a parameter on it, near one on the other."""
    away = np.empty(len(pairs))
    for k in range(len(pairs)):
        i, j = pairs[k]
        x, y, _, _ = curve_at(kind[i], geometry[i], parameter[k, 0])
        _, away[k] = foot_near(kind[j], geometry[j], x, y, parameter[k, 1])
    return away


@kernel("b1(i8, f8[::1], f8, f8, f8)")
def far_from(kind, g, x, y, same):
    """Whether a point is outside of the box of a curve's circle or control points."""
    if kind == ARC:
        return abs(length(x - g[0], y - g[1]) - g[2]) > same
    low = min(min(g[0], g[2]), min(g[4], g[6])) - same
    high = max(max(g[0], g[2]), max(g[4], g[6])) + same
    if x < low or x > high:
        return True
    return y < min(min(g[1], g[3]), min(g[5], g[7])) - same or y > max(max(g[1], g[3]), max(g[5], g[7])) + same


@kernel(
    "Tuple((f8[:, :, ::1], b1[::1]))(Array(i8, 2, 'C', readonly=True), Array(i8, 1, 'C', readonly=True), f8[:, ::1],"
    " f8)"
)
def common_runs(pairs, kind, geometry, same):
    """For pairs of segments, the run along which they are one: the parameters on both at its ends (N, 2, 2), and
    whether there is one. same: within what, in mm, they are one. Two curves of these kinds that are one anywhere are so
    up to an end of either."""
    n = len(pairs)
    ends, there = np.zeros((n, 2, 2)), np.zeros(n, np.bool_)
    found = np.empty((4, 2))
    for k in range(n):
        i, j = pairs[k]
        count = 0
        for side in range(4):
            own, other = (i, j) if side < 2 else (j, i)
            at = float(side % 2)
            x, y, _, _ = curve_at(kind[own], geometry[own], at)
            if far_from(kind[other], geometry[other], x, y, same):
                continue
            t, away = foot(kind[other], geometry[other], x, y)
            if away <= same:
                found[count, 0], found[count, 1] = (at, t) if side < 2 else (t, at)
                count += 1
        if count < 2:
            continue
        low, high = 0, 0
        for c in range(1, count):
            low = c if found[c, 0] < found[low, 0] else low
            high = c if found[c, 0] > found[high, 0] else high
        if abs(found[high, 1] - found[low, 1]) < 1e-6:
            # A curve whose ends are one place: which of them is meant tells the first step.
            x, y, _, _ = curve_at(kind[i], geometry[i], found[low, 0] + 0.1 * (found[high, 0] - found[low, 0]))
            t, _ = foot(kind[j], geometry[j], x, y)
            found[low, 1], found[high, 1] = (0.0, 1.0) if t < 0.5 else (1.0, 0.0)
        one = True
        for look in range(1, 1 if kind[i] == LINE and kind[j] == LINE else 8):
            t = found[low, 0] + (found[high, 0] - found[low, 0]) * look / 8
            x, y, _, _ = curve_at(kind[i], geometry[i], t)
            _, away = foot(kind[j], geometry[j], x, y)
            one = one and away <= same
        x0, y0, _, _ = curve_at(kind[i], geometry[i], found[low, 0])
        x1, y1, _, _ = curve_at(kind[i], geometry[i], found[high, 0])
        xm, ym, _, _ = curve_at(kind[i], geometry[i], (found[low, 0] + found[high, 0]) / 2)
        long = length(xm - x0, ym - y0) + length(x1 - xm, y1 - ym)
        if one and long > same:
            ends[k, 0], ends[k, 1] = found[low], found[high]
            there[k] = True
    return ends, there


@kernel("UniTuple(f8, 2)(f8[::1])")
def loop_of(g):
    """The parameters at which a cubic crosses itself, the lower first; both 0 where it does not.

    With P(t) = a t^3 + b t^2 + c t + d, P(t) = P(u) and t != u give a (s^2 - p) + b s + c = 0 for s = t + u, p = t u:
    two equations; crossed with a, they hold s alone.
    """
    ax, ay = g[6] - 3 * g[4] + 3 * g[2] - g[0], g[7] - 3 * g[5] + 3 * g[3] - g[1]
    bx, by = 3 * (g[4] - 2 * g[2] + g[0]), 3 * (g[5] - 2 * g[3] + g[1])
    cx, cy = 3 * (g[2] - g[0]), 3 * (g[3] - g[1])
    apart = ax * by - ay * bx
    if apart == 0:
        return 0.0, 0.0
    s = -(ax * cy - ay * cx) / apart
    p = s * s + (s * (ax * bx + ay * by) + ax * cx + ay * cy) / (ax * ax + ay * ay)
    if s * s / 4 - p <= 0:
        return 0.0, 0.0
    root = math.sqrt(s * s / 4 - p)
    t, u = s / 2 - root, s / 2 + root
    # A loop whose ends are the curve's own is a closed outline, not a crossing.
    if t < -1e-12 or u > 1 + 1e-12 or root <= 1e-9 or (t < 1e-9 and u > 1 - 1e-9):
        return 0.0, 0.0
    t, u = max(t, 0.0), min(u, 1.0)
    x, y, _, _ = curve_at(CUBIC, g, t)
    # A cusp, which rounding may open: no loop is as small as what counts as one.
    mx, my, _, _ = curve_at(CUBIC, g, (t + u) / 2)
    return (0.0, 0.0) if length(mx - x, my - y) <= SAME else (t, u)


@kernel("Tuple((i8[:, ::1], f8[:, ::1]))(Array(i8, 1, 'C', readonly=True), f8[:, ::1])")
def loops(kind, geometry):
    """Cubics that cross themselves, each as a pair of equal numbers (L, 2), with the place as `refine` gives it
    (L, 6)."""
    most, n = len(kind), 0
    pairs, made = np.empty((most, 2), np.int64), np.empty((most, 6))
    for i in range(most):
        if kind[i] != CUBIC:
            continue
        t, u = loop_of(geometry[i])
        if u <= t:
            continue
        x, y, _, _ = curve_at(kind[i], geometry[i], t)
        pairs[n, 0], pairs[n, 1] = i, i
        made[n, 0], made[n, 1], made[n, 2], made[n, 3], made[n, 4], made[n, 5] = t, u, 0.0, 1.0, x, y
        n += 1
    return pairs[:n].copy(), made[:n].copy()
