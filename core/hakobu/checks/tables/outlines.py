"""All outlines of a design side by side, as the rules look at them."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from functools import cached_property
from weakref import ref

import numpy as np

from ...geometry import Box, Path, bounds
from ...geometry.crossings import Crossings, crossings
from ...geometry.measure import lengths, outline_bounds, signed_areas
from ...geometry.nesting import parents_of
from ...geometry.parallel import run_concurrently
from ...geometry.proximity.chord_grid import SEARCH_SHARE, Search, curve_table
from ...model import Document, Piece, Treatment
from .coincidence import Match, coinciding
from .crowding import FEW_SEGMENTS, crowded_out
from .exact_copies import kinds_of, number_among_copies
from .nesting import HOLE, OUTER, Nested, nested_in
from .node_turns import NodeTable, node_table
from .overlap_runs import ON_MM, Shared, shared_runs

#: A piece's id and the number of one of its outlines.
Ref = tuple[str, int]


#: Of fewer segments all is worked out one after the other.
WORTH_SHARING = 5000
#: Of more segments not all is worked out at once either: what each works with would not fit beside the others'.
MOST_AT_ONCE = 400_000
#: Of more exact copies in one place than this the others are only counted: what is true of these is true of them.
MOST_COPIES = 4
#: Nearer than this the rim and the hole of a piece are one line drawn twice, and nothing is between them.
RUNS_BESIDE_MM = 0.02


class OutlineTable:
    """The outlines that a tool follows: path with K outlines; pieces: those that they are from; owner (K,), the number
    of each one's piece; number (K,), which of its piece's outlines it is; first (N+1,), each piece's first; group (K,),
    the number of its layer; cut (K,), whether it is cut; filled (K,), whether its piece is.

    Not all are in it: copies (C, 2) are those beyond a few in one place, and crowded (B, 2) those that lie where more
    lines cross and coincide than can be compared; both as the number of the piece among `followed`, and of its outline.
    whole: all of them; whole_kind: which are copies of each other."""

    def __init__(self, document: Document) -> None:
        self.followed: tuple[Piece, ...] = document.pieces_followed()
        count = np.array([piece.path.closed.size for piece in self.followed], np.int64)
        self.whole = Path.concatenate(piece.path for piece in self.followed)
        owner = np.repeat(np.arange(len(count)), count)
        number = np.arange(len(owner)) - np.repeat(np.cumsum(count) - count, count)
        layers = {layer.id: i for i, layer in enumerate(document.layers)}
        self.layers = document.layers
        group = np.array([layers[piece.layer] for piece in self.followed], np.int64)[owner]
        self.whole_kind = kinds_of(self.whole, group)
        kept = number_among_copies(self.whole_kind) < MOST_COPIES
        self.copies = np.column_stack([owner, number])[~kept]
        kept, self._search = self._without_crowds(np.flatnonzero(kept), group)
        left = np.ones(len(owner), bool)
        left[kept] = False
        self.crowded = np.column_stack([owner, number])[left & (number_among_copies(self.whole_kind) < MOST_COPIES)]
        self.path, self.group, self.number, self.kind = (
            self.whole.take(kept),
            group[kept],
            number[kept],
            self.whole_kind[kept],
        )
        used, self.owner = np.unique(owner[kept], return_inverse=True)
        self.pieces = tuple(self.followed[n] for n in used.tolist())
        self.first = np.searchsorted(self.owner, np.arange(len(used) + 1))
        cut = {layer.id for layer in document.layers if layer.treatment is Treatment.CUT}
        self.cut = self._of_pieces([piece.layer in cut for piece in self.pieces])
        self.filled = self._of_pieces([piece.fill is not None for piece in self.pieces])
        self._matches: dict[float, list[Match]] = {}
        self.kept: dict = {}

    def _without_crowds(self, rows: np.ndarray, group: np.ndarray) -> tuple[np.ndarray, Search | None]:
        """Those of some outlines (K,) that can be compared, and the search of them, where one was made."""
        share = 1.0
        while True:
            path = self.whole.take(rows)
            if path.segment_count < FEW_SEGMENTS:
                return rows, None
            search = Search(path, group[rows], SEARCH_SHARE, *curve_table(path), ON_MM)
            out = crowded_out(path, search, share)
            if out is None:
                return rows, search if path.segment_count < MOST_AT_ONCE else None
            rows, share = rows[~out], share / 2

    def _of_pieces(self, values: list) -> np.ndarray:
        """What is true of each piece, for each of its outlines (K,)."""
        return np.array(values, bool)[self.owner]

    @property
    def is_shared(self) -> bool:
        """Whether there is enough to be worth threads, and not too much for what each works with beside the others."""
        return WORTH_SHARING < self.path.segment_count < MOST_AT_ONCE

    def compute_ahead(self, *others: Callable[[], object]) -> None:
        """Computes at once, on all processors, what looking for thin places and most rules begin with, and others; of
        little it is not worth the threads."""
        if self.is_shared:
            run_concurrently((lambda: self.crossings, lambda: self.nested, *others))

    def piece_of(self, outline: int) -> Piece:
        return self.pieces[self.owner[outline]]

    def ref(self, outline: int) -> Ref:
        return self.pieces[self.owner[outline]].id, int(self.number[outline])

    def row_of(self, piece: str, number: int) -> int | None:
        """The row of one of a piece's outlines, where it is there."""
        rows = self.outlines_of(piece)
        at = int(np.searchsorted(self.number[rows.start : rows.stop], number))
        return rows[at] if at < len(rows) and self.number[rows[at]] == number else None

    def kind_of(self, piece: str, number: int) -> int | None:
        """What one of a piece's outlines is of (see `kind`), where it is there."""
        row = self.row_of(piece, number)
        return None if row is None else int(self.kind[row])

    def box_at(self, outline: int) -> Box:
        """The bounds of one outline."""
        left, top, right, bottom = self.boxes[outline].tolist()
        return left, top, right, bottom

    def outlines_of(self, piece: str) -> range:
        """The numbers of a piece's outlines."""
        owner = self.number_of.get(piece)
        return range(0) if owner is None else range(int(self.first[owner]), int(self.first[owner + 1]))

    @cached_property
    def opaque(self) -> np.ndarray:
        """Which pieces hide what lies under them (N,)."""
        return np.array([p.fill is not None and p.fill.opacity == 1.0 and p.opacity == 1.0 for p in self.pieces], bool)

    @cached_property
    def number_of(self) -> dict[str, int]:
        return {piece.id: n for n, piece in enumerate(self.pieces)}

    @cached_property
    def refs(self) -> list[Ref]:
        return [(self.pieces[n].id, k) for n, k in zip(self.owner.tolist(), self.number.tolist(), strict=True)]

    @cached_property
    def boxes(self) -> np.ndarray:
        return outline_bounds(self.path)

    @cached_property
    def across(self) -> np.ndarray:
        """The longer side of each outline's box (K,)."""
        left, top, right, bottom = self.boxes.T
        return np.maximum(right - left, bottom - top)

    @cached_property
    def piece_boxes(self) -> np.ndarray:
        """The box of each piece (N, 4)."""
        if not len(self.owner):
            return np.zeros((0, 4))
        low = np.minimum.reduceat(self.boxes[:, :2], self.first[:-1])
        return np.hstack([low, np.maximum.reduceat(self.boxes[:, 2:], self.first[:-1])])

    @cached_property
    def size(self) -> np.ndarray:
        """The length of each outline (K,)."""
        return lengths(self.path)

    @cached_property
    def area(self) -> np.ndarray:
        """The signed area of each outline (K,)."""
        return signed_areas(self.path)

    @cached_property
    def crossings(self) -> Crossings:
        """Where outlines of a layer cross, themselves or each other."""
        return crossings(self.path, self.group, self.search)

    @cached_property
    def crosses(self) -> np.ndarray:
        """Which outlines cross themselves or another one (K,): what they enclose is not theirs alone."""
        found = np.zeros(len(self.owner), bool)
        found[self.crossings.outlines.ravel()] = True
        return found

    @cached_property
    def crosses_itself(self) -> np.ndarray:
        """Which outlines cross themselves (K,)."""
        found = np.zeros(len(self.owner), bool)
        found[[k for k, _, _ in self.crossed(same=True)]] = True
        return found

    def winds_plainly(self, piece: str) -> bool:
        """Whether no outline of a piece crosses itself: each then winds about all that is in it the same way."""
        rows = self.outlines_of(piece)
        return not self.crosses_itself[rows.start : rows.stop].any()

    @cached_property
    def nodes(self) -> NodeTable:
        """How the outlines turn at their nodes."""
        return node_table(self.path)

    @cached_property
    def nested(self) -> Nested:
        """What lies in what, and what is painted beside each outline."""
        return nested_in(self)

    @cached_property
    def inner_of(self) -> dict[int, list[int]]:
        """The outlines of its own piece that lie right in each that has some."""
        found: dict[int, list[int]] = {}
        for inner in np.flatnonzero(self.nested.own >= 0).tolist():
            found.setdefault(int(self.nested.own[inner]), []).append(inner)
        return found

    @cached_property
    def parent_of_all(self) -> np.ndarray:
        """The smallest closed outline that each lies in (K,), whatever their layers, or -1."""
        return parents_of(self.path, self.area, self.boxes)

    @cached_property
    def shared(self) -> Shared:
        """Stretches along which lines of a layer lie on each other."""
        return shared_runs(self.path, self.group, self.search)

    @cached_property
    def touched_by(self) -> dict[int, set[int]]:
        """The outlines that share a stretch of their line with each that does."""
        found: dict[int, set[int]] = {}
        for a, b in np.unique(self.shared.outline, axis=0).tolist():
            found.setdefault(a, set()).add(b)
            found.setdefault(b, set()).add(a)
        return found

    @property
    def search(self) -> Search | None:
        """What lines are near each other, once for what crosses and for what is shared; of more than fits beside other
        work each looks for itself."""
        if self._search is None and 0 < self.path.segment_count < FEW_SEGMENTS:
            self._search = Search(self.path, self.group, SEARCH_SHARE, *curve_table(self.path), ON_MM)
        return self._search

    def crossed(self, same: bool) -> list[tuple[int, int, np.ndarray]]:
        """Crossings of outlines with themselves, or of two with each other: their numbers, and the places (N, 2)."""
        if ("crossed", same) not in self.kept:
            wanted = (self.crossings.outlines[:, 0] == self.crossings.outlines[:, 1]) == same
            pairs, places = self.crossings.outlines[wanted], self.crossings.places[wanted]
            first = np.flatnonzero((np.diff(pairs, axis=0, prepend=-1) != 0).any(axis=1))
            ends = zip(pairs[first].tolist(), first.tolist(), [*first.tolist(), len(pairs)][1:], strict=True)
            self.kept["crossed", same] = [(*pair, places[a:b]) for pair, a, b in ends]
        return self.kept["crossed", same]

    def doubled(self, tolerance_mm: float) -> list[Match]:
        """Outlines that run along another one of their layer."""
        if tolerance_mm not in self._matches:
            found = coinciding(self.path, self.group, self.rank, tolerance_mm, self.boxes, self.size)
            self._matches[tolerance_mm] = [
                m for m in found if m.distance_mm <= RUNS_BESIDE_MM or not self._has_between(m)
            ]
        return self._matches[tolerance_mm]

    def _has_between(self, match: Match) -> bool:
        """Whether the two are the rim and the hole of one piece that paints what is between them."""
        inner, outer = match.doubled, match.kept
        if self.nested.own[inner] != outer:
            inner, outer = outer, inner
        pair = self.nested.role[[outer, inner]].tolist()
        return bool(self.nested.own[inner] == outer and self.filled[inner] and pair == [OUTER, HOLE])

    @cached_property
    def rank(self) -> np.ndarray:
        """The place of each outline in the order in which equals stay, (K,)."""
        boxes, size = np.round(self.boxes, 4), np.round(self.size, 4)
        outlines = np.array([len(piece.path) for piece in self.pieces], np.int64)[self.owner]
        # At last by where their pieces begin, and which way: copies are told apart by nothing else, and one piece of
        # two stays whole.
        first = self.path.start[self.first[:-1][self.owner]] if len(size) else np.zeros(0, np.int64)
        begin = np.round(self.path.ctrl[first, :2].reshape(-1, 4), 6)
        keys = (*begin.T, *boxes.T, -size, self.path.node_counts, -outlines, ~self.filled, ~self.path.closed)
        order = np.lexsort(keys)
        rank = np.empty(len(order), np.int64)
        rank[order] = np.arange(len(order))
        return rank


def followed_box(document: Document) -> tuple[float, float, float, float] | None:
    """The box of all that a tool follows; None where that is nothing."""
    return bounds(outline_table(document).whole)


#: The tables of the last documents that were looked at.
_KEPT: deque[tuple[ref, OutlineTable]] = deque(maxlen=2)


def outline_table(document: Document) -> OutlineTable:
    """The table of a document; several rules look at the same one, one after the other."""
    for kept, table in tuple(_KEPT):
        if kept() is document:
            return table
    table = OutlineTable(document)
    _KEPT.append((ref(document, _forget), table))
    return table


def _forget(gone: ref) -> None:
    """Of a document that nobody has any more, its table is not kept either."""
    for entry in tuple(_KEPT):
        if entry[0] is gone:
            _KEPT.remove(entry)
