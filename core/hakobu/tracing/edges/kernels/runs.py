"""Runs of ink in the rows of a picture, and the regions that they form: pixels that hang together by sides or corners.

Runs are joined row by row with union-find (Rosenfeld and Pfaltz 1966; on runs: He, Chao and Suzuki 2008). Nothing is
written for each pixel, so a large picture costs little more than reading it.
"""

from __future__ import annotations

import numpy as np

from ....compiled import kernel

#: Pixels that are looked at together where nothing changes: as many as a byte counts, which is the fastest of sums.
BLOCK = 64


@kernel("i8(Array(f4, 1, 'C', readonly=True), f4, i4[::1], i4[::1], i8)")
def runs_of_row(row, limit, left, right, n):
    """Writes the runs of pixels below the limit in a row down from place n on: the first column of each and the one
    after its last; the next place."""
    width = len(row)
    whole = width // BLOCK
    inside = False
    for b in range(whole + 1):
        # Most of a picture is even: whole blocks are counted, which goes as fast as they can be read.
        if b < whole:
            below = np.uint8(0)
            for k in range(BLOCK):
                below = np.uint8(below + np.uint8(row[b * BLOCK + k] < limit))
            if below == (BLOCK if inside else 0):
                continue
            # In nearly all others it changes once: so many are below, and no others add up to the sum of their places.
            places = np.int32(0)
            for k in range(BLOCK):
                places = np.int32(places + np.int32(k) * np.int32(row[b * BLOCK + k] < limit))
            dark = np.int64(below)
            if inside and 2 * places == dark * (dark - 1):
                right[n] = b * BLOCK + dark
                n += 1
                inside = False
                continue
            if not inside and 2 * places == dark * (2 * BLOCK - 1 - dark):
                left[n] = (b + 1) * BLOCK - dark
                inside = True
                continue
        for c in range(b * BLOCK, min((b + 1) * BLOCK, width)):
            if (row[c] < limit) != inside:
                if inside:
                    right[n] = c
                    n += 1
                else:
                    left[n] = c
                inside = not inside
    if inside:
        right[n] = width
        n += 1
    return n


@kernel("i4(Array(i4, 1, 'C', readonly=True))")
def least_bits(own):
    """The bits of the least of some numbers, float32, in their bits: those of numbers from 0 on are in the numbers' own
    order, which is the fastest to look at; those of numbers below are in the opposite one."""
    least = np.int32(0x7FFFFFFF)
    for k in range(len(own)):
        least = min(least, own[k])
    if least < 0:
        for k in range(len(own)):
            if own[k] < 0:
                least = max(least, own[k])
    return least


@kernel("i8(Array(f4, 1, 'C', readonly=True), f4, i4[:, ::1], i8)")
def runs_with_least(row, limit, runs, n):
    """The same into runs (3, N), with the bits of the darkest pixel of each; the next place."""
    first = n
    n = runs_of_row(row, limit, runs[0], runs[1], n)
    bits = row.view(np.int32)
    for i in range(first, n):
        runs[2, i] = least_bits(bits[runs[0, i] : runs[1, i]])
    return n


@kernel("i4[:, ::1](i4[:, ::1], i8, i8)")
def with_room(runs, n, width):
    """Runs (3, N) with room for those of one more row after the first n."""
    if runs.shape[1] >= n + width // 2 + 1:
        return runs
    more = np.empty((3, 2 * runs.shape[1] + width), np.int32)
    more[:, :n] = runs[:, :n]
    return more


@kernel("Tuple((i8[::1], i4[:, ::1]))(Array(f4, 2, 'C', readonly=True), f8, i8, i8)")
def find_runs(grey, limit, first, last):
    """Runs of pixels below the limit in rows from first to before last: how many each row has; and of each the first
    column, the one after its last, and the bits of its darkest pixel, float32 (3, N)."""
    counts, runs = np.zeros(last - first, np.int64), np.empty((3, 1024), np.int32)
    n = 0
    for r in range(first, last):
        before = n
        runs = with_room(runs, n, grey.shape[1])
        n = runs_with_least(grey[r], np.float32(limit), runs, n)
        counts[r - first] = n - before
    return counts, runs[:, :n].copy()


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


@kernel(
    "Tuple((i8[::1], i8[::1], f4[::1]))(Array(f4, 2, 'C', readonly=True), i8[::1], i4[::1], i4[::1], f4[::1], i4[::1],"
    " i8)"
)
def measure_regions(grey, begin, left, right, least, region, count):
    """Of each region: its area in pixels, its darkest pixel as a raster index, the first of equals, and how dark that
    is. least: of each run."""
    width = grey.shape[1]
    area, darkest = np.zeros(count, np.int64), np.empty(count, np.int64)
    low, run, row = np.full(count, np.inf, np.float32), np.zeros(count, np.int64), np.zeros(count, np.int64)
    for r in range(len(begin) - 1):
        for i in range(begin[r], begin[r + 1]):
            k = region[i]
            area[k] += right[i] - left[i]
            if least[i] < low[k]:
                low[k], run[k], row[k] = least[i], i, r
    for k in range(count):
        c = np.int64(left[run[k]])
        while grey[row[k], c] != low[k]:
            c += 1
        darkest[k] = row[k] * width + c
    return area, darkest, low
