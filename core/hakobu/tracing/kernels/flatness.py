"""Where a picture is flat: means over three by three pixels, and how far any of the nine is off."""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel


@kernel("Tuple((f4[:, ::1], f4[::1]))(Array(u1, 3, 'C', readonly=True), i8, i8, i8)")
def flat_means(rgb, step, begin, end):
    """rgb (H, W, 3): means (N, 3) about every so many pixels of the rows from one to before another, of those that have
    neighbours, and the largest difference from each (N,)."""
    height, width = rgb.shape[:2]
    room = ((end - begin) // step + 1) * ((width - 3) // step + 1)
    mean, spread = np.empty((room, 3), np.float32), np.empty(room, np.float32)
    n = 0
    for r in range(begin, min(end, height - 1), step):
        for c in range(1, width - 1, step):
            worst = np.float32(0)
            for k in range(3):
                total, low, high = 0, 255, 0
                for i in range(-1, 2):
                    for j in range(-1, 2):
                        v = np.int64(rgb[r + i, c + j, k])
                        total += v
                        low, high = min(low, v), max(high, v)
                middle = np.float32(total / 9)
                mean[n, k] = middle
                worst = max(worst, high - middle, middle - low)
            spread[n] = worst
            n += 1
    return mean[:n].copy(), spread[:n].copy()
