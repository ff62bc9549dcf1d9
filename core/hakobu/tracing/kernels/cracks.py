"""Outlines of regions, below the pixel: the cracks between ink and ground are followed with the ink on the right, and
each gives the point between the two pixel centres where the grey value, taken as linear, passes the limit.

This is marching squares with the ink joined in ambiguous cells (Lorensen and Cline 1987, in two dimensions), walked
outline by outline (Suzuki and Abe 1985).
"""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel


@kernel("i8(Array(i4, 2, 'C', readonly=True))")
def count_cracks(labels):
    height, width = labels.shape
    count = 0
    for r in range(height):
        for c in range(width):
            if labels[r, c]:
                count += r == 0 or labels[r - 1, c] == 0
                count += r == height - 1 or labels[r + 1, c] == 0
                count += c == 0 or labels[r, c - 1] == 0
                count += c == width - 1 or labels[r, c + 1] == 0
    return count


@kernel(
    "Tuple((f8[:, ::1], i8[::1], i4[::1], f8[::1]))"
    "(Array(f4, 2, 'C', readonly=True), Array(i4, 2, 'C', readonly=True), f8)"
)
def follow(grey, labels, limit):
    """points (N, 2) x, y in pixels with the picture's corner at 0, 0; start (K+1,); label of each outline; its signed
    area in square pixels, positive round ink, negative round a hole."""
    height, width = labels.shape
    total = count_cracks(labels)
    points = np.empty((total, 2), np.float64)
    start = np.zeros(total // 4 + 2, np.int64)
    owner = np.zeros(total // 4 + 1, np.int32)
    areas = np.zeros(total // 4 + 1, np.float64)
    seen = np.zeros((height, width), np.uint8)
    # East along the top of a pixel, south along its right side, west, north.
    ahead_r = np.array([0, 1, 0, -1])
    ahead_c = np.array([1, 0, -1, 0])
    n, k = 0, 0
    for r0 in range(height):
        for c0 in range(width):
            if labels[r0, c0] == 0 or seen[r0, c0] or (r0 > 0 and labels[r0 - 1, c0] != 0):
                continue
            ink = labels[r0, c0]
            r, c, d = r0, c0, 0
            first = n
            while True:
                if d == 0:
                    if seen[r, c]:
                        break
                    seen[r, c] = 1
                left = (d + 3) % 4
                lr, lc = ahead_r[left], ahead_c[left]
                qr, qc = r + lr, c + lc
                share = 0.5
                if 0 <= qr < height and 0 <= qc < width:
                    dark, light = np.float64(grey[r, c]), np.float64(grey[qr, qc])
                    share = (limit - dark) / (light - dark)
                points[n, 0] = c + 0.5 + lc * share
                points[n, 1] = r + 0.5 + lr * share
                n += 1
                fr, fc = r + ahead_r[d], c + ahead_c[d]
                ar, ac = fr + lr, fc + lc
                if 0 <= ar < height and 0 <= ac < width and labels[ar, ac] == ink:
                    r, c, d = ar, ac, left
                elif 0 <= fr < height and 0 <= fc < width and labels[fr, fc] == ink:
                    r, c = fr, fc
                else:
                    d = (d + 1) % 4
            area = 0.0
            for i in range(first, n):
                j = i + 1 if i + 1 < n else first
                area += points[i, 0] * points[j, 1] - points[j, 0] * points[i, 1]
            owner[k] = ink
            areas[k] = area / 2
            k += 1
            start[k] = n
    return points[:n].copy(), start[: k + 1].copy(), owner[:k].copy(), areas[:k].copy()
