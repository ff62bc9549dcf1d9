"""Runs of ink in the rows of a picture, and the regions that they form: pixels that hang together by sides or corners.

Runs are joined row by row with union-find (Rosenfeld and Pfaltz 1966; on runs: He, Chao and Suzuki 2008). Nothing is
written for each pixel, so a large picture costs little more than reading it.
"""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel

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


@kernel("UniTuple(i4[::1], 2)(i4[::1], i4[::1], i8, i8)")
def with_room(left, right, n, width):
    """Both with room for the runs of one more row after the first n."""
    if len(left) >= n + width // 2 + 1:
        return left, right
    more = np.empty(len(left) + width, np.int32)
    return np.concatenate((left, more)), np.concatenate((right, more))


@kernel("Tuple((i8[::1], i4[::1], i4[::1]))(Array(f4, 2, 'C', readonly=True), f8, i8, i8)")
def find_runs(grey, limit, first, last):
    """Runs of pixels below the limit in rows from first to before last: how many each row has, and the first column of
    each and the one after its last."""
    counts = np.zeros(last - first, np.int64)
    left, right = np.empty(1024, np.int32), np.empty(1024, np.int32)
    n = 0
    for r in range(first, last):
        before = n
        left, right = with_room(left, right, n, grey.shape[1])
        n = runs_of_row(grey[r], np.float32(limit), left, right, n)
        counts[r - first] = n - before
    return counts, left[:n].copy(), right[:n].copy()


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
    "Tuple((i8[::1], i8[::1], f4[::1]))(Array(f4, 2, 'C', readonly=True), i8[::1], i4[::1], i4[::1], i4[::1], i8, i8,"
    " i8)"
)
def measured(grey, begin, left, right, region, count, first, last):
    """Of what each region has in rows from first to before last: its area in pixels, its darkest pixel as a raster
    index, the first of equals, -1 for none, and how dark."""
    width = grey.shape[1]
    area = np.zeros(count, np.int64)
    darkest = np.full(count, -1, np.int64)
    least = np.full(count, np.inf, np.float32)
    for r in range(first, last):
        row = grey[r]
        for i in range(begin[r], begin[r + 1]):
            k = region[i]
            area[k] += right[i] - left[i]
            low, own = least[k], row[left[i] : right[i]]
            for b in range(0, len(own), BLOCK):
                if b + BLOCK <= len(own):
                    below = np.uint8(0)
                    for m in range(BLOCK):
                        below = np.uint8(below + np.uint8(own[b + m] < low))
                    if below == 0:
                        continue
                for c in range(b, min(b + BLOCK, len(own))):
                    if own[c] < low:
                        low, darkest[k] = own[c], r * width + left[i] + c
            least[k] = low
    return area, darkest, least
