"""What the two sides of a corner end in where a picture is blurred or noisy: a corner, a cut or a bend, by which of
them fits its pixels best."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from .blur_fit import fit_residual, fitted
from .blur_model import BEND, CUT, LONGEST, MOST, MOVES, SHARP, on_side
from .corner_sides import meeting

#: Pixels about an end that are looked at, beside so many times the blur, which is at least so much.
ABOUT, BLURS, LEAST_BLUR = 2.0, 2.2, 0.3
#: The pixels' own noise is no less than this share of the contrast, for no model is exact.
LEAST_NOISE = 0.012
#: Noise is so many times less than the coverage that is taken for none; of noise of outlines, in pixels, so much is the
#: pixels'; and fits within so much of it are as good as any.
DEAD_NOISES, NOISE_OF_POINTS, PLAIN = 2.5, 0.7, 1.2
#: Sides are known so many times worse than their points scatter, which is so much at least; as badly where there are no
#: points; and turn and bend by 1.8 and 3.4 times as much over the known part (Legendre's polynomials over even steps).
DOUBT, LEAST_SCATTER, UNKNOWN, TURN_DOUBT, BEND_DOUBT = 2.0, 0.02, 0.3, 1.8, 3.4
#: They turn over their known part, and bend over its square, other than their points say, by about this at most: 0.3
#: radians, and a radius of 40 pixels.
TURNS, BENDS = 0.15, 0.003
#: What is so far off, as coverage, farther from an end than this, in pixels, beside the blur, is of another line; so
#: much of what is looked at is left at least; and what fits no better than so many times the noise is not understood.
FAR_OFF, NEAR, ENOUGH, STRANGE = 0.35, 2.5, 0.5, 6.0
#: A fit that is worse than so many times as much after a few steps is given up.
HOPELESS = 1.3
#: How much is cut off at first, in pixels, and how short a cut line is none.
FIRST_CUT, LEAST_CHORD, LEAST_CUT = 0.8, 0.4, 0.05
#: How much better than sides that meet a bend must be, as a sum of squares over the noise's; a cut line to be likely,
#: and to be certain.
BETTER, LIKELY, CERTAIN = 14.0, 4.0, 28.0
#: A bend shorter than this, in pixels, is a corner; a cut line longer than this is a bend unless it fits by so much
#: better.
SHORT, LONG, ROUNDER = 2.4, 3.5, 60.0
#: What turns less than this, in radians, is no corner.
LEAST_TURN = 0.3
#: A short cut line hardly shows how it lies: the less than this it takes off, in pixels, the more it does so off both
#: sides alike, where that fits worse by no more than so much; from all of the difference on, in so many tries.
ASLANT, AS_LIKELY, EVEN_TRIES = 4.0, 6.0, 4
#: What turns so little may be a bend that is long: where it fits by so much better, or, of sides with fewer points than
#: this, is no worse by more.
GENTLE, BENT, FEW = 0.8, 5.0, 3
#: What turns more than this is a tip, however round; and where sides run along each other and a cut fits worse than so
#: many times the noise, their end is round.
SLIM, ROUND = 2.4, 1.5


@kernel("f8(Array(f4, 2, 'C', readonly=True), i8, i8, f8[::1])")
def ink_at(grey, r, c, levels):
    """The coverage of a pixel as its grey has it: not held to none and all, for noise goes both ways. Not a number
    beyond the picture's rim."""
    if r < 0 or c < 0 or r >= grey.shape[0] or c >= grey.shape[1]:
        return np.nan
    g = np.float64(grey[r, c])
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


@kernel("void(f8[::1], f8, f8[::1])")
def prior_sigma(side, noise, known):
    """How far a side's three moves are known from its points, (3,)."""
    long, many = side[7], side[8]
    own = DOUBT * max(noise, LEAST_SCATTER) / math.sqrt(many) if many > 0 else UNKNOWN
    known[0], known[1] = own, min(TURN_DOUBT * own, TURNS * long)
    known[2] = min(BEND_DOUBT * own, BENDS * long * long)


@kernel("b1(f8[::1], f8[:, ::1], f8, f8, i8)")
def is_long_bend(told, best, turn, scale, points):
    """Whether what turns little is a bend, by how well that and sides that meet fit and where its ends are."""
    if turn > GENTLE or length(best[BEND, 2] - best[BEND, 0], best[BEND, 3] - best[BEND, 1]) <= LONG:
        return False
    return told[BEND] + (-BENT if points < FEW else BENT) * scale < told[SHARP]


