"""The narrowest places of shapes, and of the space between them."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from .boolean import Operand, union
from .measure import outline_bounds
from .offset.parts import Parts, parts_of
from .parallel import parallel_map
from .path import Path
from .proximity.chord_grid import curve_table
from .proximity.near_segments import with_near_sides
from .proximity.places import Places

#: Places that overlap by half and whose widths differ by less than this, in mm, are one: a strip of even width.
EVEN_MM = 0.01
#: Lines and arcs are looked at in pieces of this share of the width that is looked for.
PIECE_SHARE = 0.25
#: Lines and arcs that are looked at whole are this near to their curves, in mm.
COARSE_PARTS_MM = 2e-3
#: So many parts keep a processor busy long enough that a second one is worth asking.
WORTH_SHARING = 2000
#: Places whose points are the same to this, in mm, are one.
SAME_MM = 1e-6


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
    made = _narrow(union(*shapes).path, below_mm, even_mm, either=False)
    return made.take(made.inside)


def tight_gaps(*shapes: Operand | Path, below_mm: float, even_mm: float = EVEN_MM) -> Narrow:
    """Where the space between the shapes, or within one, is narrowest, as of `thin_places`."""
    made = _narrow(union(*shapes).path, below_mm, even_mm, either=False)
    return made.take(~made.inside)


def narrowest_places(path: Path, below_mm: float, near: np.ndarray | None = None) -> Narrow:
    """The same as `narrow_places`, sooner: lines and arcs are looked at whole, so that of several places between the
    same two only the narrowest is found. near (M,): segments that may face others, no fewer than `with_near_sides`
    finds, where that is known."""
    if near is None:
        near = with_near_sides(path, below_mm)
    if not near.any():
        return _nothing(path)
    own = np.unique(path.outline_of[near])
    asked = near[np.isin(path.outline_of, own)]
    made = _narrow(path.take(own.tolist()), below_mm, EVEN_MM, either=True, about=(path, asked))
    segment = path.start[own[made.outline]] + made.segment - made.path.start[made.outline]
    return replace(made, path=path, segment=segment, outline=own[made.outline])


def narrow_places(path: Path, below_mm: float, even_mm: float = EVEN_MM) -> Narrow:
    """All narrow places of outlines that do not cross, in and beside what they enclose by the even-odd rule; open lines
    have space beside them only. A corner is no narrow place: between the two sides at it the distance falls to nothing.

    Complete: outlines are cut into lines and arcs within 5e-4 mm; each pair of these that comes nearer than below_mm is
    looked at, and kept where it is nearer than the eight pairs about it and the circle on the two points is empty. The
    points are then moved to where their curves are nearest to each other.
    """
    return _narrow(path, below_mm, even_mm, either=True)


def _narrow(
    path: Path, below_mm: float, even_mm: float, either: bool, about: tuple[Path, np.ndarray] | None = None
) -> Narrow:
    """either: whether sides that face each other may run the same way, as lines and outlines that were not combined.
    about: all outlines, where the path is some of them, and which of its segments (M,) face anything; lines and arcs of
    these are looked at as they are, and not in pieces."""
    from .proximity.kernels.bitangent_pairs import converge, facing_pairs
    from .proximity.kernels.near_segments import sides_near

    if not path.segment_count or not below_mm > 0:
        return _nothing(path)
    parts = parts_of(path, COARSE_PARTS_MM if about is not None else None)
    if not len(parts.table):
        return _nothing(path)
    piece = below_mm * PIECE_SHARE
    if about is not None:
        near = about[1][parts.owner]
    else:
        near = np.logical_or.reduce(_candidate_sides(sides_near, parts, either, below_mm))
        parts, near = _in_pieces(parts, near, piece)
    if not near.any():
        return _nothing(path)
    done = _candidate_sides(
        facing_pairs, parts, near, *_tree_of(parts, near), either, about is not None, below_mm, cost=near + 0.01
    )
    pairs, found = (np.concatenate(each) for each in zip(*done, strict=True))
    if not len(pairs):
        return _nothing(path)
    beside = None if about is None else _beside_each_other(parts, pairs)
    pairs, found, reach = _taken_together(pairs, found, even_mm, piece, beside)
    segment = np.ascontiguousarray(parts.owner[pairs])
    converge(found, segment, *curve_table(path))
    points = found[:, :4].reshape(-1, 2, 2)
    inside = _inside(path if about is None else about[0], points.mean(axis=1))
    order = np.argsort(found[:, 4], kind="stable")
    made = Narrow(path, found[:, 4], points, segment, path.outline_of[segment], inside, reach)
    return made.take(order)


#: Of so many pairs of places and outlines it is tried which box holds which; of more, the whole path is made ready.
MOST_TRIED = 4_000_000


def _inside(shape: Path, places: np.ndarray) -> np.ndarray:
    """Which places (N, 2) are in what the closed outlines enclose by the even-odd rule."""
    around = shape.closed
    if len(places) * len(around) < MOST_TRIED:
        left, top, right, bottom = np.ascontiguousarray(outline_bounds(shape).T)
        held = np.zeros(len(around), bool)
        for x, y in places.tolist():
            held |= (left <= x) & (x <= right) & (top <= y) & (y <= bottom)
        around = around & held
    return Places(shape.take(np.flatnonzero(around).tolist())).contains(places, "evenodd")


def _candidate_sides(question, parts: Parts, *conditions, cost: np.ndarray | None = None) -> list:
    """What a kernel says of the parts, asked in shares. cost (E,): of each, where they differ."""
    before, after, outline = _neighbours(parts)
    turns = _turnings(parts, before, after, outline)
    tree = parts.tree

    def work(first: int, last: int):
        return question(parts.table, *tree, parts.box, before, after, outline, *turns, *conditions, first, last)

    return parallel_map(work, np.ones(len(parts.table)) if cost is None else cost, WORTH_SHARING)


def _tree_of(parts: Parts, near: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """A tree over some of the parts, in the order of the one over all."""
    from .proximity.kernels.boxtree import packed

    order = parts.tree[2][near[parts.tree[2]]]
    return *packed(parts.box, order), order


def _nothing(path: Path) -> Narrow:
    none = np.zeros(0)
    pairs = np.zeros((0, 2), np.int64)
    return Narrow(path, none, np.zeros((0, 2, 2)), pairs, pairs, np.zeros(0, bool), np.zeros((0, 4)))


def _in_pieces(parts: Parts, near: np.ndarray, longest_mm: float) -> tuple[Parts, np.ndarray]:
    """The same parts, those that are near another side none longer than so much, so that what is about each pair of
    them is near it; and which of the new ones are near."""
    from .kernels.linking import sizes_of
    from .proximity.kernels.reach import cut_up

    count = np.where(near, np.maximum(np.ceil(sizes_of(parts.table) / longest_mm), 1), 1).astype(np.int64)
    first = np.concatenate([[0], np.cumsum(count)])
    owner, off = np.repeat(parts.owner, count), np.repeat(parts.off_mm, count)
    made = Parts(parts.path, cut_up(parts.table, count), owner, off, first[parts.start])
    return made, np.repeat(near, count)


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


def _turnings(parts: Parts, before: np.ndarray, after: np.ndarray, outline: np.ndarray) -> tuple:
    """How much outlines have turned, either way, before each part and after the last (E + 1,), all one after the other;
    how much each turns in all (K,); and the middle of the directions along each part and about its ends, and how far
    these are from it (E, 2)."""
    from .kernels.turning import turnings

    return turnings(parts.table, before, after, outline, parts.closed)


def _beside_each_other(parts: Parts, pairs: np.ndarray) -> np.ndarray:
    """Pairs of parts (N, 2) of which each is of the same or of neighbouring parts as another: their numbers (L, 2)."""
    before, after, _ = _neighbours(parts)
    key, count = pairs[:, 0] * len(before) + pairs[:, 1], len(before)
    order = np.argsort(key, kind="stable")
    links = []
    one, other = pairs.T
    for a in (one, before[one], after[one]):
        for b in (other, before[other], after[other]):
            wanted = np.minimum(a, b) * count + np.maximum(a, b)
            at = np.minimum(np.searchsorted(key[order], wanted), len(key) - 1)
            there = (key[order][at] == wanted) & (a >= 0) & (b >= 0)
            links.append(np.column_stack([np.flatnonzero(there), order[at][there]]))
    return np.concatenate(links)


def _taken_together(pairs: np.ndarray, found: np.ndarray, even_mm: float, piece_mm: float, beside: np.ndarray | None):
    """The narrowest of places that follow each other along a strip of even width, and the boxes of these. beside
    (L, 2): places that follow each other however far apart they are."""
    from scipy.sparse import coo_matrix
    from scipy.sparse.csgraph import connected_components
    from scipy.spatial import KDTree

    # Neighbouring pairs of parts find one and the same place.
    _, once, again = np.unique(np.round(found[:, :4] / SAME_MM), axis=0, return_index=True, return_inverse=True)
    pairs, found = pairs[once], found[once]
    middle, width = found[:, :4].reshape(-1, 2, 2).mean(axis=1), found[:, 4]
    near = KDTree(middle).query_pairs(float(width.max()) / 2 + piece_mm, output_type="ndarray")
    a, b = near[:, 0], near[:, 1]
    apart = np.hypot(*(middle[a] - middle[b]).T)
    follows = apart <= (width[a] + width[b]) / 4 + piece_mm
    if beside is not None:
        along = again.ravel()[beside]
        a, b = np.concatenate([a, along[:, 0]]), np.concatenate([b, along[:, 1]])
        follows = np.concatenate([follows, np.ones(len(along), bool)])
    alike = follows & (np.abs(width[a] - width[b]) <= even_mm)
    graph = coo_matrix((np.ones(int(alike.sum())), (a[alike], b[alike])), shape=(len(found), len(found)))
    _, group = connected_components(graph, directed=False)
    order = np.argsort(width, kind="stable")
    _, first = np.unique(group[order], return_index=True)
    chosen = order[first]
    low, high = np.full((group.max() + 1, 2), np.inf), np.full((group.max() + 1, 2), -np.inf)
    np.minimum.at(low, group, middle)
    np.maximum.at(high, group, middle)
    return pairs[chosen], found[chosen], np.hstack([low, high])[group[chosen]]
