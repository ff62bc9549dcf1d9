"""Outlines of ink that the picture's own rim cuts off: straight along the rim, with a corner where each side of the ink
reaches it.

No pixel beyond the rim tells how such a corner looks, and blur has moved out of the picture what an edge that comes to
the rim at a slant is told by. So the side is carried on to the rim from where it is true.
"""

from __future__ import annotations

import math

import numpy as np

from ...geometry.compiled import kernel
from .edges import EDGE, RIM
from .meeting_places import end_side
from .rims import along_rim, cut_by, leaves, off_rim, on_rim
from .sides import LONGEST, rounded_px
from .tips import crossing

#: How far from where its pixels leave the rim a side may meet it, in so many times as corners are rounded, and how far
#: beside it they may, in pixels; and how much nearer to the rim each next try to find the side begins.
FARTHEST, BESIDE, NEARER, TRIES = 3.0, 0.9, 0.5, 4
#: Pinned points nearer together than this, in pixels, are one; other points keep so far off them.
ONE, CLEAR = 0.2, 0.3


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
            beside = abs(there - s) * abs(sy if which % 2 == 0 else sx) / math.hypot(sx, sy)
            on = abs(off_rim(which, x, y, width, height)) < 1e-6
            if on and abs(there - s) <= FARTHEST * near and beside <= BESIDE:
                return there, gone
        clear *= NEARER
    return s, 0


@kernel("i8(f8[:, ::1], b1[::1], i8, i8, f8, f8)")
def pin(out, pinned, first, m, x, y):
    """Adds a pinned point to those from first on, if the one before lies elsewhere; how many there are then."""
    if m > first and pinned[m - 1] and math.hypot(out[m - 1, 0] - x, out[m - 1, 1] - y) < ONE:
        return m
    out[m, 0], out[m, 1], pinned[m] = x, y, True
    return m + 1


@kernel("i8(i8[::1], i8)")
def stretch(rim, i):
    """How many points of a closed outline from one on lie on its rim, or within the picture where it does."""
    n, count = len(rim), 1
    while count < n and rim[(i + count) % n] == rim[i]:
        count += 1
    return count


@kernel("i8(i8[::1])")
def first_on_rim(rim):
    """The point of a closed outline that is the first of a stretch on a rim."""
    n = len(rim)
    first = 0
    while first < n and rim[first] == rim[first - 1]:
        first += 1
    first %= n
    return first if rim[first] >= 0 else (first + stretch(rim, first)) % n


@kernel(
    "void(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], i8, f8, f8, f8, f8[:, ::1], i8[:, ::1], f8[:, ::1],"
    " f8[::1])"
)
def ends_within(grey, own, rim, first, limit, near, noise, ends, gone, arm, side):
    """Where each stretch of a closed outline within the picture reaches the rims before and after it, and how many of
    its points there are not true: in the rows (N, 2) of its first point."""
    n = len(own)
    height, width = float(grey.shape[0]), float(grey.shape[1])
    i = 0
    while i < n:
        a = (first + i) % n
        count = stretch(rim, a)
        i += count
        if rim[a] >= 0:
            continue
        before, after = rim[a - 1], rim[(a + count) % n]
        inner = np.empty((count, 2))
        for k in range(count):
            inner[k] = own[(a + k) % n]
        p, q = own[a - 1], own[(a + count) % n]
        s = leaves(grey, limit, before, along_rim(before, p[0], p[1], width, height), 1)
        t = leaves(grey, limit, after, along_rim(after, q[0], q[1], width, height), -1)
        ends[a, 0], gone[a, 0] = reached(inner, 1, before, s, width, height, near, noise, arm, side)
        ends[a, 1], gone[a, 1] = reached(inner, -1, after, t, width, height, near, noise, arm, side)
        if gone[a, 0] + gone[a, 1] >= count:
            gone[a] = 0