@kernel("i8(f8[::1], f8[:, ::1], f8, f8, f8, i8)")
def classify_end(told, best, turn, count, scale, points):
    """How many corners there are, as `end_between` says, by how well sides that meet, a cut and a bend fit (3,) and
    where the ends of each are (3, 4), which for two corners are put into best[CUT]."""
    sharp, cut, bend = told[SHARP], told[CUT], told[BEND]
    chord = length(best[CUT, 2] - best[CUT, 0], best[CUT, 3] - best[CUT, 1])
    rounded = length(best[BEND, 2] - best[BEND, 0], best[BEND, 3] - best[BEND, 1])
    if min(sharp, cut, bend) > STRANGE * count or (sharp == np.inf and cut > ROUND * count):
        return -1
    if sharp == np.inf:
        return 2
    bends = turn < LEAST_TURN or is_long_bend(told, best, turn, scale, points)
    if turn < SLIM and rounded > SHORT and bend + BETTER * scale < sharp:
        bends = bends or bend < cut + (ROUNDER * scale if chord > LONG else 0.0)
    if bends:
        return 0
    # From likely to certain the cut grows from nothing to what fits best, so that it is never far off.
    share = min(max(((sharp - cut) / scale - LIKELY) / (CERTAIN - LIKELY), 0.0), 1.0)
    if share * chord <= LEAST_CHORD:
        return 1
    for k in range(4):
        best[CUT, k] = best[SHARP, k] + share * (best[CUT, k] - best[SHARP, k])
    return 2


@kernel("void(f8[:, ::1], f8[::1], f8, f8[::1])")
def symmetrize(best, found, much, made):
    """How far the sides of a short cut line go on (found says how far they do) when it takes as much area off, but off
    both sides more alike by so much of the difference."""
    ax, ay = best[CUT, 0] - best[SHARP, 0], best[CUT, 1] - best[SHARP, 1]
    bx, by = best[CUT, 2] - best[SHARP, 2], best[CUT, 3] - best[SHARP, 3]
    one, other = max(length(ax, ay), LEAST_CUT), max(length(bx, by), LEAST_CUT)
    even = math.sqrt(one * other)
    share = much * max(1 - even / ASLANT, 0.0)
    made[:] = found
    made[6] += one - one * (even / one) ** share
    made[7] += other - other * (even / other) ** share


