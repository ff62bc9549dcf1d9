"""A picture at half its size, and how steep its edges are: each in one pass over what is read of it, be its pixels
numbers from 0 to 1 or levels from 0 to 255."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from .runs import runs_with_least, with_room

#: Pixels that are looked at together where nothing changes.
BLOCK = 16


def of_both(signature: str) -> list[str]:
    """A kernel's signatures for both kinds of PIXEL."""
    return [signature.replace("PIXEL", kind) for kind in ("f4", "u1")]


@kernel(of_both("void(Array(PIXEL, 2, 'C', readonly=True), f4[:, ::1], f4, i8)"))
def halve_row(grey, small, quarter, r):
    """Row r of the small picture (⌈H/2⌉, ⌈W/2⌉): each pixel a quarter of the sum of four; past an odd edge, the last
    row or column once more. quarter: of what is 1 in the small picture."""
    height, width = grey.shape
    one, other, row = grey[2 * r], grey[min(2 * r + 1, height - 1)], small[r]
    for c in range(width // 2):
        above = np.float32(one[2 * c]) + np.float32(one[2 * c + 1])
        row[c] = quarter * (above + np.float32(other[2 * c]) + np.float32(other[2 * c + 1]))
    if width % 2:
        row[width // 2] = quarter * 2 * (np.float32(one[width - 1]) + np.float32(other[width - 1]))


@kernel(of_both("void(Array(PIXEL, 2, 'C', readonly=True), f4[:, ::1], f4, i8, i8)"))
def halve(grey, small, quarter, first, last):
    """Rows from first to before last of the small picture, as above."""
    for r in range(first, last):
        halve_row(grey, small, quarter, r)


@kernel(of_both("Tuple((i8[::1], i4[:, ::1]))(Array(PIXEL, 2, 'C', readonly=True), f4[:, ::1], f4, f8, i8, i8)"))
def halve_and_find_runs(grey, small, quarter, limit, first, last):
    """The same, with the runs of pixels below the limit in these rows, as `runs.find_runs` has them: found while a row
    is at hand."""
    counts, runs = np.zeros(last - first, np.int64), np.empty((3, 1024), np.int32)
    n = 0
    for r in range(first, last):
        halve_row(grey, small, quarter, r)
        before = n
        runs = with_room(runs, n, small.shape[1])
        n = runs_with_least(small[r], np.float32(limit), runs, n)
        counts[r - first] = n - before
    return counts, runs[:, :n].copy()


@kernel(of_both("f4(Array(PIXEL, 1, 'C', readonly=True), i8, i8, i8, f8)"))
def share_between(flat, at, step, beside, least):
    """Of pixels so many on either side of an edge, the share of their whole height that lies between two neighbours at
    most; negative where the edge is lower than `least`. flat: pixels row by row; at: the one before the edge; step: to
    the next one across it."""
    first = at - (beside - 1) * step
    low = high = before = np.float32(flat[first])
    steepest = np.float32(0)
    for k in range(1, 2 * beside):
        own = np.float32(flat[first + k * step])
        low, high = min(low, own), max(high, own)
        steepest, before = max(steepest, abs(own - before)), own
    return steepest / (high - low) if high - low > least else np.float32(-1)


@kernel(of_both("i8(Array(PIXEL, 1, 'C', readonly=True), i8, i8, i8, PIXEL)"))
def change(flat, first, last, step, limit):
    """The first pixel from first to before last that is on another side of a limit than the one a step on; last where
    there is none. Most of a picture is even: whole blocks are looked at together, as fast as they can be read."""
    own, onward = flat[first:last], flat[first + step : last + step]
    even = 0
    for b in range(len(own) // BLOCK):
        changes = np.uint8(0)
        for k in range(BLOCK):
            at = b * BLOCK + k
            changes = np.uint8(changes + np.uint8((own[at] < limit) != (onward[at] < limit)))
        if changes:
            break
        even += BLOCK
    for at in range(even, len(own)):
        if (own[at] < limit) != (onward[at] < limit):
            return first + at
    return last


@kernel(of_both("i8(Array(PIXEL, 1, 'C', readonly=True), i8, PIXEL, i8, i8, i8, f8, f4[::1])"))
def steps_in_rows(flat, width, limit, every, step, beside, least, found):
    """The shares of the edges in one of so many rows, as many as there is room for; how many are found. step: of edges
    along the rows it is one, of those between a row and the next the width."""
    n, height = 0, len(flat) // width
    for r in range(0, height, every):
        if step == 1:
            at, end = r * width + beside - 1, (r + 1) * width - beside
        elif beside - 1 <= r < height - beside:
            at, end = r * width, (r + 1) * width
        else:
            continue
        at = change(flat, at, end, step, limit)
        while at < end and n < len(found):
            found[n] = share_between(flat, at, step, beside, least)
            n += found[n] >= 0
            at = change(flat, at + 1, end, step, limit)
    return n
