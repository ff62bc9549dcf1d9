"""Corners of traced outlines: where a line turns sharply, put back to where its two sides meet.

A pixel averages over its square, so every corner arrives rounded by about half a pixel. At a corner the direction
turns by the same angle however short the arms it is measured with; along a curve it turns half as much over half the
arms. That tells the two apart; the corner itself lies where lines through its two sides cross.
"""

from __future__ import annotations

import math

import numpy as np

from ...geometry.compiled import kernel

#: Pixels: arms of the turn; the rounded part of a corner; the reach of the lines through its sides.
ARM, ROUNDED, REACH = 4.5, 1.2, 4.0
#: Pixels: the rounded part of the slimmest tips.
SLIM = 5.0
#: The least turn of a corner over the arms, and its least share over half of them (a curve has half).
LEAST_TURN, LEAST_SHARE = 0.45, 0.78
#: Of several places in a row within this many pixels the sharpest is the corner.
APART = 3.0


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


@kernel("f8(f8[:, ::1], f8[::1], i8, f8)")
def turn_at(points, run, i, arm):
    """How far the direction turns at a point, in radians, over arms of a length."""
    bx, by = at_length(points, run, run[i] - arm)
    fx, fy = at_length(points, run, run[i] + arm)
    ax, ay = points[i, 0] - bx, points[i, 1] - by
    cx, cy = fx - points[i, 0], fy - points[i, 1]
    return math.atan2(ax * cy - ay * cx, ax * cx + ay * cy)


@kernel("Tuple((f8, f8, f8, f8))(f8[:, ::1], f8[::1], f8, f8, f8)")
def side_line(points, run, s, near, far):
    """A line through the outline between two distances from a place along it: a point, and the direction of the
    largest spread (total least squares) of nine evenly spaced points."""
    x, y = np.empty(9), np.empty(9)
    for k in range(9):
        x[k], y[k] = at_length(points, run, s + near + (far - near) * k / 8)
    mx, my = x.mean(), y.mean()
    xx = ((x - mx) ** 2).sum()
    yy = ((y - my) ** 2).sum()
    xy = ((x - mx) * (y - my)).sum()
    angle = 0.5 * math.atan2(2 * xy, xx - yy)
    return mx, my, math.cos(angle), math.sin(angle)


@kernel("Tuple((f8, f8, f8))(f8[:, ::1], f8[::1], i8, f8, f8)")
def meeting_point(points, run, i, before, after):
    """Where the two sides of a corner meet, and how far from it the outline is rounded; the corner's own point where
    they do not meet near it. before and after are the free lengths on either side."""
    px, py = points[i, 0], points[i, 1]
    rounded = ROUNDED
    for _ in range(2):
        if before < rounded + 1 or after < rounded + 1:
            break
        ax, ay, ux, uy = side_line(points, run, run[i], -min(rounded + REACH, before), -rounded)
        bx, by, vx, vy = side_line(points, run, run[i], rounded, min(rounded + REACH, after))
        # Both run along the outline.
        if ux * (px - ax) + uy * (py - ay) < 0:
            ux, uy = -ux, -uy
        if vx * (bx - px) + vy * (by - py) < 0:
            vx, vy = -vx, -vy
        cross, dot = ux * vy - uy * vx, ux * vx + uy * vy
        if abs(cross) < 0.2:
            break
        t = ((bx - ax) * vy - (by - ay) * vx) / cross
        x, y = ax + t * ux, ay + t * uy
        # The sharper the corner, the more of its tip the pixels have averaged away, and the farther it is rounded.
        slim = math.tan(abs(math.atan2(cross, dot)) / 2)
        if math.hypot(x - points[i, 0], y - points[i, 1]) > 0.5 + 0.8 * slim:
            break
        px, py = x, y
        rounded = min(ROUNDED * max(slim, 1.0), SLIM)
    return px, py, rounded


@kernel("i8(f8[:, ::1], f8[::1], b1[::1])")
def find_corners(points, run, corner):
    """Marks the corners of one closed outline; returns how many."""
    n = len(points)
    length = run[n]
    arm = min(ARM, length / 6)
    strength = np.zeros(n)
    for i in range(n):
        turn = abs(turn_at(points, run, i, arm))
        if turn < LEAST_TURN:
            continue
        close = abs(turn_at(points, run, i, arm / 2))
        if close > LEAST_SHARE * turn:
            strength[i] = turn + close
    apart = min(APART, length / 8)
    found = 0
    for i in range(n):
        if strength[i] == 0:
            continue
        best = True
        for step in (1, -1):
            j, away = i, 0.0
            while best:
                k = j + step
                k = k - n if k >= n else (k + n if k < 0 else k)
                away += math.hypot(points[k, 0] - points[j, 0], points[k, 1] - points[j, 1])
                if away > apart or k == i:
                    break
                best = strength[k] < strength[i] or (strength[k] == strength[i] and k > i)
                j = k
        corner[i] = best
        found += best
    return found


@kernel("Tuple((f8[:, ::1], i8[::1], b1[::1]))(f8[:, ::1], i8[::1])")
def with_corners(points, start):
    """The outlines again with corners put where they belong, marked, and without the rounded points about them; those
    with corners begin at one."""
    total = len(points)
    out = np.empty((total, 2))
    mark = np.zeros(total, np.bool_)
    begin = np.zeros(len(start), np.int64)
    m = 0
    for k in range(len(start) - 1):
        own = points[start[k] : start[k + 1]]
        n = len(own)
        run = np.zeros(n + 1)
        for i in range(n):
            j = i + 1 if i + 1 < n else 0
            run[i + 1] = run[i] + math.hypot(own[j, 0] - own[i, 0], own[j, 1] - own[i, 1])
        corner = np.zeros(n, np.bool_)
        found = find_corners(own, run, corner) if n >= 8 and run[n] > 6 else 0
        if found == 0:
            out[m : m + n] = own
            m += n
            begin[k + 1] = m
            continue
        at = np.flatnonzero(corner)
        gaps, rounded, place = np.empty(found), np.empty(found), np.empty((found, 2))
        for a in range(found):
            gaps[a] = run[at[(a + 1) % found]] - run[at[a]]
            gaps[a] += run[n] if gaps[a] <= 0 else 0.0
        for a in range(found):
            place[a, 0], place[a, 1], rounded[a] = meeting_point(own, run, at[a], gaps[a - 1] * 0.6, gaps[a] * 0.6)
        before = m
        for a in range(found):
            i, following, gap = at[a], at[(a + 1) % found], gaps[a]
            out[m] = place[a]
            mark[m] = True
            m += 1
            near, far = min(rounded[a], gap / 3), gap - min(rounded[(a + 1) % found], gap / 3)
            steps = following - i if following > i else following - i + n
            for step in range(1, steps):
                j = (i + step) % n
                along = run[j] - run[i]
                along = along if along >= 0 else along + run[n]
                if near < along < far:
                    out[m] = own[j]
                    m += 1
        if m - before < 3:
            # So slim that only its tips are left: as it was found.
            mark[before:m] = False
            out[before : before + n] = own
            m = before + n
        begin[k + 1] = m
    return out[:m].copy(), begin, mark[:m].copy()
