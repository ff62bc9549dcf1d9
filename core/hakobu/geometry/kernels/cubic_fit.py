"""Cubics through many points, within a distance (Schneider 1990, "An algorithm for automatically fitting digitized
curves"), with two changes: at a corner the end handle is free, not bound to a guessed tangent; and whole outlines are
straight lines or circles where they can be.
"""

from __future__ import annotations

import math

import numpy as np

from ..compiled import kernel

LINE, CUBIC, ARC = 0, 1, 2
#: Newton steps that bring a point's parameter nearer, before the span is split.
ROUNDS = 6
#: A span whose error is more than so many times the tolerance is split at once.
HOPELESS = 6.0
#: A tangent between two spans is taken over so many tolerances to each side, as long as a parabola fits there.
LONGEST_REACH, SHORTEST_REACH = 64.0, 3.0


@kernel("b1(f8[:, ::1], f8[::1], i8)")
def solve(a, b, n):
    """Gauss elimination with pivoting of n equations, in place; False where they have no answer."""
    for c in range(n):
        p = c
        for r in range(c + 1, n):
            if abs(a[r, c]) > abs(a[p, c]):
                p = r
        if abs(a[p, c]) < 1e-14:
            return False
        if p != c:
            for k in range(n):
                a[c, k], a[p, k] = a[p, k], a[c, k]
            b[c], b[p] = b[p], b[c]
        for r in range(c + 1, n):
            f = a[r, c] / a[c, c]
            for k in range(c, n):
                a[r, k] -= f * a[c, k]
            b[r] -= f * b[c]
    for c in range(n - 1, -1, -1):
        for k in range(c + 1, n):
            b[c] -= a[c, k] * b[k]
        b[c] /= a[c, c]
    return True


@kernel("void(f8[:, ::1], i8, i8, f8[::1], f8[::1], f8[::1], f8[:, ::1])")
def least_squares(p, i0, i1, u, t0, t1, c):
    """The inner control points that bring the cubic nearest to the points at parameters u. A tangent of zeros leaves
    its handle free."""
    free0 = t0[0] == 0 and t0[1] == 0
    free1 = t1[0] == 0 and t1[1] == 0
    unknowns = (2 if free0 else 1) + (2 if free1 else 1)
    a = np.zeros((4, 4))
    b = np.zeros(4)
    row_x = np.zeros(4)
    row_y = np.zeros(4)
    for i in range(i0, i1 + 1):
        t = u[i]
        s = 1 - t
        b1, b2 = 3 * s * s * t, 3 * s * t * t
        first, last = s * s * s + b1, t * t * t + b2
        if free0:
            row_x[0], row_y[0] = b1, 0.0
            row_x[1], row_y[1] = 0.0, b1
            k = 2
        else:
            row_x[0], row_y[0] = b1 * t0[0], b1 * t0[1]
            k = 1
        if free1:
            row_x[k], row_y[k] = b2, 0.0
            row_x[k + 1], row_y[k + 1] = 0.0, b2
        else:
            row_x[k], row_y[k] = b2 * t1[0], b2 * t1[1]
        dx = p[i, 0] - first * p[i0, 0] - last * p[i1, 0]
        dy = p[i, 1] - first * p[i0, 1] - last * p[i1, 1]
        for r in range(unknowns):
            b[r] += row_x[r] * dx + row_y[r] * dy
            for q in range(unknowns):
                a[r, q] += row_x[r] * row_x[q] + row_y[r] * row_y[q]
    chord = math.hypot(p[i1, 0] - p[i0, 0], p[i1, 1] - p[i0, 1])
    good = solve(a, b, unknowns)
    c[0], c[3] = p[i0], p[i1]
    k = 0
    for end in range(2):
        tangent = t0 if end == 0 else t1
        anchor, far = (i0, i1) if end == 0 else (i1, i0)
        free = free0 if end == 0 else free1
        if free:
            hx, hy = b[k], b[k + 1]
            k += 2
        else:
            good = good and b[k] > 1e-6 * chord
            hx, hy = b[k] * tangent[0], b[k] * tangent[1]
            k += 1
        if not good or not math.hypot(hx, hy) < 3 * chord:
            if free:
                hx, hy = (p[far, 0] - p[anchor, 0]) / 3, (p[far, 1] - p[anchor, 1]) / 3
            else:
                hx, hy = tangent[0] * chord / 3, tangent[1] * chord / 3
        c[1 + end, 0] = p[anchor, 0] + hx
        c[1 + end, 1] = p[anchor, 1] + hy


