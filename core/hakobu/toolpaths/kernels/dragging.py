"""A blade dragged behind its axis."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel


@kernel("f8[:, ::1](f8[:, ::1], f8[::1], f8, f8)")
def tips_of(axis, offset, ux, uy):
    """The places of a blade's tip while its axis goes straight from point to point of (N, 2); offset (N,): how far the
    tip is behind it on its way to each point, 0 where the axis is set down there anew, with the blade as it points;
    (ux, uy): where the blade points at first, length 1.

    On a straight way the tip runs along a tractrix: of the angle p between the blade and the way, tan(p / 2) falls by
    exp(-s / d) over the length s (from the differential equation dp/ds = -sin(p) / d).
    """
    made = np.empty_like(axis)
    d = 0.0
    for k in range(len(axis)):
        if k > 0 and offset[k] > 0:
            d = offset[k]
            dx, dy = axis[k, 0] - axis[k - 1, 0], axis[k, 1] - axis[k - 1, 1]
            s = math.sqrt(dx * dx + dy * dy)
            if s > 0:
                wx, wy = dx / s, dy / s
                p = math.atan2(wx * uy - wy * ux, wx * ux + wy * uy)
                if abs(p) < math.pi - 1e-12:
                    p = 2 * math.atan(math.tan(p / 2) * math.exp(-s / d))
                cos, sin = math.cos(p), math.sin(p)
                ux, uy = wx * cos - wy * sin, wx * sin + wy * cos
        elif k + 1 < len(axis):
            d = offset[k + 1]
        made[k, 0], made[k, 1] = axis[k, 0] - d * ux, axis[k, 1] - d * uy
    return made
