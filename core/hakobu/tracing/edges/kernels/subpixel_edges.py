"""Where edges lie below the pixel: by summing how much of each pixel is ink, across the edge.

A pixel's grey tells how much of it is covered. Summed over a column of pixels across an edge that runs along the row,
the coverage is the mean height of the edge over that column, however it lies between the pixels, and a blur that is
even to both sides changes nothing. A strip so thin that no pixel is wholly ink has its width and its middle in that
sum.
"""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from .prefetch import ask_for

#: Cracks to each side that tell which way the edge runs.
AROUND = 4
#: Pixels looked at to each side of a crack, at most.
FAR = 12
#: An edge lies no farther from its crack than this, in pixels: what says so has something else beside it.
OFF = 1.1
#: How near to a pixel's middle a line may come, in pixels.
ASIDE = 0.02
#: A point goes on from the one before by this share of what their cracks do, at least.
ONWARD = 0.1
#: So many cracks before it is looked at, what lies across one is asked for.
EARLY = 12
#: What a point is: across an edge, across a thin strip of ink, across a thin gap, on the picture's own rim.
EDGE, STRIP, GAP, RIM = 0, 1, 2, 3


@kernel("f8(f8, f8, f8, f8)")
def covered(grey, limit, black, white):
    """How much of a pixel is ink: 1 where black, 0 where white, a half at the limit, straight in between."""
    if grey < limit:
        return min(0.5 + 0.5 * (limit - grey) / (limit - black), 1.0) if limit > black else 1.0
    return max(0.5 - 0.5 * (grey - limit) / (white - limit), 0.0) if white > limit else 0.0


@kernel("f8(Array(f4, 2, 'C', readonly=True), i8, i8, f8, f8, f8, f8)")
def at(grey, r, c, limit, black, white, dead):
    """The coverage of a pixel; 0 outside the picture. What is within `dead` of none or all is noise."""
    if r < 0 or c < 0 or r >= grey.shape[0] or c >= grey.shape[1]:
        return 0.0
    v = covered(np.float64(grey[r, c]), limit, black, white)
    if v < dead:
        return 0.0
    return 1.0 if v > 1 - dead else v


@kernel("f8(Array(f4, 1, 'C', readonly=True), i8, i8, i8, i8, f8, f8, f8, f8)")
def beyond(flat, place, step, k, room, limit, dark, light, dead):
    """The coverage of the pixel k steps on from a place, as `at` has it; room: how many there are. dark, light: half of
    what one is divided by from the limit on to black and to white: to multiply is faster."""
    if k > room:
        return 0.0
    off = limit - np.float64(flat[np.uint64(place + k * step)])
    v = 0.5 + off * (dark if off > 0 else light)
    if v <= dead:
        return 0.0
    return 1.0 if v >= 1 - dead else v


@kernel("Tuple((f8, i8, f8))(Array(f4, 1, 'C', readonly=True), i8, i8, i8, i8, f8, f8, f8, f8)")
def across(flat, place, step, ahead, behind, limit, dark, light, dead):
    """How far the edge lies out from the crack between a pixel and the one a step on; what it is the edge of; and the
    sum of coverage times what is missing to the full, which grows with the blur. ahead, behind: how many pixels there
    are on either side."""
    out, soft = 0.0, 0.0
    before = 2.0
    gap = -1
    for k in range(1, FAR):
        v = beyond(flat, place, step, k, ahead, limit, dark, light, dead)
        if v > before + dead and v > 0.5:
            gap = k
            break
        if v > before + dead:
            # Some faint thing beyond; the edge itself ends here.
            break
        out += v
        soft += v * (1 - v)
        if v == 0:
            break
        before = v
    inn = 0.0
    before = -1.0
    strip = -1
    for k in range(FAR):
        v = beyond(flat, place, -step, k, behind, limit, dark, light, dead)
        if v < before - dead and v < 0.5:
            strip = k
            break
        if v < before - dead:
            break
        inn += 1 - v
        soft += v * (1 - v)
        if v == 1:
            break
        before = v
    if strip >= 0 and gap < 0:
        # All the ink across the strip, and its middle, seen from the crack.
        total, moment = 0.0, 0.0
        for k in range(1, FAR):
            v = beyond(flat, place, step, k, ahead, limit, dark, light, dead)
            if v == 0:
                break
            total += v
            moment += v * (k - 0.5)
        before = 0.0
        falling = False
        for k in range(2 * FAR):
            v = beyond(flat, place, -step, k, behind, limit, dark, light, dead)
            if v < before - dead:
                falling = True
            if v == 0 or (falling and v > before + dead):
                break
            total += v
            moment -= v * (k + 0.5)
            before = v
        return moment / total + total / 2, STRIP, soft
    if gap >= 0 and strip < 0:
        total, moment = 0.0, 0.0
        for k in range(FAR):
            v = 1 - beyond(flat, place, -step, k, behind, limit, dark, light, dead)
            if v == 0:
                break
            total += v
            moment -= v * (k + 0.5)
        before = 0.0
        falling = False
        for k in range(1, 2 * FAR):
            v = 1 - beyond(flat, place, step, k, ahead, limit, dark, light, dead)
            if v < before - dead:
                falling = True
            if v == 0 or (falling and v > before + dead):
                break
            total += v
            moment += v * (k - 0.5)
            before = v
        return moment / total - total / 2, GAP, soft
    return out - inn, EDGE, soft


