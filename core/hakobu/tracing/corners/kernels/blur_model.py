"""Two sides and what is between their ends as a picture shows them that is blurred.

What a shape covers, spread by a Gaussian about a pixel, is by the divergence theorem an integral along its outline: of
the normal distribution's share to one hand of a place, times its density across. Moving a bit of the outline changes a
pixel by the density at it. So what a pixel should be and how it changes are sums over places along the outline.
"""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from .corner_sides import meeting

#: What is between the ends of two sides: nothing, for they meet; a straight line; a bend.
SHARP, CUT, BEND = 0, 1, 2
#: Three moves of each side, and how far each goes on.
MOVES = 8
#: The most pixels each way.
MOST = 27
#: The longest a side goes on beyond its known part, in pixels, as tips do.
LONGEST = 48.0
#: Two places for so many times the blur along lines, and so many times the blur is as far as it is reckoned with.
STEP, REACH = 1.5, 3.2
#: Gauss's two places, of a length of 1.
NODE = 0.21132486540518713
#: The normal distribution's density and its share below, for every so many parts of its width.
PARTS = 128
_WIDTHS = np.arange(-5 * PARTS, 5 * PARTS + 2) / PARTS
DENSITY = np.exp(-0.5 * _WIDTHS * _WIDTHS) / math.sqrt(2 * math.pi)
SHARE = np.array([0.5 * math.erfc(-z / math.sqrt(2)) for z in _WIDTHS])


@kernel("f8(Array(f8, 1, 'C', readonly=True), f8)")
def looked_up(table, z):
    """A value of a table for a number of widths from -5 to 5."""
    place = (z + 5) * PARTS
    i = int(place)
    return table[i] + (place - i) * (table[i + 1] - table[i])


@kernel("void(f8[::1], f8[::1], f8, f8[::1])")
def moved_side(side, moves, long, out):
    """A side with the three moves of it: across, turned, bent, as polynomials over its known length that are even to
    each other."""
    middle, half = -long / 2, long / 2
    e0, e1, e2 = moves[0], moves[1], moves[2]
    out[:] = side
    # e0 + e1 w + e2 (w² - 1/3) with w = (t - middle) / half.
    out[4] += e0 - e1 * middle / half + e2 * (middle * middle / (half * half) - 1 / 3)
    out[5] += e1 / half - 2 * e2 * middle / (half * half)
    out[6] += e2 / (half * half)


@kernel("Tuple((f8, f8, f8, f8, f8))(f8[::1], f8, f8)")
def on_side(side, long, t):
    """A place on a side and how it goes on there; before its known part it runs straight. And where that is along the
    known part, which is from -1 to 1."""
    known = max(t, -long)
    v = side[4] + side[5] * known + side[6] * known * known
    slope = side[5] + 2 * side[6] * known
    v += slope * (t - known)
    x = side[0] + side[2] * t - side[3] * v
    y = side[1] + side[3] * t + side[2] * v
    return x, y, side[2] - side[3] * slope, side[3] + side[2] * slope, 2 * known / long + 1


@kernel("void(f8, f8, f8, f8, f8[::1], i8, i8, i8, f8[::1], f8[:, ::1], f8[:, :, ::1], f8[::1])")
def laid(x, y, dx, dy, frame, size, p0, p1, weights, model, change, row):
    """Adds a place of an outline that goes on there by dx and dy to a model's pixels, and to what each of the moves
    from p0 to before p1, which are a side's three, all, or none, changes of them by its weight. frame: the middle
    pixel's middle, the direction in which pixels of a row follow, and the blur."""
    sigma, ex, ey = frame[4], frame[2], frame[3]
    per = 1 / sigma
    px, py = x - frame[0], y - frame[1]
    u, v = ex * px + ey * py, ex * py - ey * px
    over = (ex * dy - ey * dx) * per
    wide = 2 * size + 1
    reach = REACH * sigma
    low, high = max(math.ceil(v - reach) + size, 0), min(math.floor(v + reach) + size, wide - 1)
    first, last = max(math.ceil(u - reach) + size, 0), min(math.floor(u + reach) + size, wide - 1)
    # To the left of all pixels nothing of it counts.
    if low > high or last < 0:
        return
    a, b, c = weights[p0], weights[p0 + 1], weights[p0 + 2]
    for i in range(first, last + 1):
        z = (u - (i - size)) * per
        row[i] = looked_up(SHARE, z) * over
        row[MOST + i] = looked_up(DENSITY, z) * per * per
    for j in range(low, high + 1):
        density = looked_up(DENSITY, (v - (j - size)) * per)
        whole = density * over
        for i in range(min(first, wide)):
            model[j, i] += whole
        for i in range(first, last + 1):
            model[j, i] += density * row[i]
        if p1 - p0 == 3:
            for i in range(first, last + 1):
                w, own = density * row[MOST + i], change[j, i]
                own[p0] += w * a
                own[p0 + 1] += w * b
                own[p0 + 2] += w * c
        elif p1 == MOVES:
            for i in range(first, last + 1):
                w, own = density * row[MOST + i], change[j, i]
                for p in range(MOVES):
                    own[p] += w * weights[p]


@kernel("void(f8[::1], i8, f8, f8, f8, f8, f8, f8)")
def weigh_side(weights, base, share, place, nx, ny, dx, dy):
    """What a place on a side, or one that goes with it by a share, moves across the outline by its three moves."""
    across = share * (nx * dy - ny * dx)
    weights[base] += across
    weights[base + 1] += across * place
    weights[base + 2] += across * (place * place - 1 / 3)


