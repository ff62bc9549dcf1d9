"""leftover-hollow: a hole so small that it closes up or cannot be weeded, as an outline about letters leaves it."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..model import Conditions, Document, Edit, Finding, Level
from .rule import SHAPES, Rule
from .stray_node import is_stray
from .tables.nesting import HOLE
from .tables.outlines import outline_table
from .tables.small_outlines import least_areas, net_areas, small_ones, taken_away


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each hole."""
    table = outline_table(document)
    area = net_areas(table)
    small = (table.nested.role == HOLE) & table.cut & (area < least_areas(table, conditions)) & ~is_stray(table)
    rows = np.flatnonzero(small & ~table.crosses)
    return small_ones(RULE, table, rows, conditions, "A hollow")


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """Fills it."""
    return taken_away(outline_table(document), finding)


RULE = Rule(
    id="leftover-hollow",
    about=SHAPES,
    level=Level.NOTE,
    title="A small hollow",
    effect="Its waste is too small to be weeded and stays in, or the hole closes up.",
    find=find,
    mend=mend,
    thresholds=(
        "smaller than the material's least part; 0.25 mm2 where no material is chosen (common practice)",
        "safe to fill up to 0.25 mm2",
    ),
)
