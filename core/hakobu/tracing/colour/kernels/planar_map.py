"""The borders of a picture of labels as a planar map: chains of cracks, each between the same two labels, from one
place where more than two meet to the next. Every chain is there once, for both of its sides."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from ...edges.kernels.cracks import EAST, NORTH, SOUTH, WEST

#: What is no label: beyond the picture.
BEYOND = 255


@kernel("i8(u1[:, ::1], i8, i8)")
def label_at(labels, r, c):
    """The label of a pixel, -1 outside."""
    if r < 0 or c < 0 or r >= labels.shape[0] or c >= labels.shape[1]:
        return -1
    return np.int64(labels[r, c])


@kernel("u1[::1](u1[:, ::1])")
def framed(labels):
    """Labels row by row, with one more to each side that is none of them."""
    height, width = labels.shape
    out = np.full((height + 2, width + 2), BEYOND, np.uint8)
    for r in range(height):
        out[r + 1, 1 : width + 1] = labels[r]
    return out.ravel()


@kernel("i8(i8, i8, i8)")
def corner_of(p, d, stride):
    """The corner that a crack of a pixel begins at, as the pixel that it is the upper left one of."""
    return p + (0 if d == EAST else (1 if d == SOUTH else (stride + 1 if d == WEST else stride)))


@kernel("i8(i8, i8, i8)")
def crack_of(p, d, stride):
    """The number of a crack, from both its sides: twice that of the pixel below it, or right of it and one more."""
    return 2 * (p + (stride if d == WEST else (1 if d == SOUTH else 0))) + (d & 1)


@kernel("b1(u1[::1], i8, i8)")
def is_node(framed, q, stride):
    """Whether more than two borders meet at the upper left corner of a pixel, or the picture has a corner there."""
    a, b, d, e = framed[q - stride - 1], framed[q - stride], framed[q - 1], framed[q]
    if a == b and b == e and e == d:
        return False
    meeting = np.int64(a != b) + np.int64(d != e) + np.int64(a != d) + np.int64(b != e)
    if meeting > 2:
        return True
    beyond = np.int64(a == BEYOND) + np.int64(b == BEYOND) + np.int64(d == BEYOND) + np.int64(e == BEYOND)
    return beyond == 3


@kernel("Tuple((i8, i8))(u1[::1], i8, i8, i8[::1])")
def turned(framed, p, d, step):
    """The crack that follows on a crack of a pixel, round a region whose pixels hang together by sides."""
    v = framed[p]
    f = p + step[d]
    if framed[f] != v:
        return p, (d + 1) & 3
    over = (d + 3) & 3
    a = f + step[over]
    if framed[a] == v:
        return a, over
    return f, d


@kernel("Tuple((i8, i8, b1))(u1[::1], i8, i8, i8[::1])")
def begun_at(framed, p, stride, step):
    """The crack of the outline along the left side of a pixel that begins at the first node from there on, and
    whether there is one: otherwise that side itself."""
    at, d = p, np.int64(NORTH)
    while True:
        if is_node(framed, corner_of(at, d, stride), stride):
            return at, d, True
        at, d = turned(framed, at, d, step)
        if at == p and d == NORTH:
            return at, d, False


@kernel(
    "Tuple((i4[::1], i4[::1], u1[::1], i8[::1], i8[:, ::1], i8[::1], i8[::1], i8[::1]))"
    "(u1[:, ::1], i8[::1], i4[::1], i4[::1])"
)
def borders(labels, run_begin, run_left, run_of):
    """Chains: row, column and way of each crack (N,), start (C+1,), and for each chain its right and left label and the
    corners of pixels that it goes from and to, -1 where it goes round (C, 6). Loops: the chains of each outline, from 1
    on and negative where they run the other way (L,), start (K+1,) and the component that each goes round (K,), which
    lies to its right. The runs of one label: where those of each row begin (H+1,), their first columns and their
    components (R,)."""
    height, width = labels.shape
    stride = width + 2
    around = framed(labels)
    step = np.array([1, stride, -1, -stride])
    # The chain that each crack belongs to, and which left sides of pixels an outline has gone along.
    known, done = np.zeros(2 * len(around), np.int32), np.zeros(len(around), np.bool_)
    rows, columns, ways = np.empty(4096, np.int32), np.empty(4096, np.int32), np.empty(4096, np.uint8)
    start, about = np.zeros(256, np.int64), np.empty((256, 6), np.int64)
    loops, begin, owner = np.empty(1024, np.int64), np.zeros(256, np.int64), np.empty(256, np.int64)
    n = chains = count = parts = 0
    for r0 in range(height):
        for run in range(run_begin[r0], run_begin[r0 + 1]):
            # Every outline of every region goes north along the left side of some run.
            p0 = (r0 + 1) * stride + np.int64(run_left[run]) + 1
            if done[p0]:
                continue
            p1, d1, nodes = begun_at(around, p0, stride, step)
            p, d = p1, d1
            if count + 1 == len(begin):
                begin = np.concatenate((begin, np.zeros(len(begin), np.int64)))
                owner = np.concatenate((owner, np.empty(len(owner), np.int64)))
            first = True
            current = 0
            while first or not (p == p1 and d == d1):
                if d == NORTH:
                    done[p] = True
                corner, crack = corner_of(p, d, stride), crack_of(p, d, stride)
                if first or (nodes and is_node(around, corner, stride)):
                    # A chain begins: seen before from its other side, or new.
                    if parts == len(loops):
                        loops = np.concatenate((loops, np.empty(len(loops), np.int64)))
                    if known[crack]:
                        loops[parts] = -known[crack]
                        current = 0
                    else:
                        if chains + 1 == len(start):
                            start = np.concatenate((start, np.zeros(len(start), np.int64)))
                            about = np.concatenate((about, np.empty(about.shape, np.int64)))
                        start[chains] = n
                        beside = around[p + step[(d + 3) & 3]]
                        about[chains, 0], about[chains, 1] = around[p], -1 if beside == BEYOND else np.int64(beside)
                        about[chains, 2:] = -1
                        if nodes:
                            about[chains, 2], about[chains, 3] = corner // stride - 1, corner % stride - 1
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
                    rows[n] = p // stride - 1
                    columns[n], ways[n] = p - (rows[n] + 1) * stride - 1, d
                    n += 1
                    known[crack] = current
                p, d = turned(around, p, d, step)
                if current:
                    start[chains] = n
                    if nodes:
                        corner = corner_of(p, d, stride)
                        about[chains - 1, 4], about[chains - 1, 5] = corner // stride - 1, corner % stride - 1
            owner[count] = run_of[run]
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
