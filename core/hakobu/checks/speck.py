"""speck: a part too small for its material."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..model import Conditions, Document, Edit, Finding, Level
from .naming import within
from .nested import OUTER
from .outline_table import outline_table
from .rule import SHAPES, Rows, Rule
from .small_outlines import goes_unseen, least_areas, net_areas, taken_away
from .stray_node import is_stray


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each outer outline."""
    table = outline_table(document)
    area = net_areas(table)
    small = (table.nested.role == OUTER) & table.cut & (area < least_areas(table, conditions))
    small &= ~is_stray(table) & table.path.closed
    small[[match.doubled for match in table.doubled(conditions.tolerance_mm)]] = False
    rows = np.flatnonzero(small & ~table.crosses)

    def finding(k: int) -> Finding:
        piece, (identity, outline) = table.piece_of(k), table.ref(k)
        size = float(area[k])
        return RULE.at(
            f"A part of {size:.2g} mm2 lies {within(piece)}at {table.boxes[k, 0]:.1f}, {table.boxes[k, 1]:.1f} mm.",
            [identity],
            table.boxes[k].reshape(2, 2).mean(axis=0),
            table.boxes[k],
            detail=str(outline),
            mendable=True,
            safe=goes_unseen(size, float(table.size[k]), conditions),
            measure={"area_mm2": round(size, 4), "outline": outline + 1},
        )

    return Rows(RULE, rows[np.argsort(area[rows], kind="stable")].tolist(), finding)


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """Takes it away."""
    return taken_away(outline_table(document), finding)


RULE = Rule(
    id="speck",
    about=SHAPES,
    level=Level.SPOILS,
    title="A speck",
    effect="It comes loose under the blade, sticks to it, or is lost.",
    find=find,
    mend=mend,
    thresholds=(
        "smaller than the material's least part; 0.25 mm2 where no material is chosen (common practice)",
        "safe to take away up to 0.25 mm2",
    ),
)
