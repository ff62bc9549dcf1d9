"""Sides that flare out just before their corner, as the small feet of letters do: a corner's rounding only ever takes
away, so what lies outside both sides there is true, and the corner is where that leads to."""

from __future__ import annotations

from ....compiled import kernel
from ....geometry.kernels.curves import length
from .corner_candidates import ahead
from .corner_sides import across, along_side, meeting

#: Pixels: a point so far from the other side is not rounded by it; so far outside its side, beside so many times the
#: noise, it is no part of it; and a corner moves by no more.
CLEAR, OUTSIDE, NOISES, MOVED = 0.7, 0.1, 6.0, 1.5


@kernel("i8(f8[:, ::1], i8, i8, f8, f8[::1], f8[::1], f8, f8, f8)")
def flared(own, i, step, reach, side, other, x, y, noise):
    """The point of a closed outline nearest to a corner, at x and y, from which its side flares out, -1 for none; the
    side is then the line through it and the next. i: the outline's point there; step: the way the side's points go from
    it; reach: how far from it they are rounded."""
    n = len(own)
    # The other side is inside the corner.
    bx, by, _, _ = along_side(other, 0.0)
    inside = across(side, bx, by)
    apart = across(other, side[0], side[1])
    away, j = 0.0, i
    while away < reach:
        k = (j + step) % n
        px, py, qx, qy = own[j, 0], own[j, 1], own[k, 0], own[k, 1]
        gap = length(qx - px, qy - py)
        if across(other, px, py) * apart > 0 and abs(across(other, px, py)) > CLEAR:
            out, less = across(side, px, py), across(side, qx, qy)
            if out * inside > 0 or abs(out) < OUTSIDE + NOISES * noise or not abs(less) < abs(out):
                return -1
            before = side.copy()
            side[0], side[1], side[2], side[3] = px, py, (px - qx) / gap, (py - qy) / gap
            side[4:7] = 0.0
            side[7], side[8] = gap, 2
            met, x1, y1, _ = meeting(side, other, 4.0)
            if met and length(x1 - x, y1 - y) < MOVED:
                return j
            side[:] = before
            return -1
        away += gap
        j = k
    return -1


@kernel("b1(f8[:, ::1], f8[::1], i8, f8, f8, f8, f8, f8[::1], f8[::1], i8[::1], f8[:, ::1], f8[:, ::1])")
def put_flare(own, run, i, reach, noise, x, y, first, second, where, place, free):
    """Writes a corner down by a side of it that flares out, whose points are then true, if there is one."""
    n = len(own)
    for which in range(2):
        step = -1 if which == 0 else 1
        side, other = (first, second) if which == 0 else (second, first)
        j = flared(own, i, step, reach, side, other, x, y, noise)
        if j < 0:
            continue
        _, place[0, 0], place[0, 1], _ = meeting(first, second, 4.0)
        # The corner's own point goes: where that is true it is one farther.
        at = (i - step) % n if j == i else i
        moved = length(own[at, 0] - own[i, 0], own[at, 1] - own[i, 1])
        where[0] = at
        free[0, which] = 0.99 * (ahead(run, run[n], j, at) if which == 0 else ahead(run, run[n], at, j))
        free[0, 1 - which] = max(reach - moved, 0.0)
        return True
    return False
