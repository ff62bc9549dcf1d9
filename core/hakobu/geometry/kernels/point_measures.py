"""What is measured on points before curves are put through them: chords, tangents, circles."""

from __future__ import annotations

import math

import numpy as np

from ..compiled import kernel

#: A tangent is taken over so many tolerances to each side, as long as a parabola fits there.
LONGEST_REACH, SHORTEST_REACH = 64.0, 3.0


@kernel("f8(f8[:, ::1], i8, i8)")
def off_chord(p, i0, i1):
    """The largest distance of the points from the straight line between their ends."""
    dx, dy = p[i1, 0] - p[i0, 0], p[i1, 1] - p[i0, 1]
    chord = math.hypot(dx, dy)
    most = 0.0
    for i in range(i0 + 1, i1):
        x, y = p[i, 0] - p[i0, 0], p[i, 1] - p[i0, 1]
        along = (x * dx + y * dy) / chord if chord > 0 else -1.0
        if along < 0:
            d = math.hypot(x, y)
        elif along > chord:
            d = math.hypot(x - dx, y - dy)
        else:
            d = abs(x * dy - y * dx) / chord
        most = max(most, d)
    return most


@kernel("f8(f8[:, ::1], i8, i8, i8, f8, f8, b1, f8[:, ::1])")
def parabola_at(p, i, low, high, back, ahead, loop, c):
    """Least squares parabola over the length along the points about one of them, up to so far back and ahead: c (3, 2)
    holds point, slope and half the bend. Returns the largest distance from it, infinite where there are too few points.
    A loop goes on past its ends."""
    n = high - low
    n1 = s1 = s2 = s3 = s4 = 0.0
    x0 = x1 = x2 = y0 = y1 = y2 = 0.0
    most = 0.0
    for turn in range(2):
        if turn == 1:
            # The normal equations of three unknowns, solved by their cofactors.
            c00, c01, c02 = s2 * s4 - s3 * s3, s2 * s3 - s1 * s4, s1 * s3 - s2 * s2
            c11, c12, c22 = n1 * s4 - s2 * s2, s1 * s2 - n1 * s3, n1 * s2 - s1 * s1
            det = n1 * c00 + s1 * c01 + s2 * c02
            if n1 < 5 or not abs(det) > 1e-12 * (n1 * s2 * s4):
                return np.inf
            c[0, 0], c[0, 1] = (c00 * x0 + c01 * x1 + c02 * x2) / det, (c00 * y0 + c01 * y1 + c02 * y2) / det
            c[1, 0], c[1, 1] = (c01 * x0 + c11 * x1 + c12 * x2) / det, (c01 * y0 + c11 * y1 + c12 * y2) / det
            c[2, 0], c[2, 1] = (c02 * x0 + c12 * x1 + c22 * x2) / det, (c02 * y0 + c12 * y1 + c22 * y2) / det
        for step in (-1, 1):
            j, s = i, 0.0
            reach = back if step < 0 else ahead
            while True:
                if j != i or step < 0:
                    if turn == 0:
                        x, y, q = p[j, 0] - p[i, 0], p[j, 1] - p[i, 1], s * s
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
                        dx = c[0, 0] + s * (c[1, 0] + s * c[2, 0]) - (p[j, 0] - p[i, 0])
                        dy = c[0, 1] + s * (c[1, 1] + s * c[2, 1]) - (p[j, 1] - p[i, 1])
                        most = max(most, math.hypot(dx, dy))
                k = j + step
                if loop:
                    k = k - n if k > high else (k + n if k < low else k)
                elif k < low or k > high:
                    break
                s += step * math.hypot(p[k, 0] - p[j, 0], p[k, 1] - p[j, 1])
                if abs(s) > reach or k == i:
                    break
                j = k
    c[0, 0] += p[i, 0]
    c[0, 1] += p[i, 1]
    return most


@kernel("void(f8[:, ::1], i8, i8, i8, f8, b1, f8[::1])")
def tangent_at(p, i, low, high, tolerance, loop, tangent):
    """The direction at a point between two others: of a parabola over as long a stretch as one fits, whose middle the
    point is moved to, so that what is noise in one point does not become a bend in the line."""
    c = np.zeros((3, 2))
    span = 0.0
    for k in range(low, high):
        span += math.hypot(p[k + 1, 0] - p[k, 0], p[k + 1, 1] - p[k, 1])
        if span > 3 * LONGEST_REACH * tolerance:
            break
    reach = min(LONGEST_REACH * tolerance, span / 3)
    while reach >= SHORTEST_REACH * tolerance:
        off = parabola_at(p, i, low, high, reach, reach, loop, c)
        length = math.hypot(c[1, 0], c[1, 1])
        if off <= tolerance and length > 0:
            p[i] = c[0]
            tangent[0], tangent[1] = c[1, 0] / length, c[1, 1] / length
            return
        reach /= 2
    before = i - 1 if i > low else (high - 1 if loop else i)
    after = i + 1 if i < high else (low + 1 if loop else i)
    x, y = p[after, 0] - p[before, 0], p[after, 1] - p[before, 1]
    length = math.hypot(x, y)
    tangent[0] = x / length if length > 0 else 0.0
    tangent[1] = y / length if length > 0 else 0.0


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
        most = max(most, abs(math.hypot(p[i, 0] - mx - cx, p[i, 1] - my - cy) - radius))
    return mx + cx, my + cy, radius, most
