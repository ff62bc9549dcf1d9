"""outside-sheet: what lies beyond the page, wholly or in part."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..geometry import box_of
from ..model import Conditions, Document, Edit, Finding, Level
from ..model.pages import page_box, united
from ..model.units import as_mm
from .rule import DOCUMENT, Rows, Rule
from .tables.outlines import outline_table
from .tables.piece_names import capitalised, name_of

#: What lies beyond by less is on the page's edge (common practice).
BEYOND_MM = 0.5
#: The ways to mend it.
ENLARGE, AWAY = "enlarge", "take-away"


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each piece."""
    if document.page is None:
        return []
    table = outline_table(document)
    if not len(table.owner):
        return []
    low, high = table.piece_boxes[:, :2], table.piece_boxes[:, 2:]
    page = np.array([document.page.width_mm, document.page.height_mm])
    by = np.maximum(-low, high - page).max(axis=1)
    rows = np.flatnonzero(by > BEYOND_MM)
    wholly = np.array(((high <= 0) | (low >= page)).any(axis=1))

    def finding(n: int) -> Finding:
        piece, far = table.pieces[n], float(by[n])
        where = "lies off the page" if wholly[n] else f"reaches {as_mm(round(far, 1))} beyond the page's edge"
        return RULE.at(
            f"{capitalised(name_of(piece, 'a shape'))} {where}.",
            [piece.id],
            (low[n] + high[n]) / 2,
            (*low[n], *high[n]),
            mendable=True,
            measure={"beyond_mm": round(far, 3)},
        )

    return Rows(RULE, rows[np.argsort(-by[rows], kind="stable")].tolist(), finding)


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """Makes the page so much larger, or takes the piece away."""
    piece = document.by_id.get(finding.pieces[0])
    if piece is None or document.page is None:
        return None
    outlines = [(piece.id, k) for k in range(len(piece.path))]
    if finding.measure.get("choice") == AWAY:
        return Edit(finding.key, dict.fromkeys(outlines))
    return Edit(finding.key, needs=frozenset(outlines), page=united([page_box(document), box_of(piece.path)]))


RULE = Rule(
    id="outside-sheet",
    about=DOCUMENT,
    level=Level.SPOILS,
    title="Beyond the page",
    effect="The tool runs off the material there, and what lies beyond is not cut.",
    find=find,
    mend=mend,
    thresholds=("more than 0.5 mm beyond an edge (common practice)",),
    choices=((ENLARGE, "Make the page larger"), (AWAY, "Delete what lies beyond")),
    version=2,
)
