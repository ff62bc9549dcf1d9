"""How far two lines that run along each other are apart: followed side by side, in linear time."""

from __future__ import annotations

import numpy as np

from ...compiled import kernel


@kernel("f8(f8, f8, f8, f8, f8, f8)")
def squared_to_chord(px, py, ax, ay, bx, by):
    """The square of the distance from a point to a chord."""
    ux, uy = bx - ax, by - ay
    square = ux * ux + uy * uy
    share = ((px - ax) * ux + (py - ay) * uy) / square if square > 0 else 0.0
    share = min(max(share, 0.0), 1.0)
    dx, dy = px - ax - share * ux, py - ay - share * uy
    return dx * dx + dy * dy


@kernel("Tuple((f8, i8))(f8[:, ::1], i8, i8, f8[:, ::1], i8, i8, b1, f8)")
def farthest_along(points, first, last, line, begin, end, round_, reach):
    """The largest distance from points [first, last) to the line through others [begin, end), and where it is. Each is
    looked for about the place of the one before, so far along the line as the points moved and as much as `reach`;
    farther off, on the whole line. round_: whether the line's end is its beginning."""
    count = end - begin - 1
    worst, at = 0.0, first
    if count < 1:
        for i in range(first, last):
            away = squared_to_chord(
                points[i, 0], points[i, 1], line[begin, 0], line[begin, 1], line[begin, 0], line[begin, 1]
            )
            if away > worst:
                worst, at = away, i
        return np.sqrt(worst), at
    j = -1
    scans = 0
    for i in range(first, last):
        x, y = points[i, 0], points[i, 1]
        best = np.inf
        if j >= 0:
            step = np.sqrt((x - points[i - 1, 0]) ** 2 + (y - points[i - 1, 1]) ** 2)
            near = j
            for way in (1, -1):
                k, gone = j, 0.0
                for _ in range(count):
                    a = begin + k
                    away = squared_to_chord(x, y, line[a, 0], line[a, 1], line[a + 1, 0], line[a + 1, 1])
                    if away < best:
                        best, near = away, k
                    # The chord that the place before lies on is not counted: it may lie anywhere on it.
                    if k != j:
                        gone += np.sqrt((line[a + 1, 0] - line[a, 0]) ** 2 + (line[a + 1, 1] - line[a, 1]) ** 2)
                    if gone > 2 * (step + reach):
                        break
                    k += way
                    if k >= count or k < 0:
                        if not round_:
                            break
                        k = 0 if k >= count else count - 1
            j = near
        if best > reach * reach:
            scans += 1
            if scans > 50:
                return np.inf, i
            for k in range(count):
                a = begin + k
                away = squared_to_chord(x, y, line[a, 0], line[a, 1], line[a + 1, 0], line[a + 1, 1])
                if away < best:
                    best, j = away, k
        if best > worst:
            worst, at = best, i
    return np.sqrt(worst), at


@kernel("Tuple((f8[::1], i8[::1]))(f8[:, ::1], i8[::1], b1[::1], f8[:, ::1], i8[::1], b1[::1], i8[:, ::1], f8)")
def pairs_apart(one, one_start, one_round, other, other_start, other_round, pairs, reach):
    """For pairs (N, 2) of lines through points, the larger of both largest distances from the nodes of one to the other
    (N,), infinite where they are far apart all along, and the node where it is, those of the second counted on from
    those of the first."""
    apart, place = np.empty(len(pairs)), np.empty(len(pairs), np.int64)
    for n in range(len(pairs)):
        a, b = pairs[n, 0], pairs[n, 1]
        there, at = farthest_along(
            one, one_start[a], one_start[a + 1], other, other_start[b], other_start[b + 1], other_round[b], reach
        )
        apart[n], place[n] = there, at
        if there == np.inf:
            continue
        back, at = farthest_along(
            other, other_start[b], other_start[b + 1], one, one_start[a], one_start[a + 1], one_round[a], reach
        )
        if back > there:
            apart[n], place[n] = back, at + len(one)
    return apart, place
