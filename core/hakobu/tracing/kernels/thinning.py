"""The skeleton of ink: thinned from its edges until lines are one pixel wide (Zhang and Suen 1984). Only pixels at an
edge are looked at, each round's from the round before. It tells how lines hang together, and nothing about where they
lie: that is measured on the picture."""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel

#: Rows and columns of the neighbours of a pixel, round from the one above.
ROUND_R = (-1, -1, 0, 1, 1, 1, 0, -1)
ROUND_C = (0, 1, 1, 1, 0, -1, -1, -1)


@kernel("Tuple((i8, i8, i8))(u1[:, ::1], i8, i8)")
def around(ink, r, c):
    """The neighbours of a pixel as bits, how many are ink, and how often ink begins on the way round."""
    bits = count = begins = 0
    before = ink[r - 1, c - 1] != 0
    for k in range(8):
        now = ink[r + ROUND_R[k], c + ROUND_C[k]] != 0
        if now:
            bits |= 1 << k
            count += 1
            begins += not before
        before = now
    return bits, count, begins


def _removable() -> np.ndarray:
    """Whether a pixel whose neighbours are so many bits goes in either half of a round (2, 256)."""
    found = np.zeros((2, 256), np.bool_)
    for bits in range(256):
        ring = [bits >> k & 1 for k in range(8)]
        begins = sum(now and not ring[k - 1] for k, now in enumerate(ring))
        north, east, south, west = ring[::2]
        if 2 <= sum(ring) <= 6 and begins == 1:
            found[0, bits] = not (north and east and south) and not (east and south and west)
            found[1, bits] = not (north and east and west) and not (north and south and west)
    return found


REMOVABLE = _removable()


@kernel("void(u1[:, ::1], i8[::1])")
def thin(ink, edge):
    """Thins ink (H, W) in place; the picture's edge must be free of it. edge (E,): the pixels of ink beside others,
    by their places row by row."""
    width = ink.shape[1]
    flat = ink.reshape(-1)
    n = len(edge)
    while n:
        gone = np.empty(2 * n, np.int64)
        m = 0
        for half in range(2):
            before = m
            for k in range(n):
                i = edge[k]
                if not flat[i]:
                    continue
                bits = np.int64(flat[i - width] != 0) | np.int64(flat[i - width + 1] != 0) << 1
                bits |= np.int64(flat[i + 1] != 0) << 2 | np.int64(flat[i + width + 1] != 0) << 3
                bits |= np.int64(flat[i + width] != 0) << 4 | np.int64(flat[i + width - 1] != 0) << 5
                bits |= np.int64(flat[i - 1] != 0) << 6 | np.int64(flat[i - width - 1] != 0) << 7
                if REMOVABLE[half, bits]:
                    gone[m] = i
                    m += 1
            for k in range(before, m):
                flat[gone[k]] = 0
        if not m:
            break
        # The next round looks at what has come to lie at an edge, and at what is left of this one.
        following = np.empty(4 * m + n, np.int64)
        count = 0
        for k in range(m):
            for step in (-width, 1, width, -1):
                i = gone[k] + step
                if flat[i] == 1:
                    flat[i] = 2
                    following[count] = i
                    count += 1
        for k in range(n):
            if flat[edge[k]] == 1:
                flat[edge[k]] = 2
                following[count] = edge[k]
                count += 1
        for k in range(count):
            flat[following[k]] = 1
        edge, n = following, count


@kernel("void(u1[:, ::1], i8[::1])")
def without_steps(ink, pixels):
    """Takes out the corners of stairs, so that a line of pixels has two neighbours everywhere but at its ends and where
    it meets others. pixels (P,): where there is ink, row by row."""
    width = ink.shape[1]
    for i in range(len(pixels)):
        r, c = pixels[i] // width, pixels[i] % width
        bits, _count, _begins = around(ink, r, c)
        for k in (0, 2, 4, 6):
            one, other = bits >> k & 1, bits >> ((k + 2) % 8) & 1
            opposite = bits >> ((k + 4) % 8) & 1 | bits >> ((k + 5) % 8) & 1 | bits >> ((k + 6) % 8) & 1
            # Both sides of a step, and nothing that hangs on the pixel alone.
            if one and other and not opposite:
                ink[r, c] = 0
                break


