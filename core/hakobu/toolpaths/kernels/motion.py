"""How long a tool takes along a run: trapezoidal speeds with look-ahead."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel


@kernel("f8(f8, f8, f8, f8, f8)")
def trapezoid(long, first, last, top, acceleration):
    """Seconds over a length from one speed to another, with no more than a top speed between: speed rises, stays and
    falls (Biagiotti and Melchiorri, Trajectory Planning for Automatic Machines and Robots, 2008, section 3.2). What
    cannot be reached on the way is not."""
    peak = math.sqrt((2 * acceleration * long + first * first + last * last) / 2)
    if peak <= top:
        return (2 * peak - first - last) / acceleration
    rise = (2 * top - first - last) / acceleration
    ramps = (2 * top * top - first * first - last * last) / (2 * acceleration)
    return rise + max(long - ramps, 0.0) / top


@kernel("f8[::1](f8[::1], f8[::1], f8[::1], f8[::1], i8[::1])")
def run_seconds(long, top, joint, acceleration, start):
    """Seconds of each segment (M,) of runs (K+1,): long, in mm; top, the speed that each may have; joint, the speed
    that may be had where a segment begins; each run begins and ends at rest."""
    count = len(long)
    enter, made = np.empty(count + 1), np.empty(count)
    for run in range(len(start) - 1):
        a, b = start[run], start[run + 1]
        if a == b:
            continue
        # Backwards: no faster than it can slow down from; forwards: than it can speed up to.
        leave = 0.0
        for k in range(b - 1, a - 1, -1):
            most = math.sqrt(leave * leave + 2 * acceleration[k] * long[k])
            enter[k] = min(joint[k], top[k], most) if k > a else 0.0
            if k > a:
                enter[k] = min(enter[k], top[k - 1])
            leave = enter[k]
        for k in range(a, b):
            most = math.sqrt(enter[k] * enter[k] + 2 * acceleration[k] * long[k])
            out = min(enter[k + 1], most) if k + 1 < b else 0.0
            if k + 1 < b:
                enter[k + 1] = out
            made[k] = trapezoid(long[k], enter[k], out, top[k], acceleration[k])
    return made
