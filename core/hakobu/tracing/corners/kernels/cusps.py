"""Ends that are too slim for their corners to be told apart: tips of crescents and leaves, ends of thin strips, the
narrow insides of joints.

Both sides are known from where they are true. How far they go on is told by how much ink there is beyond a line across
them: as much as the sides enclose up to where they meet makes a tip, less makes an end cut off square where it is used
up. So the end is as exact as the coverage is, though no pixel shows it.
"""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from ...edges.kernels.subpixel_edges import at
from .chamfers import UNEVEN

#: Pixels: the longest tip that is looked for; an end is square from this width on.
LONGEST, SQUARE = 48, 0.8
#: Steps in a pixel at which the width between the sides is summed.
STEPS = 16
#: A tip may hold so many times what its sides enclose, where it is longer than so many pixels; else the sides are not
#: those of what is there.
LEAST_SHARE, MOST_SHARE, SHORT = 0.6, 1.6, 3.0
#: The coverage that tells where a tip is where there is no noise, what share of its root bends may make up, and how
#: far from where the sides meet it may be, in pixels.
BEYOND, BENT, FARTHEST = 0.8, 0.2, 1.0


@kernel("f8(f8[::1], i8, f8)")
def height(side, axis, place):
    """Where a side stands across an axis, 0 for x and 1 for y, at a place along it."""
    normal_along = side[2] if axis == 1 else -side[3]
    normal_across = -side[3] if axis == 1 else side[2]
    along, over = side[2 + axis], side[3 - axis]
    t = (place - side[axis]) / along if abs(along) > 1e-9 else 0.0
    for _ in range(4):
        v = side[4] + side[5] * t + side[6] * t * t
        rate = along + normal_along * (side[5] + 2 * side[6] * t)
        if abs(rate) < 1e-9:
            break
        t -= (side[axis] + along * t + normal_along * v - place) / rate
    v = side[4] + side[5] * t + side[6] * t * t
    return side[1 - axis] + over * t + normal_across * v


@kernel("Tuple((f8, f8))(f8[::1], f8, f8, f8, f8)")
def crossing(side, x, y, dx, dy):
    """Where a side crosses a straight line through a point."""
    t = (x - side[0]) * side[2] + (y - side[1]) * side[3]
    px = py = 0.0
    for _ in range(5):
        v = side[4] + side[5] * t + side[6] * t * t
        slope = side[5] + 2 * side[6] * t
        px = side[0] + side[2] * t - side[3] * v
        py = side[1] + side[3] * t + side[2] * v
        ux, uy = side[2] - side[3] * slope, side[3] + side[2] * slope
        off = (px - x) * dy - (py - y) * dx
        rate = ux * dy - uy * dx
        if abs(rate) < 1e-9:
            break
        t -= off / rate
    return px, py


@kernel("f8(f8[::1])")
def tip_by_rows(found):
    """How far beyond the first of rows the tip lies whose coverage each holds, below zero where they do not tell: the
    root of what is beyond a row goes as the distance to the tip, and a little as its square where the sides bend."""
    beyond, first = 0.0, len(found)
    while first > 0 and beyond < BEYOND:
        first -= 1
        beyond += found[first]
    if beyond < BEYOND or first < 2:
        return -1.0
    root = math.sqrt(beyond)
    one, two = math.sqrt(beyond + found[first - 1]), math.sqrt(beyond + found[first - 1] + found[first - 2])
    bend = (two - 2 * one + root) / 2
    if not one > root:
        return -1.0
    far = root / (one - root)
    if not abs(bend) * (far + 1) < BENT * (one - root):
        return -1.0
    for _ in range(4):
        far = root / (one - root - bend - bend * far)
    return first + far


