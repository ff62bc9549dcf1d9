"""A picture at half its size, and how steep its edges are: each in one pass over what is read of it."""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel

#: Pixels that are looked at together where nothing changes.
BLOCK = 16


@kernel("void(Array(f4, 2, 'C', readonly=True), f4[:, ::1], i8, i8)")
def halve(grey, small, first, last):
    """Rows from first to before last of the small picture (⌈H/2⌉, ⌈W/2⌉): each pixel the mean of four; past an odd
    edge, the last row or column once more."""
    height, width = grey.shape
    quarter = np.float32(0.25)
    for r in range(first, last):
        one, other, row = grey[2 * r], grey[min(2 * r + 1, height - 1)], small[r]
        for c in range(width // 2):
            row[c] = quarter * (one[2 * c] + one[2 * c + 1] + other[2 * c] + other[2 * c + 1])
        if width % 2:
            row[width // 2] = np.float32(0.5) * (one[width - 1] + other[width - 1])


@kernel("f4(Array(f4, 1, 'C', readonly=True), i8, i8, i8, f8)")
def share_between(flat, at, step, beside, least):
    """Of pixels so many on either side of an edge, the share of their whole height that lies between two neighbours at
    most; negative where the edge is lower than `least`. flat: pixels row by row; at: the one before the edge; step: to
    the next one across it."""
    first = at - (beside - 1) * step
    low = high = before = flat[first]
    steepest = np.float32(0)
    for k in range(1, 2 * beside):
        own = flat[first + k * step]
        low, high = min(low, own), max(high, own)
        steepest, before = max(steepest, abs(own - before)), own
    return steepest / (high - low) if high - low > least else np.float32(-1)


@kernel("i8(Array(f4, 1, 'C', readonly=True), i8, i8, i8, f4)")
def change(flat, first, last, step, limit):
    """The first pixel from first to before last that is on another side of a limit than the one a step on; last where
    there is none. Most of a picture is even: whole blocks are looked at together, as fast as they can be read."""
    while last - first >= BLOCK:
        changes = np.int32(0)
        for k in range(BLOCK):
            changes += np.int32((flat[first + k] < limit) != (flat[first + step + k] < limit))
        if changes:
            break
        first += BLOCK
    while first < last and (flat[first] < limit) == (flat[first + step] < limit):
        first += 1
    return first


@kernel("i8(Array(f4, 1, 'C', readonly=True), i8, f4, i8, i8, f8, f4[::1])")
def steps_in_rows(flat, width, limit, every, beside, least, found):
    """The shares of the edges in one of so many rows, as many as there is room for; how many are found."""
    n = 0
    for r in range(0, len(flat) // width, every):
        end = (r + 1) * width - beside
        at = change(flat, r * width + beside - 1, end, 1, limit)
        while at < end and n < len(found):
            found[n] = share_between(flat, at, 1, beside, least)
            n += found[n] >= 0
            at = change(flat, at + 1, end, 1, limit)
    return n


@kernel("i8(Array(f4, 1, 'C', readonly=True), i8, f4, i8[::1], i8, i8, f8, f4[::1])")
def steps_in_columns(flat, width, limit, bands, band, beside, least, found):
    """The same in columns, which stand in bands from so many first ones on, since whole lines of memory are read; each
    band over a third of the height, one third after the other."""
    height, n = len(flat) // width, 0
    for k in range(len(bands)):
        first, begin, end = bands[k], k % 3 * height // 3, (k % 3 + 1) * height // 3
        for r in range(max(begin, beside - 1), min(end, height - beside)):
            last = r * width + min(first + band, width)
            at = change(flat, r * width + first, last, width, limit)
            while at < last and n < len(found):
                found[n] = share_between(flat, at, width, beside, least)
                n += found[n] >= 0
                at = change(flat, at + 1, last, width, limit)
    return n
