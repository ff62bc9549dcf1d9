"""Where rows of a picture step from one colour to another."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel


@kernel("UniTuple(i8[::1], 2)(u1[:, ::1], i8, i8, i8)")
def steps_across(labels, every, across, sure):
    """Row and first column (S,) of the steps of every so many rows: so many pixels of which so many at either end are
    of one label each."""
    height, width = labels.shape
    rows, columns = np.empty(1024, np.int64), np.empty(1024, np.int64)
    n = 0
    for r in range(0, height, every):
        if n + width > len(rows):
            rows = np.concatenate((rows, np.empty(len(rows) + width, np.int64)))
            columns = np.concatenate((columns, np.empty(len(columns) + width, np.int64)))
        own = labels[r]
        for c in range(width - across + 1):
            low, high = own[c], own[c + across - 1]
            if low == high:
                continue
            same = True
            for k in range(1, sure):
                same = same and own[c + k] == low and own[c + across - 1 - k] == high
            if same:
                rows[n], columns[n] = r, c
                n += 1
    return rows[:n].copy(), columns[:n].copy()
