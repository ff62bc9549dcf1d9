"""invisible-object: what is not seen, and would be cut all the same."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..model import Conditions, Document, Edit, Finding, Level, Piece
from ..model.lab import is_white
from .background_rectangle import backgrounds
from .rule import DOCUMENT, Rows, Rule
from .tables.hidden_pieces import is_lined, under_one, under_others
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import capitalised, name_of

UNPAINTED, WHITE_ON_WHITE = "has neither fill nor line", "is white on white"
UNDER, UNDER_SEVERAL = "lies wholly under another shape", "lies wholly under other shapes"


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each piece."""
    table = outline_table(document)
    why: dict[int, str] = {n: UNPAINTED for n, piece in enumerate(table.pieces) if not is_painted(piece)}
    for n in under_one(table):
        why.setdefault(n, UNDER)
    # Copies of a line are another matter.
    copies = {int(table.owner[k]) for m in table.doubled(conditions.tolerance_mm) for k in (m.doubled, m.kept)}
    one, several = under_others(table, copies | set(why))
    why |= dict.fromkeys(one, UNDER) | dict.fromkeys(several, UNDER_SEVERAL)
    for n in _white(document, table):
        why.setdefault(n, WHITE_ON_WHITE)

    def finding(n: int) -> Finding:
        piece, box = table.pieces[n], table.piece_boxes[n]
        return RULE.at(
            f"{capitalised(name_of(piece, 'a shape'))} {why[n]}.",
            [piece.id],
            box[:2],
            box,
            mendable=True,
            safe=why[n] != WHITE_ON_WHITE,
            measure={"why": why[n]},
        )

    return Rows(RULE, sorted(why), finding)


def is_painted(piece: Piece) -> bool:
    fill = piece.fill is not None and piece.fill.opacity > 0
    return piece.opacity > 0 and (fill or is_lined(piece))


def _white(document: Document, table: OutlineTable) -> list[int]:
    """White pieces without a line that lie on no other one and are no background, where there are others that are not
    white."""
    pages = {piece.id for piece, _ in backgrounds(document)}
    white = [
        n
        for n, p in enumerate(table.pieces)
        if p.fill and is_white(p.fill.color) and not p.stroke and is_painted(p) and p.id not in pages
    ]
    if not white or len(white) == len(table.pieces):
        return []
    crossed = set(table.owner[table.crosses].tolist())
    parent = table.parent_of_all
    lone = []
    for n in white:
        about = parent[table.first[n] : table.first[n + 1]]
        about = table.owner[about[about >= 0]]
        if n not in crossed and not ((about != n) & ~np.isin(about, [table.number_of.get(p, -1) for p in pages])).any():
            lone.append(n)
    return lone


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """Takes it away."""
    piece = document.by_id.get(finding.pieces[0])
    return Edit(finding.key, {(piece.id, k): None for k in range(len(piece.path))}) if piece else None


RULE = Rule(
    id="invisible-object",
    about=DOCUMENT,
    level=Level.SPOILS,
    title="Invisible shape that would be cut",
    effect="The machine follows every outline, seen or not: there will be a cut where nothing shows.",
    find=find,
    mend=mend,
    thresholds=("white: lighter than 97 in L* (common practice)",),
    version=3,
)
