"""The skeleton of ink: thinned from its edges until lines are one pixel wide (Zhang and Suen 1984). Only pixels at an
edge are looked at, each round's from the round before. It tells how lines hang together, and nothing about where they
lie: that is measured on the picture."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel

#: Rows and columns of the neighbours of a pixel, round from the one above.
ROUND_R = (-1, -1, 0, 1, 1, 1, 0, -1)
ROUND_C = (0, 1, 1, 1, 0, -1, -1, -1)
#: The neighbours beside a pixel, then those at its corners, so that no pixel of a line is passed over.
SIDES_FIRST = (0, 2, 4, 6, 1, 3, 5, 7)
#: Ink that is in line to be looked at in the next round of thinning: ink, and a mark.
IN_LINE = 3


@kernel("u1(u1[::1], u8, u8)")
def ring(flat, i, width):
    """Which of the neighbours of a pixel are ink, as bits: round from the one above. flat: ink row by row."""
    one, ink = np.uint64(1), np.uint8(1)
    up, down = i - width, i + width
    bits = (flat[up] & ink) | (flat[up + one] & ink) << np.uint8(1) | (flat[i + one] & ink) << np.uint8(2)
    bits |= (flat[down + one] & ink) << np.uint8(3) | (flat[down] & ink) << np.uint8(4)
    bits |= (flat[down - one] & ink) << np.uint8(5) | (flat[i - one] & ink) << np.uint8(6)
    return np.uint8(bits | (flat[up - one] & ink) << np.uint8(7))


@kernel("i8[::1](i8)")
def steps_round(width):
    """How far on the neighbours of a pixel are, row by row."""
    found = np.empty(8, np.int64)
    for k in range(8):
        found[k] = ROUND_R[k] * width + ROUND_C[k]
    return found


def _rings() -> list[list[int]]:
    return [[bits >> k & 1 for k in range(8)] for bits in range(256)]


#: How many neighbours are ink where they are such bits, and how often ink begins on the way round.
COUNT = np.array([sum(ring) for ring in _rings()])
BEGINS = np.array([sum(now and not ring[k - 1] for k, now in enumerate(ring)) for ring in _rings()])


def _removable() -> np.ndarray:
    """Whether a pixel whose neighbours are so many bits goes in either half of a round (2, 256)."""
    found = np.zeros((2, 256), np.bool_)
    for bits, (north, _, east, _, south, _, west, _) in enumerate(_rings()):
        if 2 <= COUNT[bits] <= 6 and BEGINS[bits] == 1:
            found[0, bits] = not (north and east and south) and not (east and south and west)
            found[1, bits] = not (north and east and west) and not (north and south and west)
    return found


REMOVABLE = _removable()


@kernel("void(u1[:, ::1], i8[::1])")
def thin(ink, edge):
    """Thins ink (H, W), of 0 and 1, in place; the picture's edge must be free of it. edge (E,): the pixels of ink
    beside others, by their places row by row."""
    width, one, marked = np.uint64(ink.shape[1]), np.uint64(1), np.uint8(IN_LINE)
    flat = ink.reshape(-1)
    edge = edge.astype(np.uint64)
    n = len(edge)
    while n:
        gone = np.empty(2 * n, np.uint64)
        m = 0
        for half in range(2):
            before = m
            for k in range(n):
                if flat[edge[k]] and REMOVABLE[half, ring(flat, edge[k], width)]:
                    gone[m] = edge[k]
                    m += 1
            for k in range(before, m):
                flat[gone[k]] = 0
        if not m:
            break
        # The next round looks at what has come to lie at an edge, and at what is left of this one.
        following = np.empty(4 * m + n, np.uint64)
        count = 0
        for k in range(m):
            for i in (gone[k] - width, gone[k] + one, gone[k] + width, gone[k] - one):
                if flat[i] == 1:
                    flat[i] = marked
                    following[count] = i
                    count += 1
        for k in range(n):
            if flat[edge[k]] == 1:
                flat[edge[k]] = marked
                following[count] = edge[k]
                count += 1
        for k in range(count):
            flat[following[k]] = 1
        edge, n = following, count


@kernel("void(u1[:, ::1], i8[::1])")
def without_steps(ink, pixels):
    """Takes out the corners of stairs, so that a line of pixels has two neighbours everywhere but at its ends and where
    it meets others. pixels (P,): where there is ink, row by row."""
    flat = ink.reshape(-1)
    for i in range(len(pixels)):
        bits = np.int64(ring(flat, np.uint64(pixels[i]), np.uint64(ink.shape[1])))
        for k in (0, 2, 4, 6):
            one, other = bits >> k & 1, bits >> ((k + 2) & 7) & 1
            opposite = bits >> ((k + 4) & 7) & 1 | bits >> ((k + 5) & 7) & 1 | bits >> ((k + 6) & 7) & 1
            # Both sides of a step, and nothing that hangs on the pixel alone.
            if one and other and not opposite:
                flat[pixels[i]] = 0
                break


@kernel("b1(u1[::1], i8, i8)")
def is_meeting(flat, i, width):
    """Whether more than two lines of a skeleton meet at a pixel."""
    bits = ring(flat, np.uint64(i), np.uint64(width))
    return BEGINS[bits] >= 3 or COUNT[bits] >= 4


@kernel("i8(u1[::1], i8[::1], i8, i4[::1])")
def mark_meetings(flat, pixels, width, node):
    """Numbers the pixels where lines meet, from 0 on; all such that touch are one meeting. How many there are."""
    step = steps_round(width)
    stack = np.empty(4096, np.int64)
    nodes = 0
    for i in pixels:
        if node[i] >= 0 or not is_meeting(flat, i, width):
            continue
        depth = 1
        stack[0] = i
        node[i] = nodes
        while depth:
            depth -= 1
            at = stack[depth]
            for k in range(8):
                j = at + step[k]
                if flat[j] and node[j] < 0 and is_meeting(flat, j, width) and depth < 4000:
                    node[j] = nodes
                    stack[depth] = j
                    depth += 1
        nodes += 1
    return nodes


@kernel("Tuple((i4[::1], i4[::1], i8[::1], i8[:, ::1], i8))(u1[:, ::1], i8[::1])")
def branches(ink, pixels):
    """The lines of a skeleton (H, W), whose pixels (P,) are told by their places row by row: row and column of each in
    order along its line (N,), start (B+1,), and the nodes that each begins and ends at (B, 2): a number from 0 on where
    lines meet, -1 at an end, -2 where it goes round; and how many nodes there are."""
    flat, width, total = ink.reshape(-1), ink.shape[1], len(pixels)
    step = steps_round(width)
    # Of what is no line's, nothing is ever asked.
    node, done = np.empty(len(flat), np.int32), np.empty(len(flat), np.bool_)
    for i in pixels:
        node[i], done[i] = -1, False
    nodes = mark_meetings(flat, pixels, width, node)
    # Each line has a pixel of its own, and besides those at most one of a meeting at each end.
    line = np.empty(3 * total + 2, np.int64)
    start, ends = np.zeros(total + 2, np.int64), np.empty((total + 1, 2), np.int64)
    n = lines = 0
    # From meetings, then from ends, then what goes round.
    for phase in range(3):
        for begun in pixels:
            at = node[begun]
            if done[begun] or (phase == 0) != (at >= 0):
                continue
            if phase == 1 and COUNT[ring(flat, np.uint64(begun), np.uint64(width))] != 1:
                continue
            for k in range(8):
                i, before = begun, -1
                if phase == 0:
                    i, before = begun + step[k], begun
                    if not flat[i] or node[i] >= 0 or done[i]:
                        continue
                    line[n] = begun
                    n += 1
                first_n = n
                last = -1 if phase < 2 else -2
                while True:
                    done[i] = True
                    line[n] = i
                    n += 1
                    following = reached = -1
                    bits = np.int64(ring(flat, np.uint64(i), np.uint64(width)))
                    for j in SIDES_FIRST:
                        other = i + step[j]
                        if not bits >> j & 1 or other == before:
                            continue
                        if node[other] >= 0:
                            # Not back into the meeting that it has just left.
                            if phase == 0 and node[other] == at and n - first_n < 2:
                                continue
                            reached, following = node[other], other
                            break
                        if not done[other] and following < 0:
                            following = other
                    if reached >= 0:
                        line[n] = following
                        n += 1
                        last = reached
                        break
                    if following < 0:
                        break
                    before, i = i, following
                ends[lines, 0] = at if phase == 0 else (-1 if phase == 1 else -2)
                ends[lines, 1] = last
                if phase == 2 and last == -1:
                    ends[lines, 0] = -1
                lines += 1
                start[lines] = n
                if phase > 0:
                    break
    rows, columns = (line[:n] // width).astype(np.int32), (line[:n] % width).astype(np.int32)
    return rows, columns, start[: lines + 1].copy(), ends[:lines].copy(), nodes