@kernel("Tuple((i8, f8, f8, f8, f8))(Array(f4, 2, 'C', readonly=True), f8[::1], f8[::1], b1, f8, f8, f8, f8, f8)")
def end_of(grey, first, second, ink, limit, black, white, dead, blur):
    """Where two sides end: the number of corners, 1 or 2, and their places, of the first side first; 0 where that
    cannot be told. ink: whether ink is what ends, else a gap."""
    ex, ey = first[2] + second[2], first[3] + second[3]
    size = length(ex, ey)
    if not size > 0.5:
        return 0, 0.0, 0.0, 0.0, 0.0
    ex, ey = ex / size, ey / size
    axis = 0 if abs(ex) >= abs(ey) else 1
    way = 1.0 if (ex if axis == 0 else ey) > 0 else -1.0
    # The line across: a border between pixels, where both sides are true.
    x0 = min(first[axis] * way, second[axis] * way)
    x0 = math.floor(x0) * 1.0
    wide = abs(height(first, axis, x0 * way) - height(second, axis, x0 * way))
    beyond = 1.5 + 2.5 * blur
    rows, columns = grey.shape
    long, breadth = (columns, rows) if axis == 0 else (rows, columns)
    area, gone, _least = 0.0, 0, 10.0
    last, sums = 0.0, np.zeros(LONGEST)
    for step in range(LONGEST):
        pixel = int(x0) + step if way > 0 else -int(x0) - 1 - step
        if pixel < 0 or pixel >= long:
            break
        middle = pixel + 0.5
        a, b = height(first, axis, middle), height(second, axis, middle)
        centre, half = (a + b) / 2, wide / 2 + beyond
        low, high = max(math.floor(centre - half), 0), min(math.ceil(centre + half), breadth)
        found = 0.0
        for j in range(low, high):
            v = (
                at(grey, j, pixel, limit, black, white, dead)
                if axis == 0
                else at(grey, pixel, j, limit, black, white, dead)
            )
            found += v if ink else 1 - v
        if found > last + 0.35 and step > 1 and last < 0.5 * wide:
            break
        area += found
        last = sums[step] = found
        if found == 0.0:
            gone += 1
            if gone == 2:
                break
    # How far the sides reach for that.
    total, x, width = 0.0, x0, wide
    before = (height(first, axis, x0 * way) - height(second, axis, x0 * way)) > 0
    met, meets = 0.0, False
    for step in range(LONGEST * STEPS):
        middle = x0 + (step + 0.5) / STEPS
        between = height(first, axis, middle * way) - height(second, axis, middle * way)
        if (between > 0) != before or between == 0:
            met, meets = middle, True
            break
        width = abs(between)
        if total + width / STEPS >= area:
            x = x0 + step / STEPS + (area - total) / width
            break
        total += width / STEPS
    if not meets and width < SQUARE:
        # Not all is used up, but the rest is no wider than a tip: it ends as long as a triangle would.
        more = 0.0
        for step in range(LONGEST * STEPS):
            middle = x0 + (step + 0.5) / STEPS
            between = height(first, axis, middle * way) - height(second, axis, middle * way)
            if (between > 0) != before or between == 0:
                met, meets = middle, True
                break
            more += abs(between) / STEPS
        if not meets:
            return 0, 0.0, 0.0, 0.0, 0.0
        total = more
        # Where the sides go on much farther than there is ink, it ends square where that is used up.
        meets = area >= LEAST_SHARE * more
    if meets:
        share = area / total if total > 0 else 1.0
        if share > MOST_SHARE and met - x0 > SHORT:
            return 0, 0.0, 0.0, 0.0, 0.0
        share = min(max(share, LEAST_SHARE), MOST_SHARE)
        by_rows = tip_by_rows(sums) if dead <= UNEVEN else -1.0
        if by_rows > 0 and abs(x0 + by_rows - met) < FARTHEST:
            share = by_rows / (met - x0)
        tip = x0 + (met - x0) * share
        a, b = height(first, axis, tip * way), height(second, axis, tip * way)
        # Between the sides where they are nearest, carried on.
        a0, b0 = height(first, axis, met * way), height(second, axis, met * way)
        y = (a0 + b0) / 2 if share > 1 else (a + b) / 2
        if axis == 0:
            return 1, tip * way, y, 0.0, 0.0
        return 1, y, tip * way, 0.0, 0.0
    a, b = height(first, axis, x * way), height(second, axis, x * way)
    cx, cy = x * way, (a + b) / 2
    if axis == 1:
        cx, cy = cy, cx
    ax, ay = crossing(first, cx, cy, -ey, ex)
    bx, by = crossing(second, cx, cy, -ey, ex)
    return 2, ax, ay, bx, by
