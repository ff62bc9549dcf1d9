"""Points in a row moved to parabolas through their neighbours. The sums that these take are kept up to each point, so
that a parabola through many costs as little as one through few."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel

#: Points to each side over which the rest is smoothed, the longest first; and the noise below which it is left.
WINDOWS = (14, 10, 7, 5, 3)
QUIET = 0.012
#: Points whose neighbours are summed together, and room for them.
TOGETHER = 48
ROOM = TOGETHER + 2 * WINDOWS[0] + 4


def _steps(back: int, fore: int) -> list[float]:
    """Of a parabola over so many even steps back and fore: the sums of the steps' powers 0 to 2, and the upper half of
    the inverse of its normal equations; zeros where there are too few."""
    t = np.arange(-back, fore + 1.0)
    powers = np.stack([np.ones_like(t), t, t * t])
    whole = powers @ powers.T
    if len(t) < 4:
        return [0.0] * 9
    return [*whole[0], *np.linalg.inv(whole)[np.triu_indices(3)]]


#: The same for all that the windows may be.
STEPS = np.array([[_steps(back, fore) for fore in range(WINDOWS[0] + 1)] for back in range(WINDOWS[0] + 1)])


@kernel("void(f8[:, ::1], i8, i8, i8, f8[::1])")
def moments_up_to(p, first, last, middle, sums):
    """Sums over the points from first to before last, up to each, as they lie from the middle one and t steps from it:
    x and y, each by 1, t and its square; xx, xy, yy; at last x and y themselves. Those of one kind lie together, ROOM
    apart from the next."""
    x0 = x1 = x2 = y0 = y1 = y2 = xx = xy = yy = 0.0
    for k in range(9):
        sums[k * ROOM] = 0.0
    for i in range(last - first):
        x, y, t = p[first + i, 0] - p[middle, 0], p[first + i, 1] - p[middle, 1], float(first + i - middle)
        x0, x1, x2 = x0 + x, x1 + x * t, x2 + x * t * t
        y0, y1, y2 = y0 + y, y1 + y * t, y2 + y * t * t
        xx, xy, yy = xx + x * x, xy + x * y, yy + y * y
        sums[i + 1], sums[ROOM + i + 1], sums[2 * ROOM + i + 1] = x0, x1, x2
        sums[3 * ROOM + i + 1], sums[4 * ROOM + i + 1], sums[5 * ROOM + i + 1] = y0, y1, y2
        sums[6 * ROOM + i + 1], sums[7 * ROOM + i + 1], sums[8 * ROOM + i + 1] = xx, xy, yy
        sums[9 * ROOM + i], sums[10 * ROOM + i] = x, y


@kernel("void(f8[::1], i8, i8, i8, i8, f8, f8[::1], i8)")
def parabolas(sums, first, count, back, fore, d, made, place):
    """For so many points in a row, the first one's number among those summed, the parabolas through so many back and
    fore of each: how far it passes from the point across itself, x and y, and how far all lie off it, as the mean
    square; not a number where it has no direction. Written from a place on, as sums are. d: how many steps the first
    lies from where sums are taken about. A loop without branches, so that several points are reckoned at once."""
    s0, s1, s2 = STEPS[back, fore, 0], STEPS[back, fore, 1], STEPS[back, fore, 2]
    aa, ab, ac = STEPS[back, fore, 3], STEPS[back, fore, 4], STEPS[back, fore, 5]
    bb, bc, cc = STEPS[back, fore, 6], STEPS[back, fore, 7], STEPS[back, fore, 8]
    freedom = 1 / (s0 - 3)
    low, high, own, out = sums[first - back :], sums[first + fore + 1 :], sums[9 * ROOM + first :], made[place:]
    for i in range(count):
        t, px, py = d + i, own[i], own[ROOM + i]
        # And of the points, moved to it.
        x0, y0 = high[i] - low[i], high[3 * ROOM + i] - low[3 * ROOM + i]
        x1 = high[ROOM + i] - low[ROOM + i] - t * x0
        y1 = high[4 * ROOM + i] - low[4 * ROOM + i] - t * y0
        x2 = high[2 * ROOM + i] - low[2 * ROOM + i] - t * (2 * x1 + t * x0)
        y2 = high[5 * ROOM + i] - low[5 * ROOM + i] - t * (2 * y1 + t * y0)
        xx = high[6 * ROOM + i] - low[6 * ROOM + i] - px * (2 * x0 - s0 * px)
        xy = high[7 * ROOM + i] - low[7 * ROOM + i] - px * y0 - py * x0 + s0 * px * py
        yy = high[8 * ROOM + i] - low[8 * ROOM + i] - py * (2 * y0 - s0 * py)
        x0, x1, x2 = x0 - s0 * px, x1 - s1 * px, x2 - s2 * px
        y0, y1, y2 = y0 - s0 * py, y1 - s1 * py, y2 - s2 * py
        bx, by = ab * x0 + bb * x1 + bc * x2, ab * y0 + bb * y1 + bc * y2
        # Across it, in so many times the direction's length: all that follows is divided by its square, once.
        share = 1 / (bx * bx + by * by)
        z0, z1, z2 = bx * y0 - by * x0, bx * y1 - by * x1, bx * y2 - by * x2
        a, b, c = aa * z0 + ab * z1 + ac * z2, ab * z0 + bb * z1 + bc * z2, ac * z0 + bc * z1 + cc * z2
        off = by * by * xx - 2 * bx * by * xy + bx * bx * yy - a * z0 - b * z1 - c * z2
        out[i], out[ROOM + i], out[2 * ROOM + i] = -a * by * share, a * bx * share, off * share * freedom


@kernel("void(f8[:, ::1], f8, f8[:, ::1])")
def smoothed(p, noise, out):
    """Points in a row, each moved to a parabola over as many of its neighbours as lie about one within the noise; the
    first and the last stay."""
    n = len(p)
    out[:] = p
    if noise < QUIET:
        return
    reach, allowed = WINDOWS[0], (1.25 * noise) ** 2
    sums, made, left = np.empty(11 * ROOM), np.empty(3 * ROOM), np.empty(TOGETHER, np.bool_)
    for begin in range(1, n - 1, TOGETHER):
        end = min(begin + TOGETHER, n - 1)
        first, middle = max(begin - reach, 0), (begin + end) // 2
        moments_up_to(p, first, min(end + reach, n), middle, sums)
        left[:] = True
        waiting = end - begin
        for window in WINDOWS:
            if waiting == 0:
                break
            # All points that have so many neighbours at once: that takes hardly longer than those that are left.
            low, high = max(begin, window), min(end, n - window)
            parabolas(sums, low - first, high - low, window, window, low - middle, made, low - begin)
            for i in range(begin, end):
                k = i - begin
                back, fore = min(window, i), min(window, n - 1 - i)
                if not left[k] or back + fore < 5:
                    continue
                if not low <= i < high:
                    parabolas(sums, i - first, 1, back, fore, i - middle, made, k)
                off = made[2 * ROOM + k]
                if off <= allowed or (window == WINDOWS[-1] and off == off):
                    out[i, 0], out[i, 1] = p[i, 0] + made[k], p[i, 1] + made[ROOM + k]
                    left[k] = False
                    waiting -= 1
