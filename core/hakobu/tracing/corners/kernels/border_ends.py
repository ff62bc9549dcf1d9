"""Outlines of ink that the picture's own rim cuts off: straight along the rim, with a corner where each side of the ink
reaches it.

No pixel beyond the rim tells how such a corner looks, and blur has moved out of the picture what an edge that comes to
the rim at a slant is told by. So the side is carried on to the rim from where it is true.
"""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from ...edges.kernels.image_border import along_rim, cut_by, leaves, off_rim, on_rim, stretches
from .corner_sides import LONGEST, rounded_px
from .cusps import crossing
from .junctions import end_side

#: How far from where its pixels leave the rim a side may meet it, in so many times as corners are rounded, and how far
#: beside it they may, in pixels; and how much nearer to the rim each next try to find the side begins.
FARTHEST, BESIDE, NEARER, TRIES = 3.0, 0.9, 0.5, 4
#: Pinned points nearer together than this, in pixels, are one; other points keep so far off them.
ONE, CLEAR = 0.2, 0.3
#: Along a rim points tell nothing: farther than this from where it begins and ends, in pixels, one in so many stays.
AT_ENDS, ONE_IN = 48.0, 16


@kernel("Tuple((f8, i8))(f8[:, ::1], i8, i8, f8, f8, f8, f8, f8, f8[:, ::1], f8[::1])")
def reached(inner, step, which, s, width, height, near, noise, arm, side):
    """Where the beginning (step 1) or the end (-1) of a stretch of an outline reaches a rim, as a length along it; its
    pixels do at s. And how many of its points there are not true."""
    n = len(inner)
    x0, y0 = on_rim(which, s, width, height)
    clear = near
    for _ in range(TRIES):
        gone = 0
        while gone < n:
            k = gone if step > 0 else n - 1 - gone
            if off_rim(which, inner[k, 0], inner[k, 1], width, height) >= clear:
                break
            gone += 1
        own = inner[gone:] if step > 0 else inner[: n - gone]
        if end_side(own, step, x0, y0, 0.0, LONGEST, noise, arm, side) > 0:
            dx, dy = (1.0, 0.0) if which % 2 == 0 else (0.0, 1.0)
            x, y = crossing(side, x0, y0, dx, dy)
            there = along_rim(which, x, y, width, height)
            # How far beside the side its pixels leave the rim.
            sx, sy = side[2] - side[3] * side[5], side[3] + side[2] * side[5]
            beside = abs(there - s) * abs(sy if which % 2 == 0 else sx) / length(sx, sy)
            on = abs(off_rim(which, x, y, width, height)) < 1e-6
            if on and abs(there - s) <= FARTHEST * near and beside <= BESIDE:
                return there, gone
        clear *= NEARER
    return s, 0


@kernel("i8(f8[:, ::1], b1[::1], i8, i8, f8, f8)")
def pin(out, pinned, first, m, x, y):
    """Adds a pinned point to those from first on, if the one before lies elsewhere; how many there are then."""
    if m > first and pinned[m - 1] and length(out[m - 1, 0] - x, out[m - 1, 1] - y) < ONE:
        return m
    out[m, 0], out[m, 1], pinned[m] = x, y, True
    return m + 1


@kernel(
    "void(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], i8[::1], f8, f8, f8, f8[:, ::1], i8[:, ::1],"
    " f8[:, ::1], f8[::1])"
)
def ends_within(grey, own, rim, begin, limit, near, noise, ends, gone, arm, side):
    """Where each stretch (S+1,) of an outline within the picture reaches the rims before and after it, and how many of
    its points there are not true, (S, 2)."""
    n = len(own)
    height, width = float(grey.shape[0]), float(grey.shape[1])
    for k in range(len(begin) - 1):
        a, b = begin[k], begin[k + 1]
        if rim[a] >= 0:
            continue
        before, after = rim[a - 1], rim[b % n]
        inner = own[a:b]
        p, q = own[a - 1], own[b % n]
        s = leaves(grey, limit, before, along_rim(before, p[0], p[1], width, height), 1)
        t = leaves(grey, limit, after, along_rim(after, q[0], q[1], width, height), -1)
        ends[k, 0], gone[k, 0] = reached(inner, 1, before, s, width, height, near, noise, arm, side)
        ends[k, 1], gone[k, 1] = reached(inner, -1, after, t, width, height, near, noise, arm, side)
        if gone[k, 0] + gone[k, 1] >= b - a:
            gone[k] = 0


