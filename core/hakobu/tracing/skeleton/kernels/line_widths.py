"""How wide lines are along their middles, where they are as wide as on the whole, and their middles square across them:
what is taken in rows or columns, aslant, leans to the inside of a bend, and past it where it is tight."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from .cross_sections import LEAST_WIDTH, ink_across

#: Points to each side that tell which way a line runs.
AHEAD = 5
#: What runs this much along its rows or columns, as a cosine, is taken in those across it; all else square to it.
ALONG = 0.98
#: A line is as wide all along where its middle half differs by less than this share and so many pixels from its median,
#: and where it is so many times as long, most of it by less than twice that.
EVEN_SHARE, EVEN_PX, LONG, MOST = 0.03, 0.15, 5.0, 0.6
#: The width of one drawn by a brush changes by no more than this from one point to the next.
PEN = 0.5
#: A middle is true where its line is as wide as it is on the whole: within this share and so much of coverage that is
#: noise, so many pixels, and so many times what widths differ by; but not so near to where it is not, as a share of its
#: width and in pixels.
WIDTH_SHARE, WIDTH_NOISE, WIDTH_PX, WIDTH_SPREADS, MARGIN_SHARE, MARGIN_PX = 0.015, 0.7, 0.06, 3.0, 0.4, 1.0


@kernel("UniTuple(f8, 2)(f8[:, ::1], i8, b1)")
def direction_at(points, i, closed):
    """The direction, of length 1, at one of the points of a line; over fewer near the ends of an open one."""
    n = len(points)
    if closed:
        b, f = (i - AHEAD) % n, (i + AHEAD) % n
    else:
        own = min(AHEAD, min(i, n - 1 - i))
        b, f = i - own, i + own
        if own < 2:
            b, f = max(i - 2, 0), min(i + 2, n - 1)
    x, y = points[f, 0] - points[b, 0], points[f, 1] - points[b, 1]
    size = length(x, y)
    return (x / size, y / size) if size > 0 else (0.0, 0.0)


@kernel("void(b1[::1], i8, b1, b1[::1])")
def widened(marked, by, closed, out):
    """The same marks with so many more before and after each."""
    n = len(marked)
    out[:] = False
    for i in range(n):
        if marked[i]:
            for j in range(-by, by + 1):
                if closed:
                    out[(i + j) % n] = True
                elif 0 <= i + j < n:
                    out[i + j] = True


@kernel("f8[::1](f8[::1], b1)")
def followed(width, closed):
    """How wide a line is on the whole at each of its points: from where it is as wide as most of its middle half is,
    followed both ways, by no more from one point to the next than a pen's width changes."""
    n = len(width)
    out = np.empty(n)
    low, high = (0, n) if closed or n < 8 else (n // 4, n - n // 4)
    start = low + np.argmin(np.abs(width[low:high] - np.median(width[low:high])))
    for step in (1, -1):
        usual = width[start]
        i = start
        while 0 <= i < n:
            usual += min(max(width[i] - usual, -PEN), PEN)
            out[i] = usual
            i += step
    return out


@kernel("f8(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8, b1, f8[::1], f8, f8, f8, f8)")
def put_square(grey, points, i, closed, place, limit, black, white, dead):
    """Sets the middle of the ink square across a line at one of its points; how much that is."""
    x, y = direction_at(points, i, closed)
    total, off = ink_across(grey, points[i, 0], points[i, 1], -y, x, limit, black, white, dead)
    place[0], place[1] = points[i, 0] - off * y, points[i, 1] + off * x
    return total


@kernel(
    "Tuple((f8[:, ::1], f8[:, ::1], b1[::1]))(Array(f4, 2, 'C', readonly=True), f8[:, ::1], f8[:, ::1], f8[::1],"
    " b1[::1], i8[::1], i8[:, ::1], f8, f8, f8, f8)"
)
def measure_widths(grey, pixels, points, across, upright, start, ends, limit, black, white, dead):
    """The middles of lines (B+1,) whose ends are -2 where they go round, at the pixels of their skeletons (N, 2), of
    which those in rows or columns are known with as much ink across each: all middles (N, 2), each line's width,
    within what it is so wide and by how much that changes from one point to the next (B, 3), and which middles are true
    (N,)."""
    out, widths, true = points.copy(), np.zeros((len(start) - 1, 3)), np.zeros(len(points), np.bool_)
    for k in range(len(start) - 1):
        a, n = start[k], start[k + 1] - start[k]
        if n == 0:
            continue
        own, raw, closed = out[a : a + n], pixels[a : a + n], ends[k, 0] == -2
        width, aslant = np.empty(n), np.empty(n, np.bool_)
        for i in range(n):
            x, y = direction_at(raw, i, closed)
            aslant[i] = (abs(x) if upright[a + i] else abs(y)) < ALONG
            if aslant[i]:
                put_square(grey, raw, i, closed, own[i], limit, black, white, dead)
        # Their pixels tell the direction roughly, their middles well.
        first = own.copy()
        for i in range(n):
            if aslant[i]:
                width[i] = put_square(grey, first, i, closed, own[i], limit, black, white, dead)
            else:
                x, y = direction_at(first, i, closed)
                width[i] = across[a + i] * (abs(x) if upright[a + i] else abs(y))
        core = width if closed or n < 8 else width[n // 4 : n - n // 4]
        typical = max(np.median(core), LEAST_WIDTH)
        usual, pen = np.full(n, typical), 0.0
        spread = 1.48 * np.median(np.abs(core - typical))
        even = EVEN_SHARE * typical + EVEN_PX
        most = np.count_nonzero(np.abs(width - typical) < 2 * even) > MOST * n
        if spread > even or (n > LONG * typical and not most):
            usual, pen = followed(width, closed), PEN
            spread = 1.48 * np.median(np.abs(width - usual))
        within = (WIDTH_SHARE + WIDTH_NOISE * dead) * typical + WIDTH_PX + WIDTH_SPREADS * spread
        wide = np.empty(n, np.bool_)
        widened(np.abs(width - usual) > within, int(MARGIN_SHARE * typical + MARGIN_PX), closed, wide)
        widths[k, 0], widths[k, 1], widths[k, 2] = typical, within, pen
        true[a : a + n] = ~wide
    return out, widths, true
