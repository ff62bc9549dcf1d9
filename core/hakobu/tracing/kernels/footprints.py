"""What moving borders changes in the blocks of a picture, summed up chord by chord."""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel


@kernel(
    "Tuple((i8[::1], i8[::1], f4[:, ::1]))(f8[:, ::1], f8[::1], i8[:, ::1], f8[:, ::1], b1[::1], i8, i8, f8, f8, f8)"
)
def footprint_sums(middle, change, mover, by, free, across, down, scale, x, y):
    """Which mover changes which block (M,), and by how much each of its pixels (M, 64), where it moves by a pixel.

    middle (N, 2): of chords, in pixels, those of a plane being so many times as large; change (N,): what a chord that
    is moved by a pixel changes in all; mover, by (N, 8): as of Chords; free: which movers count; across, down: blocks;
    x, y: where the first pixel lies in them.
    """
    head = np.full(len(free), -1, np.int64)
    room = 1024
    of, block, following = np.empty(room, np.int64), np.empty(room, np.int64), np.empty(room, np.int64)
    image = np.zeros((room, 64), np.float32)
    count = 0
    for n in range(len(middle)):
        if change[n] == 0:
            continue
        column = min(max(int((middle[n, 0] + x) / scale), 0), 8 * across - 1)
        row = min(max(int((middle[n, 1] + y) / scale), 0), 8 * down - 1)
        own, pixel = row // 8 * across + column // 8, row % 8 * 8 + column % 8
        for k in range(mover.shape[1]):
            m = mover[n, k]
            if by[n, k] == 0 or not free[m]:
                continue
            # A mover's blocks are a list with the last one that was met first: chords follow each other.
            slot, before = head[m], -1
            while slot >= 0 and block[slot] != own:
                slot, before = following[slot], slot
            if slot < 0:
                if count == room:
                    of, block = np.concatenate((of, of)), np.concatenate((block, block))
                    following = np.concatenate((following, following))
                    image = np.concatenate((image, np.zeros((room, 64), np.float32)))
                    room *= 2
                slot = count
                of[slot], block[slot] = m, own
                following[slot], head[m] = head[m], slot
                count += 1
            elif before >= 0:
                following[before] = following[slot]
                following[slot], head[m] = head[m], slot
            image[slot, pixel] += change[n] * by[n, k]
    return of[:count].copy(), block[:count].copy(), image[:count].copy()


@kernel("f4[::1](i8[::1], i8[::1], f4[:, ::1], f4[:, ::1], f4[::1])")
def left_over(begin, unknown, changes, differ, found):
    """What each block's coefficients are off by once the unknowns are as found, on average (B,); the rest as for
    normal_equations."""
    blocks, across = differ.shape
    off, told = np.empty(blocks, np.float32), np.empty(across, np.float32)
    for b in range(blocks):
        told[:] = differ[b]
        for i in range(begin[b], begin[b + 1]):
            by = found[unknown[i]]
            for k in range(across):
                told[k] -= by * changes[i, k]
        total = np.float32(0)
        for k in range(across):
            total += told[k] * told[k]
        off[b] = np.sqrt(total / across)
    return off
