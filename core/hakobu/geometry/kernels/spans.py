"""Spans of curves as curves."""

from __future__ import annotations

import numpy as np

from ...compiled import kernel

CUBIC = 1


@kernel(
    "f8[:, :, ::1](Array(f8, 3, 'C', readonly=True), Array(u1, 1, 'C', readonly=True), i8[::1], f8[:, ::1],"
    " f8[:, :, ::1])"
)
def sub_controls(ctrl, kind, segment, span, ends):
    """Control points (N, 4, 2) of spans of segments between two parameters, by the blossom (Ramshaw 1987); a whole one
    is itself. ends (N, 2, 2): where they begin and end."""
    n = len(segment)
    made = np.empty((n, 4, 2))
    for r in range(n):
        s, t0, t1 = segment[r], span[r, 0], span[r, 1]
        if kind[s] != CUBIC:
            for c in range(2):
                step = (ends[r, 1, c] - ends[r, 0, c]) / 3
                made[r, 1, c], made[r, 2, c] = ends[r, 0, c] + step, ends[r, 1, c] - step
        elif t0 == 0 and t1 == 1:
            made[r, 1:3] = ctrl[s, 1:3]
        elif t0 == 1 and t1 == 0:
            made[r, 1], made[r, 2] = ctrl[s, 2], ctrl[s, 1]
        else:
            for k in range(2):
                u, v, w = (t0, t0, t1) if k == 0 else (t0, t1, t1)
                for c in range(2):
                    a, b = ctrl[s, 0, c] * (1 - u) + ctrl[s, 1, c] * u, ctrl[s, 1, c] * (1 - u) + ctrl[s, 2, c] * u
                    d = ctrl[s, 2, c] * (1 - u) + ctrl[s, 3, c] * u
                    a, b = a * (1 - v) + b * v, b * (1 - v) + d * v
                    made[r, 1 + k, c] = a * (1 - w) + b * w
        made[r, 0], made[r, 3] = ends[r, 0], ends[r, 1]
    return made
