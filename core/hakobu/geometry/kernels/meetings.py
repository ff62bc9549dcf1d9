"""Places where curves meet: pairs of near chords from a grid, refined on the true curves."""

from __future__ import annotations

import math

import numpy as np

from ..compiled import kernel
from .curves import curve_at, foot, foot_near
from .grid_crossings import cell_range

#: Both curves pass within this of a stated meeting, in mm.
MEET = 1e-6
#: Curves that stay within this of each other are one there, in mm.
SAME = 2e-5
#: The sine of the angle below which two curves are taken to touch, not to cross.
PARALLEL = 1e-3


@kernel("Tuple((f8, f8, f8))(f8, f8, f8, f8, f8, f8, f8, f8)")
def chords_apart(ax, ay, bx, by, cx, cy, dx, dy):
    """The distance between two chords, and the shares along them where they are nearest."""
    ux, uy, vx, vy, wx, wy = bx - ax, by - ay, dx - cx, dy - cy, ax - cx, ay - cy
    a, b, c = ux * ux + uy * uy, ux * vx + uy * vy, vx * vx + vy * vy
    d, e = ux * wx + uy * wy, vx * wx + vy * wy
    det = a * c - b * b
    s = min(max((b * e - c * d) / det, 0.0), 1.0) if det > 1e-14 * a * c else 0.5
    t = (b * s + e) / c if c > 0 else 0.0
    if t < 0 or t > 1:
        t = min(max(t, 0.0), 1.0)
        s = min(max((b * t - d) / a, 0.0), 1.0) if a > 0 else 0.0
    return math.hypot(wx + s * ux - t * vx, wy + s * uy - t * vy), s, t


@kernel(
    "Tuple((i8[:, ::1], f8[:, ::1], i8))(Array(f8, 2, 'C', readonly=True), Array(f8, 2, 'C', readonly=True),"
    " Array(i8, 1, 'C', readonly=True), Array(i8, 1, 'C', readonly=True), f8, f8, i8)"
)
def near_chords(first, last, segment, group, reach, cell, most):
    """Pairs of chords of different segments of one group within reach: their numbers, the shares along them, and how
    many there are; those beyond the most are counted but not listed."""
    n = len(first)
    x0 = min(first[:, 0].min(), last[:, 0].min()) - reach
    y0 = min(first[:, 1].min(), last[:, 1].min()) - reach
    columns = int((max(first[:, 0].max(), last[:, 0].max()) + reach - x0) / cell) + 1
    rows = int((max(first[:, 1].max(), last[:, 1].max()) + reach - y0) / cell) + 1
    begin = np.zeros(columns * rows + 1, np.int64)
    member = np.empty(0, np.int64)
    fill = begin[:-1].copy()
    for turn in range(2):
        if turn == 1:
            for k in range(columns * rows):
                begin[k + 1] += begin[k]
            member = np.empty(begin[columns * rows], np.int64)
            fill = begin[:-1].copy()
        for i in range(n):
            # Row by row, so that a long slanting chord fills only the cells that it passes.
            ax, ay, bx, by = first[i, 0], first[i, 1], last[i, 0], last[i, 1]
            r0, r1 = cell_range(min(ay, by) - reach, max(ay, by) + reach, y0, cell, rows)
            for r in range(r0, r1 + 1):
                low, high = min(ax, bx), max(ax, bx)
                if ay != by:
                    t0 = (y0 + r * cell - reach - ay) / (by - ay)
                    t1 = (y0 + (r + 1) * cell + reach - ay) / (by - ay)
                    t0, t1 = min(max(min(t0, t1), 0.0), 1.0), min(max(max(t0, t1), 0.0), 1.0)
                    low = min(ax + t0 * (bx - ax), ax + t1 * (bx - ax))
                    high = max(ax + t0 * (bx - ax), ax + t1 * (bx - ax))
                c0, c1 = cell_range(low - reach, high + reach, x0, cell, columns)
                for c in range(c0, c1 + 1):
                    k = r * columns + c
                    if turn == 0:
                        begin[k + 1] += 1
                    else:
                        member[fill[k]] = i
                        fill[k] += 1
    pairs, shares = np.empty((most, 2), np.int64), np.empty((most, 2))
    found = 0
    for r in range(rows):
        for c in range(columns):
            k = r * columns + c
            for p in range(begin[k], begin[k + 1]):
                i = member[p]
                for q in range(p + 1, begin[k + 1]):
                    j = member[q]
                    if segment[i] == segment[j] or group[i] != group[j]:
                        continue
                    if max(first[i, 0], last[i, 0]) + reach < min(first[j, 0], last[j, 0]):
                        continue
                    if max(first[j, 0], last[j, 0]) + reach < min(first[i, 0], last[i, 0]):
                        continue
                    if max(first[i, 1], last[i, 1]) + reach < min(first[j, 1], last[j, 1]):
                        continue
                    if max(first[j, 1], last[j, 1]) + reach < min(first[i, 1], last[i, 1]):
                        continue
                    away, s, t = chords_apart(
                        first[i, 0],
                        first[i, 1],
                        last[i, 0],
                        last[i, 1],
                        first[j, 0],
                        first[j, 1],
                        last[j, 0],
                        last[j, 1],
                    )
                    if away > reach:
                        continue
                    # Of all cells that both stand in, the pair counts in the one of its nearest place.
                    cx = first[i, 0] + s * (last[i, 0] - first[i, 0])
                    cy = first[i, 1] + s * (last[i, 1] - first[i, 1])
                    home_c, _ = cell_range(cx, cx, x0, cell, columns)
                    home_r, _ = cell_range(cy, cy, y0, cell, rows)
                    if home_c != c or home_r != r:
                        continue
                    if found < most:
                        swap = segment[i] > segment[j]
                        pairs[found, 0], pairs[found, 1] = (j, i) if swap else (i, j)
                        shares[found, 0], shares[found, 1] = (t, s) if swap else (s, t)
                    found += 1
    return pairs[: min(found, most)].copy(), shares[: min(found, most)].copy(), found


