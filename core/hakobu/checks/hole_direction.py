"""hole-direction: a hole that runs the same way round as the outline about it."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..model import Conditions, Document, Edit, Finding, Level
from ..model.words import counted
from .rule import SHAPES, Rows, Rule
from .tables.nesting import HOLE
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import capitalised, name_of


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each piece."""
    table = outline_table(document)
    wrong = wrong_way(table)
    count = np.bincount(table.owner[wrong], minlength=len(table.pieces))
    rows = np.flatnonzero(count)

    def finding(n: int) -> Finding:
        own = _own(table, n, wrong)
        piece = table.pieces[n]
        return RULE.at(
            f"{capitalised(counted(len(own), 'hole'))} of {name_of(piece)} {'runs' if len(own) == 1 else 'run'}"
            " the same way round as the outline about it.",
            [piece.id],
            table.path.ctrl[table.path.start[own[0]], 0],
            table.box_at(own[0]),
            mendable=True,
            safe=True,
            measure={"holes": len(own)},
        )

    return Rows(RULE, rows[np.argsort(-count[rows], kind="stable")].tolist(), finding)


def _own(table: OutlineTable, n: int, wrong: np.ndarray) -> np.ndarray:
    own = np.arange(table.first[n], table.first[n + 1])
    return own[wrong[own]]


def wrong_way(table: OutlineTable) -> np.ndarray:
    """Which outlines are holes that run as what is about them (K,)."""
    own = table.nested.own
    hole = (table.nested.role == HOLE) & table.filled & (own >= 0)
    return hole & (np.sign(table.area) == np.sign(table.area[np.maximum(own, 0)]))


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """They run the other way; what is painted stays, since the even-odd rule asks for no direction."""
    table = outline_table(document)
    piece = document.by_id.get(finding.pieces[0])
    if piece is None or piece.fill_rule != "evenodd":
        return None
    wrong = wrong_way(table)
    rows = [k for k in table.outlines_of(piece.id) if wrong[k]]
    return Edit(finding.key, {table.ref(k): table.path.outline(k).reversed() for k in rows}) if rows else None


RULE = Rule(
    id="hole-direction",
    about=SHAPES,
    level=Level.NOTE,
    title="A hole runs the wrong way round",
    effect="Where the tool's width is allowed for, it is taken from the wrong side of the hole.",
    find=find,
    mend=mend,
)
