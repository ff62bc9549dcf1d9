"""stray-node: a single point, or a line of no length."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..model import Conditions, Document, Edit, Finding, Level
from ..model.finding import finding_key
from .rule import LINES, Rule
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import within

#: A line shorter than this is a prick of the blade, not a cut (common practice: below any machine's step).
STRAY_MM = 0.01


def find(document: Document, conditions: Conditions) -> Iterator[Finding]:
    """One finding for each outline that goes nowhere."""
    table = outline_table(document)
    boxes = table.boxes
    for k in np.flatnonzero(is_stray(table)).tolist():
        (identity, outline), piece = table.ref(k), table.piece_of(k)
        place = tuple(np.round(boxes[k, :2], 4).tolist())
        yield Finding(
            RULE.id,
            finding_key(RULE.id, [identity], place, str(outline)),
            RULE.level,
            f"A single point stands {within(piece)}at {place[0]:.2f}, {place[1]:.2f} mm.",
            (identity,),
            place,
            {"outline": outline + 1},
            mendable=True,
            # A round or square end would show it as a dot.
            safe=piece.stroke is None or piece.stroke.cap == "butt",
            title=RULE.title,
            effect=RULE.effect,
            extent=tuple(boxes[k].tolist()),
        )


def is_stray(table: OutlineTable) -> np.ndarray:
    """Which outlines go nowhere (K,)."""
    return table.across < STRAY_MM


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """Takes the point away."""
    outline = int(finding.measure["outline"]) - 1
    piece = document.by_id.get(finding.pieces[0])
    if piece is None or outline >= len(piece.path):
        return None
    return Edit(finding.key, {(piece.id, outline): None})


RULE = Rule(
    id="stray-node",
    about=LINES,
    level=Level.SPOILS,
    title="A single point",
    effect="The blade goes there, pricks the material and lifts again.",
    find=find,
    mend=mend,
    thresholds=("shorter than 0.01 mm: below any machine's step (common practice)",),
)
