"""sliver: a part that is thin all over, as cutting a clearance leaves it."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..model import Conditions, Document, Edit, Finding, Level
from ..model.units import as_mm
from .rule import SHAPES, Rows, Rule
from .tables.nesting import OUTER
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import within
from .tables.small_outlines import least_areas, least_strips, net_areas, taken_away

#: Twice the area by the rim is about the width of what is long and thin: below so much of the least strip all of it
#: is too thin.
SHARE_OF_STRIP = 0.6
#: It is so many times as long as wide.
LONG = 5


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each outer outline without holes."""
    table = outline_table(document)
    rows, width = slivers(table, conditions)

    def finding(n: int) -> Finding:
        k, wide = int(rows[n]), float(width[n])
        identity, outline = table.ref(k)
        return RULE.at(
            f"A sliver about {as_mm(round(wide, 2))} wide and {as_mm(round(float(table.size[k]) / 2, 1))} long lies"
            f" {within(table.piece_of(k))}by itself.",
            [identity],
            table.path.ctrl[table.path.start[k], 0],
            table.boxes[k],
            detail=str(outline),
            mendable=True,
            measure={"width_mm": round(wide, 3), "outline": outline + 1},
        )

    return Rows(RULE, np.argsort(width, kind="stable").tolist(), finding)


def slivers(table: OutlineTable, conditions: Conditions) -> tuple[np.ndarray, np.ndarray]:
    """The outlines that are slivers (N,), and about how wide each is (N,), in mm."""
    key = "slivers", conditions.key
    if key not in table.kept:
        own = table.nested.own
        hollow = np.bincount(own[own >= 0], minlength=len(own)) > 0
        area = net_areas(table)
        width = 2 * area / np.maximum(table.size, 1e-9)
        thin = (table.nested.role == OUTER) & table.cut & ~hollow & table.path.closed & ~table.crosses
        thin &= (width < SHARE_OF_STRIP * least_strips(table, conditions)) & (table.size / 2 > LONG * width)
        thin &= area >= least_areas(table, conditions)
        thin[[match.doubled for match in table.doubled(conditions.tolerance_mm)]] = False
        rows = np.flatnonzero(thin)
        table.kept[key] = rows, width[rows]
    return table.kept[key]


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """Takes it away."""
    return taken_away(outline_table(document), finding)


RULE = Rule(
    id="sliver",
    about=SHAPES,
    level=Level.SPOILS,
    title="A sliver",
    effect="It is too thin all over: it tears, curls up, and cannot be weeded.",
    find=find,
    mend=mend,
    thresholds=(
        "twice its area by its rim is below 0.6 of the material's least strip (common practice)",
        "at least 5 times as long as wide",
    ),
)
