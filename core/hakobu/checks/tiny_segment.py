"""tiny-segment: a step in an outline too short for any tool, between longer ones."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..geometry import Path
from ..model import Conditions, Document, Edit, Finding, Level
from ..model.units import as_mm
from .redundant_node import SAME_MM
from .rule import LINES, SEEN_SHARE, Rows, Rule
from .tables.node_edits import corners, without_segments
from .tables.node_turns import NodeTable, node_table
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import within

#: Shorter than this is no detail of any material (common practice).
TINY_MM = 0.05
#: Its neighbours are so many times as long: else it is one of many that make a curve.
LONGER = 4


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each."""
    table = outline_table(document)
    rows = np.flatnonzero(tiny(table.path, table.nodes))
    alike = dict(zip(rows.tolist(), _paints_alike(table, rows).tolist(), strict=True))

    def finding(m: int) -> Finding:
        k = int(table.path.outline_of[m])
        identity, outline = table.ref(k)
        long = float(table.nodes.chord[m])
        return RULE.at(
            f"A step of {as_mm(long)} lies {within(table.piece_of(k))}between longer lines.",
            [identity],
            table.path.ctrl[m].mean(axis=0),
            detail=str(outline),
            mendable=True,
            safe=alike[m],
            measure={"length_mm": round(long, 4), "outline": outline + 1},
        )

    return Rows(RULE, rows[np.argsort(table.nodes.chord[rows], kind="stable")].tolist(), finding)


def _paints_alike(table: OutlineTable, rows: np.ndarray) -> np.ndarray:
    """Whether what is filled stays where segments are taken out (N,): lines that would cross there go on to their
    corner, others turn a little."""
    path, nodes = table.path, table.nodes
    before, after = nodes.before[rows], nodes.after[rows]
    corner, _ = corners(path.ctrl[before], path.kind[before], path.ctrl[after], path.kind[after])
    owner = path.outline_of[rows]
    corner &= (before >= 0) & (after >= 0)
    turned = np.where(corner, 0.0, nodes.chord[rows] * (nodes.chord[before] + nodes.chord[after]) / 4)
    # Those of an outline go together.
    turned = np.bincount(owner, turned, len(table.owner))
    return (~table.filled | (turned <= SEEN_SHARE * np.abs(table.area)))[owner]


def tiny(path: Path, nodes: NodeTable) -> np.ndarray:
    """The segments that are too short (M,) bool."""
    size = np.hypot(*path.spread.T)
    beside = np.minimum(
        np.where(nodes.after >= 0, nodes.chord[nodes.after], np.inf),
        np.where(nodes.before >= 0, nodes.chord[nodes.before], np.inf),
    )
    several = np.diff(path.start)[path.outline_of] > 3
    return several & (size > SAME_MM) & (size < TINY_MM) & (beside > LONGER * size)


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """The lines before and after go on to their corner, or meet in its middle; all of the outline go together."""
    outline = int(finding.measure["outline"]) - 1
    piece = document.by_id.get(finding.pieces[0])
    if piece is None or outline >= len(piece.path):
        return None
    path = piece.path.outline(outline)
    made = without_segments(path, tiny(path, node_table(path)), to_corners=True)
    return None if made is None else Edit(finding.key, {(piece.id, outline): made})


RULE = Rule(
    id="tiny-segment",
    about=LINES,
    level=Level.NOTE,
    title="A step too short to cut",
    effect="The blade turns on the spot there and nicks the edge.",
    find=find,
    mend=mend,
    version=2,
    thresholds=("shorter than 0.05 mm, its neighbours at least 4 times as long (common practice)",),
)
