"""Runs of ink in the rows of a picture, and the regions that they form: pixels that hang together by sides or corners.

Runs are joined row by row with union-find (Rosenfeld and Pfaltz 1966; on runs: He, Chao and Suzuki 2008). Nothing is
written for each pixel, so a large picture costs little more than reading it.
"""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel

#: Pixels that are looked at together where nothing changes.
STRIDE = 8


@kernel("i8(Array(f4, 2, 'C', readonly=True), f8, i8, i8, i8[::1])")
def count_runs(grey, limit, first, last, counts):
    """Runs of pixels below the limit in rows first to last, into counts (H,); how many in all."""
    width = grey.shape[1]
    limit = np.float32(limit)
    total = 0
    for r in range(first, last):
        row = grey[r]
        changes = 0
        for c in range(1, width):
            changes += (row[c] < limit) != (row[c - 1] < limit)
        runs = (changes + (row[0] < limit) + (row[width - 1] < limit)) // 2
        counts[r] = runs
        total += runs
    return total


@kernel("void(Array(f4, 2, 'C', readonly=True), f8, i8, i8, i8[::1], i4[::1], i4[::1])")
def find_runs(grey, limit, first, last, begin, left, right):
    """The first column of each run and the one after its last, at the places that begin (H+1,) gives each row."""
    width = grey.shape[1]
    limit = np.float32(limit)
    for r in range(first, last):
        row = grey[r]
        n, end = begin[r], begin[r + 1]
        if n == end:
            continue
        c = 0
        while n < end:
            # Most of a picture is even: eight pixels at a time.
            while c + STRIDE <= width:
                below = 0
                for k in range(STRIDE):
                    below += row[c + k] < limit
                if below:
                    break
                c += STRIDE
            while not row[c] < limit:
                c += 1
            left[n] = c
            while c + STRIDE <= width:
                below = 0
                for k in range(STRIDE):
                    below += row[c + k] < limit
                if below < STRIDE:
                    break
                c += STRIDE
            while c < width and row[c] < limit:
                c += 1
            right[n] = c
            n += 1


@kernel("i4(i4[::1], i4)")
def root(parent, i):
    while parent[i] != i:
        parent[i] = parent[parent[i]]
        i = parent[i]
    return i


@kernel("Tuple((i4[::1], i8))(i8[::1], i4[::1], i4[::1])")
def joined(begin, left, right):
    """The region of each run, from 0 on in the order of their first runs, and how many there are."""
    n = len(left)
    parent = np.empty(n, np.int32)
    for i in range(n):
        parent[i] = i
    for r in range(1, len(begin) - 1):
        i, j = begin[r - 1], begin[r]
        while i < begin[r] and j < begin[r + 1]:
            # Corners count: a run ends before the next one's first column or at it.
            if left[j] <= right[i] and left[i] <= right[j]:
                a, b = root(parent, np.int32(i)), root(parent, np.int32(j))
                if a < b:
                    parent[b] = a
                else:
                    parent[a] = b
            if right[i] < right[j]:
                i += 1
            else:
                j += 1
    region = np.empty(n, np.int32)
    count = 0
    for i in range(n):
        top = root(parent, np.int32(i))
        if top == i:
            region[i] = count
            count += 1
        else:
            region[i] = region[top]
    return region, count


@kernel("Tuple((i8[::1], i8[::1], f4[::1]))(Array(f4, 2, 'C', readonly=True), i8[::1], i4[::1], i4[::1], i4[::1], i8)")
def measured(grey, begin, left, right, region, count):
    """The area in pixels of each region, its darkest pixel as a raster index, the first of equals, and how dark."""
    width = grey.shape[1]
    area = np.zeros(count, np.int64)
    darkest = np.full(count, -1, np.int64)
    least = np.full(count, np.inf, np.float32)
    for r in range(len(begin) - 1):
        row = grey[r]
        for i in range(begin[r], begin[r + 1]):
            k = region[i]
            area[k] += right[i] - left[i]
            low = least[k]
            lowest = low
            for c in range(left[i], right[i]):
                lowest = min(lowest, row[c])
            if lowest < low:
                for c in range(left[i], right[i]):
                    if row[c] == lowest:
                        darkest[k] = r * width + c
                        break
                least[k] = lowest
    return area, darkest, least
