"""The narrowest places of shapes, and of the space between them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .boolean import Operand, union
from .offset.parts import Parts, parts_of
from .path import Path
from .places import Places
from .search import curve_table

#: Places that overlap by half and whose widths differ by less than this, in mm, are one: a strip of even width.
EVEN_MM = 0.01
#: Lines and arcs are looked at in pieces of this share of the width that is looked for.
PIECE_SHARE = 0.25


@dataclass(frozen=True)
class Narrow:
    """Places in the order of their widths (N,), in mm: points (N, 2, 2), the two that face each other; segment and
    outline (N, 2), of the path, that they lie on; inside (N,): whether it is the shape that is narrow, else the space
    beside it; reach (N, 4): the box of the middles of all narrow places that were taken together as one."""

    path: Path
    width: np.ndarray
    points: np.ndarray
    segment: np.ndarray
    outline: np.ndarray
    inside: np.ndarray
    reach: np.ndarray

    def __len__(self) -> int:
        return len(self.width)

    def take(self, which: np.ndarray) -> Narrow:
        parts = (self.width, self.points, self.segment, self.outline, self.inside, self.reach)
        return Narrow(self.path, *(part[which] for part in parts))


def thin_places(*shapes: Operand | Path, below_mm: float, even_mm: float = EVEN_MM) -> Narrow:
    """Where all the shapes together are thinnest: all places thinner than so much at which two points of the outlines
    face each other through the shape, no pair about them is nearer, and nothing lies in between."""
    made = narrow_places(union(*shapes).path, below_mm, even_mm)
    return made.take(made.inside)


def tight_gaps(*shapes: Operand | Path, below_mm: float, even_mm: float = EVEN_MM) -> Narrow:
    """Where the space between the shapes, or within one, is narrowest, as of `thin_places`."""
    made = narrow_places(union(*shapes).path, below_mm, even_mm)
    return made.take(~made.inside)


def narrow_places(path: Path, below_mm: float, even_mm: float = EVEN_MM) -> Narrow:
    """All narrow places of outlines that do not cross, in and beside what they enclose by the even-odd rule; open lines
    have space beside them only. A corner is no narrow place: between the two sides at it the distance falls to nothing.

    Complete: outlines are cut into lines and arcs within 5e-4 mm; each pair of these that comes nearer than below_mm is
    looked at, and kept where it is nearer than the eight pairs about it and the circle on the two points is empty. The
    points are then moved to where their curves are nearest to each other.
    """
    from .kernels.facing import facing_pairs, settled
    from .kernels.parallels import boxes_about

    if not path.segment_count or not below_mm > 0:
        return _nothing(path)
    parts = _in_pieces(parts_of(path), below_mm * PIECE_SHARE)
    if not len(parts.table):
        return _nothing(path)
    before, after, outline = _neighbours(parts)
    turned, around = _turnings(parts, after, outline)
    box = boxes_about(parts.table)
    pairs, found = facing_pairs(parts.table, *parts.tree, box, before, after, outline, turned, around, below_mm)
    if not len(pairs):
        return _nothing(path)
    segment = np.ascontiguousarray(parts.owner[pairs])
    settled(found, segment, *curve_table(path))
    found, segment, reach = _taken_together(found, segment, even_mm)
    points = found[:, :4].reshape(-1, 2, 2)
    enclosing = Path.concatenate(one for one in path.outlines() if one.closed[0])
    inside = Places(enclosing).contains(points.mean(axis=1), "evenodd")
    return Narrow(path, found[:, 4], points, segment, path.outline_of[segment], inside, reach)


def _nothing(path: Path) -> Narrow:
    none = np.zeros(0)
    pairs = np.zeros((0, 2), np.int64)
    return Narrow(path, none, np.zeros((0, 2, 2)), pairs, pairs, np.zeros(0, bool), np.zeros((0, 4)))


def _in_pieces(parts: Parts, longest_mm: float) -> Parts:
    """The same parts, none longer than so much, so that what is about each pair of them is near it."""
    from .kernels.linking import sizes_of
    from .kernels.reach import cut_up

    count = np.maximum(np.ceil(sizes_of(parts.table) / longest_mm), 1).astype(np.int64)
    first = np.concatenate([[0], np.cumsum(count)])
    return Parts(parts.path, cut_up(parts.table, count), np.repeat(parts.owner, count), first[parts.start])


def _neighbours(parts: Parts) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """The part before and after each along its outline, or -1, and the outline (E,)."""
    count = np.diff(parts.start)
    outline = np.repeat(np.arange(len(count)), count)
    before, after = np.arange(-1, len(outline) - 1), np.arange(1, len(outline) + 1)
    filled = np.flatnonzero(count)
    first, last, closed = parts.start[filled], parts.start[filled + 1] - 1, parts.closed[filled]
    before[first] = np.where(closed, last, -1)
    after[last] = np.where(closed, first, -1)
    return before, after, outline


def _turnings(parts: Parts, after: np.ndarray, outline: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """How much outlines have turned, either way, before each part and after the last (E + 1,), all one after the other;
    and how much each turns in all."""
    u, v = parts.table[:, 9:11], parts.table[:, 11:13]
    goes_on = after >= 0
    following = u[np.where(goes_on, after, 0)]
    corner = np.abs(np.arctan2(v[:, 0] * following[:, 1] - v[:, 1] * following[:, 0], (v * following).sum(axis=1)))
    turn = np.abs(parts.table[:, 8]) + np.where(goes_on, corner, 0.0)
    turned = np.concatenate([[0.0], np.cumsum(turn)])
    around = np.full(len(parts.closed), np.inf)
    total = np.bincount(outline, weights=turn, minlength=len(parts.closed))
    around[parts.closed] = total[parts.closed]
    return turned, around


def _taken_together(found: np.ndarray, segment: np.ndarray, even_mm: float):
    """The narrowest of places that follow each other along a strip of even width, in the order of their widths."""
    from scipy.sparse import coo_matrix
    from scipy.sparse.csgraph import connected_components
    from scipy.spatial import cKDTree

    middle, width = found[:, :4].reshape(-1, 2, 2).mean(axis=1), found[:, 4]
    near = cKDTree(middle).query_pairs(float(width.max()) / 2, output_type="ndarray")
    a, b = near[:, 0], near[:, 1]
    apart = np.hypot(*(middle[a] - middle[b]).T)
    alike = (apart <= (width[a] + width[b]) / 4) & (np.abs(width[a] - width[b]) <= even_mm)
    graph = coo_matrix((np.ones(int(alike.sum())), (a[alike], b[alike])), shape=(len(found), len(found)))
    _, group = connected_components(graph, directed=False)
    order = np.argsort(width, kind="stable")
    _, first = np.unique(group[order], return_index=True)
    chosen = order[np.sort(first)]
    low, high = np.full((group.max() + 1, 2), np.inf), np.full((group.max() + 1, 2), -np.inf)
    np.minimum.at(low, group, middle)
    np.maximum.at(high, group, middle)
    return found[chosen], segment[chosen], np.hstack([low, high])[group[chosen]]