@kernel("Tuple((f8, f8, f8, f8))(i8, f8[::1], i8, f8[::1], f8, f8)")
def meet_near(kind_a, a, kind_b, b, t, u):
    """The parameters where two curves are nearest, from a first guess, their distance there and the sine of the angle
    between them. Newton's method where they cross, Levenberg and Marquardt's (1963) where they run alike."""
    ax, ay, adx, ady = curve_at(kind_a, a, t)
    bx, by, bdx, bdy = curve_at(kind_b, b, u)
    fx, fy = ax - bx, ay - by
    best = math.hypot(fx, fy)
    damp = 0.0
    for _ in range(80):
        if best < 1e-13:
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
        away = math.hypot(ax2 - bx2, ay2 - by2)
        if away < best:
            still = abs(t2 - t) + abs(u2 - u) < 1e-15
            t, u, best = t2, u2, away
            adx, ady, bdx, bdy = adx2, ady2, bdx2, bdy2
            fx, fy = ax2 - bx2, ay2 - by2
            damp = damp / 10 if damp > 1e-12 else 0.0
            if still:
                break
        else:
            damp = max(damp * 10, 1e-6)
            if damp > 1e8:
                break
    long = math.hypot(adx, ady) * math.hypot(bdx, bdy)
    sine = abs(adx * bdy - ady * bdx) / long if long > 0 else 0.0
    return t, u, best, sine


@kernel(
    "Tuple((f8[:, ::1], f8[::1], f8[::1]))(Array(i8, 2, 'C', readonly=True), Array(f8, 2, 'C', readonly=True),"
    " Array(i8, 1, 'C', readonly=True), f8[:, ::1])"
)
def refine(pairs, guess, kind, geometry):
    """For pairs of segments with first guesses: parameters (N, 2), distance and sine of the angle there."""
    n = len(pairs)
    parameter, away, sine = np.empty((n, 2)), np.empty(n), np.empty(n)
    for k in range(n):
        i, j = pairs[k]
        t, u, d, s = meet_near(kind[i], geometry[i], kind[j], geometry[j], guess[k, 0], guess[k, 1])
        parameter[k, 0], parameter[k, 1], away[k], sine[k] = t, u, d, s
    return parameter, away, sine


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


@kernel(
    "Tuple((f8[:, :, ::1], b1[::1]))(Array(i8, 2, 'C', readonly=True), Array(i8, 1, 'C', readonly=True), f8[:, ::1])"
)
def common_runs(pairs, kind, geometry):
    """For pairs of segments, the run along which they are one: the parameters on both at its ends (N, 2, 2), and
    whether there is one. Two curves of these kinds that are one anywhere are so up to an end of either."""
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
            t, away = foot(kind[other], geometry[other], x, y)
            if away <= SAME:
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
        for look in range(1, 8):
            t = found[low, 0] + (found[high, 0] - found[low, 0]) * look / 8
            x, y, _, _ = curve_at(kind[i], geometry[i], t)
            _, away = foot(kind[j], geometry[j], x, y)
            one = one and away <= SAME
        x0, y0, _, _ = curve_at(kind[i], geometry[i], found[low, 0])
        x1, y1, _, _ = curve_at(kind[i], geometry[i], found[high, 0])
        xm, ym, _, _ = curve_at(kind[i], geometry[i], (found[low, 0] + found[high, 0]) / 2)
        long = math.hypot(xm - x0, ym - y0) + math.hypot(x1 - xm, y1 - ym)
        if one and long > SAME:
            ends[k, 0], ends[k, 1] = found[low], found[high]
            there[k] = True
    return ends, there
