"""overlapping-shape: closed outlines of one layer that run across each other: what looks joined is cut through."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

import numpy as np

from ..model import Document, Edit, Finding, Level, Piece
from ..model.finding import finding_key
from .outline_table import outline_table
from .rule import Rule, Tolerance
from .welding import can_be_welded, looks_the_same, welded


def find(document: Document, tolerance: Tolerance) -> Iterator[Finding]:
    """One finding for each two pieces, or each piece in itself; copies of one line are another matter."""
    table = outline_table(document)
    pairs = table.crossed(same=False)
    if not pairs:
        return
    copies = {match.doubled for match in table.doubled(tolerance.mm)}
    crossed: dict[tuple[str, str], list[np.ndarray]] = defaultdict(list)
    for a, b, places in pairs:
        if table.path.closed[a] and table.path.closed[b] and not copies & {a, b}:
            crossed[table.refs[a][0], table.refs[b][0]].append(places)
    for (first, second), places in crossed.items():
        yield _finding(document.by_id[first], document.by_id[second], np.vstack(places))


def _finding(first: Piece, second: Piece, places: np.ndarray) -> Finding:
    ids = tuple(dict.fromkeys((first.id, second.id)))
    place = tuple(round(v, 4) for v in places[0].tolist())
    filled = first.fill is not None and second.fill is not None
    mendable = can_be_welded(first) and can_be_welded(second)
    return Finding(
        RULE.id,
        finding_key(RULE.id, ids, place),
        RULE.level if filled else Level.NOTE,
        _message(first, second, len(places)),
        ids,
        place,
        {"crossings": len(places)},
        mendable=mendable,
        safe=mendable and looks_the_same([first, second]),
        title=RULE.title,
        effect=RULE.effect,
        extent=(*places.min(axis=0).tolist(), *places.max(axis=0).tolist()),
    )


def mend(document: Document, finding: Finding, tolerance: Tolerance) -> Edit | None:
    """The pieces become one, with the outline of what they paint together."""
    pieces = [document.by_id.get(identity) for identity in finding.pieces]
    if any(piece is None or not can_be_welded(piece) for piece in pieces):
        return None
    return welded(finding, pieces)


def _message(first: Piece, second: Piece, count: int) -> str:
    often = "once" if count == 1 else f"{count} times"
    if first.id == second.id:
        return f"Outlines of {_name(first)} cross each other {often}."
    return f"{_name(first)[:1].upper()}{_name(first)[1:]} and {_name(second)} cross each other {often}."


def _name(piece: Piece) -> str:
    return f'"{piece.name}"' if piece.name else "a shape"


RULE = Rule(
    id="overlapping-shape",
    level=Level.SPOILS,
    title="Shapes overlap",
    effect="They look joined, but each is cut through the other.",
    find=find,
    mend=mend,
    version=3,
)
