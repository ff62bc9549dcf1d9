"""Lines that meet put together: what goes straight on is drawn in one go."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

import numpy as np

from ...geometry import Path
from ...geometry.nodes import end_directions

#: The end of an outline: twice its number, and one more for its last.
End = int


def gathered(path: Path, of: np.ndarray, straight_on: float) -> Iterator[tuple[list[int], Path]]:
    """Of outlines whose ends lie at numbered places (K, 2), -1 for closed ones: for each group that hangs together, its
    outlines and a path of them, joined where two go straight on through a place within an angle in radians."""
    at: dict[int, list[End]] = {}
    for end, place in enumerate(of.ravel().tolist()):
        if place >= 0:
            at.setdefault(place, []).append(end)
    partner = _partners(path, list(at.values()), straight_on)
    groups = _groups(len(of), list(at.values()))
    strokes = [_strokes(own, partner) for own in groups]
    every = [stroke for own in strokes for stroke in own]
    if not every:
        return
    chain = np.array([k for stroke in every for k in stroke])
    begin = np.cumsum([0] + [len(stroke) for stroke in every])
    head, tail = chain[begin[:-1]], chain[begin[1:] - 1]
    ends = np.stack([path.ctrl[path.start[:-1], 0], path.ctrl[path.start[1:] - 1, 3]], axis=1)
    # What is put together may come round to where it begins.
    round_ = (ends[np.abs(head) - 1, (head < 0).astype(int)] == ends[np.abs(tail) - 1, (tail > 0).astype(int)]).all(
        axis=1
    )
    closed = np.where(np.diff(begin) > 1, round_, path.closed[np.abs(head) - 1])
    parts = path.chained(chain, begin, closed).split([len(own) for own in strokes])
    yield from zip(groups, parts, strict=True)


def _partners(path: Path, meetings: list[list[End]], straight_on: float) -> dict[End, End]:
    """Which end goes on into which other, of those that meet: such as point opposite ways, the straightest first; two
    that are alone go on however they turn."""
    pairs = [
        (*pair, len(ends) == 2) for ends in meetings for pair in combinations(ends, 2) if pair[0] // 2 != pair[1] // 2
    ]
    if not pairs:
        return {}
    leaving, arriving = end_directions(path)
    out = np.stack([leaving[path.start[:-1]], -arriving[path.start[1:] - 1]], axis=1).reshape(-1, 2)
    one, other, alone = (np.array(part) for part in zip(*pairs, strict=True))
    u, v = out[one], out[other]
    turn = np.pi - np.abs(np.arctan2(u[:, 0] * v[:, 1] - u[:, 1] * v[:, 0], (u * v).sum(axis=1)))
    goes = np.flatnonzero(alone | (turn < straight_on))
    partner: dict[End, End] = {}
    for k in goes[np.lexsort((other[goes], one[goes], turn[goes]))].tolist():
        a, b = int(one[k]), int(other[k])
        if a not in partner and b not in partner:
            partner[a], partner[b] = b, a
    return partner


def _groups(count: int, meetings: list[list[End]]) -> list[list[int]]:
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    rows = [ends[0] // 2 for ends in meetings for _ in ends]
    columns = [end // 2 for ends in meetings for end in ends]
    graph = coo_array((np.ones(len(rows)), (rows, columns)), shape=(count, count))
    number, label = connected_components(graph, directed=False)
    order = np.argsort(label, kind="stable")
    parts = np.split(order, np.cumsum(np.bincount(label, minlength=number))[:-1])
    return [part.tolist() for part in parts] if count else []


def _strokes(own: list[int], partner: dict[End, End]) -> list[list[int]]:
    """The outlines of each stroke in order, from 1 on and negative where they run the other way."""
    done: set[int] = set()
    strokes = []
    for k in sorted(own, key=lambda k: 2 * k in partner and 2 * k + 1 in partner):
        if k in done:
            continue
        forth = 2 * k not in partner or 2 * k + 1 in partner
        end = 2 * k + 1 if forth else 2 * k
        stroke = [k + 1 if forth else -(k + 1)]
        done.add(k)
        while end in partner and partner[end] // 2 not in done:
            begins = partner[end]
            following = begins // 2
            stroke.append(-(following + 1) if begins & 1 else following + 1)
            done.add(following)
            end = begins ^ 1
        strokes.append(stroke)
    return strokes
