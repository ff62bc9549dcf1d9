"""All meetings of two curves along a pair of near chords, by splitting the chords until Newton's method is sure."""

from __future__ import annotations

import numpy as np

from ...compiled import kernel
from ..proximity.kernels.chord_pairs import chords_apart, once_at_most
from .chords import AX, AY, BEYOND, BX, BY, REACH, T0, T1, halve
from .curves import curve_at
from .meetings import MEET, meet_near

#: How often chords are halved where their curves may meet more than once, and where they meet once at most but the
#: search for it left them.
HALVED, HALVED_ONCE = 3, 8


@kernel("b1(i8, f8[::1], i8, f8[::1], f8, f8, f8[::1])")
def tried_from(kind_a, a, kind_b, b, t, u, made):
    """Writes a meeting as `refine` gives it, from a first guess; whether there is one."""
    t, u, away, sine = meet_near(kind_a, a, kind_b, b, t, u)
    x, y, _, _ = curve_at(kind_a, a, t)
    made[0], made[1], made[2], made[3], made[4], made[5] = t, u, away, sine, x, y
    return away <= MEET


@kernel("b1(f8[::1], f8[::1], f8[::1])")
def belongs(made, a, b):
    """Whether a meeting lies along both chords."""
    if not a[T0] - BEYOND <= made[0] <= a[T1] + BEYOND:
        return False
    return b[T0] - BEYOND <= made[1] <= b[T1] + BEYOND


@kernel("i8(i8, f8[::1], f8[::1], i8, f8[::1], f8[::1], f8[:, ::1])")
def from_ends(kind_a, ga, a, kind_b, gb, b, made):
    """Meetings from each end of two chords and from the foot of it on the other one; how many."""
    n = 0
    for end in range(4):
        own, other = (a, b) if end < 2 else (b, a)
        x, y = (own[AX], own[AY]) if end % 2 == 0 else (own[BX], own[BY])
        vx, vy = other[BX] - other[AX], other[BY] - other[AY]
        square = max(vx * vx + vy * vy, 1e-300)
        share = min(max(((x - other[AX]) * vx + (y - other[AY]) * vy) / square, 0.0), 1.0)
        at, foot = own[T0] if end % 2 == 0 else own[T1], other[T0] + share * (other[T1] - other[T0])
        t, u = (at, foot) if end < 2 else (foot, at)
        n += tried_from(kind_a, ga, kind_b, gb, t, u, made[n])
    return n


@kernel(
    "Tuple((i8[:, ::1], f8[:, ::1]))(f8[:, ::1], i8[::1], i8[:, ::1], Array(i8, 1, 'C', readonly=True), f8[:, ::1], f8)"
)
def seek(table, owner, pairs, kind, geometry, slack):
    """All meetings for pairs of chords: the pairs of curves (G, 2), and each meeting as `refine` gives it (G, 6). Some
    may be found more than once. slack: how near chords must come, besides what they leave out."""
    most, n = 1024, 0
    of, made = np.empty((most, 2), np.int64), np.empty((most, 6))
    # Pairs of chords still to be looked at: the last in, the first out, four for each halving at most.
    room = 4 * (HALVED_ONCE + 1) + 4
    first, second, depth = np.empty((room, 8)), np.empty((room, 8)), np.empty(room, np.int64)
    a, b, parts = np.empty(8), np.empty(8), np.empty((4, 8))
    for p in range(len(pairs)):
        i, j = owner[pairs[p, 0]], owner[pairs[p, 1]]
        straight = kind[i] == 0 and kind[j] == 0
        first[0], second[0], depth[0] = table[pairs[p, 0]], table[pairs[p, 1]], 0
        left = 1
        while left > 0:
            left -= 1
            a[:], b[:], d = first[left], second[left], depth[left]
            away, s, t = chords_apart(a, b)
            if away > a[REACH] + b[REACH] + slack:
                continue
            if n + 5 > most:
                more_of, more_made = np.empty((2 * most, 2), np.int64), np.empty((2 * most, 6))
                more_of[:n], more_made[:n] = of[:n], made[:n]
                of, made, most = more_of, more_made, 2 * most
            once = once_at_most(a, b)
            t, u = a[T0] + s * (a[T1] - a[T0]), b[T0] + t * (b[T1] - b[T0])
            there = (once or straight or d == HALVED) and tried_from(
                kind[i], geometry[i], kind[j], geometry[j], t, u, made[n]
            )
            settled = there and (belongs(made[n], a, b) or straight)
            count = 1 if there and (settled or not once or d == HALVED_ONCE) else 0
            if not once and (straight or d == HALVED):
                count += from_ends(kind[i], geometry[i], a, kind[j], geometry[j], b, made[n + count :])
            elif not settled and not straight and d < HALVED_ONCE:
                halve(kind[i], geometry[i], a, parts[0], parts[1])
                halve(kind[j], geometry[j], b, parts[2], parts[3])
                for k in range(4):
                    first[left], second[left], depth[left] = parts[k & 1], parts[2 + (k >> 1)], d + 1
                    left += 1
            for k in range(n, n + count):
                of[k, 0], of[k, 1] = i, j
            n += count
    return of[:n].copy(), made[:n].copy()
