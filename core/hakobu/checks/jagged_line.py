"""jagged-line: an outline in steps or with noise, smaller than any detail, as a coarse picture leaves it."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..geometry import LINE, Path
from ..geometry.fit import fit
from ..geometry.flatten import points_at
from ..geometry.simplify import distance_between
from ..model import Conditions, Document, Edit, Finding, Level
from ..model.units import as_mm
from .rule import LINES, Rows, Rule
from .tables.node_turns import NodeTable, node_table
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import capitalised, name_of

#: Steps of which one side is shorter than this are no detail of a design for cutting (common practice).
JAG_MM = 0.6
#: A node turns by at least so much to be one of them.
ROUGH_RADIANS = 0.35
#: Of so many nodes in a row so many turn the other way than the one before.
WINDOW, ALTERNATING = 10, 7
#: A line is so many times as long as its steps: a small star is no jagged line.
LONG = 10
#: The line is smoothed within this share of the size of its steps.
SHARE_OF_STEP = 0.75


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each outline."""
    table = outline_table(document)
    rough = jagged(table.path, table.nodes)
    count = np.bincount(table.path.outline_of[rough], minlength=len(table.owner))
    rows = np.flatnonzero(count)
    rows = np.array(
        [k for k in rows.tolist() if table.across[k] > LONG * step_of(table.nodes, _own(table, k, rough))], int
    )
    return Rows(
        RULE,
        rows[np.argsort(-count[rows], kind="stable")].tolist(),
        lambda k: _finding(table, k, rough, conditions.tolerance_mm),
    )


def jagged(path: Path, nodes: NodeTable) -> np.ndarray:
    """The segments that lie in a jagged stretch (M,) bool."""
    if path.segment_count < WINDOW:
        return np.zeros(path.segment_count, bool)
    after = np.maximum(nodes.after, 0)
    lines = (path.kind == LINE) & (path.kind[after] == LINE) & (nodes.after >= 0)
    rough = lines & (np.abs(nodes.turn) > ROUGH_RADIANS) & (np.minimum(nodes.chord, nodes.chord[after]) < JAG_MM)
    switch = rough & rough[after] & (nodes.turn * nodes.turn[after] < 0)
    # Along each outline by itself, closed ones as if cut open: a stretch is long enough to be seen anyway.
    summed = np.concatenate([[0], np.cumsum(switch)])
    first = np.arange(path.segment_count - WINDOW + 1)
    inside = path.outline_of[first] == path.outline_of[first + WINDOW - 1]
    full = first[inside & (summed[first + WINDOW] - summed[first] >= ALTERNATING)]
    mark = np.zeros(path.segment_count + 1, np.int64)
    np.add.at(mark, full, 1)
    np.add.at(mark, full + WINDOW, -1)
    # A long side at the end of a stretch belongs to it at one end only.
    return (np.cumsum(mark[:-1]) > 0) & rough & rough[np.maximum(nodes.before, 0)]


def _finding(table: OutlineTable, k: int, rough: np.ndarray, tolerance_mm: float) -> Finding:
    path, own = table.path, _own(table, k, rough)
    step = step_of(table.nodes, own)
    piece, (identity, outline) = table.piece_of(k), table.ref(k)
    places = path.ctrl[own, 0]
    return RULE.at(
        f"{capitalised(name_of(piece, 'an outline'))} runs in {len(own)} steps of about {as_mm(round(step, 2))}.",
        [identity],
        places[0],
        (*places.min(axis=0), *places.max(axis=0)),
        detail=str(outline),
        mendable=True,
        # What is smoothed moves by half a step at most.
        safe=step * SHARE_OF_STEP <= tolerance_mm,
        measure={"steps": len(own), "step_mm": round(step, 3), "outline": outline + 1},
    )


def _own(table: OutlineTable, k: int, rough: np.ndarray) -> np.ndarray:
    """The jagged segments of an outline."""
    own = np.arange(table.path.start[k], table.path.start[k + 1])
    return own[rough[own]]


def step_of(nodes: NodeTable, own: np.ndarray) -> float:
    """How far the line swings to either side, about: half of the usual shorter side of its steps, in mm."""
    after = np.maximum(nodes.after[own], 0)
    shorter, turn = np.minimum(nodes.chord[own], nodes.chord[after]), np.abs(nodes.turn[own])
    return float(np.median(shorter[turn > ROUGH_RADIANS] if (turn > ROUGH_RADIANS).any() else shorter))


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """The line through the middles of its steps; what is not jagged stays, and so do its corners."""
    outline = int(finding.measure["outline"]) - 1
    piece = document.by_id.get(finding.pieces[0])
    if piece is None or outline >= len(piece.path):
        return None
    path = piece.path.outline(outline)
    made = smoothed(path)
    if made is None or made.segment_count >= path.segment_count:
        return None
    return Edit(finding.key, {(piece.id, outline): made})


def smoothed(path: Path) -> Path | None:
    """None where nothing is jagged, or the line would leave what it was by more than a step."""
    nodes = node_table(path)
    rough = jagged(path, nodes)
    if not rough.any():
        return None
    step = step_of(nodes, np.flatnonzero(rough))
    points, corner = _points(path, nodes, rough)
    closed = bool(path.closed[0])
    if len(points) < 4:
        return None
    within = SHARE_OF_STEP * step
    made = fit(points, np.array([0, len(points)]), np.array([closed]), corner, within / 2).path
    return made if distance_between(path, made) <= 2 * step else None


def _points(path: Path, nodes: NodeTable, rough: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Points to go through, and which are corners: the middles of jagged sides, all other nodes as they are."""
    middle = path.ctrl[:, (0, 3)].mean(axis=1)
    between = rough & np.roll(rough, 1)
    between[0] &= bool(path.closed[0])
    turn = np.abs(np.roll(nodes.turn, 1))
    points, corner = [], []
    for m in range(path.segment_count):
        if not between[m]:
            points.append(path.ctrl[m, 0])
            # Where a jagged stretch begins or ends the line may turn.
            corner.append(rough[m] or rough[m - 1] or turn[m] > ROUGH_RADIANS)
        if rough[m]:
            points.append(middle[m])
            corner.append(False)
        elif path.kind[m] != LINE:
            points.extend(_along(path, m))
            corner.extend([False] * _ALONG)
    if not path.closed[0]:
        points.append(path.ctrl[-1, 3])
        corner[0], _ = True, corner.append(True)
    return np.array(points), np.array(corner)


#: So many points of each curve between its ends.
_ALONG = 7


def _along(path: Path, m: int) -> list[np.ndarray]:
    at = np.arange(1, _ALONG + 1) / (_ALONG + 1)
    return list(points_at(path, np.full(_ALONG, m), at))


RULE = Rule(
    id="jagged-line",
    about=LINES,
    level=Level.SPOILS,
    title="A jagged line",
    effect="The blade turns at every step: the edge comes out rough, and thin material tears.",
    find=find,
    mend=mend,
    thresholds=(
        "steps of which one side is shorter than 0.6 mm (common practice)",
        "of 10 nodes in a row at least 7 turn the other way than the one before, by 20 degrees or more",
    ),
)
