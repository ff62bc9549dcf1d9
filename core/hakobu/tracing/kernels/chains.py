"""Chains between two colours, below the pixel: how much of each pixel is of the one colour and how much of the other is
summed across the border; then their corners, and the places that they meet in, put where they belong."""

from __future__ import annotations

import math

import numpy as np

from ...geometry.compiled import kernel
from .candidates import arm_px, candidates
from .corners import found_corners
from .edges import AROUND, FAR
from .planar import label_at
from .sides import rounded_px

#: As long as the way from an open chain's end back to its beginning, in pixels: nothing reaches over it.
OPEN = 1e6
#: A pixel that is off the mixtures of two colours by this share of what they differ by, and by so much of 255, is
#: of a third.
THIRD, THIRD_LEAST = 0.12, 8.0
#: Within so many cracks of a chain's end a third colour is that of another chain, and the place is left out; elsewhere
#: the border lies on the crack, as far as can be told.
BY_ENDS = 8


@kernel("f8(f4[:, :, ::1], u1[:, ::1], Array(f8, 2, 'C', readonly=True), i8, i8, i8, i8, f8)")
def share_of(picture, labels, colours, r, c, a, b, dead):
    """How much of a pixel is of colour a, the rest being b; -1 where it belongs to neither, -2 where it does to one of
    them and is no mixture of the two, since a third one comes in."""
    k = label_at(labels, r, c)
    if k != a and k != b:
        return -1.0
    dot = size = 0.0
    for j in range(3):
        d = colours[a, j] - colours[b, j]
        dot += (np.float64(picture[r, c, j]) - colours[b, j]) * d
        size += d * d
    v = dot / size if size > 0 else 0.5
    off = 0.0
    # Beside the line through both; darker or lighter than they are may be their own unevenness.
    for j in range(3):
        off += (picture[r, c, j] - colours[b, j] - v * (colours[a, j] - colours[b, j])) ** 2
    if off > max(THIRD * THIRD * size, THIRD_LEAST * THIRD_LEAST) and off > 25 * dead * dead * size:
        return -2.0
    if v < dead:
        return 0.0
    return 1.0 if v > 1 - dead else v


@kernel("f8(f4[:, :, ::1], u1[:, ::1], Array(f8, 2, 'C', readonly=True), i8, i8, i8, i8, i8, i8, f8)")
def border_across(picture, labels, colours, r, c, dr, dc, a, b, dead):
    """How far the border lies out from the crack of pixel r, c towards dr, dc; not a number where it cannot be told."""
    out = 0.0
    before = 2.0
    gap = False
    for k in range(1, FAR):
        v = share_of(picture, labels, colours, r + k * dr, c + k * dc, a, b, dead)
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
        v = share_of(picture, labels, colours, r - k * dr, c - k * dc, a, b, dead)
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
                v = share_of(picture, labels, colours, r + k * dr, c + k * dc, a, b, dead)
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
            return moment / total + (total / 2 if strip else -total / 2)
    return out - inn


@kernel(
    "Tuple((f8[:, ::1], i8[::1]))(f4[:, :, ::1], u1[:, ::1], Array(f8, 2, 'C', readonly=True),"
    " i4[::1], i4[::1], u1[::1], i8[::1], i8[:, ::1], f8)"
)
def chain_points(picture, labels, colours, rows, columns, ways, start, about, noise):
    """Points x, y (N, 2) along chains (C+1,) of cracks, the picture's corner at 0, 0. noise: of 255."""
    points, begin = np.empty((len(rows) + 2 * len(start), 2)), np.zeros(len(start), np.int64)
    m = 0
    for k in range(len(start) - 1):
        i0, n = start[k], start[k + 1] - start[k]
        a, b = about[k, 0], about[k, 1]
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
                off = border_across(picture, labels, colours, r, c, dr, 0, a, b, dead)
                if math.isnan(off) and (closed or min(i, n - 1 - i) > BY_ENDS):
                    off = 0.0
                points[m, 0] = c + 0.5
                points[m, 1] = r - off if dr < 0 else r + 1 + off
            else:
                dc = 1 if way == 1 else -1
                off = border_across(picture, labels, colours, r, c, 0, dc, a, b, dead)
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


