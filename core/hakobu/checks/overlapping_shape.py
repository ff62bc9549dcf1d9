"""overlapping-shape: closed outlines of one layer that run across each other: what looks joined is cut through."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable

import numpy as np

from ..model import Conditions, Document, Edit, Finding, Level, Piece
from .loose_hole import loose_holes
from .rule import SHAPES, Rows, Rule
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import capitalised, name_of
from .tables.welding import can_be_welded, looks_the_same, welded


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for all pieces that hang together by crossing each other; copies of one line are another matter."""
    table = outline_table(document)
    crossed = crossed_pieces(table, conditions.tolerance_mm)
    if not crossed:
        return []
    parts: dict[int, list[np.ndarray]] = defaultdict(list)
    label = _linked(len(table.pieces), list(crossed))
    members: dict[int, set[int]] = defaultdict(set)
    for (a, b), places in crossed.items():
        parts[label[a]].append(places)
        members[label[a]] |= {a, b}
    rows = sorted(members, key=lambda n: -len(members[n]))
    holes = {int(table.owner[k]) for k in loose_holes(table, conditions)[0]}
    return Rows(RULE, rows, lambda n: _finding(table, members[n], np.vstack(parts[n]), holes))


def crossed_pieces(table: OutlineTable, tolerance_mm: float) -> dict[tuple[int, int], np.ndarray]:
    """Pairs of pieces, by their numbers, whose closed outlines cross, and where (N, 2)."""
    pairs = table.crossed(same=False)
    if not pairs:
        return {}
    copies = {match.doubled for match in table.doubled(tolerance_mm)}
    found: dict[tuple[int, int], list[np.ndarray]] = defaultdict(list)
    for a, b, places in pairs:
        if table.path.closed[a] and table.path.closed[b] and not copies & {a, b}:
            found[int(table.owner[a]), int(table.owner[b])].append(places)
    return {pair: np.vstack(places) for pair, places in found.items()}


def _linked(count: int, pairs: list[tuple[int, int]]) -> np.ndarray:
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    a, b = np.array(pairs).T
    return connected_components(coo_array((np.ones(len(a)), (a, b)), shape=(count, count)), directed=False)[1]


def _finding(table: OutlineTable, members: set[int], places: np.ndarray, holes: set[int]) -> Finding:
    # In the order in which equals stay, so that the order of pieces does not matter.
    order = sorted(members, key=lambda n: (table.rank[table.first[n]], n))
    pieces = [table.pieces[n] for n in order]
    x, y = places[np.lexsort((places[:, 0].round(4), places[:, 1].round(4)))[0]].tolist()
    # What may be a hole would be filled up by welding: that is to be decided first.
    mendable = all(map(can_be_welded, pieces)) and not members & holes
    first = " One of them may be meant as a hole: see to that first." if members & holes else ""
    return RULE.at(
        _message(pieces, len(places)) + first,
        [piece.id for piece in pieces],
        (x, y),
        (*places.min(axis=0), *places.max(axis=0)),
        level=RULE.level if all(piece.fill is not None for piece in pieces) else Level.NOTE,
        mendable=mendable,
        safe=mendable and looks_the_same(pieces),
        measure={"crossings": len(places), "pieces": len(pieces)},
    )


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """The pieces become one, with the outline of what they paint together."""
    pieces = [document.by_id[identity] for identity in finding.pieces if identity in document.by_id]
    if len(pieces) < len(finding.pieces) or not all(map(can_be_welded, pieces)):
        return None
    return welded(finding, pieces)


def _message(pieces: list[Piece], count: int) -> str:
    often = "once" if count == 1 else f"{count} times"
    if len(pieces) == 1:
        return f"Outlines of {name_of(pieces[0], 'a shape')} cross each other {often}."
    first, second = (name_of(piece, "a shape") for piece in pieces[:2])
    if len(pieces) == 2:
        return f"{capitalised(first)} and {second} cross each other {often}."
    return f"{capitalised(first)} and {len(pieces) - 1} other shapes run across each other, {often} in all."


RULE = Rule(
    id="overlapping-shape",
    about=SHAPES,
    level=Level.SPOILS,
    title="Shapes overlap",
    effect="They look joined, but each is cut through the other.",
    find=find,
    mend=mend,
    version=4,
)
