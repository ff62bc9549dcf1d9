"""How dark ink and ground are on both sides of edges, some pixels off them."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel

#: Places along an outline at which its levels are looked at, at most.
LOOKS = 64


@kernel("Tuple((f8, i8, f8))(Array(f4, 2, 'C', readonly=True), i8, i8, i8, i8, f8, b1, i8)")
def plateau(grey, r, c, dr, dc, limit, ink, far):
    """How dark it is some pixels off an edge, from its pixel r, c on towards dr, dc; 1 where that is known, 0 where
    what is there is too thin; and how much two pixels differ there."""
    height, width = grey.shape
    best, where, previous = 0.0, -1, 0.0
    k = 0
    while k <= far + 1:
        y, x = r + k * dr, c + k * dc
        if y < 0 or x < 0 or y >= height or x >= width:
            break
        v = np.float64(grey[y, x])
        if (v < limit) != ink:
            break
        if where < 0 or (v < best if ink else v > best):
            best, where = v, k
        if k == far + 1:
            return previous, 1, abs(v - previous)
        previous = v
        k += 1
    if where < 0:
        return 0.0, -1, 0.0
    # The darkest pixel of something thin: known where its neighbour is as dark.
    for step in (-1, 1):
        y, x = r + (where + step) * dr, c + (where + step) * dc
        if 0 <= where + step < k and abs(np.float64(grey[y, x]) - best) < 0.1 * abs(best - limit):
            return best, 1, -1.0
    return best, 0, -1.0


@kernel(
    "Tuple((f8[:, ::1], f8[::1], i8))(Array(f4, 2, 'C', readonly=True), i4[::1], i4[::1], u1[::1], i8[::1], f8, i8)"
)
def edge_levels(grey, rows, columns, ways, start, limit, far):
    """How dark it is inside and outside each outline (K, 4), each with the share of places where that is known; and how
    much pixels off its edges differ from their neighbours, in no order."""
    count = len(start) - 1
    found = np.zeros((count, 4))
    differ = np.empty(2 * LOOKS * count)
    seen = 0
    values = np.empty((2, LOOKS))
    for k in range(count):
        a, n = start[k], start[k + 1] - start[k]
        looks = min(n, LOOKS)
        many, known = np.zeros(2, np.int64), np.zeros(2, np.int64)
        for look in range(looks):
            i = a + look * n // looks
            r, c, way = np.int64(rows[i]), np.int64(columns[i]), ways[i]
            dr = (-1 if way == 0 else 1) if way % 2 == 0 else 0
            dc = (1 if way == 1 else -1) if way % 2 == 1 else 0
            for out in range(2):
                sign = 1 if out else -1
                v, sure, off = plateau(grey, r + out * dr, c + out * dc, sign * dr, sign * dc, limit, out == 0, far)
                if sure < 0:
                    continue
                values[out, many[out]] = v
                many[out] += 1
                known[out] += sure
                if off >= 0:
                    differ[seen] = off
                    seen += 1
        for out in range(2):
            if many[out] == 0:
                continue
            own = np.sort(values[out, : many[out]])
            # Where it is thin, the darkest places tell.
            share = 0.5 if 2 * known[out] > many[out] else (0.1 if out == 0 else 0.9)
            found[k, 2 * out] = own[int(share * (many[out] - 1))]
            found[k, 2 * out + 1] = known[out] / many[out]
    return found, differ[:seen].copy(), seen
