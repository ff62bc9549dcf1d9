"""Corners as a picture shows them that is blurred or noisy: the two sides and what is between their ends are laid down,
spread as the picture's blur spreads them, and moved until they fit its pixels best.

What a shape covers, spread by a Gaussian about a pixel, is by the divergence theorem an integral along its outline: of
the normal distribution's share to one hand of a place, times its density across. Moving a bit of the outline changes a
pixel by the density at it. So what a pixel should be and how it changes are sums over places along the outline, and the
fit is Gauss and Newton's, damped (Levenberg 1944, Marquardt 1963).
"""

from __future__ import annotations

import math

import numpy as np

from ...geometry.compiled import kernel
from .sides import meeting

#: What is between the ends of two sides: nothing, for they meet; a straight line; a bend.
SHARP, CUT, BEND = 0, 1, 2
#: The longest a side goes on beyond its known part, in pixels, as tips do.
LONGEST = 48.0
#: Pixels about an end that are looked at, beside so many times the blur; a place for so much of the blur along lines;
#: and so many times the blur is as far as it is reckoned with.
ABOUT, BLURS, STEP, REACH = 2.0, 2.2, 1.5, 3.2
#: The most pixels each way.
MOST = 27
#: Three moves of each side, and how far each goes on.
MOVES = 8
#: Steps of the fit; a step that is no more than this, in pixels, is the last.
STEPS, SETTLED, LONGEST_STEP = 14, 0.01, 1.5
#: No more damped than this; the least that a bend takes off either side, in pixels; the least blur.
MOST_DAMPED, SHORTEST, LEAST_BLUR = 1e6, 0.05, 0.3
#: How much is cut off at first.
FIRST_CUT = 0.8
#: Nor is it worth another when the fit gets better by no more than this and this share.
SETTLED_COST, SETTLED_SHARE = 0.05, 0.002
#: Gauss's two places and their share, of a length of 1.
NODE = 0.21132486540518713
#: The pixels' own noise is no less than this share of the contrast, for no model is exact.
LEAST_NOISE = 0.012
#: Of noise of outlines, in pixels, this much is the pixels'; fits within so much of it are as good as any.
NOISE_OF_POINTS, PLAIN = 0.7, 1.2
#: How much better than sides that meet a bend must be, as a sum of squares over the noise's; a cut line to be likely,
#: and to be sure.
BETTER, LIKELY, CERTAIN = 14.0, 4.0, 28.0
#: Cut lines shorter than this, in pixels, are a corner.
LEAST_CHORD = 0.4
#: What turns more than this, in radians, is a tip, however round; where sides run along each other and a cut fits worse
#: than so many times the noise, their end is round.
SLIM, ROUND = 2.4, 1.5
#: What is so far off, as coverage, farther from an end than this, in pixels, beside the blur, is of another line; so much
#: of what is looked at is left at least; and what fits no better than so many times the noise is not understood.
FAR_OFF, NEAR, ENOUGH, STRANGE = 0.35, 2.5, 0.5, 6.0
#: A cut line longer than this, in pixels, is a bend unless it fits by so much better.
LONG, ROUNDER = 3.5, 60.0
#: How far a side turns over its known part, and bends over its square, other than its points say, at most about: 0.3
#: radians, and a radius of 40 pixels.
TURNS, BENDS = 0.15, 0.003
#: What turns less than this, in radians, is no corner.
LEAST_TURN = 0.3
#: So little that a bend as long as that explains as well is one.
GENTLE, BENT, FEW = 0.8, 5.0, 3


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


