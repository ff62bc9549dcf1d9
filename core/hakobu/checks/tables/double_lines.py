"""Pairs of open lines that run beside each other all along: the two sides of one line."""

from __future__ import annotations

from collections import Counter

import numpy as np

from ...geometry import Path, SegmentIndex, flatten, length
from ...geometry.fit import fit
from ...geometry.path import ARC
from ...model import Conditions
from .outlines import OutlineTable
from .small_outlines import widest_lines

#: The two sides are so far apart everywhere, as shares of how far they are on average.
EVEN = (0.5, 1.6)
#: A line is so many times as long as wide.
LONG = 20
#: Evenness is looked at at each node, and at no more places between than this.
EVEN_STEPS = 500
#: Places along a line, so far from it at most, in mm; where two steps turn more than this there is a corner.
FINE_MM, CORNER = 0.002, 0.35
#: A line whose ends are near those of more others than this is not compared with more; nor are more pairs than this in
#: one design, which then is full of lines beside each other and means them.
MOST_BESIDE, MOST_COMPARED = 8, 1000
#: The line in the middle stays so near to the places between the two.
MIDDLE_MM = 0.01


def double_lines(table: OutlineTable, conditions: Conditions) -> list[tuple[int, int, float]]:
    """Pairs of open outlines that are cut, the longer first, and how far they are apart. What has such a line on both
    its sides is hatching, and meant."""
    rows = np.flatnonzero(table.cut & ~table.path.closed & ~table.filled & (table.size > 0))
    if len(rows) < 2:
        return []
    limit = widest_lines(table, conditions)
    copies = {match.doubled for match in table.doubled(conditions.tolerance_mm)}
    found, beside, compared = [], Counter(), Counter()
    for a, b in _ends_near(table, rows, float(limit[rows].max())):
        if table.group[a] != table.group[b] or copies & {a, b}:
            continue
        if max(beside[a], beside[b]) > 1:
            # Of hatching two neighbours tell enough; who lies beside it is part of it.
            beside.update((a, b))
            continue
        compared.update((a, b))
        if max(compared[a], compared[b]) > MOST_BESIDE or compared.total() > 2 * MOST_COMPARED:
            continue
        long, short = sorted((a, b), key=lambda k: (-table.size[k], table.rank[k]))
        one, other = table.path.outline(long), table.path.outline(short)
        apart = _apart(one, other)
        if apart < limit[a] and table.size[short] > LONG * apart and is_even(one, other, apart):
            found.append((long, short, apart))
            beside.update((a, b))
    return [(a, b, apart) for a, b, apart in found if beside[a] == beside[b] == 1]


def _ends_near(table: OutlineTable, rows: np.ndarray, within_mm: float) -> list[tuple[int, int]]:
    """Pairs of open outlines of which both ends lie beside each other, either way round, near enough for how long they
    are."""
    from scipy.spatial import KDTree

    path = table.path
    ends = np.hstack([path.ctrl[path.start[rows], 0], path.ctrl[path.start[rows + 1] - 1, 3]])
    # Each end is at most so far from the other line's.
    reach = EVEN[1] * within_mm * np.sqrt(2)
    both = KDTree(np.vstack([ends, ends[:, [2, 3, 0, 1]]])).query_pairs(reach, output_type="ndarray")
    pairs = np.unique(np.sort(both % len(rows), axis=1), axis=0)
    pairs = pairs[pairs[:, 0] != pairs[:, 1]]
    same, turned = (
        np.hypot(*(ends[pairs[:, 0]].reshape(-1, 2, 2) - ends[pairs[:, 1]].reshape(-1, 2, 2)[:, ::way]).T).max(axis=0)
        for way in (1, -1)
    )
    short = table.size[rows[pairs]].min(axis=1)
    pairs = pairs[short > LONG / EVEN[1] * np.minimum(same, turned)]
    return [tuple(pair) for pair in rows[pairs].tolist()]


def _apart(one: Path, other: Path) -> float:
    """How far places on a line are from another one on average, in mm."""
    chords = flatten(one, 0.01, longest_mm=max(float(np.hypot(*one.spread.sum(axis=0))) / 100, 0.05))
    return float(SegmentIndex(flatten(other, 0.01), 0.5).nearest(chords.points)[0].mean())


def is_even(one: Path, other: Path, apart: float) -> bool:
    """Whether two outlines run beside each other at about the same distance all along."""
    step = max(apart, 0.05, max(length(one), length(other)) / EVEN_STEPS)
    chords = [flatten(path, 0.005, longest_mm=step) for path in (one, other)]
    for a, b in (chords, chords[::-1]):
        away = SegmentIndex(b, step).nearest(a.points)[0]
        if away.min() < EVEN[0] * apart or away.max() > EVEN[1] * apart:
            return False
    return True


def between(one: Path, other: Path, apart: float) -> Path:
    """The line in the middle of two that run beside each other: node by node where they have the same, else fitted
    anew, its corners kept."""
    if _away(one, other) > _away(one, other.reversed()):
        other = other.reversed()
    if one.segment_count == other.segment_count and not (one.kind == ARC).any() and (one.kind == other.kind).all():
        made = Path((one.ctrl + other.ctrl) / 2, one.kind, one.bulge, one.start, one.closed)
        if is_even(one, made, apart / 2):
            return made
    points = flatten(one, FINE_MM, longest_mm=max(4 * apart, 0.2)).points
    nearest = _nearest(points, flatten(other, FINE_MM, longest_mm=max(apart / 4, 0.02)).points)
    middle = (points + nearest) / 2
    steps = np.diff(middle, axis=0)
    keep = np.concatenate([[True], np.hypot(*steps.T) > 1e-6])
    middle = middle[keep]
    way = np.unwrap(np.arctan2(*np.diff(middle, axis=0).T[::-1]))
    corner = np.zeros(len(middle), bool)
    corner[1:-1] = np.abs(np.diff(way)) > CORNER
    return fit(middle, np.array([0, len(middle)]), np.array([False]), corner, MIDDLE_MM).path


def _away(one: Path, other: Path) -> float:
    """How far the beginnings of two lines are from each other."""
    return float(np.hypot(*(one.ctrl[0, 0] - other.ctrl[0, 0])))


def _nearest(points: np.ndarray, others: np.ndarray) -> np.ndarray:
    from scipy.spatial import KDTree

    return others[KDTree(others).query(points)[1]]
