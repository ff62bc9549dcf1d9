"""A picture with the ground beside each line as light as all."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel

#: The ground is what is seen so many pixels about.
SEEN = 5
#: What is darker than by this share of the way from black to white is ink, whatever lies beside it.
INK = 0.02


@kernel("f4[:, ::1](Array(f4, 2, 'C', readonly=True), Array(u1, 2, 'C', readonly=True), f8, f8, f8)")
def on_one_ground(grey, near, limit, black, white):
    """The picture (H, W) with all ground white, and what is near ink, where `near` is 1, as it would be on it: each
    pixel's own ground is what is clear of ink near it."""
    height, width = grey.shape
    out = np.empty_like(grey)
    ink = black + INK * (white - black)
    for r in range(height):
        for c in range(width):
            v = grey[r, c]
            if near[r, c] == 0:
                out[r, c] = white
                continue
            out[r, c] = v
            if v < ink:
                continue
            total, count = 0.0, 0
            for i in range(max(r - SEEN, 0), min(r + SEEN + 1, height)):
                for j in range(max(c - SEEN, 0), min(c + SEEN + 1, width)):
                    if near[i, j] == 0:
                        total += grey[i, j]
                        count += 1
            ground = max(total / count, limit) if count else white
            out[r, c] = black + (v - black) * (white - black) / (ground - black)
    return out