@kernel("f8(Array(f4, 2, 'C', readonly=True), i8, i8, i8, i8, f8)")
def halfway(grey, r, c, dr, dc, limit):
    """How far out from the crack of pixel r, c the grey passes the limit, taken as straight between the two pixels."""
    y, x = r + dr, c + dc
    if y < 0 or x < 0 or y >= grey.shape[0] or x >= grey.shape[1]:
        return 0.0
    inside, outside = np.float64(grey[r, c]), np.float64(grey[y, x])
    share = (limit - inside) / (outside - inside) if outside != inside else 0.5
    # Not on a pixel's middle, which other outlines may touch as well.
    return min(max(share, ASIDE), 1 - ASIDE) - 0.5


@kernel("Tuple((f8, f8))(Array(f4, 2, 'C', readonly=True), i8, i8, i8, f8)")
def halfway_point(grey, r, c, way, limit):
    """The point across the crack of a pixel where the grey passes the limit."""
    dr = (-1 if way == 0 else 1) if way % 2 == 0 else 0
    dc = (1 if way == 1 else -1) if way % 2 == 1 else 0
    off = 0.5 + halfway(grey, r, c, dr, dc, limit)
    return c + 0.5 + dc * off, r + 0.5 + dr * off


@kernel("void(Array(f4, 2, 'C', readonly=True), i4[::1], i4[::1], u1[::1], f8, f8[:, ::1], i8[::1], i8, i8)")
def in_order(grey, rows, columns, ways, limit, points, of, first, last):
    """Points of one outline that do not go on as their cracks do have something beside them: they are put where the
    grey passes the limit instead. of: the crack of each."""
    n = last - first
    if n < 3:
        return
    back = np.zeros(n, np.bool_)
    for i in range(n):
        j = i + 1 if i + 1 < n else 0
        a, b = of[first + i], of[first + j]
        # From the middle of one crack to that of the other.
        ux, uy = float(columns[b] - columns[a]), float(rows[b] - rows[a])
        for k in range(2):
            way, sign = (ways[b], 0.5) if k == 0 else (ways[a], -0.5)
            if way % 2 == 0:
                uy += sign * (-1 if way == 0 else 1)
            else:
                ux += sign * (1 if way == 1 else -1)
        vx, vy = points[first + j, 0] - points[first + i, 0], points[first + j, 1] - points[first + i, 1]
        if ux * vx + uy * vy < ONWARD * (ux * ux + uy * uy):
            back[i] = back[j] = True
    for i in range(n):
        if back[i]:
            k = of[first + i]
            x, y = halfway_point(grey, np.int64(rows[k]), np.int64(columns[k]), np.int64(ways[k]), limit)
            points[first + i, 0], points[first + i, 1] = x, y