@kernel("Tuple((f8, f8))(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], i8[::1], i8, f8, f8[:, ::1])")
def from_to(grey, own, rim, begin, k, limit, ends):
    """From where to where along its rim a stretch of an outline goes."""
    height, width = float(grey.shape[0]), float(grey.shape[1])
    many = len(begin) - 1
    before, following = (k + many - 1) % many, (k + 1) % many
    which, last, next_ = rim[begin[k]], rim[begin[before]], rim[begin[following]]
    long = width if which % 2 == 0 else height
    low, high = own[begin[k]], own[begin[k + 1] - 1]
    # As its pixels do.
    s = leaves(grey, limit, which, along_rim(which, low[0], low[1], width, height), -1)
    t = leaves(grey, limit, which, along_rim(which, high[0], high[1], width, height), 1)
    start, end = s, t
    if last < 0:
        start = min(max(ends[before, 1], 0.0), long)
    elif (last + 1) % 4 == which:
        start = 0.0
    if next_ < 0:
        end = min(max(ends[following, 0], 0.0), long)
    elif (which + 1) % 4 == next_:
        end = long
    return (start, end) if end - start >= ONE else (s, t)


@kernel(
    "i8(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], f8, f8, f8, f8[:, ::1], b1[::1], i8, f8[:, ::1],"
    " f8[::1])"
)
def put_rims(grey, own, rim, limit, near, noise, out, pinned, m, arm, side):
    """Writes a closed outline that begins on a rim down from m on, straight along the rims that cut it off; where it
    ends."""
    first = m
    height, width = float(grey.shape[0]), float(grey.shape[1])
    begin = stretches(rim)
    ends, gone = np.empty((len(begin) - 1, 2)), np.zeros((len(begin) - 1, 2), np.int64)
    ends_within(grey, own, rim, begin, limit, near, noise, ends, gone, arm, side)
    for k in range(len(begin) - 1):
        which = rim[begin[k]]
        if which < 0:
            for i in range(begin[k] + gone[k, 0], begin[k + 1] - gone[k, 1]):
                out[m, 0], out[m, 1], pinned[m] = own[i, 0], own[i, 1], False
                m += 1
            continue
        start, end = from_to(grey, own, rim, begin, k, limit, ends)
        x, y = on_rim(which, start, width, height)
        m = pin(out, pinned, first, m, x, y)
        for i in range(begin[k], begin[k + 1]):
            here = along_rim(which, own[i, 0], own[i, 1], width, height)
            amid = start + AT_ENDS < here < end - AT_ENDS and (i - begin[k]) % ONE_IN > 0
            if start + CLEAR < here < end - CLEAR and not amid:
                out[m, 0], out[m, 1] = on_rim(which, here, width, height)
                pinned[m] = False
                m += 1
        x, y = on_rim(which, end, width, height)
        m = pin(out, pinned, first, m, x, y)
    last = length(out[m - 1, 0] - out[first, 0], out[m - 1, 1] - out[first, 1])
    return m - 1 if m - first > 3 and pinned[m - 1] and last < ONE else m


@kernel(
    "Tuple((f8[:, ::1], i8[::1], b1[::1]))(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], b1[::1],"
    " f8[:, ::1], f8, f8)"
)
def rimmed(grey, points, start, outermost, levels, blur, noise):
    """Closed outlines (K+1,) again, straight along the rims of the picture that cut them off; and which points are
    pinned: the corners there. outermost (N,): whether each point is told by a pixel on a rim; levels (K, 3): limit,
    black and white of each."""
    room = len(points) + 2 * np.count_nonzero(outermost) + 8 * len(start)
    out, pinned = np.empty((room, 2)), np.zeros(room, np.bool_)
    begin = np.zeros(len(start), np.int64)
    arm, side = np.empty((128, 2)), np.empty(9)
    near = rounded_px(blur, noise)
    m = 0
    for k in range(len(start) - 1):
        own, outer = points[start[k] : start[k + 1]], outermost[start[k] : start[k + 1]]
        if outer.any():
            turned, rim = cut_by(grey, own, outer, levels[k])
            if rim[0] >= 0:
                end = put_rims(grey, turned, rim, levels[k, 0], near, noise, out, pinned, m, arm, side)
                if end - m >= 3:
                    m = end
                    begin[k + 1] = m
                    continue
                pinned[m:end] = False
        for i in range(len(own)):
            out[m, 0], out[m, 1] = own[i, 0], own[i, 1]
            m += 1
        begin[k + 1] = m
    return out[:m].copy(), begin, pinned[:m].copy()
