"""How wide lines are along their middles, where they are as wide as on the whole, and their middles put right where
they bend: what is taken in rows or columns, aslant, leans to the inside of a bend."""

from __future__ import annotations

import math

import numpy as np

from ...geometry.compiled import kernel

#: Points to each side that tell which way a line runs, and over which its bend is measured, times its width and at
#: least.
AHEAD, BEND_WIDTHS, BEND_LEAST = 5, 1.0, 8
#: A middle is true where its line is as wide as it is on the whole: within this share, so many pixels, and so many
#: times what widths differ by; but not so near to where it is not, as a share of its width and in pixels.
WIDTH_SHARE, WIDTH_PX, WIDTH_SPREADS, MARGIN_SHARE, MARGIN_PX = 0.015, 0.06, 3.0, 0.4, 1.0
#: A line that runs more aslant to its rows or columns than this, as a cosine, is put right as if it did not.
MOST_ASLANT = 0.5


@kernel("Tuple((f8, f8, f8))(f8[:, ::1], i8, b1, i8)")
def direction_at(points, i, closed, reach):
    """The direction, of length 1, at one of the points and its bend, positive from +x to +y, over points so far to each
    side; fewer near the ends of an open line."""
    n = len(points)
    if closed:
        b, f = (i - reach) % n, (i + reach) % n
    else:
        own = min(reach, min(i, n - 1 - i))
        b, f = i - own, i + own
        if own < 2:
            b, f = max(i - 2, 0), min(i + 2, n - 1)
    ax, ay = points[i, 0] - points[b, 0], points[i, 1] - points[b, 1]
    cx, cy = points[f, 0] - points[i, 0], points[f, 1] - points[i, 1]
    one, other = math.hypot(ax, ay), math.hypot(cx, cy)
    bend = 0.0
    if one > 0 and other > 0:
        bend = 2 * math.atan2(ax * cy - ay * cx, ax * cx + ay * cy) / (one + other)
    x, y = ax + cx, ay + cy
    size = math.hypot(x, y)
    return (x / size, y / size, bend) if size > 0 else (0.0, 0.0, bend)


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


@kernel("void(f8[::1], b1[::1], i8, b1)")
def from_true(bend, true, reach, closed):
    """Leaves bends where all points that they are taken over are true; the others become the nearest of those, or
    none."""
    n = len(bend)
    far = np.empty(n, np.bool_)
    widened(~true, reach, closed, far)
    if not closed:
        far[:3] = True
        far[max(n - 3, 0) :] = True
    before, distance = np.zeros(n), np.full(n, n + 1)
    last = -1
    for i in range(n):
        if not far[i]:
            last = i
        if last >= 0:
            before[i], distance[i] = bend[last], i - last
    last, known = -1, 0.0
    for i in range(n - 1, -1, -1):
        if not far[i]:
            last, known = i, bend[i]
        if last >= 0 and last - i <= distance[i]:
            before[i] = known
    bend[:] = before


@kernel("Tuple((f8[:, ::1], f8[::1], b1[::1]))(f8[:, ::1], f8[::1], b1[::1], i8[::1], i8[:, ::1])")
def measured(points, across, upright, start, ends):
    """Middles taken in rows or columns with as much ink across each, of lines (B+1,) whose ends are -2 where they go
    round: their points put right (N, 2), each line's width square to it (B,), and which points are true (N,)."""
    out, widths, true = points.copy(), np.zeros(len(start) - 1), np.zeros(len(points), np.bool_)
    for k in range(len(start) - 1):
        a, n = start[k], start[k + 1] - start[k]
        if n == 0:
            continue
        own, closed = points[a : a + n], ends[k, 0] == -2
        width = np.empty(n)
        for i in range(n):
            x, y, _ = direction_at(own, i, closed, AHEAD)
            width[i] = across[a + i] * (abs(x) if upright[a + i] else abs(y))
        core = width if closed or n < 8 else width[n // 4 : n - n // 4]
        typical = max(np.median(core), 0.5)
        spread = 1.48 * np.median(np.abs(core - typical))
        off = np.abs(width - typical) > WIDTH_SHARE * typical + WIDTH_PX + WIDTH_SPREADS * spread
        wide = np.empty(n, np.bool_)
        widened(off, int(MARGIN_SHARE * typical + MARGIN_PX), closed, wide)
        good = ~wide
        reach = max(int(BEND_WIDTHS * typical), BEND_LEAST)
        bend, along = np.empty(n), np.empty((n, 2))
        for i in range(n):
            along[i, 0], along[i, 1], bend[i] = direction_at(own, i, closed, reach)
        from_true(bend, good, reach, closed)
        for i in range(n):
            share = abs(along[i, 0]) if upright[a + i] else abs(along[i, 1])
            share = min(max(share, MOST_ASLANT), 1.0)
            lean = bend[i] * typical * typical * (1 / (share * share) - 1) / 8
            out[a + i, 0] += lean * along[i, 1]
            out[a + i, 1] -= lean * along[i, 0]
        widths[k] = typical
        true[a : a + n] = good
    return out, widths, true
