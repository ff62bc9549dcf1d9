"""How far points along lines lie off parabolas through their neighbours: the noise of what they were found from."""

from __future__ import annotations

import math

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from .smoothing import ROOM, moments_up_to, parabolas
from .subpixel_edges import RIM

#: The golden section, by whose multiples places are spread.
GOLDEN = 0.6180339887498949
#: Neighbours to each side over which the noise of one line is told, and how many points there are from one place where
#: it is to the next.
BESIDE, EVERY = 12, 6
#: Fewer where a line bends so tightly that a parabola itself is off an arc by more than this, in pixels; the least.
OFF_ARC, LEAST_BESIDE = 0.01, 5


@kernel("i8(f8[:, ::1], i8[::1], u1[::1], f8[::1])")
def roughness(points, start, what, found):
    """How far points lie off a parabola through them and four neighbours to each side, as the root of the mean square,
    at places spread over all outlines; how many. The parabola is by orthogonal polynomials over nine even steps."""
    every = max(len(points) / len(found), 1.0)
    count, k, place = 0, 0, 0
    nine = np.empty((9, 2))
    while count < len(found):
        # Evenly over all outlines, but in no step with them: those that are alike are looked at in different places.
        at = int((place + (place * GOLDEN) % 1.0) * every)
        place += 1
        if at >= len(points):
            break
        while start[k + 1] <= at:
            k += 1
        a, n = start[k], start[k + 1] - start[k]
        # What lies on the picture's own rim says nothing of its edges.
        if n < 12 or what[at] == RIM:
            continue
        i = at - a
        for j in range(-4, 5):
            k1 = i + j
            k1 = k1 + n if k1 < 0 else (k1 - n if k1 >= n else k1)
            nine[j + 4, 0], nine[j + 4, 1] = points[a + k1, 0], points[a + k1, 1]
        mx = my = lx = ly = qx = qy = 0.0
        for j in range(-4, 5):
            x, y = nine[j + 4, 0], nine[j + 4, 1]
            mx += x
            my += y
            lx += j * x
            ly += j * y
            q = j * j - 20.0 / 3.0
            qx += q * x
            qy += q * y
        mx, my, lx, ly = mx / 9, my / 9, lx / 60, ly / 60
        qx, qy = qx / 308, qy / 308
        size = length(lx, ly)
        if not size > 0:
            continue
        off = 0.0
        for j in range(-4, 5):
            q = j * j - 20.0 / 3.0
            dx = nine[j + 4, 0] - mx - j * lx - q * qx
            dy = nine[j + 4, 1] - my - j * ly - q * qy
            d = (dy * lx - dx * ly) / size
            off += d * d
        found[count] = math.sqrt(off / 6)
        count += 1
    return count


@kernel("i8(f8[:, ::1], i8, i8)")
def on_one_arc(own, i, most):
    """How many points to each side of one lie near enough to a parabola where a line bends as it does there, up to the
    most. Of an arc over b to each side, as long as they are near it, a parabola is off by b^4 over 64 times its radius
    to the third."""
    ax, ay = own[i, 0] - own[i - most, 0], own[i, 1] - own[i - most, 1]
    bx, by = own[i + most, 0] - own[i, 0], own[i + most, 1] - own[i, 1]
    size = (length(ax, ay) + length(bx, by)) / 2
    if not size > 0:
        return most
    bend = abs(math.atan2(ax * by - ay * bx, ax * bx + ay * by)) / size
    if bend * bend * bend * size**4 <= 64 * OFF_ARC:
        return most
    fewer = (64 * OFF_ARC / bend**3) ** 0.25 * most / size
    return min(max(np.int64(fewer), LEAST_BESIDE), most)


@kernel("void(f8[:, ::1], i8[::1], f8[::1])")
def roughness_of_each(points, start, found):
    """The same for each of several open lines, (K,): the median of all its places, 0 where it is too short. Over longer
    stretches, since what compression leaves is alike over eight pixels."""
    sums, made = np.empty(11 * ROOM), np.empty(3 * ROOM)
    for k in range(len(start) - 1):
        own = points[start[k] : start[k + 1]]
        n = len(own)
        beside = min(BESIDE, (n - 1) // 2)
        found[k] = 0.0
        if beside < 3:
            continue
        offs = np.empty((n - 2 * beside - 1) // EVERY + 1)
        for j in range(len(offs)):
            i = beside + j * EVERY
            near = on_one_arc(own, i, beside)
            moments_up_to(own, i - near, i + near + 1, i, sums)
            parabolas(sums, near, 1, near, near, 0.0, made, 0)
            # Not a number where the points have no direction.
            offs[j] = math.sqrt(made[2 * ROOM]) if made[2 * ROOM] > 0 else 0.0
        found[k] = np.median(offs)
