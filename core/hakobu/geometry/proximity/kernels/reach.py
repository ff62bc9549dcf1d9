"""What lies within a distance of a line or an arc: of a point, and of a piece of another line or arc."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ...kernels.curves import length
from ...kernels.elements import ANGLE, CX, CY, RADIUS, SWEEP, UX, UY, VX, VY, X0, X1, Y0, Y1

#: Places where a piece may pass within reach of an element or leave it: of two half circles and two parallels, each
#: met twice.
EVENTS = 10


@kernel("Tuple((f8, f8, f8))(f8[::1], f8, f8)")
def nearest_on(row, x, y):
    """The nearest point of an element, and how far it is."""
    if row[SWEEP] == 0:
        dx, dy = row[X1] - row[X0], row[Y1] - row[Y0]
        square = dx * dx + dy * dy
        share = ((x - row[X0]) * dx + (y - row[Y0]) * dy) / square if square > 0 else 0.0
        share = min(max(share, 0.0), 1.0)
        px, py = row[X0] + share * dx, row[Y0] + share * dy
        return px, py, length(px - x, py - y)
    vx, vy = x - row[CX], y - row[CY]
    ax, ay, bx, by = row[X0] - row[CX], row[Y0] - row[CY], row[X1] - row[CX], row[Y1] - row[CY]
    way = 1.0 if row[SWEEP] > 0 else -1.0
    size = length(vx, vy)
    if size > 0 and way * (ax * vy - ay * vx) >= 0 and way * (vx * by - vy * bx) >= 0:
        scale = row[RADIUS] / size
        return row[CX] + vx * scale, row[CY] + vy * scale, abs(size - row[RADIUS])
    first, last = length(x - row[X0], y - row[Y0]), length(x - row[X1], y - row[Y1])
    if first <= last:
        return row[X0], row[Y0], first
    return row[X1], row[Y1], last


@kernel("Tuple((f8, f8, f8, f8))(f8[::1], f8)")
def place_on(row, share):
    """The point of a piece at a share of its length, and its direction there."""
    if row[SWEEP] == 0:
        return row[X0] + share * (row[X1] - row[X0]), row[Y0] + share * (row[Y1] - row[Y0]), row[UX], row[UY]
    angle = row[ANGLE] + share * row[SWEEP]
    cos, sin = math.cos(angle), math.sin(angle)
    way = 1.0 if row[SWEEP] > 0 else -1.0
    return row[CX] + row[RADIUS] * cos, row[CY] + row[RADIUS] * sin, -way * sin, way * cos


@kernel("i8(f8[::1], f8, f8, f8, f8, f8[::1], i8)")
def at_angles(row, middle, half, low, high, event, n):
    """Adds the shares between two of an arc at two angles."""
    size = abs(row[SWEEP])
    way = 1.0 if row[SWEEP] > 0 else -1.0
    for k in range(2):
        turn = way * (middle + (half if k == 0 else -half) - row[ANGLE])
        turn -= 2 * math.pi * math.floor(turn / (2 * math.pi))
        t = turn / size
        if low < t < high:
            event[n] = t
            n += 1
    return n


@kernel("i8(f8[::1], f8, f8, f8, f8, f8, f8[::1], i8)")
def meets_circle(row, x, y, radius, low, high, event, n):
    """Adds the shares between two at which a piece crosses a circle."""
    if row[SWEEP] == 0:
        dx, dy = row[X1] - row[X0], row[Y1] - row[Y0]
        a = dx * dx + dy * dy
        if a == 0:
            return n
        b = dx * (row[X0] - x) + dy * (row[Y0] - y)
        c = (row[X0] - x) * (row[X0] - x) + (row[Y0] - y) * (row[Y0] - y) - radius * radius
        disc = b * b - a * c
        if disc <= 0:
            return n
        root = math.sqrt(disc)
        # The larger sum first, so that nothing is lost where both nearly cancel.
        q = -(b + root) if b > 0 else root - b
        for k in range(2):
            t = q / a if k == 0 else (c / q if q != 0 else -1.0)
            if low < t < high:
                event[n] = t
                n += 1
        return n
    vx, vy = x - row[CX], y - row[CY]
    far = length(vx, vy)
    if far < 1e-12:
        return n
    cos = (row[RADIUS] * row[RADIUS] + far * far - radius * radius) / (2 * row[RADIUS] * far)
    if abs(cos) >= 1:
        return n
    return at_angles(row, math.atan2(vy, vx), math.acos(cos), low, high, event, n)


@kernel("i8(f8[::1], f8, f8, f8, f8, f8, f8[::1], i8)")
def meets_line(row, nx, ny, level, low, high, event, n):
    """Adds the shares between two at which a piece crosses the line nx x + ny y = level, (nx, ny) of length 1."""
    if row[SWEEP] == 0:
        a = nx * row[X0] + ny * row[Y0] - level
        b = nx * row[X1] + ny * row[Y1] - level
        if a != b:
            t = a / (a - b)
            if low < t < high:
                event[n] = t
                n += 1
        return n
    cos = (level - nx * row[CX] - ny * row[CY]) / row[RADIUS]
    if abs(cos) >= 1:
        return n
    return at_angles(row, math.atan2(ny, nx), math.acos(cos), low, high, event, n)


@kernel("i8(f8[::1], f8[::1], f8, f8, f8, f8[::1])")
def events_of(row, other, reach, low, high, event):
    """The shares between two, in order, at which a piece may come within reach of an element or leave it."""
    n = 0
    n = meets_circle(row, other[X0], other[Y0], reach, low, high, event, n)
    n = meets_circle(row, other[X1], other[Y1], reach, low, high, event, n)
    if other[SWEEP] == 0:
        nx, ny = -other[UY], other[UX]
        level = nx * other[X0] + ny * other[Y0]
        n = meets_line(row, nx, ny, level - reach, low, high, event, n)
        n = meets_line(row, nx, ny, level + reach, low, high, event, n)
    else:
        n = meets_circle(row, other[CX], other[CY], other[RADIUS] + reach, low, high, event, n)
        inner = abs(other[RADIUS] - reach)
        if inner > 1e-12:
            n = meets_circle(row, other[CX], other[CY], inner, low, high, event, n)
    for i in range(1, n):
        value, k = event[i], i - 1
        while k >= 0 and event[k] > value:
            event[k + 1] = event[k]
            k -= 1
        event[k + 1] = value
    return n


@kernel("i8(f8[::1], f8[::1], f8, f8, f8, f8[::1], f8[:, ::1])")
def within_reach(row, other, reach, low, high, event, run):
    """The runs of a piece between two shares that are nearer to an element than the reach: their number, and the shares
    where they begin and end, written to `run`."""
    n = events_of(row, other, reach, low, high, event)
    count, begun = 0, low
    open_ = False
    for k in range(n + 1):
        a = low if k == 0 else event[k - 1]
        b = high if k == n else event[k]
        x, y, _, _ = place_on(row, (a + b) / 2)
        _, _, away = nearest_on(other, x, y)
        if away < reach:
            if not open_:
                begun, open_ = a, True
        elif open_:
            run[count, 0], run[count, 1] = begun, a
            count += 1
            open_ = False
    if open_:
        run[count, 0], run[count, 1] = begun, high
        count += 1
    return count


@kernel("f8[:, ::1](f8[:, ::1], i8[::1])")
def cut_up(table, count):
    """Each element in so many equal pieces, one after the other."""
    made = np.empty((count.sum(), table.shape[1]))
    n = 0
    for e in range(len(table)):
        row = table[e]
        for k in range(count[e]):
            made[n] = row
            if k > 0:
                made[n, X0], made[n, Y0] = made[n - 1, X1], made[n - 1, Y1]
                made[n, UX], made[n, UY] = made[n - 1, VX], made[n - 1, VY]
            if k + 1 < count[e]:
                made[n, X1], made[n, Y1], made[n, VX], made[n, VY] = place_on(row, (k + 1) / count[e])
            made[n, ANGLE] = row[ANGLE] + row[SWEEP] * k / count[e]
            made[n, SWEEP] = row[SWEEP] / count[e]
            n += 1
    return made
