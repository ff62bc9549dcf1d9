"""What is measured on points before curves are put through them: chords, tangents, circles."""

from __future__ import annotations

import math

import numpy as np

from ..compiled import kernel
from .curves import length

#: A tangent is taken over so many tolerances to each side, as long as a parabola fits there.
LONGEST_REACH, SHORTEST_REACH = 64.0, 3.0


@kernel("f8(f8[:, ::1], i8, i8)")
def off_chord(p, i0, i1):
    """The largest distance of the points from the straight line between their ends."""
    dx, dy = p[i1, 0] - p[i0, 0], p[i1, 1] - p[i0, 1]
    chord = length(dx, dy)
    most = 0.0
    for i in range(i0 + 1, i1):
        x, y = p[i, 0] - p[i0, 0], p[i, 1] - p[i0, 1]
        along = (x * dx + y * dy) / chord if chord > 0 else -1.0
        if along < 0:
            d = length(x, y)
        elif along > chord:
            d = length(x - dx, y - dy)
        else:
            d = abs(x * dy - y * dx) / chord
        most = max(most, d)
    return most


@kernel("Tuple((b1, f8, f8, f8, f8))(f8[:, ::1], i8, f8, f8, b1)")
def parabola_at(p, i, reach, tolerance, loop):
    """Least squares parabola over the length along the points about one of them, up to a reach to each side: its place
    x, y there and its slope x, y, and whether the points lie within the tolerance of it and are enough to tell. A loop
    goes on past its ends, of which the last is the first."""
    high = len(p) - 1
    n1 = s1 = s2 = s3 = s4 = 0.0
    x0 = x1 = x2 = y0 = y1 = y2 = 0.0
    ax = ay = bx = by = cx = cy = 0.0
    for turn in range(2):
        if turn == 1:
            # The normal equations of three unknowns, solved by their cofactors.
            c00, c01, c02 = s2 * s4 - s3 * s3, s2 * s3 - s1 * s4, s1 * s3 - s2 * s2
            c11, c12, c22 = n1 * s4 - s2 * s2, s1 * s2 - n1 * s3, n1 * s2 - s1 * s1
            det = n1 * c00 + s1 * c01 + s2 * c02
            if n1 < 5 or not abs(det) > 1e-12 * (n1 * s2 * s4):
                return False, 0.0, 0.0, 0.0, 0.0
            ax, ay = (c00 * x0 + c01 * x1 + c02 * x2) / det, (c00 * y0 + c01 * y1 + c02 * y2) / det
            bx, by = (c01 * x0 + c11 * x1 + c12 * x2) / det, (c01 * y0 + c11 * y1 + c12 * y2) / det
            cx, cy = (c02 * x0 + c12 * x1 + c22 * x2) / det, (c02 * y0 + c12 * y1 + c22 * y2) / det
        for step in (-1, 1):
            j, s = i, 0.0
            while True:
                if j != i or step < 0:
                    x, y = p[j, 0] - p[i, 0], p[j, 1] - p[i, 1]
                    if turn == 0:
                        q = s * s
                        n1 += 1.0
                        s1 += s
                        s2 += q
                        s3 += q * s
                        s4 += q * q
                        x0 += x
                        x1 += x * s
                        x2 += x * q
                        y0 += y
                        y1 += y * s
                        y2 += y * q
                    else:
                        dx, dy = ax + s * (bx + s * cx) - x, ay + s * (by + s * cy) - y
                        if dx * dx + dy * dy > tolerance * tolerance:
                            return False, 0.0, 0.0, 0.0, 0.0
                k = j + step
                if loop:
                    k = k - high if k > high else (k + high if k < 0 else k)
                elif k < 0 or k > high:
                    break
                s += step * length(p[k, 0] - p[j, 0], p[k, 1] - p[j, 1])
                if abs(s) > reach or k == i:
                    break
                j = k
    return True, p[i, 0] + ax, p[i, 1] + ay, bx, by


@kernel("f8(f8[:, ::1], f8)")
def longest_reach(p, tolerance):
    """How far to each side of a point of a row a tangent may be taken over: a third of the row's length at most."""
    along = 0.0
    for k in range(len(p) - 1):
        along += length(p[k + 1, 0] - p[k, 0], p[k + 1, 1] - p[k, 1])
        if along > 3 * LONGEST_REACH * tolerance:
            break
    return min(LONGEST_REACH * tolerance, along / 3)


@kernel("void(f8[:, ::1], i8, f8, f8, b1, f8[::1])")
def tangent_at(p, i, reach, tolerance, loop, tangent):
    """The direction at a point of a row: of a parabola over as long a stretch as one fits, up to a reach to each side,
    whose middle the point is moved to, so that what is noise in one point does not become a bend in the line."""
    while reach >= SHORTEST_REACH * tolerance:
        fits, x, y, ux, uy = parabola_at(p, i, reach, tolerance, loop)
        size = length(ux, uy)
        if fits and size > 0:
            p[i, 0], p[i, 1] = x, y
            tangent[0], tangent[1] = ux / size, uy / size
            return
        reach /= 2
    high = len(p) - 1
    before = i - 1 if i > 0 else (high - 1 if loop else i)
    after = i + 1 if i < high else (1 if loop else i)
    x, y = p[after, 0] - p[before, 0], p[after, 1] - p[before, 1]
    size = length(x, y)
    tangent[0] = x / size if size > 0 else 0.0
    tangent[1] = y / size if size > 0 else 0.0


@kernel("Tuple((f8, f8, f8, f8))(f8[:, ::1])")
def circle_through(p):
    """Centre, radius and largest distance of the points from the circle of least algebraic error (Kasa 1976)."""
    n = len(p)
    mx, my = p[:, 0].mean(), p[:, 1].mean()
    suu = svv = suv = suuu = svvv = suvv = svuu = 0.0
    for i in range(n):
        x, y = p[i, 0] - mx, p[i, 1] - my
        suu += x * x
        svv += y * y
        suv += x * y
        suuu += x * x * x
        svvv += y * y * y
        suvv += x * y * y
        svuu += y * x * x
    det = suu * svv - suv * suv
    if det <= 1e-12 * (suu + svv) ** 2:
        return 0.0, 0.0, 0.0, np.inf
    a, b = (suuu + suvv) / 2, (svvv + svuu) / 2
    cx, cy = (a * svv - b * suv) / det, (b * suu - a * suv) / det
    radius = math.sqrt(cx * cx + cy * cy + (suu + svv) / n)
    most = 0.0
    for i in range(n):
        most = max(most, abs(length(p[i, 0] - mx - cx, p[i, 1] - my - cy) - radius))
    return mx + cx, my + cy, radius, most
