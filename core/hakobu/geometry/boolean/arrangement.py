"""A planar arrangement: curves split where they meet, ends that are one made one, edges that lie on each other merged,
and the faces between them, each knowing which it lies in.

Nothing is flattened here but to look for candidates: every edge is a span of the curve it comes from.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...errors import CannotDo
from ..flatten import points_at
from ..intersect import Meetings, meet
from ..path import Path
from ..proximity.chord_grid import Search, curve_table
from .coincident_segments import single_segments

#: Ends closer than this are one node, in mm: twenty times the error of a meeting, a thousandth of a machine's step.
SNAP_MM = 2e-5
#: More meetings than so many, and as many as there are segments, more pairs of near chords, or more to be compared,
#: would take minutes.
MOST_MEETINGS, MOST_PAIRS, MOST_TESTS = 150_000, 2_000_000, 400_000_000
TOO_MANY = "These shapes cross each other too often to be combined: combine fewer at once."
#: The operand of lines that bound nothing.
BARE = -1


class NotCombined(CannotDo):
    """The outlines did not come out closed: the shapes are degenerate beyond what is told apart."""


class TooManyMeetings(NotCombined):
    """The shapes meet each other more often than can be worked out."""


@dataclass(frozen=True)
class Edges:
    """All edges of an arrangement, E of them: begin (M+1,), the first of each segment; span and ends (E, 2), parameters
    and nodes at their ends; lead (E,), the edge that stands for each, and sign (E,), whether it runs the same way;
    number (E,), of those that stand for themselves and part something or carry a line, their number among the edges of
    the arrangement."""

    begin: np.ndarray
    span: np.ndarray
    ends: np.ndarray
    lead: np.ndarray
    sign: np.ndarray
    number: np.ndarray


@dataclass(frozen=True)
class Arrangement:
    """path: the curves, M segments; rows (M,), the segment that each is of those that were given, where some were the
    same to the bit. node (N, 2): where edges end. segment (K,), span and ends (K, 2): the curve of each
    edge, the parameters at its ends in the curve's direction, and its nodes. entry (K+1,), who, net: which operands'
    outlines run along each edge, and how often with its direction less against it. Half-edge 2k runs along edge k,
    2k + 1 against it: before (2K,), cycle (2K,), outside and parent as the kernels `rotation` and `nesting` give
    them; area of each cycle (C,)."""

    path: Path
    rows: np.ndarray
    node: np.ndarray
    segment: np.ndarray
    span: np.ndarray
    ends: np.ndarray
    entry: np.ndarray
    who: np.ndarray
    net: np.ndarray
    before: np.ndarray
    cycle: np.ndarray
    area: np.ndarray
    outside: np.ndarray
    parent: np.ndarray
    edges: Edges


def meets_too_often(search: Search) -> bool:
    """Whether what was searched would take too long to arrange."""
    return search.has_more_than(MOST_PAIRS, MOST_TESTS)


def arrange(path: Path, operand: np.ndarray, snap_mm: float, share: float) -> Arrangement | None:
    """The arrangement of all segments, or None where it does not lie in a plane: then a crossing was missed, or curves
    run nearer to each other than can be told apart.

    operand (M,): which operand each segment belongs to, BARE for lines that bound nothing; snap_mm: what is within this
    is one; share: how far curves may leave the chords that are searched, of their own size. Raises TooManyMeetings.
    """
    from ..kernels.coinciding_edges import nets, same_edges
    from ..kernels.nesting import nested
    from ..kernels.noding import edges_of, snapped
    from ..kernels.rotation import cycles_of, turned_back

    plain = single_segments(path, operand, BARE)
    path, operand, rows = plain.path, operand[plain.rows], plain.rows
    kinds, geometry = curve_table(path)
    search = Search(path, None, share, kinds, geometry)
    if meets_too_often(search):
        raise TooManyMeetings(TOO_MANY)
    met = meet(search, kinds, geometry)
    if len(met.segment) > MOST_MEETINGS + path.segment_count:
        raise TooManyMeetings(TOO_MANY)
    point, cuts = _places(path, search.following, met)
    label = snapped(point, snap_mm)
    count = path.segment_count
    first, last = label[:count], label[cuts.last]
    cut = (cuts.segment, cuts.at, label[cuts.point], label[cuts.point] == cuts.point, point)
    segment, span, ends, begin = edges_of(count, first, last, *cut, kinds, geometry, snap_mm)
    lead, sign = same_edges(len(point), ends, segment, span, kinds, geometry, snap_mm)
    kept, entry, who, net = nets(*plain.shared(begin, lead, sign, operand[segment]))
    number = np.full(len(segment), -1, np.int64)
    number[kept] = np.arange(len(kept))
    edges = Edges(begin, span, ends, lead, sign, number)
    segment, span, ends = segment[kept], span[kept], ends[kept]
    before = turned_back(point, segment, span, ends, kinds, geometry)
    cycle, area, component, outside, planar = cycles_of(before, point, segment, span, ends, kinds, geometry)
    if not planar:
        return None
    parent = np.full(len(outside), -1, np.int64)
    if len(outside) > 1:
        of = component[cycle[::2]]
        grid = (search.table, search.owner, search.cells, search.member, *search.frame)
        parent, sure = nested(
            of, segment, span, *grid, begin, edges.span, lead, sign, number, len(outside), kinds, geometry
        )
        if not sure:
            return None
    return Arrangement(
        path, rows, point, segment, span, ends, entry, who, net, before, cycle, area, outside, parent, edges
    )  # fmt: skip


@dataclass(frozen=True)
class _Cuts:
    segment: np.ndarray
    at: np.ndarray
    point: np.ndarray
    last: np.ndarray


def _places(path: Path, following: np.ndarray, met: Meetings) -> tuple[np.ndarray, _Cuts]:
    """All places where segments end or are cut, and which is which. Ends come first, so that where several places
    become one it is an end that stays where it was drawn."""
    count = path.segment_count
    open_ends = np.flatnonzero(following < 0)
    last = following.copy()
    last[open_ends] = count + np.arange(len(open_ends))
    base = count + len(open_ends)
    singles, runs = len(met.segment), len(met.run_segment)
    # Both curves of a run pass the place of the first one.
    where = met.run_segment[:, 0].repeat(2), met.run[:, :, 0].ravel()
    place = points_at(path, *where) if runs else np.zeros((0, 2))
    point = np.concatenate([path.ctrl[:, 0], path.ctrl[open_ends, 3], met.point, place])
    numbers = np.concatenate([np.arange(singles), singles + np.arange(2 * runs)]) + base
    cuts = _Cuts(
        np.concatenate([met.segment.ravel(), met.run_segment.repeat(2, axis=0).ravel()]),
        np.concatenate([met.parameter.ravel(), met.run.ravel()]),
        numbers.repeat(2),
        last,
    )
    return np.ascontiguousarray(point), cuts
