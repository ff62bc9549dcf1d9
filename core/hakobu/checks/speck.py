"""speck: a part too small for its material."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..model import Conditions, Document, Edit, Finding, Level
from .rule import SHAPES, Rule
from .stray_node import is_stray
from .tables.nesting import OUTER
from .tables.outlines import outline_table
from .tables.small_outlines import least_areas, net_areas, small_ones, taken_away


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each outer outline."""
    table = outline_table(document)
    area = net_areas(table)
    small = (table.nested.role == OUTER) & table.cut & (area < least_areas(table, conditions))
    small &= ~is_stray(table) & table.path.closed
    small[[match.doubled for match in table.doubled(conditions.tolerance_mm)]] = False
    rows = np.flatnonzero(small & ~table.crosses)
    return small_ones(RULE, table, rows, conditions, "A part")


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
