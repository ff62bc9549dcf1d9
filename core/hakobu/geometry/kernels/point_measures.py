"""What is measured on points before curves are put through them: chords, tangents, circles."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
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


@kernel("void(f8[:, ::1], f8[::1])")
def ways_to(p, run):
    """The way along points to each of them, from the first on."""
    run[0] = 0.0
    for i in range(1, len(p)):
        run[i] = run[i - 1] + length(p[i, 0] - p[i - 1, 0], p[i, 1] - p[i - 1, 1])


@kernel("Tuple((b1, f8, f8, f8, f8))(f8[:, ::1], f8[::1], i8, i8, i8, f8)", any_order=True)
def parabola_at(p, run, i, a, b, tolerance):
    """Least squares parabola over the way along points a to b: its place x, y at point i and its slope x, y there, and
    whether the points lie within the tolerance of it and are enough to tell. run: the way to each."""
    px, py, middle, n1 = p[i, 0], p[i, 1], run[i], float(b - a + 1)
    s1 = s2 = s3 = s4 = x0 = x1 = x2 = y0 = y1 = y2 = 0.0
    # Parts that begin at 0: that no number is negative lets several points be reckoned at once.
    own, way = p[a : b + 1], run[a : b + 1]
    for j in range(len(own)):
        s, x, y = way[j] - middle, own[j, 0] - px, own[j, 1] - py
        q = s * s
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
    # The normal equations of three unknowns, solved by their cofactors.
    c00, c01, c02 = s2 * s4 - s3 * s3, s2 * s3 - s1 * s4, s1 * s3 - s2 * s2
    c11, c12, c22 = n1 * s4 - s2 * s2, s1 * s2 - n1 * s3, n1 * s2 - s1 * s1
    det = n1 * c00 + s1 * c01 + s2 * c02
    if n1 < 5 or not abs(det) > 1e-12 * (n1 * s2 * s4):
        return False, 0.0, 0.0, 0.0, 0.0
    share = 1 / det
    ax, ay = (c00 * x0 + c01 * x1 + c02 * x2) * share, (c00 * y0 + c01 * y1 + c02 * y2) * share
    bx, by = (c01 * x0 + c11 * x1 + c12 * x2) * share, (c01 * y0 + c11 * y1 + c12 * y2) * share
    cx, cy = (c02 * x0 + c12 * x1 + c22 * x2) * share, (c02 * y0 + c12 * y1 + c22 * y2) * share
    most = 0.0
    for j in range(len(own)):
        s = way[j] - middle
        dx, dy = ax + s * (bx + s * cx) - (own[j, 0] - px), ay + s * (by + s * cy) - (own[j, 1] - py)
        off = dx * dx + dy * dy
        most = off if off > most else most
    return most <= tolerance * tolerance, px + ax, py + ay, bx, by


@kernel("void(f8[:, ::1], f8[::1], i8, f8, f8[::1])")
def tangent_at(p, run, i, tolerance, tangent):
    """The direction at a point of a row: of a parabola over as long a stretch to each side as one fits, a third of the
    row at most, whose middle the point is moved to, so that what is noise in one point does not become a bend in the
    line. run: the way to each point."""
    high = len(p) - 1
    reach = min(LONGEST_REACH * tolerance, run[high] / 3)
    a, b = i, i
    while a > 0 and run[i] - run[a - 1] <= reach:
        a -= 1
    while b < high and run[b + 1] - run[i] <= reach:
        b += 1
    while reach >= SHORTEST_REACH * tolerance:
        while run[i] - run[a] > reach:
            a += 1
        while run[b] - run[i] > reach:
            b -= 1
        fits, x, y, ux, uy = parabola_at(p, run, i, a, b, tolerance)
        size = length(ux, uy)
        if fits and size > 0:
            p[i, 0], p[i, 1] = x, y
            tangent[0], tangent[1] = ux / size, uy / size
            return
        reach /= 2
    before, after = max(i - 1, 0), min(i + 1, high)
    x, y = p[after, 0] - p[before, 0], p[after, 1] - p[before, 1]
    size = length(x, y)
    tangent[0] = x / size if size > 0 else 0.0
    tangent[1] = y / size if size > 0 else 0.0


@kernel("void(f8[:, ::1], f8, f8[::1])")
def tangent_where_closed(p, tolerance, tangent):
    """The same where a closed row ends on its first point, both of which are moved."""
    high = len(p) - 1
    before = high - high // 2
    row, run = np.empty((high + 1, 2)), np.empty(high + 1)
    for j in range(high + 1):
        k = before + j if before + j <= high else before + j - high
        row[j, 0], row[j, 1] = p[k, 0], p[k, 1]
    ways_to(row, run)
    middle = high - before
    tangent_at(row, run, middle, tolerance, tangent)
    p[0, 0], p[0, 1] = row[middle, 0], row[middle, 1]
    p[high, 0], p[high, 1] = p[0, 0], p[0, 1]


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
