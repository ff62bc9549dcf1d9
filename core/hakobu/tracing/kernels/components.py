"""Pixels of one label that hang together: runs of rows, joined row by row as regions of ink are."""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel
from .runs import BLOCK, root


@kernel("Tuple((i8[::1], i4[::1]))(u1[:, ::1])")
def label_runs(labels):
    """Where the runs of one label of each row begin among all (H+1,), and the first column of each; a run ends where
    the next one of its row begins."""
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
                changes = np.int32(0)
                for k in range(BLOCK):
                    changes += np.int32(own[k] != before[k])
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


@kernel("Tuple((i4[:, ::1], i8[::1], i8[::1], i4[::1]))(u1[:, ::1])")
def components(labels):
    """Pixels of one label that hang together by sides, in the order of their first pixels: the number of each (H, W),
    its area, its first pixel as a raster index, and its label (N,)."""
    height, width = labels.shape
    begin, left = label_runs(labels)
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
    number = np.empty((height, width), np.int32)
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
            end = right_of(begin, r, i, left, width)
            area[of[i]] += end - left[i]
            number[r, left[i] : end] = of[i]
    return number, area[:count].copy(), first[:count].copy(), label[:count].copy()


@kernel("Tuple((b1[::1], i8[::1], i8[::1]))(i4[:, ::1], b1[:, ::1], i8)")
def without_core(number, core, count):
    """Which of so many components have no pixel of a core (H, W), (N,); and the rows and columns of their pixels."""
    height, width = number.shape
    thin = np.ones(count, np.bool_)
    for r in range(height):
        for c in range(width):
            if core[r, c]:
                thin[number[r, c]] = False
    rows, columns = np.empty(1024, np.int64), np.empty(1024, np.int64)
    n = 0
    for r in range(height):
        if n + width > len(rows):
            rows = np.concatenate((rows, np.empty(len(rows) + width, np.int64)))
            columns = np.concatenate((columns, np.empty(len(columns) + width, np.int64)))
        for c in range(width):
            if thin[number[r, c]]:
                rows[n], columns[n] = r, c
                n += 1
    return thin, rows[:n].copy(), columns[:n].copy()