@kernel(
    "Tuple((i8, f8, f8, f8, f8, f8))(Array(f4, 2, 'C', readonly=True), f8[::1], f8, f8, f8, f8[::1], f8[::1], f8, f8,"
    " f8, f8)"
)
def end_between(grey, levels, dead, blur, noise, first, second, x0, y0, x1, y1):
    """What two sides, which run towards it, end in, about two places x0, y0 and x1, y1 of the outline: the number of
    corners, 1 where they meet, 2 where they are cut off, 0 where that is a bend, -1 where it cannot be told; where
    these are, the first side's first; and how well that fits, as a share of what noise alone leaves."""
    sigma = max(blur, LEAST_BLUR)
    half = length(x1 - x0, y1 - y0) / 2
    mx, my = (x0 + x1) / 2, (y0 + y1) / 2
    size = math.ceil(ABOUT + BLURS * sigma + half)
    wide = 2 * size + 1
    if wide > MOST:
        return -1, x0, y0, x1, y1, np.inf
    seen = np.empty((wide, wide))
    for r in range(-size, size + 1):
        for c in range(-size, size + 1):
            inside = r * r + c * c <= (size + 0.5) ** 2
            seen[r + size, c + size] = (
                ink_at(grey, math.floor(my) + r, math.floor(mx) + c, levels) if inside else np.nan
            )
    frame = np.array([math.floor(mx) + 0.5, math.floor(my) + 0.5, 1.0, 0.0, sigma])
    model, change = np.empty((wide, wide)), np.empty((wide, wide, MOVES))
    row, weights, one, two = np.empty(2 * MOST), np.empty(MOVES), np.empty(9), np.empty(9)
    known = np.empty(6)
    prior_sigma(first, noise, known[:3])
    prior_sigma(second, noise, known[3:])
    # Outlines show noise that even ground does not, as compression leaves it about edges.
    own = max(dead / DEAD_NOISES, NOISE_OF_POINTS * noise)
    level = length(max(own, LEAST_NOISE), LEAST_NOISE)
    noisy = own > LEAST_NOISE
    start = np.zeros(MOVES)
    start[6] = (x0 - first[0]) * first[2] + (y0 - first[1]) * first[3]
    start[7] = (x1 - second[0]) * second[2] + (y1 - second[1]) * second[3]
    near = NEAR + sigma + half
    met, x, y, turn = meeting(first, second, LONGEST)
    met = met and length(x - mx, y - my) < near
    found = start.copy()
    cost = fit_residual(
        seen, first, second, known, level, SHARP if met else CUT, frame, size, found, one, two, False, model, change,
        row, weights,
    )  # fmt: skip
    if cost == np.inf:
        return -1, x0, y0, x1, y1, np.inf
    count = without_others(seen, model, size, frame, near, 1 + 2 * sigma)
    if count < ENOUGH * math.pi * size * size:
        return -1, x0, y0, x1, y1, np.inf
    if met and noisy and turn > GENTLE and cost < PLAIN * count:
        # Where they meet as they are, and that is within the noise, there is no more to find.
        return 1, x, y, x, y, cost / count
    told, best, turn, cut = np.full(3, np.inf), np.zeros((3, 4)), 0.0, np.zeros(MOVES)
    points = int(min(first[8], second[8]))
    for k in range(3):
        # Of what turns little it is a bend that is likely, of the rest a cut.
        kind = k if k == SHARP or turn > GENTLE else CUT + BEND - k
        if kind == BEND and turn > GENTLE and told[SHARP] - told[CUT] < LIKELY * max(told[CUT] / count, 1.0):
            continue
        if kind == CUT and k == 2 and is_long_bend(told, best, turn, max(told[BEND] / count, 1.0), points):
            return 0, x0, y0, x1, y1, told[BEND] / count
        if kind == CUT and told[SHARP] < STRANGE * count and half == 0:
            found[6:] -= FIRST_CUT
        else:
            found[:] = start
        # What is no better than sides that meet is of no use, nor what stays strange; bends may take their time.
        goal = np.inf
        if kind == SHARP or turn > GENTLE:
            goal = min(told[SHARP], HOPELESS * STRANGE * count)
        told[kind] = fitted(
            seen, first, second, known, level, kind, frame, size, found, one, two, model, change, row, weights, goal
        )
        if told[kind] < np.inf:
            best[kind, 0], best[kind, 1], _, _, _ = on_side(one, first[7], found[6])
            best[kind, 2], best[kind, 3], _, _, _ = on_side(two, second[7], found[7])
            if kind == CUT:
                cut[:] = found
            if kind == SHARP:
                _, _, _, turn = meeting(one, two, LONGEST)
                if noisy and turn > GENTLE and told[SHARP] < PLAIN * count:
                    break
                if turn < LEAST_TURN and told[SHARP] <= STRANGE * count:
                    return 0, x0, y0, x1, y1, told[BEND] / count
                if told[SHARP] < LIKELY and points >= FEW:
                    # Nothing can be so much better.
                    break
    # What no model explains is noise as well.
    scale = max(min(told[CUT], told[BEND]) / count, 1.0) if told[CUT] < np.inf else 1.0
    if told[CUT] < np.inf and told[SHARP] < np.inf:
        for k in range(EVEN_TRIES):
            symmetrize(best, cut, 1 - k / EVEN_TRIES, start)
            cost = fit_residual(
                seen, first, second, known, level, CUT, frame, size, start, one, two, False, model, change, row, weights
            )
            if cost < told[CUT] + AS_LIKELY * scale:
                best[CUT, 0], best[CUT, 1], _, _, _ = on_side(one, first[7], start[6])
                best[CUT, 2], best[CUT, 3], _, _, _ = on_side(two, second[7], start[7])
                break
    corners = classify_end(told, best, turn, count, scale, points)
    kind = CUT if corners == 2 else SHARP
    if corners <= 0:
        return corners, x0, y0, x1, y1, told[BEND] / count
    return corners, best[kind, 0], best[kind, 1], best[kind, 2], best[kind, 3], told[kind] / count
