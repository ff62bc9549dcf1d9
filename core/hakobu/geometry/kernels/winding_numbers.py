"""Windings of all operands on every face: walked from face to face, each edge changing only those that run along it."""

from __future__ import annotations

import numpy as np

from ...compiled import kernel

UNION, INTERSECTION, DIFFERENCE, XOR = range(4)


@kernel("b1(i8, i8, i8, b1)")
def covered(how, many, operands, first):
    """Whether a face is of the result: by how many operands cover it, and whether the first one does."""
    if how == UNION:
        return many > 0
    if how == INTERSECTION:
        return many == operands
    if how == DIFFERENCE:
        return first and many == 1
    return many % 2 == 1


@kernel("b1(i8, b1)")
def is_inside(winding, evenodd):
    return winding % 2 != 0 if evenodd else winding != 0


@kernel(
    "Tuple((b1[::1], i8[::1], i8[::1], b1))(i8, b1, b1[::1], i8[::1], i8[::1], i8[::1], i8[::1], i8[::1], i8[::1],"
    " i8[::1], i8)"
)
def face_winding_numbers(how, listed, evenodd, before, cycle, outside, parent, entry_begin, who, net, cycles):
    """For each cycle of half-edges, whether the face that it bounds is of the result; where listed, also the first
    place (C+1,) in the list of the operands that cover it; and whether all is of one piece: every face reached, and
    both sides of every edge differing by exactly what runs along it.

    outside, parent: of each component its outer cycle, and the half-edge whose face it lies in, or -1. entry_begin,
    who, net: what runs along each edge, by operands.
    """
    operands, edges = len(evenodd), len(entry_begin) - 1
    # Faces that lie within others: the components by the cycle that they lie in.
    child_begin = np.zeros(cycles + 1, np.int64)
    for k in range(len(outside)):
        if parent[k] >= 0:
            child_begin[cycle[parent[k]] + 1] += 1
    for c in range(cycles):
        child_begin[c + 1] += child_begin[c]
    child, fill = np.empty(child_begin[cycles], np.int64), child_begin[:-1].copy()
    for k in range(len(outside)):
        if parent[k] >= 0:
            c = cycle[parent[k]]
            child[fill[c]] = outside[k]
            fill[c] += 1
    first_half = np.full(cycles, -1, np.int64)
    for h in range(2 * edges - 1, -1, -1):
        first_half[cycle[h]] = h
    inside = np.zeros(cycles, np.bool_)
    seen = np.zeros(cycles, np.bool_)
    mark = np.zeros(cycles, np.int64)
    weight = np.empty(operands, np.int64)
    state = np.uint64(88172645463325252)
    for o in range(operands):
        state ^= state << np.uint64(13)
        state ^= state >> np.uint64(7)
        state ^= state << np.uint64(17)
        weight[o] = np.int64(state)
    winding = np.zeros(operands, np.int64)
    # The operands that cover the face, in any order, and where in that list each is.
    there, place = np.empty(operands, np.int64), np.full(operands, -1, np.int64)
    many, total = 0, 0
    listing = np.empty(1024, np.int64)
    list_from, list_to = np.zeros(cycles, np.int64), np.zeros(cycles, np.int64)
    used = 0
    stack, walk, entered = np.empty(cycles, np.int64), np.empty(cycles, np.int64), np.empty(cycles, np.int64)
    for k in range(len(outside)):
        if parent[k] >= 0 or seen[outside[k]]:
            continue
        depth = 0
        stack[0], entered[0] = outside[k], -1
        fresh = True
        while depth >= 0:
            c = stack[depth]
            if fresh:
                seen[c] = True
                walk[depth] = first_half[c]
                fill[c] = child_begin[c]
                mark[c] = total
                inside[c] = covered(how, many, operands, place[0] >= 0)
                if listed:
                    if used + many > len(listing):
                        longer = np.empty(2 * (used + many), np.int64)
                        longer[:used] = listing[:used]
                        listing = longer
                    list_from[c] = used
                    listing[used : used + many] = there[:many]
                    used += many
                    list_to[c] = used
                fresh = False
            # The next face over an edge, or one that lies in this one.
            to, over = -1, -1
            while to < 0 and walk[depth] >= 0:
                h = walk[depth]
                if not seen[cycle[h ^ 1]]:
                    to, over = cycle[h ^ 1], h
                after = before[h ^ 1]
                walk[depth] = after if after != first_half[c] else -1
            while to < 0 and fill[c] < child_begin[c + 1]:
                d = child[fill[c]]
                fill[c] += 1
                if not seen[d]:
                    to = d
            crossing, back = over, False
            if to < 0:
                crossing, back = entered[depth], True
            if crossing >= 0:
                # From the right of a half-edge to its left what runs along it is lost, against its edge it is won.
                way = -1 if (crossing & 1 == 0) != back else 1
                for p in range(entry_begin[crossing >> 1], entry_begin[(crossing >> 1) + 1]):
                    o = who[p]
                    winding[o] += way * net[p]
                    total += way * net[p] * weight[o]
                    now = is_inside(winding[o], evenodd[o])
                    if now and place[o] < 0:
                        place[o], there[many] = many, o
                        many += 1
                    elif not now and place[o] >= 0:
                        many -= 1
                        moved = there[many]
                        there[place[o]], place[moved] = moved, place[o]
                        place[o] = -1
            if to < 0:
                depth -= 1
            else:
                depth += 1
                stack[depth], entered[depth] = to, over
                fresh = True
    good = seen.all()
    for e in range(edges):
        step = 0
        for p in range(entry_begin[e], entry_begin[e + 1]):
            step += net[p] * weight[who[p]]
        good = good and mark[cycle[2 * e]] - mark[cycle[2 * e + 1]] == step
    cover_begin = np.zeros(cycles + 1, np.int64)
    for c in range(cycles):
        cover_begin[c + 1] = cover_begin[c] + list_to[c] - list_from[c]
    cover = np.empty(cover_begin[cycles], np.int64)
    for c in range(cycles):
        cover[cover_begin[c] : cover_begin[c + 1]] = np.sort(listing[list_from[c] : list_to[c]])
    return inside, cover_begin, cover, good