@kernel("f8(i8, f8)")
def beyond(size, sigma):
    """How far sides are laid down, so that even aslant they leave all rows."""
    return 1.45 * (size + 1 + REACH * sigma)


@kernel("void(f8[::1], f8[::1], f8, f8, f8, f8, i8, f8[::1], i8, b1, f8[:, ::1], f8[:, :, ::1], f8[::1], f8[::1])")
def model_of(first, second, long_one, long_two, ta, tb, kind, frame, size, moves, model, change, row, weights):
    """What the pixels should be, and, if moves are asked, how each changes them: three moves of the first side, three
    of the second, and how far each goes on. Both sides run towards the corner; ink is on the right of the first."""
    wide = 2 * size + 1
    for j in range(wide):
        for i in range(wide):
            model[j, i] = 0.0
            if moves:
                for p in range(MOVES):
                    change[j, i, p] = 0.0
    sigma = frame[4]
    far = beyond(size, sigma)
    for which in range(2):
        side = first if which == 0 else second
        long, end = (long_one, ta) if which == 0 else (long_two, tb)
        sign = 1.0 if which == 0 else -1.0
        steps = int(far / (STEP * sigma)) + 1
        step = far / steps
        p0 = 3 * which
        for k in range(2 * steps):
            t = end - step * (k // 2 + (NODE if k % 2 == 0 else 1 - NODE))
            x, y, gx, gy, place = on_side(side, long, t)
            v = frame[2] * (y - frame[1]) - frame[3] * (x - frame[0])
            if abs(v) > size + REACH * sigma:
                # From here on away from all rows?
                if v * (frame[2] * gy - frame[3] * gx) < 0:
                    break
                continue
            dx, dy = sign * gx * step / 2, sign * gy * step / 2
            weights[p0] = weights[p0 + 1] = weights[p0 + 2] = 0.0
            weigh_side(weights, p0, 1.0, place, -side[3], side[2], dx, dy)
            laid(x, y, dx, dy, frame, size, p0, p0 + 3 if moves else p0, weights, model, change, row)
    if kind != SHARP:
        ax, ay, agx, agy, pa = on_side(first, long_one, ta)
        bx, by, bgx, bgy, pb = on_side(second, long_two, tb)
        mx, my = (ax + bx) / 2, (ay + by) / 2
        if kind == BEND:
            _, mx, my, _ = meeting(first, second, 2 * LONGEST)
        # The middle of a bend moves along one side where the other moves.
        cross = first[2] * second[3] - first[3] * second[2]
        steps = int((length(bx - ax, by - ay) * 1.3) / (STEP * sigma)) + 1
        for k in range(2 * steps):
            s = (k // 2 + (NODE if k % 2 == 0 else 1 - NODE)) / steps
            b0, b1, b2 = (1 - s) * (1 - s), 2 * s * (1 - s), s * s
            x, y = b0 * ax + b1 * mx + b2 * bx, b0 * ay + b1 * my + b2 * by
            dx = (2 * (1 - s) * (mx - ax) + 2 * s * (bx - mx)) / (2 * steps)
            dy = (2 * (1 - s) * (my - ay) + 2 * s * (by - my)) / (2 * steps)
            weights[:] = 0.0
            if kind == CUT:
                b0, b2 = 1 - s, s
            weigh_side(weights, 0, b0, pa, -first[3], first[2], dx, dy)
            weigh_side(weights, 3, b2, pb, -second[3], second[2], dx, dy)
            if kind == BEND and abs(cross) > 0.1:
                weigh_side(weights, 0, b1, 1.5, second[2] / cross, second[3] / cross, dx, dy)
                weigh_side(weights, 3, b1, 1.5, -first[2] / cross, -first[3] / cross, dx, dy)
            weights[6] = b0 * (agx * dy - agy * dx)
            weights[7] = b2 * (bgx * dy - bgy * dx)
            laid(x, y, dx, dy, frame, size, 0, MOVES if moves else 0, weights, model, change, row)


@kernel("f8(f8)")
def whole_turn(angle):
    """An angle from 0 to a whole turn."""
    return angle + 2 * math.pi if angle < 0 else angle


@kernel("b1(f8[::1], f8[::1], f8, f8, f8, f8, f8, f8[::1])")
def faced(first, second, long_one, long_two, ta, tb, far, frame):
    """Chooses the direction of rows that runs least along either side; whether ink is there."""
    ax, ay, _, _, _ = on_side(first, long_one, ta)
    bx, by, _, _, _ = on_side(second, long_two, tb)
    mx, my = (ax + bx) / 2, (ay + by) / 2
    ax, ay, _, _, _ = on_side(first, long_one, ta - far)
    bx, by, _, _, _ = on_side(second, long_two, tb - far)
    a, b = whole_turn(math.atan2(ay - my, ax - mx)), whole_turn(math.atan2(by - my, bx - mx))
    best, ink = -1.0, False
    for k in range(4):
        from_a, from_b = whole_turn(k * math.pi / 2 - a), whole_turn(k * math.pi / 2 - b)
        room = min(min(from_a, 2 * math.pi - from_a), min(from_b, 2 * math.pi - from_b))
        if room > best:
            best = room
            frame[2], frame[3] = (1.0 if k == 0 else (-1.0 if k == 2 else 0.0)), (k == 1) - 1.0 * (k == 3)
            ink = from_b < whole_turn(a - b)
    return ink