@kernel("void(f8, f8, f8, f8, f8[::1], i8, b1, f8[::1], f8[:, ::1], f8[:, :, ::1], f8[::1])")
def laid(x, y, dx, dy, frame, size, moves, weights, model, change, row):
    """Adds a place of an outline that goes on there by dx and dy to a model's pixels, and, if that is asked, to what
    each of the moves changes of them by its weight. frame: the middle pixel's middle, the direction in which pixels of a row follow, and
    the blur."""
    sigma, ex, ey = frame[4], frame[2], frame[3]
    px, py = x - frame[0], y - frame[1]
    u, v = ex * px + ey * py, ex * py - ey * px
    over = ex * dy - ey * dx
    wide = 2 * size + 1
    reach = REACH * sigma
    low, high = max(math.ceil(v - reach) + size, 0), min(math.floor(v + reach) + size, wide - 1)
    first, last = max(math.ceil(u - reach) + size, 0), min(math.floor(u + reach) + size, wide - 1)
    # To the left of all pixels nothing of it counts.
    if low > high or last < 0:
        return
    for i in range(first, last + 1):
        z = (u - (i - size)) / sigma
        row[i] = looked_up(SHARE, z)
        row[MOST + i] = looked_up(DENSITY, z) / sigma
    for j in range(low, high + 1):
        density = looked_up(DENSITY, (v - (j - size)) / sigma) / sigma
        for i in range(min(first, wide)):
            model[j, i] += density * over
        for i in range(first, last + 1):
            model[j, i] += density * over * row[i]
        if moves:
            for i in range(first, last + 1):
                w = density * row[MOST + i]
                for p in range(MOVES):
                    change[j, i, p] += w * weights[p]


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


