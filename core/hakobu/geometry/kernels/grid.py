"""A grid of cells over chords: which chords come near each cell. Cells at the rim reach on without end, so that what
lies far off does not make the others coarse."""

from __future__ import annotations

import math

import numpy as np

from ..compiled import kernel
from .chords import AX, AY, BX, BY, REACH


@kernel("i8(f8, f8, f8, i8)")
def cell_of(x, origin, cell, count):
    return min(max(int(math.floor(min(max((x - origin) / cell, -1.0), count + 1.0))), 0), count - 1)


@kernel("Tuple((i8, i8))(f8[::1], f8, f8, f8, f8, i8, i8)")
def columns_in_row(chord, slack, x0, y0, cell, columns, r):
    """The columns that a chord with its reach passes within a row; slack: what else counts as near. The last number is
    the row, the one before the number of columns; rows are told by r, the first of them as -1 where it is the rim."""
    reach = chord[REACH] + slack
    ax, ay, bx, by = chord[AX], chord[AY], chord[BX], chord[BY]
    low, high = min(ax, bx), max(ax, bx)
    if ay != by and r >= 0:
        t0 = (y0 + r * cell - reach - ay) / (by - ay)
        t1 = (y0 + (r + 1) * cell + reach - ay) / (by - ay)
        t0, t1 = min(max(min(t0, t1), 0.0), 1.0), min(max(max(t0, t1), 0.0), 1.0)
        low = min(ax + t0 * (bx - ax), ax + t1 * (bx - ax))
        high = max(ax + t0 * (bx - ax), ax + t1 * (bx - ax))
    return cell_of(low - reach, x0, cell, columns), cell_of(high + reach, x0, cell, columns)


@kernel("Tuple((i8[::1], i8[::1]))(f8[:, ::1], f8, f8, f8, f8, i8, i8)")
def grid_of(table, slack, x0, y0, cell, columns, rows):
    """For a grid of rows by columns: the first member of each cell (rows * columns + 1,), and the members."""
    begin = np.zeros(columns * rows + 1, np.int64)
    member = np.empty(0, np.int64)
    fill = begin
    for turn in range(2):
        if turn == 1:
            for k in range(columns * rows):
                begin[k + 1] += begin[k]
            member = np.empty(begin[columns * rows], np.int64)
            fill = begin[:-1].copy()
        for i in range(len(table)):
            chord = table[i]
            reach = chord[REACH] + slack
            r0 = cell_of(min(chord[AY], chord[BY]) - reach, y0, cell, rows)
            r1 = cell_of(max(chord[AY], chord[BY]) + reach, y0, cell, rows)
            for r in range(r0, r1 + 1):
                # One row holds it whole; a rim's row has no lower or upper end.
                seen = -1 if r0 == r1 or r == 0 or r == rows - 1 else r
                c0, c1 = columns_in_row(chord, slack, x0, y0, cell, columns, seen)
                for c in range(c0, c1 + 1):
                    k = r * columns + c
                    if turn == 0:
                        begin[k + 1] += 1
                    else:
                        member[fill[k]] = i
                        fill[k] += 1
    return begin, member
