"""Straight runs of traced outlines, and what is left smoothed: a run is straight where its points lie about one line
within their noise and no bend shows in them; it becomes one line, which the curves at its ends go over into."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from .smoothing import smoothed

#: The shortest straight run, in pixels, and how much longer it must be for each pixel of noise.
SHORTEST, LONGER = 9.0, 220.0
#: Points lie about a line within so many times their noise, on the whole; and it is at least so much, in pixels.
WITHIN, LEAST_NOISE = 1.3, 0.006
#: A bend shows, or a point leaves a line, from so many times its own uncertainty on.
SHOWS = 2.6
#: A straight run that ends at no corner is at least so long, in pixels; one ends at a corner with so few points
#: between.
ALONE, ENDS = 24.0, 3
#: Two straight runs with no more than this between them, in pixels, meet in a corner however little they turn.
MEET = 4.0
#: A corner lies no farther beside a straight run that ends in it, in pixels and beside so many times the noise.
BESIDE, BESIDE_NOISES = 0.12, 1.5


@kernel("void(f8[:, ::1], f8[:, ::1])")
def summed(p, sums):
    """Sums (n+1, 5) over points up to each: x, y, xx, xy, yy, about the first one."""
    for i in range(len(p)):
        x, y = p[i, 0] - p[0, 0], p[i, 1] - p[0, 1]
        sums[i + 1, 0] = sums[i, 0] + x
        sums[i + 1, 1] = sums[i, 1] + y
        sums[i + 1, 2] = sums[i, 2] + x * x
        sums[i + 1, 3] = sums[i, 3] + x * y
        sums[i + 1, 4] = sums[i, 4] + y * y


@kernel("f8(f8[:, ::1], f8[:, ::1], i8, i8, f8[::1])")
def line_of(p, sums, a, b, line):
    """The line of least squared distances through points a to b: line holds a point of it and its direction. Returns
    how far they lie off, as the root of the mean square."""
    n = b - a + 1
    mx, my = (sums[b + 1, 0] - sums[a, 0]) / n, (sums[b + 1, 1] - sums[a, 1]) / n
    xx = (sums[b + 1, 2] - sums[a, 2]) / n - mx * mx
    xy = (sums[b + 1, 3] - sums[a, 3]) / n - mx * my
    yy = (sums[b + 1, 4] - sums[a, 4]) / n - my * my
    # The direction at half the angle of (xx - yy, 2 xy), without asking for the angle.
    whole = math.sqrt(4 * xy * xy + (xx - yy) * (xx - yy))
    if xx >= yy:
        ux = math.sqrt((whole + xx - yy) / (2 * whole)) if whole > 0 else 1.0
        uy = xy / (whole * ux) if whole > 0 else 0.0
    else:
        uy = math.sqrt((whole + yy - xx) / (2 * whole))
        ux = xy / (whole * uy)
    if ux * (p[b, 0] - p[a, 0]) + uy * (p[b, 1] - p[a, 1]) < 0:
        ux, uy = -ux, -uy
    line[0], line[1], line[2], line[3] = mx + p[0, 0], my + p[0, 1], ux, uy
    off = uy * uy * xx - 2 * ux * uy * xy + ux * ux * yy
    return math.sqrt(max(off, 0.0) * n / max(n - 2, 1))


@kernel("f8(f8[:, ::1], f8[:, ::1], f8[::1], i8, i8)")
def mean_off(p, sums, line, a, b):
    """How far points a to b lie from a line on average, with a sign."""
    n = b - a + 1
    x = (sums[b + 1, 0] - sums[a, 0]) / n + p[0, 0] - line[0]
    y = (sums[b + 1, 1] - sums[a, 1]) / n + p[0, 1] - line[1]
    return y * line[2] - x * line[3]


@kernel("b1(f8[:, ::1], f8[:, ::1], i8, i8, f8, f8[::1])")
def is_straight(p, sums, a, b, noise, line):
    """Whether points a to b lie about one line, and no bend shows in them."""
    if line_of(p, sums, a, b, line) > WITHIN * noise:
        return False
    third = (b - a + 1) // 3
    if third < 2:
        return False
    middle = mean_off(p, sums, line, a + third, b - third)
    ends = mean_off(p, sums, line, a, a + third - 1) + mean_off(p, sums, line, b - third + 1, b)
    return abs(middle - ends / 2) <= SHOWS * noise * math.sqrt(1.5 / third) + 0.003


@kernel("i8(f8[:, ::1], f8[:, ::1], i8, i8, i8, f8, i8, f8[::1])")
def grown(p, sums, a, b, last, noise, step, line):
    """How far a straight run from a to b goes on towards one end, up to the last point that may belong to it."""
    room = 6
    while True:
        far = b + step if step > 0 else a + step
        if (step > 0 and far > last) or (step < 0 and far < last):
            break
        line_of(p, sums, a, b, line)
        near = max(b - room + 2, a) if step > 0 else min(a + room - 2, b)
        low, high = (near, far) if step > 0 else (far, near)
        count = high - low + 1
        allowed = SHOWS * noise / math.sqrt(count) + 0.003
        alone = abs(mean_off(p, sums, line, far, far))
        if abs(mean_off(p, sums, line, low, high)) > allowed or alone > 3.2 * noise + 0.003:
            break
        if step > 0:
            b = far
        else:
            a = far
    return b if step > 0 else a


@kernel("b1(f8[:, ::1], f8[:, ::1], f8[::1], i8, i8, f8, b1, b1, f8[::1])")
def stands_out(p, sums, run, a, b, noise, corner_first, corner_last, line):
    """Whether a straight run is one, rather than a stretch of a gentle bend: it ends at a corner, or the line leaves it
    there faster than any bend that may hide in its noise."""
    n = len(p)
    length = run[b] - run[a]
    third = max((b - a + 1) // 3, 1)
    hidden = SHOWS * noise * math.sqrt(1.5 / third) + 0.003
    first, last = corner_first and a <= ENDS, corner_last and b >= n - 1 - ENDS
    if not (first or last) and length < ALONE:
        return False
    for end in range(2):
        if (end == 0 and first) or (end == 1 and last):
            continue
        beyond = max(length / 3, 6.0)
        place = run[a] - beyond if end == 0 else run[b] + beyond
        if place < 0 or place > run[n - 1]:
            place = 0.0 if place < 0 else run[n - 1]
            beyond = run[a] if end == 0 else run[n - 1] - run[b]
            if beyond < 2.0:
                continue
        k = min(max(np.searchsorted(run, place), 1), n - 2)
        off = abs(mean_off(p, sums, line, k - 1, k + 1))
        # An even bend of so much over the run leaves its line by this much more beyond it.
        share = ((length / 2 + beyond) ** 2 - (length / 2) ** 2) / (length / 2) ** 2
        if off < 2.0 * hidden * share:
            return False
    return True


@kernel("i8(f8[:, ::1], f8[::1], f8, b1, b1, i8[:, ::1], f8[:, ::1])")
def straight_runs(p, run, noise, corner_first, corner_last, spans, lines):
    """The straight runs among points in a row: spans (R, 2) from and to which point, lines (R, 4); their number."""
    n = len(p)
    noise = max(noise, LEAST_NOISE)
    shortest = SHORTEST + LONGER * noise
    sums = np.zeros((n + 1, 5))
    summed(p, sums)
    line = np.empty(4)
    count, i = 0, 0
    while i < n - 4 and count < len(spans):
        j = np.searchsorted(run, run[i] + shortest)
        if j >= n:
            j = n - 1
            if run[j] - run[i] < 0.6 * shortest:
                break
        # A run may be as short as the rest of the points where that is all there is.
        if j - i < 5 or not is_straight(p, sums, i, j, noise, line):
            i += max((j - i) // 5, 1)
            continue
        first = spans[count - 1, 1] + 1 if count else 0
        b = grown(p, sums, i, j, n - 1, noise, 1, line)
        a = grown(p, sums, i, b, first, noise, -1, line)
        b = grown(p, sums, a, b, n - 1, noise, 1, line)
        line_of(p, sums, a, b, line)
        if stands_out(p, sums, run, a, b, noise, corner_first, corner_last, line):
            spans[count, 0], spans[count, 1] = a, b
            lines[count] = line
            count += 1
        i = b + 1
    return count


@kernel("b1(f8[::1], f8, f8, f8)")
def is_on(line, x, y, noise):
    """Whether a corner is so near a straight run's line that the run goes on up to it."""
    return abs((y - line[1]) * line[2] - (x - line[0]) * line[3]) < BESIDE + BESIDE_NOISES * noise


