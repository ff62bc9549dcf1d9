"""Outlines of regions as chains of cracks: the sides of pixels between ink and ground, followed with the ink on the
right, outline by outline (Suzuki and Abe 1985), ink joined at corners."""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel

#: Ways along cracks: east along the top of a pixel, south along its right side, west, north.
EAST, SOUTH, WEST, NORTH = 0, 1, 2, 3


@kernel("i8(i4[::1], i8, i8, i4)")
def run_at(left, low, high, column):
    """The run that begins at a column, of those from low on up to high."""
    while high - low > 1:
        middle = (low + high) // 2
        if left[middle] <= column:
            low = middle
        else:
            high = middle
    return low


@kernel(
    "Tuple((i4[::1], i4[::1], u1[::1], i8[::1], i4[::1], f8[::1]))"
    "(Array(f4, 2, 'C', readonly=True), f8, i8[::1], i4[::1], i4[::1], i4[::1], b1[::1])"
)
def follow(grey, limit, begin, left, right, region, kept):
    """Of each crack of the regions that are kept: row and column of its pixel of ink, and its way (N,); then start
    (K+1,), the region of each outline and its signed area in square pixels, positive round ink, negative round a hole.
    """
    height, width = grey.shape
    limit = np.float32(limit)
    room = 0
    for r in range(height):
        for i in range(begin[r], begin[r + 1]):
            if kept[region[i]]:
                room += 2 + 2 * (right[i] - left[i])
    # Of the upper and lower sides of runs most lie inside ink: room grows where it is needed.
    room = min(room, 4096 + 8 * len(left))
    rows, columns, ways = np.empty(room, np.int32), np.empty(room, np.int32), np.empty(room, np.uint8)
    start, owner, areas = np.zeros(256, np.int64), np.empty(256, np.int32), np.empty(256, np.float64)
    seen = np.zeros(len(left), np.bool_)
    ahead_r = np.array([0, 1, 0, -1])
    ahead_c = np.array([1, 0, -1, 0])
    n, k = 0, 0
    for r0 in range(height):
        for i0 in range(begin[r0], begin[r0 + 1]):
            if seen[i0] or not kept[region[i0]]:
                continue
            # Every outline goes north along the left side of some run.
            r, c, d = r0, np.int64(left[i0]), NORTH
            area = 0
            while True:
                if d == NORTH:
                    i = run_at(left, begin[r], begin[r + 1], np.int32(c))
                    if seen[i]:
                        break
                    seen[i] = True
                    area -= c
                elif d == SOUTH:
                    area += c + 1
                if n == len(rows):
                    more = 2 * n
                    rows = np.concatenate((rows, np.empty(more - n, np.int32)))
                    columns = np.concatenate((columns, np.empty(more - n, np.int32)))
                    ways = np.concatenate((ways, np.empty(more - n, np.uint8)))
                rows[n], columns[n], ways[n] = r, c, d
                n += 1
                aside = (d + 3) % 4
                fr, fc = r + ahead_r[d], c + ahead_c[d]
                ar, ac = fr + ahead_r[aside], fc + ahead_c[aside]
                if 0 <= ar < height and 0 <= ac < width and grey[ar, ac] < limit:
                    r, c, d = ar, ac, aside
                elif 0 <= fr < height and 0 <= fc < width and grey[fr, fc] < limit:
                    r, c = fr, fc
                else:
                    d = (d + 1) % 4
            if k + 1 == len(start):
                start = np.concatenate((start, np.zeros(len(start), np.int64)))
                owner = np.concatenate((owner, np.empty(len(owner), np.int32)))
                areas = np.concatenate((areas, np.empty(len(areas), np.float64)))
            owner[k], areas[k] = region[i0], area
            k += 1
            start[k] = n
    return (
        rows[:n].copy(),
        columns[:n].copy(),
        ways[:n].copy(),
        start[: k + 1].copy(),
        owner[:k].copy(),
        areas[:k].copy(),
    )
