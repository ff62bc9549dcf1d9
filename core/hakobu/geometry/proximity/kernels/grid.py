"""A grid of cells over chords: which chords come near each cell. Cells at the rim reach on without end, so that what
lies far off does not make the others coarse."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from ...kernels.chords import AX, AY, BX, BY, REACH


@kernel("i8(f8, f8, f8, i8)")
def cell_of(x, origin, cell, count):
    """The number of the row or column that holds a coordinate."""
    share = (x - origin) / cell
    if share <= 0:
        return 0
    return count - 1 if share >= count - 1 else int(share)


@kernel("f8[:, ::1](f8[:, ::1], f8)")
def boxes_of(table, slack):
    """The box of each chord's curve, wider by slack: low x and y, high x and y (C, 4)."""
    box = np.empty((len(table), 4))
    for i in range(len(table)):
        chord = table[i]
        reach = chord[REACH] + slack
        box[i, 0], box[i, 1] = min(chord[AX], chord[BX]) - reach, min(chord[AY], chord[BY]) - reach
        box[i, 2], box[i, 3] = max(chord[AX], chord[BX]) + reach, max(chord[AY], chord[BY]) + reach
    return box


@kernel("Tuple((i8, i8))(f8[::1], f8, f8, f8, f8, i8, i8)")
def columns_in_row(chord, slack, x0, y0, cell, columns, r):
    """The columns that a chord with its reach passes within a row that is not at the rim; slack: what else counts as
    near."""
    reach = chord[REACH] + slack
    ax, ay, bx, by = chord[AX], chord[AY], chord[BX], chord[BY]
    t0 = (y0 + r * cell - reach - ay) / (by - ay)
    t1 = (y0 + (r + 1) * cell + reach - ay) / (by - ay)
    t0, t1 = min(max(min(t0, t1), 0.0), 1.0), min(max(max(t0, t1), 0.0), 1.0)
    low = min(ax + t0 * (bx - ax), ax + t1 * (bx - ax))
    high = max(ax + t0 * (bx - ax), ax + t1 * (bx - ax))
    return cell_of(low - reach, x0, cell, columns), cell_of(high + reach, x0, cell, columns)


@kernel("Tuple((i8[::1], i8[::1], b1[::1]))(f8[:, ::1], f8[:, ::1], f8, f8, f8, f8, i8, i8)")
def grid_of(table, box, slack, x0, y0, cell, columns, rows):
    """For a grid of rows by columns: the first member of each cell (rows * columns + 1,), the members, and which
    chords are not in all cells of their boxes, since they slant."""
    begin = np.zeros(columns * rows + 1, np.int64)
    # First as a list of cells with their members, in the order of the members.
    most, n = 3 * len(table) + 16, 0
    cells, members = np.empty(most, np.int64), np.empty(most, np.int64)
    slanting = np.zeros(len(table), np.bool_)
    for i in range(len(table)):
        r0, r1 = cell_of(box[i, 1], y0, cell, rows), cell_of(box[i, 3], y0, cell, rows)
        left, right = cell_of(box[i, 0], x0, cell, columns), cell_of(box[i, 2], x0, cell, columns)
        # A long chord that slants fills only the cells that it passes.
        slants = r1 - r0 > 1 and right - left > 1
        slanting[i] = slants
        if n + (r1 - r0 + 1) * (right - left + 1) > most:
            most = 2 * most + (r1 - r0 + 1) * (right - left + 1)
            more_cells, more_members = np.empty(most, np.int64), np.empty(most, np.int64)
            more_cells[:n], more_members[:n] = cells[:n], members[:n]
            cells, members = more_cells, more_members
        for r in range(r0, r1 + 1):
            c0, c1 = left, right
            if slants and 0 < r < rows - 1:
                c0, c1 = columns_in_row(table[i], slack, x0, y0, cell, columns, r)
            for c in range(c0, c1 + 1):
                k = r * columns + c
                begin[k + 1] += 1
                cells[n], members[n] = k, i
                n += 1
    for k in range(columns * rows):
        begin[k + 1] += begin[k]
    member, fill = np.empty(n, np.int64), begin[:-1].copy()
    for p in range(n):
        k = cells[p]
        member[fill[k]] = members[p]
        fill[k] += 1
    return begin, member, slanting