@kernel("i8(f8[:, ::1], b1, b1, f8, f8, f8[:, ::1], b1[::1], f8[:, ::1], i8)")
def section(p, corner_first, corner_last, noise, waves, out, mark, direction, m):
    """Points in a row, of which the first and the last are corners or joints, written from place m on with straight
    runs as their two ends; the next place. The last point is left to what comes next."""
    n = len(p)
    run = np.zeros(n)
    for i in range(1, n):
        run[i] = run[i - 1] + length(p[i, 0] - p[i - 1, 0], p[i, 1] - p[i - 1, 1])
    # The corners themselves lie where lines meet, not on the points' own noise.
    lo, hi = (1 if corner_first else 0), (n - 2 if corner_last else n - 1)
    spans, lines = np.empty((n // 5 + 1, 2), np.int64), np.empty((n // 5 + 1, 4))
    count = 0
    if hi - lo >= 5:
        count = straight_runs(
            p[lo : hi + 1], run[lo : hi + 1] - run[lo], noise, corner_first, corner_last, spans, lines
        )
        spans[:count] += lo
    at = 0
    for k in range(count + 1):
        first = spans[k, 0] if k < count else n
        # What comes before the run, or after the last one.
        whole = k < count and corner_first and k == 0 and run[first] < MEET + run[min(lo, n - 1)]
        whole = whole and is_on(lines[k], p[0, 0], p[0, 1], noise)
        until = (0 if whole else first) if k < count else n - 1
        if until > at or (k == count and until >= at):
            own = p[at : until + 1].copy() if k == count else p[at:until].copy()
            better = np.empty_like(own)
            smoothed(own, noise * waves, better)
            stop = len(own) - 1 if k == count else len(own)
            for i in range(stop):
                out[m, 0], out[m, 1] = better[i, 0], better[i, 1]
                mark[m] = (at + i == 0) and corner_first
                direction[m, 0] = direction[m, 1] = 0.0
                m += 1
        if k == count:
            break
        line = lines[k]
        last = spans[k, 1]
        ends = corner_last and k == count - 1 and run[n - 1] - run[last] < MEET + run[n - 1] - run[hi]
        ends = ends and is_on(line, p[n - 1, 0], p[n - 1, 1], noise)
        if whole:
            out[m] = p[0]
            mark[m], direction[m] = True, 0.0
        else:
            t = (p[first, 0] - line[0]) * line[2] + (p[first, 1] - line[1]) * line[3]
            out[m, 0], out[m, 1] = line[0] + t * line[2], line[1] + t * line[3]
            mark[m] = False
            direction[m, 0], direction[m, 1] = line[2], line[3]
        begin = m
        m += 1
        if ends:
            end_x, end_y = p[n - 1, 0], p[n - 1, 1]
        else:
            t = (p[last, 0] - line[0]) * line[2] + (p[last, 1] - line[1]) * line[3]
            end_x, end_y = line[0] + t * line[2], line[1] + t * line[3]
        ux, uy = end_x - out[begin, 0], end_y - out[begin, 1]
        size = length(ux, uy)
        if size > 0:
            ux, uy = ux / size, uy / size
        if not whole:
            direction[begin, 0], direction[begin, 1] = ux, uy
        if ends:
            return m
        out[m, 0], out[m, 1] = end_x, end_y
        mark[m] = False
        direction[m, 0], direction[m, 1] = ux, uy
        m += 1
        at = last + 1
    return m