@kernel("Tuple((f8, f8))(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], i8, i8, i8, f8, f8[:, ::1])")
def from_to(grey, own, rim, before, a, count, limit, ends):
    """From where to where along its rim a stretch of a closed outline goes. before: the first point of what is before
    it."""
    n = len(own)
    height, width = float(grey.shape[0]), float(grey.shape[1])
    which, following = rim[a], (a + count) % n
    long = width if which % 2 == 0 else height
    low, high = own[a], own[(a + count - 1) % n]
    # As its pixels do.
    s = leaves(grey, limit, which, along_rim(which, low[0], low[1], width, height), -1)
    t = leaves(grey, limit, which, along_rim(which, high[0], high[1], width, height), 1)
    start, end = s, t
    if rim[before] < 0:
        start = min(max(ends[before, 1], 0.0), long)
    elif (rim[before] + 1) % 4 == which:
        start = 0.0
    if rim[following] < 0:
        end = min(max(ends[following, 0], 0.0), long)
    elif (which + 1) % 4 == rim[following]:
        end = long
    return (start, end) if end - start >= ONE else (s, t)


@kernel(
    "i8(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], f8, f8, f8, f8[:, ::1], b1[::1], u1[::1], i8,"
    " f8[:, ::1], f8[::1])"
)
def put_rims(grey, own, rim, limit, near, noise, out, pinned, what, m, arm, side):
    """Writes a closed outline down from m on, straight along the rims that cut it off; where it ends."""
    n, begin = len(own), m
    height, width = float(grey.shape[0]), float(grey.shape[1])
    first = first_on_rim(rim)
    ends, gone = np.empty((n, 2)), np.zeros((n, 2), np.int64)
    ends_within(grey, own, rim, first, limit, near, noise, ends, gone, arm, side)
    before = first
    while before != (first + 1) % n and rim[before - 1] == rim[first - 1]:
        before = (before - 1) % n
    i = 0
    while i < n:
        a = (first + i) % n
        count = stretch(rim, a)
        i += count
        if rim[a] < 0:
            for k in range(gone[a, 0], count - gone[a, 1]):
                out[m], pinned[m], what[m] = own[(a + k) % n], False, EDGE
                m += 1
            before = a
            continue
        which = rim[a]
        start, end = from_to(grey, own, rim, before, a, count, limit, ends)
        x, y = on_rim(which, start, width, height)
        m = pin(out, pinned, begin, m, x, y)
        what[m - 1] = RIM
        for k in range(count):
            here = along_rim(which, own[(a + k) % n, 0], own[(a + k) % n, 1], width, height)
            if start + CLEAR < here < end - CLEAR:
                out[m, 0], out[m, 1] = on_rim(which, here, width, height)
                pinned[m], what[m] = False, RIM
                m += 1
        x, y = on_rim(which, end, width, height)
        m = pin(out, pinned, begin, m, x, y)
        what[m - 1] = RIM
        before = a
    last = math.hypot(out[m - 1, 0] - out[begin, 0], out[m - 1, 1] - out[begin, 1])
    return m - 1 if m - begin > 3 and pinned[m - 1] and last < ONE else m


@kernel(
    "Tuple((f8[:, ::1], i8[::1], u1[::1], b1[::1]))(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], u1[::1],"
    " f8[:, ::1], f8, f8)"
)
def rimmed(grey, points, start, what, levels, blur, noise):
    """Closed outlines (K+1,) again, straight along the rims of the picture that cut them off; what each point is; and
    which are pinned: the corners there. levels (K, 3): limit, black and white of each."""
    room = len(points) + 2 * np.count_nonzero(what == RIM) + 8 * len(start)
    out, kinds, pinned = np.empty((room, 2)), np.zeros(room, np.uint8), np.zeros(room, np.bool_)
    begin = np.zeros(len(start), np.int64)
    arm, side = np.empty((128, 2)), np.empty(9)
    near = rounded_px(blur, noise)
    m = 0
    for k in range(len(start) - 1):
        own, kind = points[start[k] : start[k + 1]], what[start[k] : start[k + 1]]
        rim = np.full(len(own), -1)
        if (kind == RIM).any():
            cut_by(grey, own, kind, levels[k], rim)
        if (rim >= 0).any():
            end = put_rims(grey, own, rim, levels[k, 0], near, noise, out, pinned, kinds, m, arm, side)
            if end - m >= 3:
                m = end
                begin[k + 1] = m
                continue
            pinned[m:end] = False
        for i in range(len(own)):
            out[m], kinds[m] = own[i], kind[i]
            m += 1
        begin[k + 1] = m
    return out[:m].copy(), begin, kinds[:m].copy(), pinned[:m].copy()