@kernel(
    "void(f8[::1], f8[::1], f8, f8, f8, f8, i8, f8[::1], i8, b1, f8[:, ::1], f8[:, :, ::1], f8[::1], f8[::1])"
)
def model_of(first, second, long_one, long_two, ta, tb, kind, frame, size, moves, model, change, row, weights):
    """What the pixels should be, and, if moves are asked, how each changes them: three moves of the first side, three of
    the second, and how far each goes on. Both sides run towards the corner; ink is on the right of the first."""
    wide = 2 * size + 1
    model[:wide, :wide] = 0.0
    if moves:
        change[:wide, :wide] = 0.0
    sigma = frame[4]
    far = beyond(size, sigma)
    for which in range(2):
        side = first if which == 0 else second
        long, end = (long_one, ta) if which == 0 else (long_two, tb)
        sign = 1.0 if which == 0 else -1.0
        steps = int(far / (STEP * sigma)) + 1
        step = far / steps
        for k in range(2 * steps):
            t = end - far + step * (k // 2 + (NODE if k % 2 == 0 else 1 - NODE))
            x, y, gx, gy, place = on_side(side, long, t)
            dx, dy = sign * gx * step / 2, sign * gy * step / 2
            weights[:] = 0.0
            weigh_side(weights, 3 * which, 1.0, place, -side[3], side[2], dx, dy)
            laid(x, y, dx, dy, frame, size, moves, weights, model, change, row)
    if kind != SHARP:
        ax, ay, agx, agy, pa = on_side(first, long_one, ta)
        bx, by, bgx, bgy, pb = on_side(second, long_two, tb)
        mx, my = (ax + bx) / 2, (ay + by) / 2
        if kind == BEND:
            _, mx, my, _ = meeting(first, second, 2 * LONGEST)
        # The middle of a bend moves along one side where the other moves.
        cross = first[2] * second[3] - first[3] * second[2]
        steps = int((math.hypot(bx - ax, by - ay) * 1.3) / (STEP * sigma)) + 1
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
            laid(x, y, dx, dy, frame, size, moves, weights, model, change, row)


@kernel("f8(f8, f8, f8, f8)")
def turned_on(ax, ay, bx, by):
    """The angle from one direction on to another, from 0 to a whole turn."""
    angle = math.atan2(ax * by - ay * bx, ax * bx + ay * by)
    return angle + 2 * math.pi if angle < 0 else angle


@kernel("b1(f8[::1], f8[::1], f8, f8, f8, f8, f8, f8[::1])")
def faced(first, second, long_one, long_two, ta, tb, far, frame):
    """Chooses the direction of rows that runs least along either side; whether ink is there."""
    ax, ay, _, _, _ = on_side(first, long_one, ta)
    bx, by, _, _, _ = on_side(second, long_two, tb)
    mx, my = (ax + bx) / 2, (ay + by) / 2
    ax, ay, _, _, _ = on_side(first, long_one, ta - far)
    bx, by, _, _, _ = on_side(second, long_two, tb - far)
    ax, ay, bx, by = ax - mx, ay - my, bx - mx, by - my
    best, ink = -1.0, False
    for k in range(4):
        ex, ey = (1.0 if k == 0 else (-1.0 if k == 2 else 0.0)), (1.0 if k == 1 else (-1.0 if k == 3 else 0.0))
        from_a, from_b = turned_on(ax, ay, ex, ey), turned_on(bx, by, ex, ey)
        room = min(min(from_a, 2 * math.pi - from_a), min(from_b, 2 * math.pi - from_b))
        if room > best:
            best = room
            frame[2], frame[3] = ex, ey
            ink = from_b < turned_on(bx, by, ax, ay)
    return ink


@kernel("b1(f8[:, ::1], f8[::1], i8)")
def solved(matrix, right, n):
    """Gauss's elimination with the largest as pivot, in place; False where there is no one answer."""
    for i in range(n):
        best = i
        for r in range(i + 1, n):
            if abs(matrix[r, i]) > abs(matrix[best, i]):
                best = r
        if abs(matrix[best, i]) < 1e-14:
            return False
        if best != i:
            for c in range(n):
                matrix[i, c], matrix[best, c] = matrix[best, c], matrix[i, c]
            right[i], right[best] = right[best], right[i]
        for r in range(i + 1, n):
            f = matrix[r, i] / matrix[i, i]
            for c in range(i, n):
                matrix[r, c] -= f * matrix[i, c]
            right[r] -= f * right[i]
    for i in range(n - 1, -1, -1):
        for c in range(i + 1, n):
            right[i] -= matrix[i, c] * right[c]
        right[i] /= matrix[i, i]
    return True


@kernel(
    "f8(f8[:, ::1], f8[::1], f8[::1], f8[::1], f8, i8, f8[::1], i8, f8[::1], f8[::1], f8[::1], b1, f8[:, ::1],"
    " f8[:, :, ::1], f8[::1], f8[::1])"
)
def held_against(
    seen, first, second, known, level, kind, frame, size, tried, one, two, moves, model, change, row, weights
):
    """The sum of squares, over the noise's, of what is seen beside what two sides would be with some moves, which are
    left in one and two, and that of the moves over how far they are known (6,); model holds the differences, not a
    number where pixels do not count. Infinite where sides do not meet that should; how far they go on is put right."""
    moved_side(first, tried[:3], first[7], one)
    moved_side(second, tried[3:6], second[7], two)
    if kind != CUT:
        met, x, y, _ = meeting(one, two, LONGEST)
        if not met:
            return np.inf
        t1 = (x - one[0]) * one[2] + (y - one[1]) * one[3]
        t2 = (x - two[0]) * two[2] + (y - two[1]) * two[3]
        if kind == SHARP:
            tried[6], tried[7] = t1, t2
        else:
            tried[6], tried[7] = min(tried[6], t1 - SHORTEST), min(tried[7], t2 - SHORTEST)
    if abs(tried[6]) > LONGEST or abs(tried[7]) > LONGEST:
        return np.inf
    far = beyond(size, frame[4])
    base = 1.0 if faced(one, two, first[7], second[7], tried[6], tried[7], far, frame) else 0.0
    model_of(
        one, two, first[7], second[7], tried[6], tried[7], kind, frame, size, moves, model, change, row, weights
    )
    cost = 0.0
    ex, ey = int(frame[2]), int(frame[3])
    for j in range(2 * size + 1):
        for i in range(2 * size + 1):
            # From pixels along the rows of the model to those of the picture.
            u, v = i - size, j - size
            off = seen[size + u * ey + v * ex, size + u * ex - v * ey] - model[j, i] - base
            model[j, i] = off
            if not math.isnan(off):
                cost += off * off
    cost /= level * level
    for p in range(6):
        cost += (tried[p] / known[p]) ** 2
    return cost


@kernel("void(f8[:, ::1], f8[:, :, ::1], i8, i8, f8, f8[::1], f8[::1], f8[:, ::1], f8[::1])")
def normal_equations(model, change, size, moves, level, known, found, matrix, right):
    """Of the differences and what the moves change of them, over the noise, and of what is known of the moves."""
    matrix[:], right[:] = 0.0, 0.0
    for j in range(2 * size + 1):
        for i in range(2 * size + 1):
            off, by = model[j, i], change[j, i]
            if math.isnan(off):
                continue
            for p in range(MOVES):
                w = by[p]
                right[p] += w * off
                for q in range(MOVES):
                    matrix[p, q] += w * by[q]
    for p in range(moves):
        right[p] /= level * level
        for q in range(moves):
            matrix[p, q] /= level * level
        if p < 6:
            matrix[p, p] += 1 / known[p] ** 2
            right[p] -= found[p] / known[p] ** 2


@kernel(
    "f8(f8[:, ::1], f8[::1], f8[::1], f8[::1], f8, i8, f8[::1], i8, f8[::1], f8[::1], f8[::1], f8[:, ::1],"
    " f8[:, :, ::1], f8[::1], f8[::1])"
)
def fitted(seen, first, second, known, level, kind, frame, size, found, one, two, model, change, row, weights):
    """Moves two sides and their ends until the model fits what is seen, from what is found (8,): three moves of each
    side and how far each goes on. Returns what `held_against` says of the last; the sides as moved are in one and
    two."""
    moves = 6 if kind == SHARP else MOVES
    matrix, right = np.empty((MOVES, MOVES)), np.empty(MOVES)
    damped, step, tried = np.empty((MOVES, MOVES)), np.empty(MOVES), np.empty(MOVES)
    best, damping = np.inf, 1e-3
    tried[:] = found
    for _ in range(STEPS):
        cost = held_against(
            seen, first, second, known, level, kind, frame, size, tried, one, two, True, model, change, row, weights
        )
        if cost < best:
            settled = best - cost < SETTLED_COST + SETTLED_SHARE * cost
            best = cost
            found[:] = tried
            if settled:
                break
            damping = max(damping * 0.2, 1e-6)
            normal_equations(model, change, size, moves, level, known, found, matrix, right)
        elif best == np.inf or damping > MOST_DAMPED:
            break
        else:
            damping *= 8
        damped[:], step[:] = matrix, right
        for p in range(moves):
            damped[p, p] += damping * (matrix[p, p] + 1e-9)
        if not solved(damped, step, moves):
            break
        most = 0.0
        tried[:] = found
        for p in range(moves):
            by = min(max(step[p], -LONGEST_STEP), LONGEST_STEP)
            most = max(most, abs(by))
            tried[p] += by
        if most < SETTLED:
            break
    moved_side(first, found[:3], first[7], one)
    moved_side(second, found[3:6], second[7], two)
    return best


@kernel("f8(Array(f4, 2, 'C', readonly=True), i8, i8, f8[::1])")
def ink_at(grey, r, c, levels):
    """The coverage of a pixel as its grey has it: not held to none and all, for noise goes both ways. The picture's rim
    goes on beyond it."""
    g = np.float64(grey[min(max(r, 0), grey.shape[0] - 1), min(max(c, 0), grey.shape[1] - 1)])
    if g < levels[0]:
        return 0.5 + 0.5 * (levels[0] - g) / (levels[0] - levels[1])
    return 0.5 - 0.5 * (g - levels[0]) / (levels[2] - levels[0])


@kernel("i8(f8[:, ::1], f8[:, ::1], i8, f8[::1], f8, f8)")
def without_others(seen, off, size, frame, near, about):
    """Takes what other lines make out of what is seen: pixels that are far from what they should be though they are not
    near, and those about them. Returns how many are left."""
    ex, ey = int(frame[2]), int(frame[3])
    for j in range(2 * size + 1):
        for i in range(2 * size + 1):
            u, v = i - size, j - size
            if not abs(off[j, i]) > FAR_OFF or u * u + v * v < near * near:
                continue
            c, r = size + u * ex - v * ey, size + u * ey + v * ex
            for r1 in range(max(math.ceil(r - about), 0), min(math.floor(r + about), 2 * size) + 1):
                for c1 in range(max(math.ceil(c - about), 0), min(math.floor(c + about), 2 * size) + 1):
                    if (r1 - r) ** 2 + (c1 - c) ** 2 <= about * about and (r1 - size) ** 2 + (c1 - size) ** 2 > 2:
                        seen[r1, c1] = np.nan
    left = 0
    for r in range(2 * size + 1):
        for c in range(2 * size + 1):
            left += not math.isnan(seen[r, c])
    return left


@kernel(
    "Tuple((i8, f8, f8, f8, f8))(Array(f4, 2, 'C', readonly=True), f8[::1], f8, f8, f8, f8[::1], f8[::1], f8, f8, f8,"
    " f8, f8[::1])"
)
def end_between(grey, levels, dead, blur, noise, first, second, x0, y0, x1, y1, told):
    """What two sides, which run towards it, end in, about two places x0, y0 and x1, y1 of the outline: the number of
    corners, 1 where they meet, 2 where they are cut off, 0 where that is a bend, -1 where it cannot be told; and where
    these are, the first side's first. told (7,): how well each of these fits."""
    sigma = max(blur, LEAST_BLUR)
    size = int(math.ceil(ABOUT + BLURS * sigma + math.hypot(x1 - x0, y1 - y0) / 2))
    told[:] = np.inf
    if 2 * size + 1 > MOST:
        return -1, x0, y0, x1, y1
    c0, r0 = int(math.floor((x0 + x1) / 2)), int(math.floor((y0 + y1) / 2))
    wide = 2 * size + 1
    seen = np.empty((wide, wide))
    for r in range(wide):
        for c in range(wide):
            inside = (r - size) ** 2 + (c - size) ** 2 <= (size + 0.5) ** 2
            seen[r, c] = ink_at(grey, r0 + r - size, c0 + c - size, levels) if inside else np.nan
    frame = np.array([c0 + 0.5, r0 + 0.5, 1.0, 0.0, sigma])
    model, change = np.empty((wide, wide)), np.empty((wide, wide, MOVES))
    row, weights = np.empty(2 * MOST), np.empty(MOVES)
    one, two = np.empty(9), np.empty(9)
    known = np.empty(6)
    for which in range(2):
        long, many = (first[7], first[8]) if which == 0 else (second[7], second[8])
        own = 2 * max(noise, 0.02) / math.sqrt(many) if many > 0 else 0.3
        known[3 * which] = own
        known[3 * which + 1], known[3 * which + 2] = min(1.8 * own, TURNS * long), min(3.4 * own, BENDS * long * long)
    # Outlines show noise that even ground does not, as compression leaves it about edges.
    own = max(dead / 2.5, NOISE_OF_POINTS * noise)
    level = math.hypot(max(own, LEAST_NOISE), LEAST_NOISE)
    t0 = (x0 - first[0]) * first[2] + (y0 - first[1]) * first[3]
    t1 = (x1 - second[0]) * second[2] + (y1 - second[1]) * second[3]
    ways, best, turn = np.zeros((3, MOVES)), np.zeros((3, 4)), 0.0
    ways[SHARP, 6], ways[SHARP, 7] = t0, t1
    near = NEAR + sigma + math.hypot(x1 - x0, y1 - y0) / 2
    met, x, y, _ = meeting(first, second, LONGEST)
    kind = SHARP if met and math.hypot(x - (x0 + x1) / 2, y - (y0 + y1) / 2) < near else CUT
    held_against(
        seen, first, second, known, level, kind, frame, size, ways[SHARP], one, two, False, model, change, row, weights
    )
    count = without_others(seen, model, size, frame, near, 1 + 2 * sigma)
    if count < ENOUGH * math.pi * size * size:
        return -1, x0, y0, x1, y1
    if kind == SHARP and own > LEAST_NOISE:
        # Where they meet as they are, and that is within the noise, there is no more to find.
        cost = held_against(
            seen, first, second, known, level, kind, frame, size, ways[SHARP], one, two, False, model, change, row,
            weights,
        )  # fmt: skip
        _, x, y, turn = meeting(first, second, LONGEST)
        if cost < PLAIN * count and turn > GENTLE:
            told[SHARP] = cost
            return 1, x, y, x, y
    for kind in range(3):
        found = ways[kind]
        found[6], found[7] = t0, t1
        if kind == CUT and told[SHARP] < STRANGE * count and x0 == x1 and y0 == y1:
            found[:] = ways[SHARP]
            found[6:] -= FIRST_CUT
        if kind == BEND and turn > GENTLE and told[SHARP] - told[CUT] < LIKELY * max(told[CUT] / count, 1.0):
            continue
        told[kind] = fitted(
            seen, first, second, known, level, kind, frame, size, found, one, two, model, change, row, weights
        )
        if told[kind] < np.inf:
            best[kind, 0], best[kind, 1], _, _, _ = on_side(one, first[7], found[6])
            best[kind, 2], best[kind, 3], _, _, _ = on_side(two, second[7], found[7])
            if kind == SHARP:
                _, _, _, turn = meeting(one, two, LONGEST)
                if own > LEAST_NOISE and turn > GENTLE and told[SHARP] < PLAIN * count:
                    return 1, best[SHARP, 0], best[SHARP, 1], best[SHARP, 2], best[SHARP, 3]
    chords = np.empty(3)
    for kind in range(3):
        chords[kind] = math.hypot(best[kind, 2] - best[kind, 0], best[kind, 3] - best[kind, 1])
    least = min(told[CUT], told[BEND])
    # What no model explains is noise as well.
    scale = max(least / count, 1.0)
    told[3], told[4], told[5], told[6] = chords[1], chords[2], turn, count
    if min(least, told[SHARP]) > STRANGE * count or (told[SHARP] == np.inf and told[CUT] > ROUND * count):
        return -1, x0, y0, x1, y1
    bends = False
    if told[SHARP] < np.inf and turn < GENTLE and chords[BEND] > LONG:
        bends = told[BEND] + (-BENT if min(first[8], second[8]) < FEW else BENT) * scale < told[SHARP]
    if told[BEND] + BETTER * scale < told[SHARP] and turn < SLIM:
        bends = bends or told[BEND] < told[CUT] + (ROUNDER * scale if chords[CUT] > LONG else 0.0)
    if bends or (told[SHARP] < np.inf and turn < LEAST_TURN):
        return 0, x0, y0, x1, y1
    # From likely to certain the cut grows from nothing to what fits best, so that it is never far off.
    share = 1.0
    if told[SHARP] < np.inf:
        share = min(max(((told[SHARP] - told[CUT]) / scale - LIKELY) / (CERTAIN - LIKELY), 0.0), 1.0)
    if share * chords[CUT] > LEAST_CHORD:
        ends = best[CUT]
        if share < 1:
            ends = best[SHARP] + share * (best[CUT] - best[SHARP])
        return 2, ends[0], ends[1], ends[2], ends[3]
    return 1, best[SHARP, 0], best[SHARP, 1], best[SHARP, 2], best[SHARP, 3]
