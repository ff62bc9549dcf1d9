"""Chains between two colours, below the pixel: how much of each pixel is of the one colour and how much of the other is
summed across the border."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ...edges.kernels.subpixel_edges import AROUND, FAR
from .planar_map import label_at

#: A pixel that is off the mixtures of two colours by this share of what they differ by, and by so much of 255, is
#: of a third.
THIRD, THIRD_LEAST = 0.12, 8.0
#: Within so many cracks of a chain's end a third colour is that of another chain, and the place is left out; elsewhere
#: the border lies on the crack, as far as can be told.
BY_ENDS = 8
#: A border lies no farther from its crack, in pixels: otherwise something else was summed.
FARTHEST = 2.5
#: How far from a border's cracks the colours of its sides are seen, in pixels; and how many pixels' worth the palette
#: knows of them.
NEAREST, AWAY = 3, 6
KNOWN = 12


@kernel("f8(f4[:, :, ::1], u1[:, ::1], f8[:, ::1], i8, i8, i8, i8, f8, b1)")
def share_of(picture, labels, pair, r, c, a, b, dead, gentle):
    """How much of a pixel is of colour a, the rest being b; -1 where it belongs to neither, -2 where it does to one of
    them and is no mixture of the two, since a third one comes in."""
    k = label_at(labels, r, c)
    if k != a and k != b:
        return -1.0
    dot = size = 0.0
    for j in range(3):
        d = pair[0, j] - pair[1, j]
        dot += (np.float64(picture[r, c, j]) - pair[1, j]) * d
        size += d * d
    v = dot / size if size > 0 else 0.5
    off = 0.0
    # Beside the line through both; darker or lighter than they are may be their own unevenness.
    for j in range(3):
        off += (picture[r, c, j] - pair[1, j] - v * (pair[0, j] - pair[1, j])) ** 2
    if not gentle and off > max(THIRD * THIRD * size, THIRD_LEAST * THIRD_LEAST) and off > 25 * dead * dead * size:
        return -2.0
    if v < dead:
        return 0.0
    return 1.0 if v > 1 - dead else v


@kernel("f8(f4[:, :, ::1], u1[:, ::1], f8[:, ::1], i8, i8, i8, i8, i8, i8, f8, b1)")
def border_across(picture, labels, pair, r, c, dr, dc, a, b, dead, gentle):
    """How far the border lies out from the crack of pixel r, c towards dr, dc; not a number where it cannot be told."""
    out = 0.0
    before = 2.0
    gap = False
    for k in range(1, FAR):
        v = share_of(picture, labels, pair, r + k * dr, c + k * dc, a, b, dead, gentle)
        if v == -2:
            return np.nan
        if v < 0:
            break
        if v > before + dead:
            gap = v > 0.5
            break
        out += v
        if v == 0:
            break
        before = v
    inn = 0.0
    before = -1.0
    strip = False
    for k in range(FAR):
        v = share_of(picture, labels, pair, r - k * dr, c - k * dc, a, b, dead, gentle)
        if v == -2:
            return np.nan
        if v < 0:
            break
        if v < before - dead:
            strip = v < 0.5
            break
        inn += 1 - v
        if v == 1:
            break
        before = v
    if strip != gap:
        # Something thin: all of it across, and its middle.
        total, moment = 0.0, 0.0
        for step in (1, -1):
            falling, before = False, 0.0
            # The crack lies between pixel 0 and pixel 1.
            k = 1 if step > 0 else 0
            while abs(k) < 2 * FAR:
                v = share_of(picture, labels, pair, r + k * dr, c + k * dc, a, b, dead, gentle)
                if v < 0:
                    break
                v = v if strip else 1 - v
                falling = falling or v < before - dead
                if v == 0 or (falling and v > before + dead):
                    break
                total += v
                moment += v * (k - 0.5)
                before = v
                k += step
        if total > 0:
            off = moment / total + (total / 2 if strip else -total / 2)
            return off if abs(off) < FARTHEST else np.nan
    return out - inn if abs(out - inn) < FARTHEST else np.nan


@kernel("void(f4[:, :, ::1], u1[:, ::1], i4[::1], i4[::1], u1[::1], i8, i8, f8[:, ::1])")
def own_colours(picture, labels, rows, columns, ways, a, b, pair):
    """The colours of a chain's sides a and b (2, 3), moved to what they are some way from its cracks: compression
    shifts them there, and what is a small share of a step adds up across it."""
    sums, count = np.zeros((2, 3)), np.zeros(2)
    for i in range(len(rows)):
        way = ways[i]
        dr = -1 if way == 0 else (1 if way == 2 else 0)
        dc = 1 if way == 1 else (-1 if way == 3 else 0)
        for side in range(2):
            k = a if side == 0 else b
            for step in range(NEAREST, AWAY):
                s = step if side == 1 else 1 - step
                y, x = rows[i] + s * dr, columns[i] + s * dc
                if label_at(labels, y, x) != k:
                    break
                for j in range(3):
                    sums[side, j] += picture[y, x, j]
                count[side] += 1
    for side in range(2):
        for j in range(3):
            pair[side, j] = (KNOWN * pair[side, j] + sums[side, j]) / (KNOWN + count[side])


@kernel(
    "Tuple((f8[:, ::1], i8[::1]))(f4[:, :, ::1], u1[:, ::1], Array(f8, 2, 'C', readonly=True),"
    " i4[::1], i4[::1], u1[::1], i8[::1], i8[:, ::1], f8, b1)"
)
def chain_points(picture, labels, colours, rows, columns, ways, start, about, noise, gentle):
    """Points x, y (N, 2) along chains (C+1,) of cracks, the picture's corner at 0, 0. noise: of 255. gentle: whether
    colour steps more gently than brightness, so that a pixel may lie beside all mixtures of its two sides."""
    points, begin = np.empty((len(rows) + 2 * len(start), 2)), np.zeros(len(start), np.int64)
    m = 0
    pair = np.empty((2, 3))
    for k in range(len(start) - 1):
        i0, n = start[k], start[k + 1] - start[k]
        a, b = about[k, 0], about[k, 1]
        if b >= 0:
            pair[0], pair[1] = colours[a], colours[b]
        if gentle and b >= 0:
            own_colours(picture, labels, rows[i0 : i0 + n], columns[i0 : i0 + n], ways[i0 : i0 + n], a, b, pair)
        closed = about[k, 2] < 0
        dead = 0.02
        if b >= 0:
            contrast = 0.0
            for j in range(3):
                contrast += (colours[a, j] - colours[b, j]) ** 2
            dead = min(max(2.0 * noise / max(math.sqrt(contrast), 1.0), 0.01), 0.15)
        for i in range(n):
            way = ways[i0 + i]
            flat = way % 2 == 0
            r, c = np.int64(rows[i0 + i]), np.int64(columns[i0 + i])
            if b < 0:
                # The picture's own edge is exact.
                points[m, 0] = c + (0.5 if flat else (1.0 if way == 1 else 0.0))
                points[m, 1] = r + (0.5 if not flat else (1.0 if way == 2 else 0.0))
                m += 1
                continue
            level = many = 0
            for j in range(-AROUND, AROUND + 1):
                if closed or 0 <= i + j < n:
                    level += 1 - ways[i0 + (i + j) % n] % 2
                    many += 1
            if flat != (2 * level > many or (2 * level == many and flat)):
                continue
            if flat:
                dr = -1 if way == 0 else 1
                off = border_across(picture, labels, pair, r, c, dr, 0, a, b, dead, gentle)
                if math.isnan(off) and (closed or min(i, n - 1 - i) > BY_ENDS):
                    off = 0.0
                points[m, 0] = c + 0.5
                points[m, 1] = r - off if dr < 0 else r + 1 + off
            else:
                dc = 1 if way == 1 else -1
                off = border_across(picture, labels, pair, r, c, 0, dc, a, b, dead, gentle)
                if math.isnan(off) and (closed or min(i, n - 1 - i) > BY_ENDS):
                    off = 0.0
                points[m, 0] = c - off if dc < 0 else c + 1 + off
                points[m, 1] = r + 0.5
            m += 0 if math.isnan(off) else 1
        if closed and m - begin[k] < 3:
            m = begin[k]
            for i in range(n):
                way = ways[i0 + i]
                points[m, 0] = columns[i0 + i] + (0.5 if way % 2 == 0 else (1.0 if way == 1 else 0.0))
                points[m, 1] = rows[i0 + i] + (0.5 if way % 2 == 1 else (1.0 if way == 2 else 0.0))
                m += 1
        begin[k + 1] = m
    return points[:m].copy(), begin
