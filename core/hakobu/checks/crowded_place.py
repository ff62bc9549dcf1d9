"""crowded-place: more lines lie across and on each other than can be compared one by one."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..geometry.measure import outline_bounds
from ..model import Conditions, Document, Finding, Level
from .rule import LINES, Rule
from .tables.outlines import outline_table

#: Of so many pieces a finding names each.
MOST_NAMED = 50


def find(document: Document, conditions: Conditions) -> Iterator[Finding]:
    """One finding for all lines that were left out of the comparison."""
    table = outline_table(document)
    if not len(table.crowded):
        return
    pieces, outlines = table.crowded.T
    count = np.array([len(piece.path) for piece in table.followed])
    rows = (np.cumsum(count) - count)[pieces] + outlines
    boxes = outline_bounds(table.whole.take(rows))
    left, top, right, bottom = (*boxes[:, :2].min(axis=0).tolist(), *boxes[:, 2:].max(axis=0).tolist())
    lines = "One line here crosses" if len(rows) == 1 else f"{len(rows):,} lines here cross"
    yield RULE.at(
        f"{lines} others or themselves more often than can be counted: no other fault was looked for on them.",
        [table.followed[n].id for n in np.unique(pieces).tolist()[:MOST_NAMED]],
        ((left + right) / 2, (top + bottom) / 2),
        extent=(left, top, right, bottom),
        measure={"lines": len(rows)},
    )


RULE = Rule(
    id="crowded-place",
    about=LINES,
    level=Level.SPOILS,
    title="More lines than can be compared",
    effect="The blade goes through the same place hundreds of times: nothing is left of the material there.",
    find=find,
    thresholds=(
        "more than 200,000 pairs of lines, and as many more as there are lines, that come within 0.01 mm of each other",
    ),
)
