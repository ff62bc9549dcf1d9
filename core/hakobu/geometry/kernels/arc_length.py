"""Places along curves by their length."""

from __future__ import annotations

import numpy as np

from ...compiled import kernel
from .curves import ARC, curve_at, length

#: Gauss and Legendre's rule of five nodes on (0, 1), by its symmetric halves.
NODES, WEIGHTS = (
    (0.0, 0.5384693101056831, 0.9061798459386640),
    (0.5688888888888889, 0.4786286704993665, 0.2369268850561891),
)
#: Halvings of a curve at most.
DEEPEST = 40


@kernel("f8(i8, f8[::1], f8, f8)")
def by_rule(kind, g, t0, t1):
    middle, half = (t0 + t1) / 2, (t1 - t0) / 2
    total = 0.0
    for k in range(3):
        for way in range(1 if k == 0 else 2):
            _, _, dx, dy = curve_at(kind, g, middle + (half if way == 0 else -half) * NODES[k])
            total += WEIGHTS[k] * length(dx, dy)
    return total * half


@kernel("f8(i8, f8[::1], f8, f8)")
def length_between(kind, g, t0, t1):
    """The length of a span, to 1e-9 of itself or better: halved where that still changes the sum."""
    if kind == ARC:
        return abs(g[4]) * g[2] * (t1 - t0)
    if kind == 0:
        return length(g[6] - g[0], g[7] - g[1]) * (t1 - t0)
    low, high, rough = np.empty(2 * DEEPEST), np.empty(2 * DEEPEST), np.empty(2 * DEEPEST)
    low[0], high[0], rough[0] = t0, t1, by_rule(kind, g, t0, t1)
    left, total = 1, 0.0
    while left > 0:
        left -= 1
        a, b, whole = low[left], high[left], rough[left]
        middle = (a + b) / 2
        first, second = by_rule(kind, g, a, middle), by_rule(kind, g, middle, b)
        if abs(first + second - whole) <= 1e-9 * (first + second) or left > 2 * DEEPEST - 3 or b - a < 1e-9:
            total += first + second
            continue
        low[left], high[left], rough[left] = a, middle, first
        low[left + 1], high[left + 1], rough[left + 1] = middle, b, second
        left += 2
    return total


@kernel("f8[::1](i8[::1], f8[::1], Array(i8, 1, 'C', readonly=True), f8[:, ::1])")
def parameters_at(curve, ahead, kind, geometry):
    """The parameter of the place so far along each curve (N,): Newton's method, held between two places."""
    made = np.empty(len(curve))
    for i in range(len(curve)):
        s = curve[i]
        g, wanted = geometry[s], ahead[i]
        whole = length_between(kind[s], g, 0.0, 1.0)
        t = min(max(wanted / whole, 0.0), 1.0) if whole > 0 else 0.0
        low, high = 0.0, 1.0
        if kind[s] == 1 and 0 < t < 1:
            for _ in range(60):
                over = length_between(kind[s], g, 0.0, t) - wanted
                if over < 0:
                    low = t
                else:
                    high = t
                _, _, dx, dy = curve_at(kind[s], g, t)
                speed = length(dx, dy)
                step = over / speed if speed > 0 else np.inf
                if abs(over) <= 1e-12 * whole or high - low < 1e-15:
                    break
                t = t - step if low < t - step < high else (low + high) / 2
        made[i] = t
    return made
