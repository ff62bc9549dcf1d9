"""Chains of points with their corners, and the places that they meet in, put where they belong; without the points that
are not true about these, or anywhere."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length
from .corner_candidates import arm_px, candidates
from .corner_sides import rounded_px
from .corners import found_corners

#: As long as the way from an open chain's end back to its beginning, in pixels: nothing reaches over it.
OPEN = 1e6
#: Near the ends of a chain, up to so many pixels from where it is true and so many times its noise, points that lie
#: this far beside its way there, and some noise, are not its own.
ASTRAY, STRAY = 4.0, 40.0
ASIDE, NOISES = 0.3, 2.5
#: A corner's point sticks out from its neighbours by no more than this for each step to them, in pixels.
SPIKE = 1.0


@kernel("f8[:, ::1](f8[:, ::1])")
def without_spikes(own):
    """The points of a chain without those that stick out from their neighbours farther than a corner can, or lie behind
    the one before: compression left them there."""
    good = np.ones(len(own), np.bool_)
    for reach in range(1, 3):
        kept = np.flatnonzero(good)
        for k in range(reach, len(kept) - reach):
            i, a, b = kept[k], kept[k - reach], kept[k + reach]
            ux, uy = own[b, 0] - own[a, 0], own[b, 1] - own[a, 1]
            px, py = own[i, 0] - own[a, 0], own[i, 1] - own[a, 1]
            size = length(ux, uy)
            along = px * ux + py * uy
            if abs(px * uy - py * ux) > SPIKE * reach * size or along < 0 or along > size * size:
                good[i] = False
    return own[good]


@kernel("f8(f8[:, ::1], i8, i8, f8, f8, f8)")
def beside(own, i, j, x, y, far):
    """How far a point of a chain lies beside the line from the end that it comes to, at x, y, to another point of it; a
    great deal where it lies behind its end."""
    ux, uy = own[j, 0] - x, own[j, 1] - y
    size = length(ux, uy)
    if not size > 0:
        return 0.0
    px, py = own[i, 0] - x, own[i, 1] - y
    if px * ux + py * uy < 0:
        return far
    return abs(px * uy - py * ux) / size


@kernel("f8[:, ::1](f8[:, ::1], f8, f8, f8, f8, f8, f8)")
def without_stray_ends(own, x0, y0, x1, y1, near, noise):
    """The points of an open chain without those that lie near its ends and beside its way there: a third colour, or
    what compression left, moved them."""
    n = len(own)
    good = np.ones(n, np.bool_)
    for end in range(2):
        x, y = (x0, y0) if end == 0 else (x1, y1)
        step = 1 if end == 0 else -1
        first = 0 if end == 0 else n - 1
        j = first
        while 0 <= j < n and length(own[j, 0] - x, own[j, 1] - y) < near:
            j += step
        if not 0 <= j < n:
            continue
        i = first
        while i != j:
            if beside(own, i, j, x, y, near) > ASIDE + NOISES * noise:
                good[i] = False
            i += step
    return own[good]


@kernel(
    "Tuple((f8[:, ::1], i8[::1], b1[::1]))(Array(f4, 2, 'C', readonly=True), f8[:, ::1], i8[::1], i8[:, ::1],"
    " i8[:, ::1], f8[:, ::1], f8[::1], f8[::1])"
)
def with_nodes(nothing, points, start, about, nodes, place, blurs, noises):
    """Chains again with their ends where chains meet, and corners put where they belong, marked; without the points
    that are not true about these. nodes (C, 2): the meeting places that each begins and ends at, -1 where it goes
    round. nothing: a picture of no use, which corners of chains do without."""
    total = len(points)
    out = np.empty((2 * total + 4 * len(start) + 64, 2))
    mark = np.zeros(len(out), np.bool_)
    begin = np.zeros(len(start), np.int64)
    arm, first, second = np.empty((160, 2)), np.empty(9), np.empty(9)
    levels = np.zeros(3)
    unknown = np.empty((0, 1))
    m = 0
    for k in range(len(start) - 1):
        own = points[start[k] : start[k + 1]]
        closed = nodes[k, 0] < 0
        blur, noise = blurs[k], noises[k]
        near_node = rounded_px(blur, noise)
        if not closed:
            x0, y0 = place[nodes[k, 0], 0], place[nodes[k, 0], 1]
            x1, y1 = place[nodes[k, 1], 0], place[nodes[k, 1], 1]
            low, high = 0, len(own)
            clear = near_node if about[k, 1] >= 0 else 0.3
            while low < high and length(own[low, 0] - x0, own[low, 1] - y0) < clear:
                low += 1
            while high > low and length(own[high - 1, 0] - x1, own[high - 1, 1] - y1) < clear:
                high -= 1
            own = without_stray_ends(own[low:high], x0, y0, x1, y1, clear + min(ASTRAY, STRAY * noise), noise)
        clear_of_spikes = without_spikes(own)
        # What goes round a speck may be all points that stick out.
        if not closed or len(clear_of_spikes) >= 3:
            own = clear_of_spikes
        n = len(own)
        count = 0
        run = np.zeros(n + 1)
        for i in range(n):
            j = i + 1 if i + 1 < n else 0
            run[i + 1] = run[i] + length(own[j, 0] - own[i, 0], own[j, 1] - own[i, 1])
        whole = run[n] if n else 0.0
        if n and not closed:
            run[n] = run[n - 1] + OPEN
        at = np.empty(1, np.int64)
        place_of, free = np.empty((1, 2)), np.empty((1, 2))
        if n >= 6 and whole > 5:
            marked = np.zeros(n, np.bool_)
            candidates(own, run, min(arm_px(blur, noise), whole / 6), marked)
            some = np.flatnonzero(marked)
            at = np.empty(2 * len(some) + 2, np.int64)
            place_of, free = np.empty((len(at), 2)), np.empty((len(at), 2))
            count = found_corners(
                nothing, own, run, np.zeros(n, np.bool_), levels, 0.0, blur, noise, False, some, unknown, at,
                place_of, free, arm, first, second,
            )  # fmt: skip
            order = np.argsort(at[:count], kind="mergesort")
            at[:count], place_of[:count], free[:count] = at[:count][order], place_of[:count][order], free[:count][order]
            unlike = 0
            for a in range(count):
                if a == 0 or at[a] != at[unlike - 1]:
                    at[unlike] = at[a]
                    place_of[unlike], free[unlike] = place_of[a], free[a]
                    unlike += 1
            count = unlike
        before = m
        if not closed:
            out[m, 0], out[m, 1], mark[m] = x0, y0, True
            m += 1
        elif count == 0:
            out[m : m + n] = own
            m += n
        corners = count if closed else count + 1
        for a in range(corners):
            if closed and count == 0:
                break
            if closed:
                i, following = at[a], at[(a + 1) % count]
                gap = (run[following] - run[i]) if following > i else run[following] - run[i] + run[n]
                near, far = free[a, 1], gap - free[(a + 1) % count, 0]
                steps = following - i if following > i else following - i + n
            else:
                i = at[a - 1] if a > 0 else -1
                following = at[a] if a < count else n
                from_s = run[i] if i >= 0 else 0.0
                to_s = run[following] if following < n else run[max(n - 1, 0)]
                gap = to_s - from_s
                near = free[a - 1, 1] if a > 0 else -1.0
                far = gap - free[a, 0] if a < count else gap + 1.0
                steps = following - i
            if closed or a > 0:
                which = a if closed else a - 1
                out[m, 0], out[m, 1], mark[m] = place_of[which, 0], place_of[which, 1], True
                m += 1
            if near + gap - far > 0.8 * gap and near > 0 and far < gap:
                share = 0.8 * gap / (near + gap - far)
                near, far = near * share, gap - (gap - far) * share
            for step in range(1, steps):
                j = i + step
                if closed:
                    j %= n
                    along = run[j] - run[i]
                    along = along if along >= 0 else along + run[n]
                else:
                    along = run[j] - (run[i] if i >= 0 else 0.0)
                if near < along < far:
                    out[m] = own[j]
                    m += 1
        if not closed:
            out[m, 0], out[m, 1], mark[m] = x1, y1, True
            m += 1
        elif m - before < 3:
            mark[before:m] = False
            out[before : before + n] = own
            m = before + n
        begin[k + 1] = m
    return out[:m].copy(), begin, mark[:m].copy()
