"""Which outlines run along each other: the same line in any direction, from any start, within a distance."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from ...geometry import Path, SegmentIndex, flatten

#: Outlines are compared on chords this fine; the distance found is stated to a hundredth of a millimetre.
COMPARE_MM = 0.002
#: Outlines are followed in steps no longer than this, or on long ones than this share of their length, and from node to
#: node: a gap between two of them is missed by half of it at most.
COMPARE_STEP_MM, STEP_SHARE = 0.1, 1 / 4000
#: Small shapes: copies count as the same line only within this share of their size, or a dot would equal its ring.
SHARE_OF_SIZE = 0.05
#: Lengths of two copies differ by less than this share, and by what the distance itself explains (2 pi d).
SHARE_OF_LENGTH = 0.02


@dataclass(frozen=True)
class Match:
    """doubled runs along kept, nowhere farther from it than distance_mm; place is where it is farthest."""

    doubled: int
    kept: int
    distance_mm: float
    place: tuple[float, float]


def coinciding(
    path: Path, group: np.ndarray, rank: np.ndarray, tolerance_mm: float, boxes: np.ndarray, size: np.ndarray
) -> list[Match]:
    """Outlines of the path, with boxes (K, 4) and lengths (K,), that run along another one of the same group.

    group (K,): outlines are compared only within a group. rank (K,): of two equals, the lower stays. Every outline is
    matched with one that stays, so that chains of near copies do not wander. Pairs are found through a tree of
    boxes, so the cost follows the number of outlines and of true copies.
    """
    diagonal = np.hypot(boxes[:, 2] - boxes[:, 0], boxes[:, 3] - boxes[:, 1])
    reach = np.minimum(tolerance_mm, SHARE_OF_SIZE * diagonal)
    head = _exact_copies(path, group, boxes, size)
    neighbours = _near_boxes(boxes, group, head, tolerance_mm)
    kept: dict[int, list[int]] = {}
    matches: list[Match] = []
    compare = _Comparison(path, size)
    # Most have none like them. A lone node has no length and is no line.
    beside = np.zeros(len(path), bool)
    beside[[h for h, others in neighbours.items() if len(others) > 1]] = True
    alike = (np.bincount(head, minlength=len(path)) > 1)[head] | beside[head]
    for k in (int(i) for i in np.argsort(rank, kind="stable") if size[i] > 0 and alike[i]):
        near = sorted((o for h in neighbours[int(head[k])] for o in kept.get(h, ())), key=lambda o: rank[o])
        distances = ((o, compare.distance(k, o, min(reach[k], reach[o]))) for o in near)
        found = next(((o, d) for o, d in distances if d is not None), None)
        if found:
            other, (distance, place) = found
            matches.append(Match(k, other, distance, place))
        else:
            kept.setdefault(int(head[k]), []).append(k)
    return matches


def _exact_copies(path: Path, group: np.ndarray, boxes: np.ndarray, size: np.ndarray) -> np.ndarray:
    """For each outline, the first one with the same box and length in the same group, (K,).

    Copies in one place, however many, then need one look-up among the boxes between them.
    """
    table = np.round(np.column_stack([group, boxes, size]) / 1e-7)
    order = np.lexsort(table.T)
    new = np.concatenate([[True], (np.diff(table[order], axis=0) != 0).any(axis=1)])[: len(order)]
    head = np.empty(len(order), np.int64)
    # Equals stand in the order that they had: the first of each is the first of all.
    head[order] = order[new][np.cumsum(new) - 1]
    return head


def _near_boxes(boxes: np.ndarray, group: np.ndarray, head: np.ndarray, tolerance_mm: float) -> dict[int, set[int]]:
    """For each head, the heads of its group whose boxes agree with its own within the tolerance on all four sides."""
    from scipy.spatial import KDTree  # loaded only where designs are checked

    heads = np.unique(head)
    near: dict[int, set[int]] = defaultdict(set)
    # The group is a fifth coordinate, in which two groups lie too far apart to meet.
    places = np.column_stack([boxes[heads], group[heads] * (10 * tolerance_mm + 1.0)])
    pairs = KDTree(places, balanced_tree=False, compact_nodes=False).query_pairs(
        tolerance_mm + 1e-9, p=np.inf, output_type="ndarray"
    )
    for a, b in heads[pairs].tolist():
        near[a] |= {a, b}
        near[b] |= {a, b}
    for h in heads[np.bincount(head, minlength=len(group))[heads] > 1].tolist():
        near[h].add(h)
    return near


class _Comparison:
    """The distance between two outlines both ways, with what was worked out kept for the next pair."""

    def __init__(self, path: Path, size: np.ndarray) -> None:
        self.path, self.size = path, size
        self._chords: dict[int, tuple] = {}
        self._bytes: dict[int, list[bytes]] = {}

    def distance(self, a: int, b: int, reach_mm: float) -> tuple[float, tuple[float, float]] | None:
        """The larger of the two one-way distances and where on a it is, or None where they are not the same line."""
        longer, shorter = max(self.size[a], self.size[b]), min(self.size[a], self.size[b])
        if longer - shorter > SHARE_OF_LENGTH * longer + 2 * np.pi * reach_mm:
            return None
        if self._corners(a) == self._corners(b):
            return 0.0, tuple(self.path.ctrl[self.path.start[a], 0].tolist())
        points_a, index_a = self._prepared(a)
        points_b, index_b = self._prepared(b)
        there = index_b.nearest(points_a)[0]
        if there.max() > reach_mm:
            return None
        back = index_a.nearest(points_b)[0]
        if back.max() > reach_mm:
            return None
        return float(max(there.max(), back.max())), tuple(points_a[there.argmax()].tolist())

    def _corners(self, k: int) -> list[bytes]:
        """An outline's control points, to 1e-9 mm, in an order that no start or direction changes, if it is closed."""
        if k not in self._bytes:
            a, b = self.path.start[k], self.path.start[k + 1]
            ctrl, bulge = self.path.ctrl[a:b], np.abs(self.path.bulge[a:b])
            # Each segment as written or backwards, whichever comes first; then all of them sorted.
            ways = (np.column_stack([way.reshape(len(ctrl), 8), bulge]) for way in (ctrl, ctrl[:, ::-1]))
            rows = ((np.round(way, 9) + 0.0).view("V72").ravel().tolist() for way in ways)
            self._bytes[k] = sorted(map(min, *rows))
        return self._bytes[k]

    def _prepared(self, k: int) -> tuple[np.ndarray, SegmentIndex]:
        if k not in self._chords:
            long = float(self.size[k])
            step = max(min(max(long / 400, 0.02), COMPARE_STEP_MM), long * STEP_SHARE)
            chords = flatten(self.path.outline(k), COMPARE_MM, longest_mm=step)
            self._chords[k] = (chords.points, SegmentIndex(chords, step))
        return self._chords[k]
