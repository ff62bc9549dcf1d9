"""finer-than-the-tool: an outline so small that the tool cannot follow it."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..model import Conditions, Document, Finding, Level
from ..model.units import as_mm
from .rule import DOCUMENT, Rows, Rule
from .stray_node import STRAY_MM
from .tables.nesting import OUTER
from .tables.outlines import outline_table
from .tables.piece_names import within
from .tables.small_outlines import least_areas, net_areas

WHY = {
    "knife": "a dragged blade cannot turn in it",
    "laser": "the beam burns all of it away",
    "pen": "the pen's own width fills it",
}


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each closed outline, where a machine is chosen."""
    machine = conditions.machine
    if machine is None:
        return []
    table = outline_table(document)
    across = np.ptp(table.boxes.reshape(-1, 2, 2), axis=1).max(axis=1)
    small = table.path.closed & (across < machine.finest_mm) & (across >= STRAY_MM)
    # A part that is lost anyway is told of as a speck.
    lost = (table.nested.role == OUTER) & table.cut & (net_areas(table) < least_areas(table, conditions))
    rows = np.flatnonzero(small & ~lost)

    def finding(k: int) -> Finding:
        identity, outline = table.ref(k)
        return RULE.at(
            f"An outline {within(table.piece_of(k))}is only {as_mm(round(float(across[k]), 3))} across:"
            f" {WHY[machine.tool]}.",
            [identity],
            table.boxes[k].reshape(2, 2).mean(axis=0),
            table.boxes[k],
            detail=str(outline),
            measure={"across_mm": round(float(across[k]), 4), "finest_mm": machine.finest_mm},
        )

    return Rows(RULE, rows[np.argsort(across[rows], kind="stable")].tolist(), finding)


RULE = Rule(
    id="finer-than-the-tool",
    about=DOCUMENT,
    level=Level.SPOILS,
    title="Finer than the tool",
    effect="It comes out as a ragged spot.",
    find=find,
    thresholds=(
        "smaller across than the machine's finest outline: 0.5 mm for a knife, 0.4 for a laser, 0.7 for a pen"
        " (common practice)",
    ),
)
