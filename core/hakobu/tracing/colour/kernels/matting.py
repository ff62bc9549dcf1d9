"""How far pixels are off a colour, as a share of the most that is off about them."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel


@kernel("f4(Array(u1, 3, 'C', readonly=True), f4[::1], i8, i8, f4[:, ::1])")
def distances(rgb, colour, first, last, off):
    """From 0 to 1, the distance of black and white, into rows first to last of off (H, W); the largest of them."""
    red, green, blue = colour
    scale = np.float32(1 / (255 * math.sqrt(3)))
    most = np.float32(0)
    for r in range(first, last):
        row, out = rgb[r], off[r]
        for c in range(len(out)):
            x, y, z = np.float32(row[c, 0]) - red, np.float32(row[c, 1]) - green, np.float32(row[c, 2]) - blue
            away = np.sqrt(x * x + y * y + z * z) * scale
            out[c] = away
            most = away if away > most else most
    return most


@kernel("void(f4[:, ::1], f4, i8, b1, i8, i8, f4[:, ::1])")
def shares(off, tolerance, about, inverse, first, last, out):
    """Into rows first to last of out (H, W) how far each pixel is off as a share of the most in the square of so many
    pixels to each side, none where that is within the tolerance; inverse: what is left of one."""
    height, width = off.shape
    none, one = np.float32(0), np.float32(1)
    tall, most = np.empty(width, np.float32), np.empty(width, np.float32)
    for r in range(first, last):
        tall[:] = off[r]
        for k in range(max(r - about, 0), min(r + about + 1, height)):
            row = off[k]
            for c in range(width):
                tall[c] = row[c] if row[c] > tall[c] else tall[c]
        most[:] = tall
        for k in range(1, about + 1):
            for c in range(width - k):
                most[c] = tall[c + k] if tall[c + k] > most[c] else most[c]
            for c in range(k, width):
                most[c] = tall[c - k] if tall[c - k] > most[c] else most[c]
        for c in range(width):
            share = off[r, c] / most[c] if most[c] > tolerance else none
            out[r, c] = one - share if inverse else share
