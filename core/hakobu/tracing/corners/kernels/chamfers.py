"""Corners that are cut off by less than their own rounding: two bends of an outline so near together that its points
show one corner. The coverage about it tells: so much less is there than both sides enclose up to where they meet."""

from __future__ import annotations

import math

from ....compiled import kernel
from ....geometry.kernels.curves import length
from ...edges.kernels.subpixel_edges import at
from .corner_sides import across

#: Pixels about a corner that are looked at, beside what blur spreads; places in a pixel each way, at first and where
#: something may be missed.
ABOUT, ROUGH, FINE = 2.5, 4, 8
#: Square pixels that are missed at least, beside what noise takes and what sides may be off; pixels of chords: from the
#: longest on there is no corner but a bend, whose points can be told.
LEAST, LEAST_CHORD, BEND_CHORD = 0.3, 0.6, 2.2
#: With more blur, in pixels, noise of the outline, in pixels, or of the coverage nothing of this size can be told.
SOFT, RESTLESS, UNEVEN = 0.6, 0.015, 0.012
#: One side is cut so many times as long as the other at most, and so many ways are tried.
LOPSIDED, WAYS = 5.0, 11


@kernel("b1(f8[::1], f8, f8)")
def is_right_of(side, x, y):
    """Whether a place is to the right of a side, seen along it."""
    return across(side, x, y) > 0


@kernel("Tuple((f8, f8))(f8[::1], f8, f8)")
def away_along(side, x, y):
    """The direction in which a side leads away from the corner."""
    t = (x - side[0]) * side[2] + (y - side[1]) * side[3]
    slope = side[5] + 2 * side[6] * t
    dx, dy = side[3] * slope - side[2], -side[3] - side[2] * slope
    size = length(dx, dy)
    return dx / size, dy / size


@kernel("f8(f8[::1], f8[::1], i8, i8, f8, f8, b1, i8, b1, f8, f8)")
def enclosed(first, second, i, j, x, y, ink, places, cut, a, b):
    """How much of a pixel, in column i and row j, the sides enclose up to the corner at x and y; where it is cut, only
    what lies beyond the line a (px - x) + b (py - y) = 1."""
    count = 0
    for row in range(places):
        for column in range(places):
            px, py = i + (column + 0.5) / places, j + (row + 0.5) / places
            if cut and a * (px - x) + b * (py - y) < 1:
                continue
            one, two = is_right_of(first, px, py), not is_right_of(second, px, py)
            if (one and two) if ink else not (one or two):
                count += 1
    return count / (places * places)


@kernel(
    "Tuple((f8, f8))(Array(f4, 2, 'C', readonly=True), f8[::1], f8[::1], f8[::1], f8, f8, f8, b1, i8, f8, b1, f8, f8)"
)
def chamfer_residual(grey, levels, first, second, x, y, half, ink, places, dead, cut, a, b):
    """What the picture misses about a corner of what the sides enclose, in square pixels, and the sum of squares over
    the pixels."""
    rows, columns = grey.shape
    missed, squares = 0.0, 0.0
    for j in range(max(math.floor(y - half), 0), min(math.ceil(y + half), rows)):
        for i in range(max(math.floor(x - half), 0), min(math.ceil(x + half), columns)):
            if (i + 0.5 - x) ** 2 + (j + 0.5 - y) ** 2 > half * half:
                continue
            found = at(grey, j, i, levels[0], levels[1], levels[2], dead)
            less = enclosed(first, second, i, j, x, y, ink, places, cut, a, b) - (found if ink else 1 - found)
            missed += less
            squares += less * less
    return missed, squares


@kernel("b1(Array(f4, 2, 'C', readonly=True), f8, f8)")
def is_in(grey, x, y):
    """Whether a place is in the picture; where sides are degenerate it is no number, and in none."""
    return 0 <= x <= grey.shape[1] and 0 <= y <= grey.shape[0]


@kernel("b1(Array(f4, 2, 'C', readonly=True), f8[::1], f8[::1], f8[::1], f8, f8, f8, f8, f8, f8)")
def is_sharp(grey, levels, first, second, x, y, dead, blur, noise, share):
    """Whether two sides go on up to where they meet, at x and y, as far as the picture tells: no more than a share of
    what makes a corner blunt is missing."""
    ux, uy = away_along(first, x, y)
    vx, vy = away_along(second, x, y)
    half = ABOUT + 2.5 * blur
    if blur > SOFT or noise > RESTLESS or dead > UNEVEN or not is_in(grey, x, y):
        return False
    ink, least = ux * vy < uy * vx, share * LEAST + 4 * noise * half
    missed, _ = chamfer_residual(grey, levels, first, second, x, y, half, ink, ROUGH, dead, False, 0.0, 0.0)
    if abs(missed) > 2 * least:
        return False
    missed, _ = chamfer_residual(grey, levels, first, second, x, y, half, ink, FINE, dead, False, 0.0, 0.0)
    return abs(missed) < least


@kernel("Tuple((i8, f8, f8, f8, f8))(Array(f4, 2, 'C', readonly=True), f8[::1], f8[::1], f8[::1], f8, f8, f8, f8, f8)")
def blunted(grey, levels, first, second, x, y, dead, blur, noise):
    """How many corners there are at x and y: one, two where it is cut off, none where that shows a bend; and where they
    are, on the first side and on the second: the triangle between has the area of what is missed, and of these it is
    the one that shows best. Both sides run towards the corner; ink is on the right of the first. levels (3,): limit,
    black and white."""
    ux, uy = away_along(first, x, y)
    vx, vy = away_along(second, x, y)
    sine = ux * vy - uy * vx
    ink, half = sine < 0, ABOUT + 2.5 * blur
    least = LEAST + 4 * noise * half
    if not abs(sine) >= 0.1 or blur > SOFT or noise > RESTLESS or dead > UNEVEN or not is_in(grey, x, y):
        return 1, x, y, x, y
    missed, _ = chamfer_residual(grey, levels, first, second, x, y, half, ink, ROUGH, dead, False, 0.0, 0.0)
    if missed < 0.6 * least:
        return 1, x, y, x, y
    # Cut evenly the chord is shortest: most bends are told by that.
    even = math.sqrt(2 * missed / abs(sine)) * length(ux - vx, uy - vy)
    if even > 1.2 * BEND_CHORD:
        return 0, x, y, x, y
    missed, _ = chamfer_residual(grey, levels, first, second, x, y, half, ink, FINE, dead, False, 0.0, 0.0)
    if missed < least:
        return 1, x, y, x, y
    best, one, two = math.inf, 0.0, 0.0
    for k in range(WAYS):
        ratio = LOPSIDED ** (2.0 * k / (WAYS - 1) - 1)
        p, q = math.sqrt(2 * missed * ratio / abs(sine)), math.sqrt(2 * missed / ratio / abs(sine))
        if max(p, q) > half:
            continue
        a, b = (vy / p - uy / q) / sine, (ux / q - vx / p) / sine
        _, squares = chamfer_residual(grey, levels, first, second, x, y, half, ink, FINE, dead, True, a, b)
        if squares < best:
            best, one, two = squares, p, q
    ax, ay, bx, by = x + one * ux, y + one * uy, x + two * vx, y + two * vy
    chord = length(bx - ax, by - ay)
    if chord < LEAST_CHORD:
        return 1, x, y, x, y
    return 0 if chord > BEND_CHORD else 2, ax, ay, bx, by
