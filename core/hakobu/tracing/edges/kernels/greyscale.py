"""What is told of all pixels of a grey picture, each in one pass: how light they look, how many lie on each level and
at edges, and how steep those are."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel

#: Pixels that are looked at together where nothing changes.
BLOCK = 64
#: Levels of grey.
LEVELS = 256


@kernel("void(Array(u1, 3, 'C', readonly=True), f4[::1], i8, i8, f4[:, ::1])")
def looks(picture, luma, first, last, grey):
    """How light rows first to before last of a picture (H, W, 4), sRGB and straight alpha, look on white paper."""
    red, green, blue = luma[0], luma[1], luma[2]
    one, share = np.float32(1), np.float32(1 / 255)
    for r in range(first, last):
        own, row = picture[r].reshape(-1), grey[r]
        opaque = np.uint8(255)
        for c in range(len(row)):
            row[c] = np.float32(own[4 * c]) * red
            row[c] += np.float32(own[4 * c + 1]) * green
            row[c] += np.float32(own[4 * c + 2]) * blue
            opaque = np.uint8(opaque & own[4 * c + 3])
        if opaque == 255:
            continue
        for c in range(len(row)):
            there = np.float32(own[4 * c + 3]) * share
            row[c] = row[c] * there + (one - there)


@kernel("i8[::1](Array(f4, 2, 'C', readonly=True), i8, i8)")
def counted(grey, first, last):
    """How many pixels of rows first to before last lie on each level (LEVELS,)."""
    # Neighbours are often on one level: so that no count waits for the one before, every other goes to the second.
    counts = np.zeros((2, LEVELS), np.int64)
    level = np.empty(grey.shape[1], np.uint8)
    most, half = np.float32(LEVELS - 1), np.float32(0.5)
    for r in range(first, last):
        row = grey[r]
        for c in range(len(row)):
            level[c] = np.uint8(min(max(row[c], np.float32(0)), np.float32(1)) * most + half)
        for c in range(len(row)):
            counts[c & 1, level[c]] += 1
    return counts[0] + counts[1]


@kernel("UniTuple(i8, 2)(Array(f4, 2, 'C', readonly=True), f4, f4, f4)")
def at_edges(grey, threshold, low, high):
    """How many pixels are at least as light as low and darker than high; and how many sides of pixels lie between what
    is darker than a threshold and what is not."""
    between = edges = np.int64(0)
    for r in range(len(grey)):
        own, after, below = grey[r], grey[r][1:], grey[min(r + 1, len(grey) - 1)]
        here = np.int32(0)
        for c in range(len(own)):
            here = np.int32(here + np.int32((own[c] >= low) & (own[c] < high)))
        between += here
        here = np.int32(0)
        for c in range(len(after)):
            here = np.int32(here + np.int32((own[c] < threshold) != (after[c] < threshold)))
        edges += here
        here = np.int32(0)
        for c in range(len(own)):
            here = np.int32(here + np.int32((own[c] < threshold) != (below[c] < threshold)))
        edges += here
    return between, edges


@kernel("b1(Array(f4, 1, 'C', readonly=True), Array(f4, 1, 'C', readonly=True), f4)")
def none_between(one, other, threshold):
    """Whether of no pair of pixels one is darker than a threshold and the other not."""
    differ = np.uint8(0)
    for k in range(len(one)):
        differ = np.uint8(differ | np.uint8((one[k] < threshold) != (other[k] < threshold)))
    return differ == 0


@kernel("f4[::1](Array(f4, 2, 'C', readonly=True), f4, f4)")
def jumps(grey, threshold, least):
    """Of four pixels in a row, and in a column, with an edge in their middle: which share of the whole change of grey,
    where that is more than the least, is between the middle two."""
    height, width = grey.shape
    found = np.empty(1024, np.float32)
    n = 0
    for r in range(height):
        for upright in range(2):
            if upright and r + 3 >= height:
                continue
            count = width if upright else width - 3
            if n + count > len(found):
                found = np.concatenate((found, np.empty(len(found) + width, np.float32)))
            if upright:
                before, one, other, after = grey[r], grey[r + 1], grey[r + 2], grey[r + 3]
            else:
                before, one, other, after = grey[r], grey[r][1:], grey[r][2:], grey[r][3:]
            for b in range(0, count, BLOCK):
                end = min(b + BLOCK, count)
                if none_between(one[b:end], other[b:end], threshold):
                    continue
                for c in range(b, end):
                    if (one[c] < threshold) == (other[c] < threshold):
                        continue
                    whole = abs(after[c] - before[c])
                    if whole > least:
                        found[n] = abs(other[c] - one[c]) / whole
                        n += 1
    return found[:n].copy()
