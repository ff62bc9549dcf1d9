"""The middle of drawn lines below the pixel: by the coverage across them, whose middle is theirs and whose sum is their
width; where they end, by the coverage along them."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from ...edges.kernels.subpixel_edges import at

#: Pixels of a branch to each side that tell which way it runs, and looked at across it on each side at most.
AROUND, FAR = 5, 60


@kernel(
    "Tuple((f8[:, ::1], f8[::1], b1[::1]))(Array(f4, 2, 'C', readonly=True), i4[::1], i4[::1], i8[::1], i8[:, ::1], f8,"
    " f8, f8, f8)"
)
def middle_points(grey, rows, columns, start, ends, limit, black, white, dead):
    """For each pixel of branches (B+1,) the middle of the ink in its row or column, whichever goes more across it: x, y
    (N, 2), how much ink that is (N,), and whether it was a column (N,)."""
    points, width, upright = np.empty((len(rows), 2)), np.empty(len(rows)), np.empty(len(rows), np.bool_)
    for k in range(len(start) - 1):
        a, n = start[k], start[k + 1] - start[k]
        closed = ends[k, 0] == -2
        for i in range(n):
            if closed:
                b, f = a + (i - AROUND) % n, a + (i + AROUND) % n
            else:
                b, f = a + max(i - AROUND, 0), a + min(i + AROUND, n - 1)
            dr, dc = np.float64(rows[f] - rows[b]), np.float64(columns[f] - columns[b])
            flat = abs(dc) >= abs(dr)
            r, c = np.int64(rows[a + i]), np.int64(columns[a + i])
            total = moment = 0.0
            for side in (1, -1):
                # Out of the line where less than half of it is left, and not into the next one.
                before, falling = 0.0, False
                peak = 0.0
                for step in range(0 if side > 0 else 1, FAR):
                    j = side * step
                    v = at(grey, r + (j if flat else 0), c + (0 if flat else j), limit, black, white, dead)
                    peak = max(peak, v)
                    falling = falling or v < 0.5 * peak
                    if v == 0 or (falling and v > before + dead):
                        break
                    total += v
                    moment += v * j
                    before = v
            off = moment / total if total > 0 else 0.0
            points[a + i, 0] = c + 0.5 + (0.0 if flat else off)
            points[a + i, 1] = r + 0.5 + (off if flat else 0.0)
            width[a + i], upright[a + i] = total, flat
    return points, width, upright


@kernel("Tuple((f8, f8))(Array(f4, 2, 'C', readonly=True), f8, f8, f8, f8, f8, f8, f8, f8, f8, f8)")
def length_beyond(grey, x, y, ux, uy, width, reach, limit, black, white, dead):
    """How far a line of a width goes on beyond a place of its middle in a direction: by all its ink, and by the ink
    along its middle only."""
    half = width / 2 + 2.0
    inner = max(0.12 * width, 0.5)
    low_r, high_r = int(y - reach - half), int(y + reach + half) + 1
    low_c, high_c = int(x - reach - half), int(x + reach + half) + 1
    slant = abs(ux) + abs(uy)
    # Pixel by pixel along the line, so that it ends where it first does.
    count = int(reach) + 2
    whole, middle = np.zeros(count), np.zeros(count)
    for r in range(max(low_r, 0), min(high_r, grey.shape[0])):
        for c in range(max(low_c, 0), min(high_c, grey.shape[1])):
            px, py = c + 0.5 - x, r + 0.5 - y
            along, over = px * ux + py * uy, abs(py * ux - px * uy)
            if along < -1 or along >= reach or over > half:
                continue
            v = at(grey, r, c, limit, black, white, dead)
            if v == 0:
                continue
            v *= min(max(0.5 + along / slant, 0.0), 1.0)
            k = int(max(along, 0.0))
            whole[k] += v
            # A pixel may stick out of so narrow a strip on both sides.
            within = min(0.5 + (inner - over) / slant, 1.0) - max(0.5 - (inner + over) / slant, 0.0)
            middle[k] += v * max(within, 0.0)
    last = 0
    while last < count and (whole[last] > 0.05 * width or last < 2):
        last += 1
    last = min(last + 1, count)
    return whole[:last].sum() / width, middle[:last].sum() / (2 * inner)
