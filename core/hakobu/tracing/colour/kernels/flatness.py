"""Where a picture is flat: sums over three by three pixels, how far any of the nine is off, and what is flat gathered
in boxes of colours. Sums are of nine, so all is whole numbers."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel


@kernel("void(Array(u1, 2, 'C', readonly=True), i8, u2[::1], u2[::1])")
def nines(rows, r, total, off):
    """For each byte of a row of a picture (H, 3W) but its first and last pixels': the sum over nine pixels about it,
    and nine times what any of them differs from their mean at most."""
    above, own, below = rows[r - 1], rows[r], rows[r + 1]
    count = len(own)
    low, high, three = np.empty(count, np.uint8), np.empty(count, np.uint8), np.empty(count, np.uint16)
    for k in range(count):
        a, b, c = above[k], own[k], below[k]
        low[k], high[k] = min(min(a, b), c), max(max(a, b), c)
        three[k] = np.uint16(np.uint16(a) + np.uint16(b) + np.uint16(c))
    low_1, low_2, high_1, high_2, three_1, three_2 = low[3:], low[6:], high[3:], high[6:], three[3:], three[6:]
    for k in range(count - 6):
        least, most = min(min(low[k], low_1[k]), low_2[k]), max(max(high[k], high_1[k]), high_2[k])
        whole = np.uint16(three[k] + three_1[k] + three_2[k])
        total[k] = whole
        nine = np.uint16(9)
        off[k] = max(np.uint16(nine * most - whole), np.uint16(whole - nine * least))


@kernel("Tuple((u2[:, ::1], u2[::1]))(Array(u1, 2, 'C', readonly=True), i8, i8, i8)")
def flat_sums(rows, step, begin, end):
    """rows (H, 3W): sums (N, 3) over the nine pixels about every so many of the rows from one to before another, of
    those that have neighbours, and nine times the largest difference from their mean (N,)."""
    height, width = len(rows), rows.shape[1] // 3
    room = ((end - begin) // step + 1) * ((width - 3) // step + 1)
    sums, spread = np.empty((room, 3), np.uint16), np.empty(room, np.uint16)
    total, off = np.empty(3 * width - 6, np.uint16), np.empty(3 * width - 6, np.uint16)
    n = 0
    for r in range(begin, min(end, height - 1), step):
        nines(rows, r, total, off)
        for k in range(0, len(total), 3 * step):
            sums[n, 0], sums[n, 1], sums[n, 2] = total[k], total[k + 1], total[k + 2]
            spread[n] = max(max(off[k], off[k + 1]), off[k + 2])
            n += 1
    return sums[:n].copy(), spread[:n].copy()


@kernel("Tuple((i8[::1], i8[:, ::1]))(u2[:, ::1], u2[::1], f8, i8)")
def gathered(sums, spread, most, boxes):
    """How many pixels each box of colours has (B,), of so many along each side, and the sum of their sums (B, 3); of
    those whose spread is no larger than the most."""
    count, whole = np.zeros(boxes**3, np.int64), np.zeros((boxes**3, 3), np.int64)
    for i in range(len(sums)):
        if spread[i] > most:
            continue
        cell = np.uint32(0)
        for k in range(3):
            cell = cell * np.uint32(boxes) + np.uint32(sums[i, k]) * np.uint32(boxes) // np.uint32(9 * 256)
        count[cell] += 1
        for k in range(3):
            whole[cell, k] += np.int64(sums[i, k])
    return count, whole
