"""The steps that numbers stand in."""

from __future__ import annotations

import math

import numpy as np

from ...geometry.compiled import kernel

#: A coefficient of decoded pixels lies within this of a whole number of steps.
ROUNDED = 1.2
#: Steps are told where nearly all numbers stand in them, and would do so by chance once in exp(12) times.
NEARLY_ALL, BY_CHANCE = 0.8, 12.0
#: What differs by less is the same number, of areas of one colour.
SAME = 1e-3
#: Finer ones do not matter; coarser ones are not kept in the eight bits of a table.
LEAST_STEP, MOST_STEP = 6, 255


@kernel("f8(f8[::1])")
def step_of(numbers):
    """The largest step that nearly all of some numbers (N,) are multiples of, as far as they are not zero; infinite
    where there is none."""
    values = np.sort(np.abs(numbers))
    # Areas of one colour give one number over and over: it counts once.
    n = 0
    for v in values:
        if v > 2 * ROUNDED and (n == 0 or v - values[n - 1] > SAME):
            values[n] = v
            n += 1
    for step in range(MOST_STEP, LEAST_STEP - 1, -1):
        hits = misses = 0
        for k in range(n):
            times = math.floor(values[k] / step + 0.5)
            if times > 0 and abs(values[k] - times * step) < ROUNDED:
                hits += 1
            else:
                misses += 1
                if misses > (1 - NEARLY_ALL) * n:
                    break
        if misses <= (1 - NEARLY_ALL) * n and hits * math.log(step / (2 * ROUNDED)) > BY_CHANCE:
            return np.float64(step)
    return np.inf