@kernel(
    "Tuple((f8[:, ::1], i8[::1], b1[::1]))(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], i8[:, ::1],"
    " i8[:, ::1], f8[:, ::1], f8[::1], f8)"
)
def with_nodes(nothing, points, start, about, nodes, place, blurs, noise):
    """Chains again with their ends where chains meet, and corners put where they belong, marked; without the points
    that are not true about these. nodes (C, 2): the meeting places that each begins and ends at, -1 where it goes
    round. nothing: a picture of no use, which corners of chains do without."""
    total = len(points)
    out = np.empty((2 * total + 4 * len(start) + 64, 2))
    mark = np.zeros(len(out), np.bool_)
    begin = np.zeros(len(start), np.int64)
    arm, first, second = np.empty((160, 2)), np.empty(9), np.empty(9)
    levels = np.zeros(3)
    unknown = np.empty((0, 1))
    m = 0
    for k in range(len(start) - 1):
        own = points[start[k] : start[k + 1]]
        closed = nodes[k, 0] < 0
        blur = blurs[k]
        near_node = rounded_px(blur, noise)
        if not closed:
            x0, y0 = place[nodes[k, 0], 0], place[nodes[k, 0], 1]
            x1, y1 = place[nodes[k, 1], 0], place[nodes[k, 1], 1]
            low, high = 0, len(own)
            clear = near_node if about[k, 1] >= 0 else 0.3
            while low < high and math.hypot(own[low, 0] - x0, own[low, 1] - y0) < clear:
                low += 1
            while high > low and math.hypot(own[high - 1, 0] - x1, own[high - 1, 1] - y1) < clear:
                high -= 1
            own = own[low:high]
        n = len(own)
        count = 0
        run = np.zeros(n + 1)
        for i in range(n):
            j = i + 1 if i + 1 < n else 0
            run[i + 1] = run[i] + math.hypot(own[j, 0] - own[i, 0], own[j, 1] - own[i, 1])
        length = run[n] if n else 0.0
        if n and not closed:
            run[n] = run[n - 1] + OPEN
        at = np.empty(1, np.int64)
        place_of, free = np.empty((1, 2)), np.empty((1, 2))
        if n >= 6 and length > 5:
            marked = np.zeros(n, np.bool_)
            candidates(own, run, min(arm_px(blur, noise), length / 6), marked)
            some = np.flatnonzero(marked)
            at = np.empty(2 * len(some) + 2, np.int64)
            place_of, free = np.empty((len(at), 2)), np.empty((len(at), 2))
            count = found_corners(
                nothing, own, run, levels, 0.0, blur, noise, False, some, unknown, at, place_of, free, arm, first,
                second,
            )  # fmt: skip
            order = np.argsort(at[:count], kind="mergesort")
            at[:count], place_of[:count], free[:count] = at[:count][order], place_of[:count][order], free[:count][order]
            unlike = 0
            for a in range(count):
                if a == 0 or at[a] != at[unlike - 1]:
                    at[unlike] = at[a]
                    place_of[unlike], free[unlike] = place_of[a], free[a]
                    unlike += 1
            count = unlike
        before = m
        if not closed:
            out[m, 0], out[m, 1], mark[m] = x0, y0, True
            m += 1
        elif count == 0:
            out[m : m + n] = own
            m += n
        corners = count if closed else count + 1
        for a in range(corners):
            if closed and count == 0:
                break
            if closed:
                i, following = at[a], at[(a + 1) % count]
                gap = (run[following] - run[i]) if following > i else run[following] - run[i] + run[n]
                near, far = free[a, 1], gap - free[(a + 1) % count, 0]
                steps = following - i if following > i else following - i + n
            else:
                i = at[a - 1] if a > 0 else -1
                following = at[a] if a < count else n
                from_s = run[i] if i >= 0 else 0.0
                to_s = run[following] if following < n else run[max(n - 1, 0)]
                gap = to_s - from_s
                near = free[a - 1, 1] if a > 0 else -1.0
                far = gap - free[a, 0] if a < count else gap + 1.0
                steps = following - i
            if closed or a > 0:
                which = a if closed else a - 1
                out[m, 0], out[m, 1], mark[m] = place_of[which, 0], place_of[which, 1], True
                m += 1
            if near + gap - far > 0.8 * gap and near > 0 and far < gap:
                share = 0.8 * gap / (near + gap - far)
                near, far = near * share, gap - (gap - far) * share
            for step in range(1, steps):
                j = i + step
                if closed:
                    j %= n
                    along = run[j] - run[i]
                    along = along if along >= 0 else along + run[n]
                else:
                    along = run[j] - (run[i] if i >= 0 else 0.0)
                if near < along < far:
                    out[m] = own[j]
                    m += 1
        if not closed:
            out[m, 0], out[m, 1], mark[m] = x1, y1, True
            m += 1
        elif m - before < 3:
            mark[before:m] = False
            out[before : before + n] = own
            m = before + n
        begin[k + 1] = m
    return out[:m].copy(), begin, mark[:m].copy()
