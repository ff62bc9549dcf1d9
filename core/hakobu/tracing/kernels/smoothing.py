"""Points in a row moved to parabolas through their neighbours. The sums that these take are kept up to each point, so
that a parabola through many costs as little as one through few."""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel

#: Points to each side over which the rest is smoothed, the longest first; and the noise below which it is left.
WINDOWS = (14, 10, 7, 5, 3)
QUIET = 0.012
#: Points whose neighbours are summed together.
TOGETHER = 48


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


@kernel("void(f8[:, ::1], i8, i8, i8, f8[:, ::1])")
def moments_up_to(p, first, last, middle, sums):
    """Sums over the points from first to before last, up to each (last-first+1, 9), as they lie from the middle one and
    t steps from it: x and y, each by 1, t and its square; xx, xy, yy."""
    sums[0] = 0.0
    for i in range(first, last):
        x, y, t = p[i, 0] - p[middle, 0], p[i, 1] - p[middle, 1], float(i - middle)
        before, after = sums[i - first], sums[i - first + 1]
        after[0] = before[0] + x
        after[1] = before[1] + x * t
        after[2] = before[2] + x * t * t
        after[3] = before[3] + y
        after[4] = before[4] + y * t
        after[5] = before[5] + y * t * t
        after[6] = before[6] + x * x
        after[7] = before[7] + x * y
        after[8] = before[8] + y * y


@kernel("Tuple((f8, f8, f8))(f8[::1], f8[::1], i8, i8, f8, f8, f8)")
def parabola_off(low, high, back, fore, d, px, py):
    """The parabola through points in a row, by their sums up to the first of them and after the last, beside one that
    lies at px, py and d steps from where these are taken about, with so many points back and fore: how far it passes
    from that one across itself, x and y, and how far all lie off it, as the mean square; negative where it has no
    direction."""
    of = STEPS[back, fore]
    s0, s1, s2 = of[0], of[1], of[2]
    # And of the points, moved to it.
    x0, y0 = high[0] - low[0], high[3] - low[3]
    x1, y1 = high[1] - low[1] - d * x0, high[4] - low[4] - d * y0
    x2, y2 = high[2] - low[2] - d * (2 * x1 + d * x0), high[5] - low[5] - d * (2 * y1 + d * y0)
    xx = high[6] - low[6] - px * (2 * x0 - s0 * px)
    xy = high[7] - low[7] - px * y0 - py * x0 + s0 * px * py
    yy = high[8] - low[8] - py * (2 * y0 - s0 * py)
    x0, x1, x2 = x0 - s0 * px, x1 - s1 * px, x2 - s2 * px
    y0, y1, y2 = y0 - s0 * py, y1 - s1 * py, y2 - s2 * py
    bx, by = of[4] * x0 + of[6] * x1 + of[7] * x2, of[4] * y0 + of[6] * y1 + of[7] * y2
    size = bx * bx + by * by
    if not size > 0:
        return 0.0, 0.0, -1.0
    # Across it, in so many times the direction's length: all that follows is divided by its square, once.
    z0, z1, z2 = bx * y0 - by * x0, bx * y1 - by * x1, bx * y2 - by * x2
    a, b = of[3] * z0 + of[4] * z1 + of[5] * z2, of[4] * z0 + of[6] * z1 + of[7] * z2
    c = of[5] * z0 + of[7] * z1 + of[8] * z2
    off = by * by * xx - 2 * bx * by * xy + bx * bx * yy - a * z0 - b * z1 - c * z2
    share = 1 / size
    return -a * by * share, a * bx * share, max(off * share, 0.0) / (s0 - 3)


@kernel("void(f8[:, ::1], f8, f8[:, ::1])")
def smoothed(p, noise, out):
    """Points in a row, each moved to a parabola over as many of its neighbours as lie about one within the noise; the
    first and the last stay."""
    n = len(p)
    out[:] = p
    if noise < QUIET:
        return
    reach, allowed = WINDOWS[0], (1.25 * noise) ** 2
    sums = np.empty((TOGETHER + 2 * reach + 1, 9))
    for begin in range(1, n - 1, TOGETHER):
        end = min(begin + TOGETHER, n - 1)
        first, middle = max(begin - reach, 0), (begin + end) // 2
        moments_up_to(p, first, min(end + reach, n), middle, sums)
        for i in range(begin, end):
            px, py = p[i, 0] - p[middle, 0], p[i, 1] - p[middle, 1]
            for window in WINDOWS:
                back, fore = min(window, i), min(window, n - 1 - i)
                if back + fore < 5:
                    continue
                x, y, off = parabola_off(
                    sums[i - back - first], sums[i + fore + 1 - first], back, fore, i - middle, px, py
                )
                if off >= 0 and (off <= allowed or window == WINDOWS[-1]):
                    out[i, 0], out[i, 1] = p[i, 0] + x, p[i, 1] + y
                    break