@kernel("Tuple((f8, i8, f8))(f8[:, ::1], i8, i8, f8[::1], f8[:, ::1])")
def farthest(p, i0, i1, u, c):
    """The largest distance of the points from the cubic at their parameters, where it is, and the sum of all."""
    most, where, total = 0.0, (i0 + i1) // 2, 0.0
    for i in range(i0 + 1, i1):
        t = u[i]
        s = 1 - t
        b0, b1, b2, b3 = s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t
        x = b0 * c[0, 0] + b1 * c[1, 0] + b2 * c[2, 0] + b3 * c[3, 0] - p[i, 0]
        y = b0 * c[0, 1] + b1 * c[1, 1] + b2 * c[2, 1] + b3 * c[3, 1] - p[i, 1]
        d = math.hypot(x, y)
        total += d
        if d > most:
            most, where = d, i
    return most, where, total


@kernel("void(f8[:, ::1], i8, i8, f8[::1], f8[:, ::1])")
def nearer(p, i0, i1, u, c):
    """One Newton step of each parameter towards the point of the cubic nearest to its point."""
    for i in range(i0 + 1, i1):
        t = u[i]
        s = 1 - t
        dot, slope = 0.0, 0.0
        for k in range(2):
            q = s * s * s * c[0, k] + 3 * s * s * t * c[1, k] + 3 * s * t * t * c[2, k] + t * t * t * c[3, k] - p[i, k]
            d1 = 3 * (s * s * (c[1, k] - c[0, k]) + 2 * s * t * (c[2, k] - c[1, k]) + t * t * (c[3, k] - c[2, k]))
            d2 = 6 * (s * (c[2, k] - 2 * c[1, k] + c[0, k]) + t * (c[3, k] - 2 * c[2, k] + c[1, k]))
            dot += q * d1
            slope += d1 * d1 + q * d2
        if abs(slope) > 1e-14:
            u[i] = min(max(t - dot / slope, 0.0), 1.0)


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


@kernel("Tuple((i8, f8, f8))(f8[:, ::1], b1, f8, f8[:, :, ::1], u1[::1], i8)")
def fit_section(p, loop, tolerance, ctrl, kind, m):
    """Segments through points from the first to the last, written from place m on. Returns the next place, the sum and
    the largest of the distances."""
    n = len(p)
    worst, total = 0.0, 0.0
    if not loop:
        off = off_chord(p, 0, n - 1)
        if off <= tolerance:
            ctrl[m, 0], ctrl[m, 3] = p[0], p[n - 1]
            for k in range(2):
                step = (p[n - 1, k] - p[0, k]) / 3
                ctrl[m, 1, k], ctrl[m, 2, k] = p[0, k] + step, p[n - 1, k] - step
            kind[m] = LINE
            # A mean of a third of the largest is what a straight run with even noise has.
            return m + 1, off / 3 * (n - 2), off
    stack = np.empty((n + 1, 2), np.int64)
    t0s, t1s = np.zeros((n + 1, 2)), np.zeros((n + 1, 2))
    stack[0, 0], stack[0, 1] = 0, n - 1
    if loop:
        tangent_at(p, 0, 0, n - 1, tolerance, True, t0s[0])
        p[n - 1] = p[0]
        t1s[0] = -t0s[0]
    depth = 1
    u, c, tangent = np.zeros(n), np.zeros((4, 2)), np.zeros(2)
    t0, t1 = np.zeros(2), np.zeros(2)
    while depth:
        depth -= 1
        i0, i1 = stack[depth]
        t0[:], t1[:] = t0s[depth], t1s[depth]
        run = 0.0
        u[i0] = 0.0
        for i in range(i0 + 1, i1 + 1):
            run += math.hypot(p[i, 0] - p[i - 1, 0], p[i, 1] - p[i - 1, 1])
            u[i] = run
        for i in range(i0 + 1, i1 + 1):
            u[i] = u[i] / run if run > 0 else 1.0
        most, where, gone = 0.0, i0, 0.0
        whole_loop = loop and i0 == 0 and i1 == n - 1
        # One cubic hardly ever makes a whole loop: it is halved at once.
        for round_ in range(0 if whole_loop else ROUNDS + 1):
            least_squares(p, i0, i1, u, t0, t1, c)
            most, where, gone = farthest(p, i0, i1, u, c)
            if most <= tolerance or most > HOPELESS * tolerance or round_ == ROUNDS:
                break
            nearer(p, i0, i1, u, c)
        if not whole_loop and (most <= tolerance or i1 - i0 < 2):
            ctrl[m] = c
            kind[m] = CUBIC
            m += 1
            worst = max(worst, most)
            total += gone
            continue
        if whole_loop:
            where = n // 2
        where = min(max(where, i0 + 1), i1 - 1)
        tangent_at(p, where, i0, i1, tolerance, False, tangent)
        # The left part lies on top of the stack, so that segments come in order.
        stack[depth, 0], stack[depth, 1] = where, i1
        t1s[depth] = t1
        t0s[depth] = tangent
        stack[depth + 1, 0], stack[depth + 1, 1] = i0, where
        t0s[depth + 1] = t0
        t1s[depth + 1] = -tangent
        depth += 2
    return m, total, worst


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


