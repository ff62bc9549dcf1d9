"""Normal equations of many small blocks."""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel


@kernel("Tuple((i8[::1], i8[::1], f8[::1]))(i8[::1], i8[::1], f4[:, ::1], f4[:, ::1], f8[::1])")
def normal_equations(begin, unknown, changes, differ, asked):
    """What the unknowns of each block share, as row, column and value of a matrix; and what is asked of each, added to
    asked (N,).

    begin (B+1,): the changes of each block; unknown (M,) and what moving it changes (M, K); differ (B, K): what is to
    be explained.
    """
    blocks, across = len(begin) - 1, changes.shape[1]
    count = 0
    for b in range(blocks):
        count += (begin[b + 1] - begin[b]) ** 2
    rows, columns, values = np.empty(count, np.int64), np.empty(count, np.int64), np.empty(count)
    n = 0
    for b in range(blocks):
        for i in range(begin[b], begin[b + 1]):
            total = np.float32(0)
            for k in range(across):
                total += changes[i, k] * differ[b, k]
            asked[unknown[i]] += total
            for j in range(begin[b], i + 1):
                total = np.float32(0)
                for k in range(across):
                    total += changes[i, k] * changes[j, k]
                rows[n], columns[n], values[n] = unknown[i], unknown[j], total
                n += 1
                if j < i:
                    rows[n], columns[n], values[n] = unknown[j], unknown[i], total
                    n += 1
    return rows, columns, values
