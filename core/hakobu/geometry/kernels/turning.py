"""How outlines of lines and arcs turn."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .elements import SWEEP, UX, UY, VX, VY


@kernel("f8(f8[::1], f8[::1])")
def corner_between(a, b):
    """How much the line turns from one part to the one that goes on from it."""
    return math.atan2(a[VX] * b[UY] - a[VY] * b[UX], a[VX] * b[UX] + a[VY] * b[UY])


@kernel(
    "Tuple((f8[::1], f8[::1], f8[:, ::1]))(f8[:, ::1], i8[::1], i8[::1], i8[::1], Array(b1, 1, 'C', readonly=True))"
)
def turnings(table, before, after, outline, closed):
    """How much outlines have turned, either way, before each part and after the last (E + 1,), all one after the other;
    how much each turns in all (K,), infinity where it is open; and the middle of the directions along each part and
    about its ends, and how far these are from it (E, 2)."""
    count = len(table)
    turned, around, spread = np.zeros(count + 1), np.zeros(len(closed)), np.empty((count, 2))
    corner = np.empty(count)
    for k in range(count):
        ahead = after[k] >= 0
        corner[k] = corner_between(table[k], table[after[k]]) if ahead else math.pi
        turn = abs(table[k, SWEEP]) + (abs(corner[k]) if ahead else 0.0)
        turned[k + 1] = turned[k] + turn
        around[outline[k]] += turn
    for k in range(len(closed)):
        if not closed[k]:
            around[k] = np.inf
    for k in range(count):
        at, sweep = math.atan2(table[k, UY], table[k, UX]), table[k, SWEEP]
        came = corner[before[k]] if before[k] >= 0 else math.pi
        low = min(min(at - came, at), min(at + sweep, at + sweep + corner[k]))
        high = max(max(at - came, at), max(at + sweep, at + sweep + corner[k]))
        # About a loose end a line has all directions.
        loose = before[k] < 0 or after[k] < 0
        spread[k, 0], spread[k, 1] = (low + high) / 2, math.pi if loose else (high - low) / 2
    return turned, around, spread
