"""Which outlines are the holes of which: shapes out of lines that a file has only one by one."""

from __future__ import annotations

import numpy as np

from .flatten import flatten
from .measure import signed_areas
from .path import Path

#: Chords are this near to the curves, as a share of an outline's size, and never coarser than that many mm.
CHORD_SHARE, CHORD_MM = 1e-3, 0.05
#: Pairs of chords and places that are looked at at once.
MOST_PAIRS = 2_000_000


def parents_of(path: Path) -> np.ndarray:
    """For each outline (K,) the smallest closed one that it lies in, -1 for none. Of outlines that cross, and of copies
    in the same place, neither lies in the other.

    A level ray from a place on each outline meets those that it lies in an odd number of times. Places are sorted by
    their height, so that the places beside a chord are a run of them.
    """
    parent = np.full(len(path), -1)
    closed = np.flatnonzero(path.closed)
    if len(closed) < 2:
        return parent
    own = path.take(closed.tolist())
    area = np.abs(signed_areas(own))
    chords = flatten(own, np.minimum(np.sqrt(area) * CHORD_SHARE, CHORD_MM)[own.outline_of] + 1e-6)
    head = chords.start[:-1]
    place = (chords.points[head] + chords.points[np.minimum(head + 1, chords.start[1:] - 1)]) / 2
    inner, outer = _odd_hits(*chords.edges(), place, area)
    order = np.lexsort((area[outer], inner))
    inner, outer = inner[order], outer[order]
    smallest = np.concatenate([[True], inner[1:] != inner[:-1]]) if len(inner) else np.zeros(0, bool)
    parent[closed[inner[smallest]]] = closed[outer[smallest]]
    return parent


def _odd_hits(first: np.ndarray, last: np.ndarray, owner: np.ndarray, place: np.ndarray, area: np.ndarray):
    """Pairs of a place's number and an outline's, of those that a ray from the place meets an odd number of times and
    that are larger than its own."""
    by_height = np.argsort(place[:, 1], kind="stable")
    height = place[by_height, 1]
    low, high = np.minimum(first[:, 1], last[:, 1]), np.maximum(first[:, 1], last[:, 1])
    begin, end = np.searchsorted(height, low, "left"), np.searchsorted(height, high, "left")
    count = end - begin
    beside = np.flatnonzero(count)
    found = []
    for a, b in _blocks(count[beside]):
        rows = beside[a:b]
        chord = np.repeat(rows, count[rows])
        within = np.arange(len(chord)) - np.repeat(np.cumsum(count[rows]) - count[rows], count[rows])
        own = by_height[begin[chord] + within]
        outline = owner[chord]
        # A copy of the same outline is not inside the other.
        larger = area[outline] > area[own] * (1 + 1e-6)
        chord, own, outline = chord[larger], own[larger], outline[larger]
        (x0, y0), (x1, y1) = first[chord].T, last[chord].T
        x = x0 + (place[own, 1] - y0) / (y1 - y0) * (x1 - x0)
        ahead = x > place[own, 0]
        found.append(own[ahead] * len(area) + outline[ahead])
    key, times = np.unique(np.concatenate(found) if found else np.zeros(0, np.int64), return_counts=True)
    key = key[times % 2 == 1]
    return key // len(area), key % len(area)


def _blocks(count: np.ndarray):
    """Runs of things that have no more than about so many pairs together."""
    ends = np.cumsum(count)
    a = 0
    while a < len(count):
        b = int(np.searchsorted(ends, (ends[a - 1] if a else 0) + MOST_PAIRS, "right"))
        b = max(b, a + 1)
        yield a, b
        a = b


def shapes_of(path: Path) -> list[list[int]]:
    """The outlines of each shape: one that lies in none, or in a hole, with the holes in it; open ones each alone. In
    the order of their first outlines; in each the outer outline first."""
    parent = parents_of(path)
    depth = np.zeros(len(path), np.int64)
    at = parent.copy()
    while (there := at >= 0).any():
        depth[there] += 1
        at[there] = parent[at[there]]
    outer = np.where(depth % 2 == 1, parent, np.arange(len(path)))
    shapes: dict[int, list[int]] = {}
    for k in np.flatnonzero(depth % 2 == 0).tolist():
        shapes[k] = [k]
    for k in np.flatnonzero(depth % 2 == 1).tolist():
        shapes[int(outer[k])].append(k)
    return sorted(shapes.values(), key=min)
