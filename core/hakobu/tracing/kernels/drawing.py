"""A picture drawn from the borders of its areas, each pixel by how much of it every area covers."""

from __future__ import annotations

import math

import numpy as np

from ...geometry.compiled import kernel


@kernel("void(f4[:, :, ::1], f8, f8, f8, f8, f8[::1])")
def draw_line(changes, x0, y0, x1, y1, step):
    """Adds what a straight line changes in each pixel beside the one left of it; step (C,): what the picture differs by
    east of it from west of it, where it goes south."""
    height, width = changes.shape[0], changes.shape[1] - 1
    if y0 == y1:
        return
    sign = 1.0
    if y0 > y1:
        x0, y0, x1, y1, sign = x1, y1, x0, y0, -1.0
    slope = (x1 - x0) / (y1 - y0)
    for r in range(max(math.floor(y0), 0), min(math.ceil(y1), height)):
        top, bottom = max(y0, float(r)), min(y1, r + 1.0)
        a = min(max(x0 + (top - y0) * slope, 0.0), float(width))
        b = min(max(x0 + (bottom - y0) * slope, 0.0), float(width))
        left, right = min(a, b), max(a, b)
        first, last = math.floor(left), math.ceil(right)
        # Of a row's pixels the line covers no part left of it and all of those right of it.
        before = 0.0
        for c in range(first, max(last, first + 1)):
            if right - left < 1e-9:
                covered = c + 1.0 - left
            else:
                enter, leave = max(left, float(c)), min(right, c + 1.0)
                covered = (enter - left + (leave - enter) * (c + 1.0 - (enter + leave) / 2)) / (right - left)
            for k in range(len(step)):
                changes[r, c, k] += np.float32(sign * (bottom - top) * (covered - before) * step[k])
            before = covered
        rest = max(last, first + 1)
        if rest <= width:
            for k in range(len(step)):
                changes[r, rest, k] += np.float32(sign * (bottom - top) * (1.0 - before) * step[k])


@kernel("void(f8[:, ::1], i8[::1], f8[:, ::1], f4[:, :, ::1])")
def draw(points, start, steps, picture):
    """Draws all borders of a picture of areas into it (H, W+1, C), which is zero before and has a column to spare.

    points (N, 2), start (B+1,): lines; steps (B, C): colour on the left of each less that on its right.
    """
    for i in range(len(start) - 1):
        for k in range(start[i], start[i + 1] - 1):
            draw_line(picture, points[k, 0], points[k, 1], points[k + 1, 0], points[k + 1, 1], steps[i])
    for r in range(picture.shape[0]):
        for k in range(picture.shape[2]):
            total = 0.0
            for c in range(picture.shape[1]):
                total += picture[r, c, k]
                picture[r, c, k] = np.float32(total)
