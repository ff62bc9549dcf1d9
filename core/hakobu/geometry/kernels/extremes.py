"""Where a curve turns round along a direction, and where it passes a level of it: in closed form and by halving."""

from __future__ import annotations

import math

import numpy as np

from ..compiled import kernel
from .curves import ARC, curve_at

LINE = 0


@kernel("i8(i8, f8[::1], f8, f8, f8[::1])")
def turns_along(kind, g, nx, ny, found):
    """Writes the parameters where a curve's derivative has no part along (nx, ny), two at most; gives how many."""
    if kind == LINE:
        return 0
    n = 0
    if kind == ARC:
        at = math.atan2(ny, nx) - g[3]
        for k in range(-4, 5):
            t = (at + k * math.pi) / g[4]
            if 0 < t < 1 and n < 2:
                found[n] = t
                n += 1
        return n
    p = nx * (g[2] - g[0]) + ny * (g[3] - g[1])
    q = nx * (g[4] - g[2]) + ny * (g[5] - g[3])
    r = nx * (g[6] - g[4]) + ny * (g[7] - g[5])
    # p (1-t)^2 + 2 q t (1-t) + r t^2, in the form that loses no digits.
    a, half = p - 2 * q + r, q - p
    root = half * half - a * p
    if root < 0:
        return 0
    w = -(half + math.copysign(math.sqrt(root), half))
    for k in range(2):
        above, below = (w, a) if k == 0 else (p, w)
        if below != 0 and 0 < above / below < 1:
            found[n] = above / below
            n += 1
    if n == 2 and found[0] > found[1]:
        found[0], found[1] = found[1], found[0]
    return n


@kernel("Tuple((f8, f8))(i8, f8[::1], f8, f8, f8, f8)")
def farthest_along(kind, g, t0, t1, nx, ny):
    """The parameter of a span's farthest place along a direction, and how far it is."""
    stops = np.empty(4)
    n = turns_along(kind, g, nx, ny, stops)
    stops[n], stops[n + 1] = t0, t1
    best, far = t0, -np.inf
    for k in range(n + 2):
        t = stops[k]
        if t0 <= t <= t1:
            x, y, _, _ = curve_at(kind, g, t)
            if nx * x + ny * y > far:
                best, far = t, nx * x + ny * y
    return best, far


@kernel("i8(i8, f8[::1], f8, f8, f8, f8, f8, f8[::1])")
def passes_level(kind, g, t0, t1, nx, ny, level, found):
    """Writes the parameters, three at most, where a span passes from one side of a level along (nx, ny) to the other;
    gives how many. Between its turns it passes it once at most."""
    stops = np.empty(4)
    turns = np.empty(2)
    n = turns_along(kind, g, nx, ny, turns)
    stops[0] = t0
    count = 1
    for k in range(n):
        if t0 < turns[k] < t1:
            stops[count] = turns[k]
            count += 1
    stops[count] = t1
    many = 0
    for k in range(count):
        low, high = stops[k], stops[k + 1]
        x, y, _, _ = curve_at(kind, g, low)
        under = nx * x + ny * y < level
        x, y, _, _ = curve_at(kind, g, high)
        if (nx * x + ny * y < level) == under:
            continue
        for _ in range(60):
            t = (low + high) / 2
            x, y, _, _ = curve_at(kind, g, t)
            if (nx * x + ny * y < level) == under:
                low = t
            else:
                high = t
        found[many] = (low + high) / 2
        many += 1
    return many
