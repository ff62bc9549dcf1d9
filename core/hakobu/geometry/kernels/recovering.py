"""Runs of points that are one straight line or one arc of a circle."""

from __future__ import annotations

import math

import numpy as np

from ...compiled import kernel
from .curves import length
from .point_measures import off_chord

KEPT, STRAIGHT, ROUND = -1, 0, 2
#: An arc of less, in radians, is as well a line or a curve.
LEAST_SWEEP = 0.17
#: Segments that an arc stands for, at least, where they are straight: two always lie on a circle.
LEAST_LINES = 4
#: An arc stands for a curve only where that leaves it by no more than this share of its radius: it was meant as one.
MEANT = 5e-4


@kernel("Tuple((b1, f8))(f8[:, ::1], i8, i8, f8)")
def arc_along(p, i, j, within):
    """Whether points lie within so much of an arc between the first and the last, and it of the lines between them; and
    its bulge, half a circle at most."""
    cx, cy = p[j, 0] - p[i, 0], p[j, 1] - p[i, 1]
    chord = length(cx, cy)
    if chord == 0 or j - i < 2:
        return False, 0.0
    far = 0.0
    for k in range(i + 1, j):
        off = (cx * (p[k, 1] - p[i, 1]) - cy * (p[k, 0] - p[i, 0])) / chord
        if abs(off) > abs(far):
            far = off
    # The points lie off the chord to the side of the sagitta; a positive bulge turns towards +y, off to the other.
    bulge = -2 * far / chord
    if bulge == 0 or abs(bulge) > 1 + within / chord:
        return False, 0.0
    bulge = min(max(bulge, -1.0), 1.0)
    worst, x, y, radius = np.inf, 0.0, 0.0, 0.0
    for _ in range(8):
        # As in `arcs.centre_and_radius`.
        lift = (1 - bulge * bulge) / (4 * bulge)
        x, y = (p[i, 0] + p[j, 0]) / 2 - cy * lift, (p[i, 1] + p[j, 1]) / 2 + cx * lift
        radius = chord * (1 + bulge * bulge) / (4 * abs(bulge))
        low, high = 0.0, 0.0
        for k in range(i + 1, j):
            off = length(p[k, 0] - x, p[k, 1] - y) - radius
            low, high = min(low, off), max(high, off)
        worst = max(-low, high)
        # Between the farthest on either side.
        step = (high + low) / 2
        if abs(step) < 1e-3 * within:
            break
        better = bulge + math.copysign(2 * step / chord, bulge)
        if abs(better) > 1 or better * bulge <= 0:
            break
        bulge = better
    if worst > within:
        return False, 0.0
    # Round the centre without turning back, and no line between two points too far inside.
    way, before = (1.0 if bulge > 0 else -1.0), math.atan2(p[i, 1] - y, p[i, 0] - x)
    total = 0.0
    for k in range(i + 1, j + 1):
        angle = math.atan2(p[k, 1] - y, p[k, 0] - x)
        step = way * (angle - before)
        step -= 2 * math.pi * math.floor(step / (2 * math.pi) + 0.5)
        if step < -within / radius or radius * (1 - math.cos(step / 2)) + worst > within + 1e-12:
            return False, 0.0
        total += step
        before = angle
    return total > 0, bulge


@kernel("Tuple((b1, f8))(f8[:, ::1], i8[::1], i8[::1], i8, i8, f8)")
def as_arc(p, node, kind, a, b, within):
    """Whether the segments from node a to node b were meant as one arc, and its bulge."""
    straight = True
    for s in range(a, b):
        straight = straight and kind[s] == STRAIGHT
    if straight and b - a < LEAST_LINES:
        return False, 0.0
    good, bulge = arc_along(p, node[a], node[b], within)
    if good and not straight:
        chord = length(p[node[b], 0] - p[node[a], 0], p[node[b], 1] - p[node[a], 1])
        radius = chord * (1 + bulge * bulge) / (4 * abs(bulge))
        good, bulge = arc_along(p, node[a], node[b], min(within, MEANT * radius + 1e-9))
    return good, bulge


@kernel("Tuple((i8[::1], i8[::1], f8[::1]))(f8[:, ::1], i8[::1], i8[::1], f8)")
def runs_of(p, node, kind, within):
    """The longest lines and arcs from one node to another, one after the other: the node where each piece begins
    (R+1,), what it is, KEPT where it is a single segment that stays, and the bulge (R,).

    p (N, 2): points along one outline; node (S+1,): those where its segments end; kind (S,).
    """
    segments = len(kind)
    begin, what, bulge = np.empty(segments + 1, np.int64), np.empty(segments, np.int64), np.zeros(segments)
    a, m = 0, 0
    while a < segments:
        begin[m] = a
        best, is_, turn = a + 1, KEPT, 0.0
        for shape in (STRAIGHT, ROUND):
            # Twice as far as long as that is good, then the last good place in between.
            good, bad, step, turned = a, segments + 1, 1, 0.0
            if shape == ROUND:
                step = LEAST_LINES
                single, turned = as_arc(p, node, kind, a, a + 1, within)
                if single:
                    good = a + 1
            found = turned
            while True:
                b = min(a + step, segments)
                if shape == STRAIGHT:
                    fits, value = off_chord(p, node[a], node[b]) <= within, 0.0
                    fits = fits and length(p[node[b], 0] - p[node[a], 0], p[node[b], 1] - p[node[a], 1]) > within
                else:
                    fits, value = as_arc(p, node, kind, a, b, within)
                if fits:
                    good, found = b, value
                    if b == segments:
                        break
                    step *= 2
                else:
                    bad = b
                    break
            while bad - good > 1 and bad <= segments:
                b = (good + bad) // 2
                if shape == STRAIGHT:
                    fits, value = off_chord(p, node[a], node[b]) <= within, 0.0
                    fits = fits and length(p[node[b], 0] - p[node[a], 0], p[node[b], 1] - p[node[a], 1]) > within
                else:
                    fits, value = as_arc(p, node, kind, a, b, within)
                if fits:
                    good, found = b, value
                else:
                    bad = b
            if shape == ROUND and 4 * math.atan(abs(found)) < LEAST_SWEEP:
                continue
            if good > best or (good == best and is_ == KEPT and good > a):
                best, is_, turn = good, shape, found
                if shape == ROUND:
                    _, turn = as_arc(p, node, kind, a, best, within)
        # A single line or arc is what it was.
        what[m], bulge[m] = is_, turn
        if best == a + 1 and kind[a] == is_:
            what[m] = KEPT
        m += 1
        a = best
    begin[m] = segments
    return begin[: m + 1].copy(), what[:m].copy(), bulge[:m].copy()
