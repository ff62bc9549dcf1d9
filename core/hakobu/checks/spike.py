"""spike: an outline that runs out and back along itself, to a point that nothing needs."""

from __future__ import annotations

import math
from collections.abc import Iterable

import numpy as np

from ..geometry import LINE, Path
from ..model import Conditions, Document, Edit, Finding, Level
from ..model.units import as_mm
from .rule import LINES, Rows, Rule
from .tables.node_edits import with_ends, without_segments
from .tables.node_turns import NodeTable, node_table
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import within

#: Out and back no wider apart than this is a spike and no point of a star (common practice: a blade's width).
SPIKE_MM = 0.1
#: At a spike's tip the line turns back to within this of where it came from.
BACK_RADIANS = 0.15
#: A shorter one is below what any machine steps.
LEAST_MM = 0.05


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each tip."""
    table = outline_table(document)
    tips = tips_of(table.path, table.nodes)
    return Rows(RULE, tips.tolist(), lambda tip: _finding(table, tip))


def tips_of(path: Path, nodes: NodeTable) -> np.ndarray:
    """The segments that end in a spike's tip."""
    back = np.flatnonzero(np.abs(nodes.turn) > math.pi - BACK_RADIANS)
    after = nodes.after[back]
    straight = (path.kind[back] == LINE) & (path.kind[after] == LINE)
    short = np.minimum(nodes.chord[back], nodes.chord[after])
    apart = short * np.sin(math.pi - np.abs(nodes.turn[back]))
    lone = path.start[path.outline_of[back] + 1] - path.start[path.outline_of[back]] < 3
    return back[straight & (short > LEAST_MM) & (apart <= SPIKE_MM) & ~lone]


def _finding(table: OutlineTable, tip: int) -> Finding:
    path, nodes = table.path, table.nodes
    k = int(path.outline_of[tip])
    piece, (identity, outline) = table.piece_of(k), table.ref(k)
    long = float(min(nodes.chord[tip], nodes.chord[nodes.after[tip]]))
    stroke = piece.stroke.width_mm if piece.stroke else 0.0
    place = path.ctrl[tip, 3]
    return RULE.at(
        f"A spike of {as_mm(long)} stands {within(piece)}out of the outline and back.",
        [identity],
        place,
        (*np.minimum(place, path.ctrl[tip, 0]), *np.maximum(place, path.ctrl[tip, 0])),
        mendable=True,
        safe=2 * stroke * long <= 0.25 * table.size[k],
        measure={"length_mm": round(long, 3), "outline": outline + 1},
    )


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """The line goes on where the spike leaves it; all spikes of the outline go together."""
    outline = int(finding.measure["outline"]) - 1
    piece = document.by_id.get(finding.pieces[0])
    if piece is None or outline >= len(piece.path):
        return None
    made: Path | None = piece.path.outline(outline)
    for _ in range(made.segment_count):
        path = made
        nodes = node_table(path)
        tips = tips_of(path, nodes)
        if not len(tips):
            break
        tip, after = tips[0], nodes.after[tips[0]]
        gone, begins, ends = np.zeros(path.segment_count, bool), path.ctrl[:, 0].copy(), path.ctrl[:, 3].copy()
        # The shorter leg goes, and the longer one ends where it left the line.
        if nodes.chord[tip] <= nodes.chord[after]:
            gone[tip], begins[after] = True, path.ctrl[tip, 0]
            ends[tip] = begins[after]
        else:
            gone[after], ends[tip] = True, path.ctrl[after, 3]
            begins[after] = ends[tip]
        made = without_segments(with_ends(path, begins, ends), gone)
        made = made and _without_nothing(made)
        if made is None:
            break
    return Edit(finding.key, {(piece.id, outline): made})


def _without_nothing(path: Path) -> Path | None:
    """The outline without segments of no length."""
    gone = (path.ctrl == path.ctrl[:, :1]).all(axis=(1, 2))
    return without_segments(path, gone) if gone.any() and not gone.all() else path


RULE = Rule(
    id="spike",
    about=LINES,
    level=Level.SPOILS,
    title="A spike",
    effect="The blade runs out and back along one line, tears the edge there and leaves a hair.",
    find=find,
    mend=mend,
    thresholds=(
        "out and back no more than 0.1 mm apart: a blade's width (common practice)",
        "at least 0.05 mm long",
    ),
)
