"""The steps that numbers stand in."""

from __future__ import annotations

import math

import numpy as np

from ...geometry.compiled import kernel

#: Steps are told where nearly all numbers stand in them, and would do so by chance once in exp(12) times.
NEARLY_ALL, BY_CHANCE = 0.8, 12.0
#: The least step that is told, for what numbers may be off; and the largest that a table's eight bits hold.
PER_OFF, MOST_STEP = 4.0, 255
#: What differs by less is the same number, of areas of one colour.
SAME = 1e-3


@kernel("f8(f8[::1], f8)")
def step_of(numbers, off):
    """The largest step that nearly all of some numbers (N,) are multiples of, as far as they are not zero and within
    what they may be off; infinite where there is none."""
    values = np.sort(np.abs(numbers))
    # Areas of one colour give one number over and over: it counts once.
    n = 0
    for v in values:
        if v > 2 * off and (n == 0 or v - values[n - 1] > SAME):
            values[n] = v
            n += 1
    for step in range(MOST_STEP, int(PER_OFF * off) - 1, -1):
        hits = misses = 0
        for k in range(n):
            times = math.floor(values[k] / step + 0.5)
            if times > 0 and abs(values[k] - times * step) < off:
                hits += 1
            else:
                misses += 1
                if misses > (1 - NEARLY_ALL) * n:
                    break
        if misses <= (1 - NEARLY_ALL) * n and hits * math.log(step / (2 * off)) > BY_CHANCE:
            return np.float64(step)
    return np.inf