@kernel("Tuple((i4[::1], i4[::1], i8[::1], i8[:, ::1], i8))(u1[:, ::1], i8[::1])")
def branches(ink, pixels):
    """The lines of a skeleton (H, W), whose pixels (P,) are told by their places row by row: row and column of each in
    order along its line (N,), start (B+1,), and the nodes that each begins and ends at (B, 2): a number from 0 on where
    lines meet, -1 at an end, -2 where it goes round; and how many nodes there are."""
    height, width = ink.shape
    # Of what is no line's, nothing is ever asked.
    node, done = np.empty((height, width), np.int32), np.empty((height, width), np.bool_)
    total = len(pixels)
    rows_of, columns_of = pixels // width, pixels % width
    for i in range(total):
        node[rows_of[i], columns_of[i]] = -1
        done[rows_of[i], columns_of[i]] = False
    stack = np.empty(4096, np.int64)
    nodes = 0
    neighbours = np.empty(total, np.int64)
    for i in range(total):
        r, c = rows_of[i], columns_of[i]
        _, neighbours[i], begins = around(ink, r, c)
        if node[r, c] >= 0 or (begins < 3 and neighbours[i] < 4):
            continue
        # All such pixels that touch are one meeting.
        depth = 1
        stack[0] = r * width + c
        node[r, c] = nodes
        while depth:
            depth -= 1
            y, x = stack[depth] // width, stack[depth] % width
            for k in range(8):
                y1, x1 = y + ROUND_R[k], x + ROUND_C[k]
                if ink[y1, x1] and node[y1, x1] < 0:
                    _, count, begins = around(ink, y1, x1)
                    if (begins >= 3 or count >= 4) and depth < 4000:
                        node[y1, x1] = nodes
                        stack[depth] = y1 * width + x1
                        depth += 1
        nodes += 1
    # Each line has a pixel of its own, and besides those at most one of a meeting at each end.
    rows, columns = np.empty(3 * total + 2, np.int32), np.empty(3 * total + 2, np.int32)
    start, ends = np.zeros(total + 2, np.int64), np.empty((total + 1, 2), np.int64)
    n = lines = 0
    # From meetings, then from ends, then what goes round.
    for phase in range(3):
        for i in range(total):
            r, c = rows_of[i], columns_of[i]
            at = node[r, c]
            if done[r, c] or (phase == 0) != (at >= 0) or (phase == 1 and neighbours[i] != 1):
                continue
            for k in range(8):
                if phase == 0:
                    y, x = r + ROUND_R[k], c + ROUND_C[k]
                    if not ink[y, x] or node[y, x] >= 0 or done[y, x]:
                        continue
                    rows[n], columns[n] = r, c
                    n += 1
                else:
                    y, x = r, c
                first_n = n
                before_r, before_c = (r, c) if phase == 0 else (-9, -9)
                last = -1 if phase < 2 else -2
                while True:
                    done[y, x] = True
                    rows[n], columns[n] = y, x
                    n += 1
                    y1 = x1 = -1
                    reached = -1
                    # Sides before corners, so that no pixel is passed over.
                    for turn in range(8):
                        j = 2 * turn if turn < 4 else 2 * (turn - 4) + 1
                        a, b = y + ROUND_R[j], x + ROUND_C[j]
                        if not ink[a, b] or (a == before_r and b == before_c):
                            continue
                        if node[a, b] >= 0:
                            # Not back into the meeting that it has just left.
                            if phase == 0 and node[a, b] == at and n - first_n < 2:
                                continue
                            reached = node[a, b]
                            y1, x1 = a, b
                            break
                        if not done[a, b] and y1 < 0:
                            y1, x1 = a, b
                    if reached >= 0:
                        rows[n], columns[n] = y1, x1
                        n += 1
                        last = reached
                        break
                    if y1 < 0:
                        break
                    before_r, before_c = y, x
                    y, x = y1, x1
                ends[lines, 0] = at if phase == 0 else (-1 if phase == 1 else -2)
                ends[lines, 1] = last
                if phase == 2 and last == -1:
                    ends[lines, 0] = -1
                lines += 1
                start[lines] = n
                if phase > 0:
                    break
    return rows[:n].copy(), columns[:n].copy(), start[: lines + 1].copy(), ends[:lines].copy(), nodes
