"""The rims of a picture: places along them, and outlines of ink that they cut off."""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel
from .edges import RIM, at

#: Ink whose outermost pixels are covered this much less than those within ends there by itself, half the time.
FADES = 0.15
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


@kernel("void(Array(f4, 2, 'C', readonly=True), f8[:, ::1], u1[::1], f8[::1], i8[::1])")
def cut_by(grey, own, what, levels, rim):
    """For each point of a closed outline the rim that cuts the ink off there, -1 for none: a stretch of points on one
    rim counts when the ink does not fade towards it."""
    n = len(own)
    height, width = grey.shape
    fades = np.empty(n)
    for i in range(n):
        rim[i] = -1
        if what[i] != RIM:
            continue
        which = rim_of(own[i, 0], own[i, 1], width, height)
        rim[i] = which
        r, c = rim_pixel(which, along_rim(which, own[i, 0], own[i, 1], width, height), width, height)
        dr, dc = (1 if which == 0 else -1) * (which % 2 == 0), (-1 if which == 1 else 1) * (which % 2 == 1)
        # No noise is told apart here: what is half covered all the way counts as much as what is covered whole.
        outer = at(grey, r, c, levels[0], levels[1], levels[2], 0.0)
        inner = at(grey, r + dr, c + dc, levels[0], levels[1], levels[2], 0.0)
        fades[i] = inner - outer
    first = 0
    while first < n and rim[first] == rim[first - 1]:
        first += 1
    some = np.empty(n)
    i = 0
    while i < n:
        a = (first + i) % n
        count = 0
        while i + count < n and rim[(a + count) % n] == rim[a]:
            some[count] = fades[(a + count) % n]
            count += 1
        if rim[a] >= 0 and np.median(some[:count]) > FADES:
            for k in range(count):
                rim[(a + k) % n] = -1
        i += count
