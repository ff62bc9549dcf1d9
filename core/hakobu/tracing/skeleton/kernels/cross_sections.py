"""How much ink there is square across a line, and where its middle is: what rows and columns tell of a line that runs
aslant to them leans where it bends."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from ...edges.kernels.subpixel_edges import at

#: Looked at across a line on each side at most, and how finely, in pixels.
FAR, STEP = 60.0, 0.5
#: No line is narrower than this, in pixels.
LEAST_WIDTH = 0.5
#: Twice so many points behind tell which way a line goes on, and the most that it turns from one half to the other.
BACK, MOST_TURN = 5, 0.6


@kernel("f8(Array(f4, 2, 'C', readonly=True), f8, f8, f8, f8, f8, f8)")
def between_pixels(grey, x, y, limit, black, white, dead):
    """The coverage at a place, between those of the four pixels about it."""
    c, r = math.floor(x - 0.5), math.floor(y - 0.5)
    u, v = x - 0.5 - c, y - 0.5 - r
    i, j = np.int64(r), np.int64(c)
    above = at(grey, i, j, limit, black, white, dead) * (1 - u) + at(grey, i, j + 1, limit, black, white, dead) * u
    i += 1
    below = at(grey, i, j, limit, black, white, dead) * (1 - u) + at(grey, i, j + 1, limit, black, white, dead) * u
    return above * (1 - v) + below * v


@kernel("Tuple((f8, f8))(Array(f4, 2, 'C', readonly=True), f8, f8, f8, f8, f8, f8, f8, f8)")
def ink_across(grey, x, y, nx, ny, limit, black, white, dead):
    """How much ink lies along a direction of length 1 on both sides of a place, up to where another line begins, and
    how far from the place its middle is."""
    total = moment = 0.0
    for side in (1, -1):
        before = peak = 0.0
        falling = False
        for k in range(0 if side > 0 else 1, int(FAR / STEP)):
            t = side * k * STEP
            v = between_pixels(grey, x + t * nx, y + t * ny, limit, black, white, dead)
            peak = max(peak, v)
            falling = falling or v < 0.5 * peak
            if v == 0 or (falling and v > before + dead):
                break
            total += v
            moment += v * t
            before = v
    return total * STEP, moment / total if total > 0 else 0.0


@kernel("UniTuple(f8, 2)(f8[:, ::1], i8, i8, f8[:, ::1], i8, i8)")
def gone_by(own, last, step, out, m, back):
    """The place that a way came by so many points ago, which are those of its own up to the last and m more."""
    i = m - 1 - back
    if i >= 0:
        return out[i, 0], out[i, 1]
    j = min(max(last + step * (i + 1), 0), len(own) - 1)
    return own[j, 0], own[j, 1]


@kernel("f8(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8, f8, f8, f8, f8)")
def width_at_end(grey, own, step, limit, black, white, dead):
    """How wide a line is on average over its last few points (step 1), or its first (-1)."""
    n, total = len(own), 0.0
    count = min(BACK, n - 1)
    for k in range(count):
        i, j = (n - 1 - k, n - 2 - k) if step > 0 else (k, k + 1)
        ux, uy = own[i, 0] - own[j, 0], own[i, 1] - own[j, 1]
        size = max(length(ux, uy), 1e-9)
        total += ink_across(grey, own[i, 0], own[i, 1], -uy / size, ux / size, limit, black, white, dead)[0]
    return max(total / count, LEAST_WIDTH) if count > 0 else LEAST_WIDTH


@kernel("f8[:, ::1](Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8, f8, f8, i8, f8, f8, f8, f8)")
def walked_on(grey, own, step, within, pen, farthest, limit, black, white, dead):
    """The middle of a line from the end of its points on (step 1), or from its beginning on (-1), a pixel at a time as
    long as its width changes by no more than a pen's, within so much, but not farther than so many pixels: points,
    (K, 2), those nearest to its points first."""
    out = np.empty((farthest, 2))
    n, m = len(own), 0
    last = n - 1 if step > 0 else 0
    x, y = own[last, 0], own[last, 1]
    width = width_at_end(grey, own, step, limit, black, white, dead)
    while m < farthest:
        ax, ay = gone_by(own, last, step, out, m, 2 * BACK)
        bx, by = gone_by(own, last, step, out, m, BACK)
        ax, ay, bx, by = bx - ax, by - ay, x - bx, y - by
        size = length(bx, by)
        if not size > 0:
            break
        # The way goes on to bend as it has.
        turn = math.atan2(ax * by - ay * bx, ax * bx + ay * by)
        turn = min(max(turn, -MOST_TURN), MOST_TURN) * (0.5 + 1 / BACK)
        c, s = math.cos(turn), math.sin(turn)
        ux, uy = (c * bx - s * by) / size, (s * bx + c * by) / size
        x, y = x + ux, y + uy
        total, off = ink_across(grey, x, y, -uy, ux, limit, black, white, dead)
        width += min(max(total - width, -pen), pen)
        if abs(total - width) > within:
            break
        x, y = x - off * uy, y + off * ux
        out[m, 0], out[m, 1] = x, y
        m += 1
    return out[:m].copy()