@kernel(
    "Tuple((f8[:, :, ::1], u1[::1], f8[::1], i8[::1], f8, f8))"
    "(Array(f8, 2, 'C', readonly=True), Array(i8, 1, 'C', readonly=True), Array(b1, 1, 'C', readonly=True),"
    " Array(b1, 1, 'C', readonly=True), f8)"
)
def fit_outlines(points, start, closed, corner, tolerance):
    """ctrl (M, 4, 2), kind, bulge (M,), start (K+1,); the mean and the largest distance of the points."""
    room = len(points) + 3 * len(start) + 2
    ctrl = np.zeros((room, 4, 2))
    kind = np.zeros(room, np.uint8)
    bulge = np.zeros(room)
    begin = np.zeros(len(start), np.int64)
    m, total, worst = 0, 0.0, 0.0
    for k in range(len(start) - 1):
        n = start[k + 1] - start[k]
        own = np.empty((n + 1, 2))
        marks = np.zeros(n + 1, np.bool_)
        first = 0
        if closed[k]:
            for i in range(n):
                if corner[start[k] + i]:
                    first = i
                    break
        for i in range(n):
            own[i] = points[start[k] + (first + i) % n]
            marks[i] = corner[start[k] + (first + i) % n]
        own[n] = own[0]
        marks[n] = marks[0]
        if closed[k] and not marks[0]:
            x, y, radius, off = circle_through(own[:n])
            if off <= tolerance and n >= 4:
                area = 0.0
                for i in range(n):
                    area += own[i, 0] * own[i + 1, 1] - own[i + 1, 0] * own[i, 1]
                turn = 1.0 if area > 0 else -1.0
                for half in range(2):
                    side = 1.0 if half == 0 else -1.0
                    ctrl[m, :, 1] = y
                    for j in range(4):
                        ctrl[m, j, 0] = x + side * radius * (1 - 2 * j / 3)
                    kind[m], bulge[m] = ARC, turn
                    m += 1
                ctrl[m - 1, 3] = ctrl[m - 2, 0]
                ctrl[m - 1, 0] = ctrl[m - 2, 3]
                total += off / 3 * n
                worst = max(worst, off)
            else:
                m, gone, most = fit_section(own, True, tolerance, ctrl, kind, m)
                total += gone
                worst = max(worst, most)
        else:
            last = n if closed[k] else n - 1
            a = 0
            for b in range(1, last + 1):
                if b == last or marks[b]:
                    m, gone, most = fit_section(own[a : b + 1].copy(), False, tolerance, ctrl, kind, m)
                    total += gone
                    worst = max(worst, most)
                    a = b
        begin[k + 1] = m
    return ctrl[:m].copy(), kind[:m].copy(), bulge[:m].copy(), begin, total / max(len(points), 1), worst
