"""The borders of a picture of labels as a planar map: chains of cracks, each between the same two labels, from one
place where more than two meet to the next. Every chain is there once, for both of its sides."""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel
from .cracks import EAST, NORTH, SOUTH, WEST


@kernel("i8(u1[:, ::1], i8, i8)")
def label_at(labels, r, c):
    """The label of a pixel, -1 outside."""
    if r < 0 or c < 0 or r >= labels.shape[0] or c >= labels.shape[1]:
        return -1
    return np.int64(labels[r, c])


@kernel("b1(u1[:, ::1], i8, i8)")
def is_node(labels, r, c):
    """Whether more than two borders meet at the upper left corner of a pixel, or the picture has a corner there."""
    if (r == 0 or r == labels.shape[0]) and (c == 0 or c == labels.shape[1]):
        return True
    a, b = label_at(labels, r - 1, c - 1), label_at(labels, r - 1, c)
    d, e = label_at(labels, r, c - 1), label_at(labels, r, c)
    meeting = (a != b) + (d != e) + (a != d) + (b != e)
    return meeting > 2


@kernel("Tuple((i8, i8))(i8, i8, i8)")
def ahead_of(r, c, way):
    """The corner of pixels that a crack of pixel r, c ends at."""
    if way == EAST:
        return r, c + 1
    if way == SOUTH:
        return r + 1, c + 1
    if way == WEST:
        return r + 1, c
    return r, c


@kernel("i8(u1[:, ::1], i8, i8, i8)")
def aside(labels, r, c, way):
    """The label to the left of a crack, whose pixel lies to its right."""
    if way == EAST:
        return label_at(labels, r - 1, c)
    if way == SOUTH:
        return label_at(labels, r, c + 1)
    if way == WEST:
        return label_at(labels, r + 1, c)
    return label_at(labels, r, c - 1)


@kernel("Tuple((i8, i8, i8))(u1[:, ::1], i8, i8, i8, i8[::1], i8[::1])")
def turned(labels, r, c, d, ahead_r, ahead_c):
    """The crack that follows on a crack of pixel r, c, round a region whose pixels hang together by sides."""
    v = np.int64(labels[r, c])
    fr, fc = r + ahead_r[d], c + ahead_c[d]
    if label_at(labels, fr, fc) != v:
        return r, c, (d + 1) % 4
    over = (d + 3) % 4
    ar, ac = fr + ahead_r[over], fc + ahead_c[over]
    if label_at(labels, ar, ac) == v:
        return ar, ac, over
    return fr, fc, d


@kernel("Tuple((i4[::1], i4[::1], u1[::1], i8[::1], i8[:, ::1], i8[::1], i8[::1], i8[::1]))(u1[:, ::1], i4[:, ::1])")
def borders(labels, number):
    """Chains: row, column and way of each crack (N,), start (C+1,), and for each chain its right and left label and the
    corners of pixels that it goes from and to, -1 where it goes round (C, 6). Loops: the chains of each outline, from 1
    on and negative where they run the other way (L,), start (K+1,) and the component that each goes round (K,), which
    lies to its right. number (H, W): the component of each pixel."""
    height, width = labels.shape
    # The chain that each crack belongs to: above each pixel, and to its left.
    above = np.zeros((height + 1, width), np.int32)
    left = np.zeros((height, width + 1), np.int32)
    done = np.zeros((height, width), np.bool_)
    rows, columns, ways = np.empty(4096, np.int32), np.empty(4096, np.int32), np.empty(4096, np.uint8)
    start, about = np.zeros(256, np.int64), np.empty((256, 6), np.int64)
    loops, begin, owner = np.empty(1024, np.int64), np.zeros(256, np.int64), np.empty(256, np.int64)
    n = chains = count = parts = 0
    ahead_r = np.array([0, 1, 0, -1])
    ahead_c = np.array([1, 0, -1, 0])
    for r0 in range(height):
        for c0 in range(width):
            # Every outline of every region goes north along the left side of some pixel.
            if (c0 > 0 and labels[r0, c0 - 1] == labels[r0, c0]) or done[r0, c0]:
                continue
            v = labels[r0, c0]
            # Begun at a node where there is one.
            r, c, d = r0, c0, NORTH
            nodes = False
            while True:
                y, x = (
                    (r, c)
                    if d == EAST
                    else ((r, c + 1) if d == SOUTH else ((r + 1, c + 1) if d == WEST else (r + 1, c)))
                )
                if is_node(labels, y, x):
                    nodes = True
                    break
                r, c, d = turned(labels, r, c, d, ahead_r, ahead_c)
                if r == r0 and c == c0 and d == NORTH:
                    break
            r1, c1, d1 = r, c, d
            if count + 1 == len(begin):
                begin = np.concatenate((begin, np.zeros(len(begin), np.int64)))
                owner = np.concatenate((owner, np.empty(len(owner), np.int64)))
            first = True
            current = 0
            while first or not (r == r1 and c == c1 and d == d1):
                if d == NORTH:
                    done[r, c] = True
                y, x = (
                    (r, c)
                    if d == EAST
                    else ((r, c + 1) if d == SOUTH else ((r + 1, c + 1) if d == WEST else (r + 1, c)))
                )
                known = (
                    above[r, c]
                    if d == EAST
                    else (above[r + 1, c] if d == WEST else (left[r, c + 1] if d == SOUTH else left[r, c]))
                )
                if first or (nodes and is_node(labels, y, x)):
                    # A chain begins: seen before from its other side, or new.
                    if parts == len(loops):
                        loops = np.concatenate((loops, np.empty(len(loops), np.int64)))
                    if known:
                        loops[parts] = -known
                        current = 0
                    else:
                        if chains + 1 == len(start):
                            start = np.concatenate((start, np.zeros(len(start), np.int64)))
                            about = np.concatenate((about, np.empty(about.shape, np.int64)))
                        start[chains] = n
                        about[chains, 0], about[chains, 1] = np.int64(v), aside(labels, r, c, d)
                        about[chains, 2:] = -1
                        if nodes:
                            about[chains, 2], about[chains, 3] = y, x
                        chains += 1
                        current = chains
                        loops[parts] = chains
                    parts += 1
                first = False
                if current:
                    if n == len(rows):
                        rows = np.concatenate((rows, np.empty(n, np.int32)))
                        columns = np.concatenate((columns, np.empty(n, np.int32)))
                        ways = np.concatenate((ways, np.empty(n, np.uint8)))
                    rows[n], columns[n], ways[n] = r, c, d
                    n += 1
                    start[chains] = n
                    if d == EAST:
                        above[r, c] = current
                    elif d == WEST:
                        above[r + 1, c] = current
                    elif d == SOUTH:
                        left[r, c + 1] = current
                    else:
                        left[r, c] = current
                    if nodes:
                        y, x = ahead_of(r, c, d)
                        about[chains - 1, 4], about[chains - 1, 5] = y, x
                r, c, d = turned(labels, r, c, d, ahead_r, ahead_c)
            owner[count] = number[r0, c0]
            count += 1
            begin[count] = parts
    return (
        rows[:n].copy(),
        columns[:n].copy(),
        ways[:n].copy(),
        start[: chains + 1].copy(),
        about[:chains].copy(),
        loops[:parts].copy(),
        begin[: count + 1].copy(),
        owner[:count].copy(),
    )
