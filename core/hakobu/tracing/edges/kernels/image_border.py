"""The rims of a picture: places along them, and outlines of ink that they cut off."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from .subpixel_edges import at

#: Ink whose outermost pixels are covered this much less than those within ends there by itself, half the time.
FADES = 0.15
#: Points of a stretch, spread over it, that tell.
TELL = 256
#: Beside a corner so many pixels of a rim may have no point of their own.
MISSED = 8


@kernel("i8(f8, f8, f8, f8)")
def rim_of(x, y, width, height):
    """The rim that is nearest to a place: 0 the upper, 1 the right, 2 the lower, 3 the left one; along each, ink on the
    right, the way leads to the next."""
    best, which = y, 0
    if width - x < best:
        best, which = width - x, 1
    if height - y < best:
        best, which = height - y, 2
    return 3 if x < best else which


@kernel("f8(i8, f8, f8, f8, f8)")
def off_rim(which, x, y, width, height):
    """How far a place lies within a rim."""
    if which == 0:
        return y
    if which == 1:
        return width - x
    return height - y if which == 2 else x


@kernel("f8(i8, f8, f8, f8, f8)")
def along_rim(which, x, y, width, height):
    """How far a place lies along a rim, from 0 to its length."""
    if which == 0:
        return x
    if which == 1:
        return y
    return width - x if which == 2 else height - y


@kernel("Tuple((f8, f8))(i8, f8, f8, f8)")
def on_rim(which, s, width, height):
    """The place so far along a rim, no farther than its ends."""
    s = min(max(s, 0.0), width if which % 2 == 0 else height)
    if which == 0:
        return s, 0.0
    if which == 1:
        return width, s
    return (width - s, height) if which == 2 else (0.0, height - s)


@kernel("Tuple((i8, i8))(i8, f8, f8, f8)")
def rim_pixel(which, s, width, height):
    """Row and column of the pixel so far along a rim."""
    x, y = on_rim(which, s, width, height)
    return min(np.int64(y), np.int64(height) - 1), min(np.int64(x), np.int64(width) - 1)


@kernel("f8(Array(f4, 2, 'C', readonly=True), f8, i8, f8, f8)")
def leaves(grey, limit, which, s, step):
    """Where along a rim the grey passes the limit, from one of its pixels of ink on."""
    height, width = float(grey.shape[0]), float(grey.shape[1])
    long = width if which % 2 == 0 else height
    for _ in range(MISSED):
        if not 0 < s + step < long:
            break
        r, c = rim_pixel(which, s, width, height)
        r1, c1 = rim_pixel(which, s + step, width, height)
        here, there = np.float64(grey[r, c]), np.float64(grey[r1, c1])
        if there >= limit:
            return s + step * (limit - here) / (there - here)
        s += step
    return s + step / 2


@kernel("i8[::1](i8[::1])")
def stretches(rim):
    """Where each stretch of points of an outline on the same rim, or on none, begins, and how many points there are."""
    n, m = len(rim), 0
    begin = np.empty(n + 1, np.int64)
    for i in range(n):
        if i == 0 or rim[i] != rim[i - 1]:
            begin[m] = i
            m += 1
    begin[m] = n
    return begin[: m + 1].copy()


@kernel("Tuple((f8[:, ::1], i8[::1]))(f8[:, ::1], i8[::1])")
def from_a_rim_on(own, rim):
    """A closed outline again with the rim of each of its points, beginning where a stretch on a rim does."""
    n, first = len(rim), 0
    while first < n and (rim[first] < 0 or rim[first] == rim[first - 1]):
        first += 1
    first %= n
    return np.concatenate((own[first:], own[:first])), np.concatenate((rim[first:], rim[:first]))


@kernel("Tuple((f8[:, ::1], i8[::1]))(Array(f4, 2, 'C', readonly=True), f8[:, ::1], b1[::1], f8[::1])")
def cut_by(grey, own, outermost, levels):
    """A closed outline, beginning where a rim cuts its ink off, and the rim that does so at each point, -1 for none: a
    stretch of points on one rim counts when the ink does not fade towards it. outermost (N,): whether each point is
    told by a pixel on a rim."""
    n = len(own)
    height, width = grey.shape
    rim = np.full(n, -1)
    for i in range(n):
        if outermost[i]:
            rim[i] = rim_of(own[i, 0], own[i, 1], width, height)
    own, rim = from_a_rim_on(own, rim)
    begin = stretches(rim)
    for k in range(len(begin) - 1):
        which = rim[begin[k]]
        if which < 0:
            continue
        dr, dc = (1 if which == 0 else -1) * (which % 2 == 0), (-1 if which == 1 else 1) * (which % 2 == 1)
        step = max((begin[k + 1] - begin[k]) // TELL, 1)
        fades = np.empty((begin[k + 1] - begin[k] + step - 1) // step)
        for j in range(len(fades)):
            i = begin[k] + j * step
            r, c = rim_pixel(which, along_rim(which, own[i, 0], own[i, 1], width, height), width, height)
            # No noise is told apart here: what is half covered all the way counts as much as what is covered whole.
            outer = at(grey, r, c, levels[0], levels[1], levels[2], 0.0)
            inner = at(grey, r + dr, c + dc, levels[0], levels[1], levels[2], 0.0)
            fades[j] = inner - outer
        if np.median(fades) > FADES:
            rim[begin[k] : begin[k + 1]] = -1
    return from_a_rim_on(own, rim)
