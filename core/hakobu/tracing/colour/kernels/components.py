"""Pixels of one label that hang together: runs of rows, joined row by row as regions of ink are."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from ...edges.kernels.runs import BLOCK, root


@kernel("Tuple((i8[::1], i4[::1]))(u1[:, ::1])")
def label_runs(labels):
    """Where the runs of one label of each row begin among all (H+1,), and the first column of each (R,); a run ends
    where the next one of its row begins."""
    height, width = labels.shape
    begin = np.zeros(height + 1, np.int64)
    left = np.empty(4 * height + width + 1, np.int32)
    n = 0
    for r in range(height):
        row = labels[r]
        if len(left) < n + width:
            left = np.concatenate((left, np.empty(len(left) + width, np.int32)))
        left[n] = 0
        n += 1
        for b in range(1, width, BLOCK):
            if b + BLOCK <= width:
                own, before = row[b : b + BLOCK], row[b - 1 : b - 1 + BLOCK]
                changes = np.uint8(0)
                for k in range(BLOCK):
                    changes = np.uint8(changes | (own[k] ^ before[k]))
                if changes == 0:
                    continue
            for c in range(b, min(b + BLOCK, width)):
                if row[c] != row[c - 1]:
                    left[n] = c
                    n += 1
        begin[r + 1] = n
    return begin, left[:n].copy()


@kernel("i8(i8[::1], i8, i8, i4[::1], i8)")
def right_of(begin, r, i, left, width):
    """The column after the last of a run."""
    return np.int64(left[i + 1]) if i + 1 < begin[r + 1] else width


@kernel("Tuple((i4[::1], i8[::1], i8[::1], i4[::1]))(u1[:, ::1], i8[::1], i4[::1])")
def joined_runs(labels, begin, left):
    """Pixels of one label that hang together by sides, in the order of their first pixels: the component of each run
    (R,); its area, its first pixel as a raster index, and its label (N,)."""
    height, width = labels.shape
    n = len(left)
    parent = np.empty(n, np.int32)
    for i in range(n):
        parent[i] = i
    for r in range(1, height):
        i, j = begin[r - 1], begin[r]
        while i < begin[r] and j < begin[r + 1]:
            end, own_end = right_of(begin, r - 1, i, left, width), right_of(begin, r, j, left, width)
            if left[i] < own_end and left[j] < end and labels[r - 1, left[i]] == labels[r, left[j]]:
                a, b = root(parent, np.int32(i)), root(parent, np.int32(j))
                if a < b:
                    parent[b] = a
                else:
                    parent[a] = b
            if end < own_end:
                i += 1
            else:
                j += 1
    of = np.empty(n, np.int32)
    area, first, label = np.zeros(n, np.int64), np.empty(n, np.int64), np.empty(n, np.int32)
    count = 0
    for r in range(height):
        for i in range(begin[r], begin[r + 1]):
            top = root(parent, np.int32(i))
            if top == i:
                of[i] = count
                first[count], label[count] = r * width + left[i], labels[r, left[i]]
                count += 1
            else:
                of[i] = of[top]
            area[of[i]] += right_of(begin, r, i, left, width) - left[i]
    return of, area[:count].copy(), first[:count].copy(), label[:count].copy()


@kernel("i4[:, ::1](i8[::1], i4[::1], i4[::1], i8)")
def numbered(begin, left, of, width):
    """The component (H, W) of each pixel, of those of the runs (R,)."""
    number = np.empty((len(begin) - 1, width), np.int32)
    for r in range(len(begin) - 1):
        for i in range(begin[r], begin[r + 1]):
            number[r, left[i] : right_of(begin, r, i, left, width)] = of[i]
    return number


@kernel("b1[::1](i8[::1], i4[::1], i4[::1], b1[:, ::1], i8)")
def coreless(begin, left, of, core, count):
    """Which of so many components have no pixel of a core (H, W)."""
    thin = np.ones(count, np.bool_)
    for r in range(len(begin) - 1):
        for i in range(begin[r], begin[r + 1]):
            if not thin[of[i]]:
                continue
            any_ = np.uint8(0)
            for c in range(left[i], right_of(begin, r, i, left, core.shape[1])):
                any_ = np.uint8(any_ | np.uint8(core[r, c]))
            thin[of[i]] = any_ == 0
    return thin


@kernel("UniTuple(i8[::1], 3)(i8[::1], i4[::1], i4[::1], b1[::1], i8)")
def pixels_of(begin, left, of, wanted, width):
    """Row, column and component (P,) of the pixels of the components that are wanted (N,)."""
    n = 0
    for r in range(len(begin) - 1):
        for i in range(begin[r], begin[r + 1]):
            if wanted[of[i]]:
                n += right_of(begin, r, i, left, width) - left[i]
    rows, columns, which = np.empty(n, np.int64), np.empty(n, np.int64), np.empty(n, np.int64)
    n = 0
    for r in range(len(begin) - 1):
        for i in range(begin[r], begin[r + 1]):
            if wanted[of[i]]:
                for c in range(left[i], right_of(begin, r, i, left, width)):
                    rows[n], columns[n], which[n] = r, c, of[i]
                    n += 1
    return rows, columns, which
