"""Where a curve turns round along a direction, and where it passes a level of it: in closed form and by halving."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .curves import ARC, curve_at

LINE = 0


@kernel("i8(i8, f8[::1], f8, f8, f8[::1])")
def turns_along(kind, g, nx, ny, found):
    """Writes the parameters where a curve's derivative has no part along (nx, ny), two at most, in order; gives how
    many."""
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
        if n == 2 and found[0] > found[1]:
            found[0], found[1] = found[1], found[0]
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


@kernel("f8(i8, f8[::1], f8, f8)")
def bound_along(kind, g, nx, ny):
    """No place of a curve is farther along a direction than this: its circle is not, nor its control points."""
    if kind == ARC:
        return nx * g[0] + ny * g[1] + g[2]
    far = nx * g[0] + ny * g[1]
    for k in range(1, 4):
        far = max(far, nx * g[2 * k] + ny * g[2 * k + 1])
    return far


@kernel("Tuple((f8, f8))(i8, f8[::1], f8, f8, f8, f8, f8[::1])")
def farthest_along(kind, g, t0, t1, nx, ny, stops):
    """The parameter of a span's farthest place along a direction, and how far it is; stops: room for four numbers."""
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


@kernel("i8(i8, f8[::1], f8, f8, f8, f8, f8, f8[::1], f8[::1])")
def passes_level(kind, g, t0, t1, nx, ny, level, found, stops):
    """Writes the parameters, three at most, where a span passes from one side of a level along (nx, ny) to the other;
    gives how many. What is on the level is below it. Between its turns it passes it once at most. stops: room for six
    numbers."""
    turns = stops[4:]
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
        under = nx * x + ny * y <= level
        x, y, _, _ = curve_at(kind, g, high)
        if (nx * x + ny * y <= level) == under:
            continue
        # Newton's method, held between two places on either side.
        t = (low + high) / 2
        for _ in range(60):
            x, y, dx, dy = curve_at(kind, g, t)
            over, slope = nx * x + ny * y - level, nx * dx + ny * dy
            if (over <= 0) == under:
                low = t
            else:
                high = t
            step = over / slope if slope != 0 else np.inf
            if abs(step) < 1e-15 or high - low < 1e-15:
                break
            t = t - step if low < t - step < high else (low + high) / 2
        found[many] = t
        many += 1
    return many
