"""Outlines of regions as chains of cracks: the sides of pixels between ink and ground, followed with the ink on the
right, outline by outline (Suzuki and Abe 1985), ink joined at corners."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel

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


@kernel("b1(i8[::1], i4[::1], i4[::1], i8, i8)")
def is_ink(begin, left, right, row, column):
    """Whether a pixel is in a run of its row: runs are few, and near at hand where the picture's pixels are not."""
    if row < 0 or row + 1 >= len(begin) or begin[row] == begin[row + 1]:
        return False
    i = run_at(left, begin[row], begin[row + 1], np.int32(column))
    return left[i] <= column < right[i]


@kernel("UniTuple(i8, 2)(i8[::1], i4[::1], i4[::1], i4[::1], b1[::1])")
def count_of(begin, left, right, region, kept):
    """How many cracks there are round the regions that are kept, and how many runs they have."""
    cracks, runs = 0, 0
    for r in range(len(begin) - 1):
        i = begin[r - 1] if r else begin[r]
        for j in range(begin[r], begin[r + 1]):
            if not kept[region[j]]:
                continue
            runs += 1
            # Both ends, and the upper and the lower side but where they lie on the row above.
            cracks += 2 + 2 * (right[j] - left[j])
            while i < begin[r] and right[i] <= left[j]:
                i += 1
            m = i
            while m < begin[r] and left[m] < right[j]:
                cracks -= 2 * (min(right[m], right[j]) - max(left[m], left[j]))
                m += 1
    return cracks, runs


@kernel("Tuple((i4[::1], i4[::1], u1[::1], i8[::1], i4[::1], f8[::1]))(i8[::1], i4[::1], i4[::1], i4[::1], b1[::1])")
def follow(begin, left, right, region, kept):
    """Of each crack of the regions that are kept: row and column of its pixel of ink, and its way (N,); then start
    (K+1,), the region of each outline and its signed area in square pixels, positive round ink, negative round a hole.
    """
    room, most = count_of(begin, left, right, region, kept)
    rows, columns, ways = np.empty(room, np.int32), np.empty(room, np.int32), np.empty(room, np.uint8)
    start, owner, areas = np.zeros(most + 1, np.int64), np.empty(most, np.int32), np.empty(most, np.float64)
    seen = np.zeros(len(left), np.bool_)
    ahead_r = np.array([0, 1, 0, -1])
    ahead_c = np.array([1, 0, -1, 0])
    n, k = 0, 0
    for r0 in range(len(begin) - 1):
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
                rows[n], columns[n], ways[n] = r, c, d
                n += 1
                aside = (d + 3) & 3
                fr, fc = r + ahead_r[d], c + ahead_c[d]
                ar, ac = fr + ahead_r[aside], fc + ahead_c[aside]
                if is_ink(begin, left, right, ar, ac):
                    r, c, d = ar, ac, aside
                elif is_ink(begin, left, right, fr, fc):
                    r, c = fr, fc
                else:
                    d = (d + 1) & 3
            owner[k], areas[k] = region[i0], area
            k += 1
            start[k] = n
    return rows, columns, ways, start[: k + 1].copy(), owner[:k].copy(), areas[:k].copy()
