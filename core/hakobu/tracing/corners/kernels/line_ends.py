"""Where a line of a width ends that a picture shows with noise: moved until its model fits the pixels best."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from ...edges.kernels.subpixel_edges import covered
from .blur_model import DENSITY, SHARE, looked_up

#: Pixels before and after an end, and beside the line, that are looked at.
ABOUT, BESIDE = 3.5, 1.5
#: A step along and across as a scanner leaves it, with the pixel's own width, as a standard deviation in pixels.
SOFT = 0.58
#: Steps of the fit, the longest of them, the one that is the last, and how far it may lead, in pixels.
STEPS, LONGEST, SETTLED, FARTHEST = 6, 0.5, 0.002, 1.0


@kernel("f8(Array(f8, 1, 'C', readonly=True), f8)")
def at_softness(table, off):
    """A value of a table of the normal distribution so far off a step, in pixels."""
    return looked_up(table, min(max(off / SOFT, -5.0), 5.0))


@kernel("f8(Array(f4, 2, 'C', readonly=True), f8, f8, f8, f8, f8, f8, f8, f8, f8)")
def end_by_profile(grey, x, y, ux, uy, width, far, limit, black, white):
    """How far a line goes on beyond a place of its middle in a direction, from about how far on, by least squares."""
    half = width / 2 + BESIDE
    at_first = far
    for _ in range(STEPS):
        ex, ey = x + far * ux, y + far * uy
        reach = length(ABOUT, half)
        low_r, high_r = max(int(ey - reach), 0), min(int(ey + reach) + 1, grey.shape[0])
        low_c, high_c = max(int(ex - reach), 0), min(int(ex + reach) + 1, grey.shape[1])
        top = bottom = 0.0
        for r in range(low_r, high_r):
            for c in range(low_c, high_c):
                px, py = c + 0.5 - ex, r + 0.5 - ey
                along, over = px * ux + py * uy, abs(py * ux - px * uy)
                if abs(along) > ABOUT or over > half:
                    continue
                across = at_softness(SHARE, over + width / 2) - at_softness(SHARE, over - width / 2)
                by = across * at_softness(DENSITY, along) / SOFT
                off = covered(np.float64(grey[r, c]), limit, black, white) - across * at_softness(SHARE, -along)
                top += by * off
                bottom += by * by
        if not bottom > 0:
            return at_first
        step = top / bottom
        far += min(max(step, -LONGEST), LONGEST)
        if abs(step) < SETTLED:
            break
    return far if abs(far - at_first) < FARTHEST else at_first
