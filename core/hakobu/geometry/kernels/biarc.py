"""Cubics as pairs of arcs with common tangents."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .chords import cone_of
from .curves import curve_at, length

#: A span that turns more than this from its chord, in radians, is halved first.
WIDE = math.pi / 3
#: Deviation from a biarc is sampled at LOOKS - 1 parameters of each span.
LOOKS = 24
#: Share of the tolerance that samples may use: between them the deviation is up to 1 % larger (measured, 6,000 cubics).
SEEN = 0.98


@kernel("f8(f8, f8, f8, f8)")
def turn(ax, ay, bx, by):
    return math.atan2(ax * by - ay * bx, ax * bx + ay * by)


@kernel("Tuple((b1, f8, f8, f8, f8))(f8, f8, f8, f8, f8, f8, f8, f8)")
def joint_of(x0, y0, x1, y1, ux, uy, vx, vy):
    """Where two arcs meet, from (x0, y0) leaving along (ux, uy) to (x1, y1) arriving along (vx, vy), both of length 1,
    with equal handles; and the bulges of both. Source: Bolton, "Biarc curves", 1975."""
    cx, cy = x1 - x0, y1 - y0
    square = cx * cx + cy * cy
    along = cx * (ux + vx) + cy * (uy + vy)
    apart = 2 * (1 - (ux * vx + uy * vy))
    if apart < 1e-12:
        across = cx * vx + cy * vy
        if abs(across) < 1e-300:
            return False, 0.0, 0.0, 0.0, 0.0
        d = square / (4 * across)
    else:
        d = (-along + math.sqrt(along * along + apart * square)) / apart
    x, y = (x0 + x1 + d * (ux - vx)) / 2, (y0 + y1 + d * (uy - vy)) / 2
    first, second = math.tan(turn(ux, uy, x - x0, y - y0) / 2), math.tan(turn(x1 - x, y1 - y, vx, vy) / 2)
    return d > 0 and abs(first) <= 1 and abs(second) <= 1, x, y, first, second


@kernel("f8(f8, f8, f8, f8, f8, f8, f8)")
def to_arc(px, py, x0, y0, x1, y1, bulge):
    """Distance of a point to a circular arc of less than half a turn."""
    dx, dy = x1 - x0, y1 - y0
    if abs(bulge) < 1e-9:
        square = dx * dx + dy * dy
        share = 0.0 if square == 0 else min(max(((px - x0) * dx + (py - y0) * dy) / square, 0.0), 1.0)
        return length(px - x0 - share * dx, py - y0 - share * dy)
    lift = (1 - bulge * bulge) / (4 * bulge)
    cx, cy = (x0 + x1) / 2 - dy * lift, (y0 + y1) / 2 + dx * lift
    ax, ay, bx, by, qx, qy = x0 - cx, y0 - cy, x1 - cx, y1 - cy, px - cx, py - cy
    way = 1.0 if bulge > 0 else -1.0
    if way * (ax * qy - ay * qx) >= 0 and way * (qx * by - qy * bx) >= 0:
        return abs(length(qx, qy) - length(ax, ay))
    return min(length(px - x0, py - y0), length(px - x1, py - y1))


@kernel("b1(f8[::1], f8, f8, f8, f8, f8, f8, f8, f8, f8, f8, f8)")
def near_arcs(g, t0, t1, x0, y0, x, y, x1, y1, first, second, within):
    """Whether the samples of a span of a cubic lie within a tolerance of a biarc with its joint at (x, y)."""
    for k in range(1, LOOKS):
        px, py, _, _ = curve_at(1, g, t0 + (t1 - t0) * k / LOOKS)
        if to_arc(px, py, x0, y0, x, y, first) > within and to_arc(px, py, x, y, x1, y1, second) > within:
            return False
    return True


@kernel("Tuple((f8[:, ::1], i8[::1]))(f8[:, ::1], f8)")
def biarcs_of(geometry, within):
    """Arcs for each of a list of cubics (C, 8): both ends and the bulge of each (A, 5), and the first arc of each cubic
    (C+1,)."""
    most, n = 64, 0
    arcs, begin = np.empty((most, 5)), np.zeros(len(geometry) + 1, np.int64)
    low, high = np.empty(64), np.empty(64)
    for c in range(len(geometry)):
        g = geometry[c]
        low[0], high[0], left = 0.0, 1.0, 1
        while left > 0:
            left -= 1
            t0, t1 = low[left], high[left]
            x0, y0, ux, uy = curve_at(1, g, t0)
            x1, y1, vx, vy = curve_at(1, g, t1)
            tiny = 1e-7
            if length(ux, uy) == 0:
                px, py, _, _ = curve_at(1, g, t0 + tiny)
                ux, uy = px - x0, py - y0
            if length(vx, vy) == 0:
                px, py, _, _ = curve_at(1, g, t1 - tiny)
                vx, vy = x1 - px, y1 - py
            su, sv = max(length(ux, uy), 1e-300), max(length(vx, vy), 1e-300)
            good, x, y, first, second = joint_of(x0, y0, x1, y1, ux / su, uy / su, vx / sv, vy / sv)
            last_try = left > 60 or t1 - t0 < 1e-6
            if good and not last_try:
                good = cone_of(g, t0, t1, x1 - x0, y1 - y0) < WIDE
                good = good and near_arcs(g, t0, t1, x0, y0, x, y, x1, y1, first, second, SEEN * within)
            if not good and not last_try:
                middle = (t0 + t1) / 2
                low[left], high[left], low[left + 1], high[left + 1] = middle, t1, t0, middle
                left += 2
                continue
            if n + 2 > most:
                more = np.empty((2 * most, 5))
                more[:n] = arcs[:n]
                arcs, most = more, 2 * most
            if good:
                for k in range(2):
                    arcs[n, 0], arcs[n, 1] = (x0, y0) if k == 0 else (x, y)
                    arcs[n, 2], arcs[n, 3] = (x, y) if k == 0 else (x1, y1)
                    arcs[n, 4] = first if k == 0 else second
                    n += 1
            else:
                arcs[n, 0], arcs[n, 1], arcs[n, 2], arcs[n, 3], arcs[n, 4] = x0, y0, x1, y1, 0.0
                n += 1
        begin[c + 1] = n
    return arcs[:n].copy(), begin
