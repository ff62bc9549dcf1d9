"""Pieces that what is painted over them hides: one shape, or several together."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ...geometry import SegmentIndex, flatten
from ...geometry.boolean import NotCombined, Operand, difference
from ...geometry.measure import area, signed_areas
from ...model import Piece
from ..rule import SEEN_SHARE
from ..stroke_only import painted_by
from .nesting import HOLE, OUTER
from .outlines import OutlineTable

#: How near to its edge what lies under a shape is looked at, in mm.
FINE_MM = 0.01
#: So many of those over a piece are taken first.
FEW = 5


def under_one(table: OutlineTable) -> list[int]:
    """Numbers of the pieces that lie inside what one filled, opaque piece of their layer paints over them, and cross
    nothing."""
    if not len(table.owner):
        return []
    about, role, owner = table.nested.parent, table.nested.role, table.owner
    over = np.maximum(about, 0)
    opaque = table.opaque
    hidden = (about >= 0) & (role[over] == OUTER) & opaque[owner[over]] & (owner[over] > owner)
    hidden |= (about >= 0) & (owner[over] == owner)
    hidden &= ~table.crosses
    rows = np.flatnonzero(np.minimum.reduceat(hidden, table.first[:-1]))
    # The outermost outlines of each lie in another piece's, all in the same one, which has no hole there.
    other = (about >= 0) & (owner[over] != owner)
    cover = np.maximum.reduceat(np.where(other, owner[over], -1), table.first[:-1])
    alone = np.minimum.reduceat(np.where(other, owner[over], len(table.pieces)), table.first[:-1]) == cover
    holes = {(int(lower), int(upper)) for lower, upper in _in_holes(table)}
    rows = [n for n in rows[alone[rows]].tolist() if (n, int(cover[n])) not in holes]
    peeping = _peeping(table, [n for n in rows if is_lined(table.pieces[n])], cover)
    return [n for n in rows if n not in peeping]


def under_others(table: OutlineTable, known: set[int]) -> tuple[list[int], list[int]]:
    """Numbers of the pieces, but those known, of which nothing is seen under the filled, opaque pieces of their layer
    that are painted over them and may cross them: under one of these, and under several."""
    one, over = _over(table, known)
    return one, [n for n, found in over.items() if _is_hidden(table, n, np.array(found))]


def is_lined(piece: Piece) -> bool:
    """Whether a line of some width is painted along its outlines."""
    return piece.stroke is not None and piece.stroke.opacity > 0 and piece.stroke.width_mm > 0


def _above(table: OutlineTable, rows: np.ndarray, upto: np.ndarray) -> np.ndarray:
    """Pairs (N, 2) of outlines: each of the rows, and those about it one after the other, up to but for one of them."""
    at, found = table.nested.parent[rows], [np.zeros((0, 2), np.int64)]
    while len(rows):
        on = (at >= 0) & (at != upto)
        rows, at, upto = rows[on], at[on], upto[on]
        found.append(np.column_stack([rows, at]))
        at = table.nested.parent[at]
    return np.vstack(found)


def _in_holes(table: OutlineTable) -> np.ndarray:
    """Pairs (N, 2) of pieces, the lower first: the upper one has a hole in what the lower one's outline encloses."""
    rows = np.flatnonzero((table.nested.role == HOLE) & (table.nested.parent >= 0))
    # What lies between the hole and the outline of its own piece.
    pairs = table.owner[_above(table, rows, table.nested.own[rows])][:, ::-1]
    return np.unique(pairs[pairs[:, 0] < pairs[:, 1]], axis=0)


def _peeping(table: OutlineTable, rows: list[int], cover: np.ndarray) -> set[int]:
    """Those of the pieces whose lines are so broad that they show beside what lies over them."""
    shown: set[int] = set()
    for upper in sorted({int(cover[n]) for n in rows}):
        under = [n for n in rows if cover[n] == upper]
        edge = SegmentIndex(flatten(table.pieces[upper].path, FINE_MM), 1.0)
        chords = [flatten(table.pieces[n].path, FINE_MM).points for n in under]
        away, _ = edge.nearest(np.vstack(chords))
        start = np.concatenate([[0], np.cumsum([len(points) for points in chords])[:-1]])
        nearest = np.minimum.reduceat(away, start)
        half = np.array([table.pieces[n].stroke.width_mm / 2 for n in under])
        shown |= {n for n, out in zip(under, nearest < half - FINE_MM, strict=True) if out}
    return shown


def _over(table: OutlineTable, known: set[int]) -> tuple[list[int], dict[int, list[int]]]:
    """The pieces that lie in one that is painted over them; and of those whose outlines all lie under others the ones
    that lie over each."""
    from ...geometry.kernels.over import held_by_later, under_later
    from ...geometry.proximity.kernels.boxtree import packed, z_order

    covers, count = table.opaque, len(table.pieces)
    if not covers.any():
        return [], {}
    asked = np.ones(count, bool)
    asked[list(known)] = False
    box = np.ascontiguousarray(table.piece_boxes)
    order = np.argsort(z_order(box), kind="stable")
    group = np.ascontiguousarray(table.group[table.first[:-1]])
    shapes = *packed(box, order), order, box, group, covers
    many = held_by_later(*shapes, asked, FINE_MM)
    if not many.any():
        return [], {}
    crossed = np.sort(table.owner[table.crossings.outlines], axis=1)
    plain = np.diff(table.first) == 1
    plain[crossed[crossed[:, 0] == crossed[:, 1], 0]] = False
    crossing = np.unique(crossed[:, 0] * count + crossed[:, 1])
    bare = np.array([not is_lined(piece) for piece in table.pieces], bool)
    chords = flatten(table.path, FINE_MM)
    in_one, over, begin = under_later(
        *shapes, many, chords.points, chords.start, table.first, bare, plain, crossing, 2 * FINE_MM
    )
    rest = np.flatnonzero(np.diff(begin)).tolist()
    return np.flatnonzero(in_one).tolist(), {n: over[begin[n] : begin[n + 1]].tolist() for n in rest}


def _is_hidden(table: OutlineTable, n: int, over: np.ndarray) -> bool:
    """Whether nothing that a piece paints is seen beside those over it."""
    piece, box = table.pieces[n], table.piece_boxes
    painted = []
    if piece.fill is not None and piece.fill.opacity > 0:
        painted.append(Operand(piece.path, piece.fill_rule))
    if is_lined(piece):
        painted.append(Operand(painted_by(replace(piece.stroke, dashes=()), piece.path).path))
    # Most often those that lie over the most of it are enough.
    sides = np.minimum(box[over, 2:], box[n, 2:]) - np.maximum(box[over, :2], box[n, :2])
    most = over[np.argsort(-np.maximum(sides, 0).prod(axis=1), kind="stable")]
    for some in (most[:FEW], most) if len(most) > FEW else (most,):
        covers = [Operand(table.pieces[m].path, table.pieces[m].fill_rule) for m in some]
        try:
            if all(_is_empty(shape, covers) for shape in painted):
                return True
        except NotCombined:
            continue
    return False


def _is_empty(shape: Operand, over: list[Operand]) -> bool:
    return area(difference(shape, *over).path) <= SEEN_SHARE * np.abs(signed_areas(shape.path)).sum()
