"""Where open chains end or meet: how each comes there, and one place for all of them."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from .corner_sides import carried_on, rounded_px
from .cusps import crossing

#: How much shorter each next try is of how a chain comes to its end.
SHORTER = 0.7
#: Where it comes straight, it may be followed for so many times as long.
LONGER = 2.5
#: Lines at a grazing angle may meet so many times farther off.
FARTHEST = 3.0
#: How much a meeting place is held where the pixels meet, beside a line that is known to a hundredth of a pixel.
HELD = 1e-3
#: How far a meeting place may lie from where the pixels meet, in pixels, as a standard deviation: where lines are known
#: no better than to a share of it, it is held by as much.
OFF_PIXELS = 1.0
#: How much more the picture's own edge counts than that.
EDGE = 1e7


@kernel("i8(f8[:, ::1], i8, f8, f8, f8, f8, f8[:, ::1])")
def points_about(own, step, x, y, near, reach, arm):
    """The points of an open chain from its beginning (step 1) or its end (-1) on that lie between two distances from a
    place, up to the first that lies farther; how many."""
    n, m = len(own), 0
    i = 0 if step > 0 else n - 1
    while 0 <= i < n and m < len(arm):
        d = length(own[i, 0] - x, own[i, 1] - y)
        if d > reach:
            break
        if d >= near:
            arm[m, 0], arm[m, 1] = own[i, 0], own[i, 1]
            m += 1
        i += step
    return m


@kernel("i8(f8[:, ::1], i8, f8, f8, f8, f8, f8, f8[:, ::1], f8[::1])")
def end_side(own, step, x, y, near, longest, noise, arm, side):
    """How an open chain comes to its beginning (step 1) or its end (-1) near a place: as a line or a parabola over its
    points from some distance on, as far as the longest, as far as one fits them; 0 where there are too few."""
    if points_about(own, step, x, y, near, np.inf, arm) == 0:
        return 0
    nearest = length(arm[0, 0] - x, arm[0, 1] - y)
    reach = nearest + longest
    while True:
        m = points_about(own, step, x, y, near, reach, arm)
        if m < 2:
            return 0
        limit = noise * (1 + 1.6 / math.sqrt(m))
        if m <= 4 or reach - nearest < 0.5 or carried_on(arm, m, 1, side) <= limit:
            carried_on(arm, m, 1, side)
            return m
        if m >= 7 and carried_on(arm, m, 2, side) <= limit:
            return m
        reach = nearest + (reach - nearest) * SHORTER


@kernel("i8(f8[:, ::1], i8, f8, f8, f8, f8, f8, f8, f8[:, ::1], f8[::1])")
def straight_end(own, step, x, y, near, longest, shortest, noise, arm, side):
    """The same for a chain that comes there straight for longer than the shortest of two lengths, 0 where it does
    not."""
    reach = longest
    while reach > shortest:
        m = points_about(own, step, x, y, near, reach, arm)
        if m < 2 or length(arm[m - 1, 0] - x, arm[m - 1, 1] - y) <= shortest:
            return 0
        if carried_on(arm, m, 1, side) <= noise * (1 + 1.6 / math.sqrt(m)):
            return m
        reach *= SHORTER
    return 0


@kernel("f8(f8[::1], f8)")
def doubt_at(side, t):
    """How far a line or parabola is known at a place along it, as a variance beside that of its points: by Legendre's
    polynomials over its known part, which are even to each other."""
    s = 1 + 2 * t / side[7]
    doubt = 1 + 3 * s * s
    if side[6] != 0:
        doubt += 1.25 * (3 * s * s - 1) ** 2
    return doubt / side[8]


@kernel(
    "void(f8[:, ::1], i8[::1], i8[:, ::1], i8[::1], i8[:, ::1], f8[::1], f8[::1], f8[::1], f8, f8[::1], f8[:, ::1])"
)
def meeting_places(points, begin, about, first, ends, node, blurs, strays, longest, noises, place):
    """Where chains meet: place (V, 2). ends (E, 2): a chain and 1 for its beginning or -1 for its end, those of node v
    from first[v] on. node (2V,): about where, row and column. blurs, noises (C,): of each chain, in pixels; strays
    (C,): how far a meeting may lie from there; longest: how far chains are followed from their ends."""
    arm, side = np.empty((128, 2)), np.empty(9)
    for v in range(len(first) - 1):
        x0, y0 = node[2 * v + 1], node[2 * v]
        widest, stray = 0.0, 0.0
        x, y = x0, y0
        calmest = np.inf
        for e in range(first[v], first[v + 1]):
            calmest = min(calmest, noises[ends[e, 0]])
        for _turn in range(3):
            held = max(HELD, (calmest / OFF_PIXELS) ** 2)
            xx, xy, yy, qx, qy = held, 0.0, held, held * x0, held * y0
            for e in range(first[v], first[v + 1]):
                k, step = ends[e, 0], ends[e, 1]
                widest, stray = max(widest, blurs[k]), max(stray, strays[k])
                if about[k, 1] < 0:
                    # On the picture's edge, and there it stays.
                    own = points[begin[k] : begin[k + 1]]
                    i = 0 if step > 0 else len(own) - 1
                    flat = abs(own[i, 1] - y0) < 0.25
                    nx, ny, weight = (0.0, 1.0, EDGE * held) if flat else (1.0, 0.0, EDGE * held)
                    px, py = x0, y0
                else:
                    own = points[begin[k] : begin[k + 1]]
                    m = 0
                    near = rounded_px(widest, noises[k])
                    while m == 0 and near > 0.4:
                        m = straight_end(own, step, x, y, near, LONGER * longest, longest, noises[k], arm, side)
                        if m == 0:
                            m = end_side(own, step, x, y, near, longest, noises[k], arm, side)
                        near *= 0.5
                    if m == 0:
                        continue
                    # The place on it nearest to where the meeting is taken to be.
                    px, py = crossing(side, x, y, -side[3], side[2])
                    t = (px - side[0]) * side[2] + (py - side[1]) * side[3]
                    slope = side[5] + 2 * side[6] * t
                    ux, uy = side[2] - side[3] * slope, side[3] + side[2] * slope
                    size = length(ux, uy)
                    nx, ny = -uy / size, ux / size
                    weight = (calmest / noises[k]) ** 2 / doubt_at(side, t)
                off = nx * px + ny * py
                xx += weight * nx * nx
                xy += weight * nx * ny
                yy += weight * ny * ny
                qx += weight * nx * off
                qy += weight * ny * off
            det = xx * yy - xy * xy
            if not det > 1e-12:
                break
            x, y = (yy * qx - xy * qy) / det, (xx * qy - xy * qx) / det
            # Lines that graze each other meet far from where their pixels part.
            least = (xx + yy - math.sqrt((xx - yy) ** 2 + 4 * xy * xy)) / 2
            sharp = math.sqrt(max(2 * least / (xx + yy), 1 / FARTHEST**2))
            if length(x - x0, y - y0) > stray / sharp:
                x, y = x0, y0
                break
        place[v, 0], place[v, 1] = x, y