@kernel("f8[:, ::1](Array(f4, 2, 'C', readonly=True), i4[::1], i4[::1], u1[::1], i8[::1], f8[::1])")
def halfway_points(grey, rows, columns, ways, start, limits):
    """For each crack of outlines (K+1,) the point across it where the grey passes the outline's limit (N, 2): marching
    squares, with the ink joined in ambiguous cells (Lorensen and Cline 1987, in two dimensions)."""
    points = np.empty((len(rows), 2))
    for k in range(len(start) - 1):
        for i in range(start[k], start[k + 1]):
            x, y = halfway_point(grey, np.int64(rows[i]), np.int64(columns[i]), np.int64(ways[i]), limits[k])
            points[i, 0], points[i, 1] = x, y
    return points


@kernel(
    "Tuple((f8[:, ::1], i8[::1], u1[::1], f8, i8))(Array(f4, 2, 'C', readonly=True), i4[::1], i4[::1], u1[::1],"
    " i8[::1], f8[:, ::1], f8)"
)
def place_edges(grey, rows, columns, ways, start, levels, dead):
    """Points x, y (N, 2) of outlines (K+1,) of cracks, the picture's corner at 0, 0; what each is; the sum of softness
    over edges, and over how many. levels (K, 3): limit, black and white of each."""
    total = len(rows)
    points, what, begin = np.empty((total, 2)), np.zeros(total, np.uint8), np.zeros(len(start), np.int64)
    of = np.empty(total, np.int64)
    height, width = grey.shape
    pixels = grey.reshape(-1)
    soft, straight = 0.0, 0
    m = 0
    for k in range(len(start) - 1):
        a, n = start[k], start[k + 1] - start[k]
        limit = levels[k, 0]
        dark, light = 0.5 / max(limit - levels[k, 1], 1e-9), 0.5 / max(levels[k, 2] - limit, 1e-9)
        first = m
        reach = min(AROUND, (n - 1) // 2)
        level = 0
        for j in range(-reach, reach + 1):
            level += 1 - (ways[a + j % n] & 1)
        for i in range(n):
            if i + EARLY < n:
                ask_for(pixels, width, rows[a + i + EARLY], columns[a + i + EARLY], ways[a + i + EARLY])
            if i > 0:
                fore, back = i + reach, i - reach - 1
                fore, back = fore - n if fore >= n else fore, back + n if back < 0 else back
                level += np.int64(ways[a + back] & 1) - np.int64(ways[a + fore] & 1)
            way = np.int64(ways[a + i])
            flat = way & 1 == 0
            if flat != (2 * level > 2 * reach + 1):
                continue
            r, c = np.int64(rows[a + i]), np.int64(columns[a + i])
            place = r * width + c
            if flat:
                up = way == 0
                ahead, behind = (r, height - 1 - r) if up else (height - 1 - r, r)
                step = -width if up else width
                off, kind, q = across(pixels, place, step, ahead, behind, limit, dark, light, dead)
                if abs(off) > OFF:
                    off = halfway(grey, r, c, -1 if up else 1, 0, limit)
                points[m, 0] = c + 0.5
                points[m, 1] = r - off if up else r + 1 + off
            else:
                left = way != 1
                ahead, behind = (c, width - 1 - c) if left else (width - 1 - c, c)
                off, kind, q = across(pixels, place, -1 if left else 1, ahead, behind, limit, dark, light, dead)
                if abs(off) > OFF:
                    off = halfway(grey, r, c, 0, -1 if left else 1, limit)
                points[m, 0] = c - off if left else c + 1 + off
                points[m, 1] = r + 0.5
            if ahead == 0:
                kind = RIM
            what[m] = kind
            of[m] = a + i
            m += 1
            if kind == EDGE:
                # Across an edge that runs aslant the sum is that much longer.
                most, least = max(level, 2 * reach + 1 - level), min(level, 2 * reach + 1 - level)
                soft += q * most / length(most, least)
                straight += 1
        in_order(grey, rows, columns, ways, limit, points, of, first, m)
        if m - begin[k] < 3:
            # Too small for a side: its cracks as they are.
            m = begin[k]
            for i in range(n):
                way = ways[a + i]
                points[m, 0] = columns[a + i] + (0.5 if way % 2 == 0 else (1.0 if way == 1 else 0.0))
                points[m, 1] = rows[a + i] + (0.5 if way % 2 == 1 else (1.0 if way == 2 else 0.0))
                m += 1
        begin[k + 1] = m
    return points[:m].copy(), begin, what[:m].copy(), soft, straight
