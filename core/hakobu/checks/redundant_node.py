"""redundant-node: nodes that the shape does not need: in line, twice in one place, or far more than its bends take."""

from __future__ import annotations

import math
from collections.abc import Iterable

import numpy as np

from ..geometry import CUBIC, LINE, Path
from ..geometry.simplify import simplify
from ..model import Conditions, Document, Edit, Finding, Level
from .rule import LINES, Rows, Rule
from .tables.node_edits import joined_lines, without_segments
from .tables.node_turns import NodeTable, node_table
from .tables.outlines import outline_table
from .tables.piece_names import capitalised, name_of

#: A node this near to the straight line between its neighbours is in line.
IN_LINE_MM = 0.002
#: Nodes this near to each other are one.
SAME_MM = 0.001
#: Short straight lines stand for a curve where each turns by less than this and leaves it by less than that.
GENTLE_RADIANS, CHORD_MM = 0.35, 0.03
#: A curve takes a node for each quarter turn, and a run of lines is too many where it has so many times as many.
PER_TURN, TOO_MANY, LEAST_RUN = math.pi / 2, 4, 12
#: The line moves by no more than this when nodes are taken out.
WITHIN_MM = 0.02


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each piece."""
    table = outline_table(document)
    spare = spare_nodes(table.path, table.nodes)
    count = np.bincount(table.owner[table.path.outline_of[spare]], minlength=len(table.pieces))
    rows = np.flatnonzero(count)
    first = np.full(len(table.pieces), -1)
    first[table.owner[table.path.outline_of[spare]][::-1]] = np.flatnonzero(spare)[::-1]

    def finding(n: int) -> Finding:
        piece = table.pieces[n]
        many = int(count[n])
        return RULE.at(
            f"{capitalised(name_of(piece))} has {'a node' if many == 1 else f'{many:,} nodes'}"
            " that its shape does not need.",
            [piece.id],
            table.path.ctrl[first[n], 3],
            mendable=True,
            safe=True,
            measure={"nodes": many},
        )

    return Rows(RULE, rows[np.argsort(-count[rows], kind="stable")].tolist(), finding)


def spare_nodes(path: Path, nodes: NodeTable) -> np.ndarray:
    """The segments whose last node is not needed (M,) bool."""
    if not path.segment_count:
        return np.zeros(0, bool)
    lines = _between_lines(path, nodes)
    return _in_line(path, nodes, lines) | _twice(path, nodes) | _chopped(path, nodes, lines)


def _between_lines(path: Path, nodes: NodeTable) -> np.ndarray:
    return (path.kind == LINE) & (path.kind[np.maximum(nodes.after, 0)] == LINE) & (nodes.after >= 0)


def _in_line(path: Path, nodes: NodeTable, lines: np.ndarray) -> np.ndarray:
    """Segments in line with the one after them (M,)."""
    after = np.maximum(nodes.after, 0)
    both = nodes.chord * nodes.chord[after]
    off = both * np.abs(np.sin(nodes.turn)) / np.maximum(np.hypot(*(path.ctrl[after, 3] - path.ctrl[:, 0]).T), 1e-9)
    return lines & (np.abs(nodes.turn) < GENTLE_RADIANS) & (off <= IN_LINE_MM)


def _twice(path: Path, nodes: NodeTable) -> np.ndarray:
    """Segments of no length, of outlines that have others (M,)."""
    none = (nodes.chord <= SAME_MM) & ((path.kind != CUBIC) | (np.maximum(*path.spread.T) <= SAME_MM))
    return none & (np.diff(path.start)[path.outline_of] > 1)


def _chopped(path: Path, nodes: NodeTable, lines: np.ndarray) -> np.ndarray:
    """Segments in runs of short lines that stand for a curve, more than it takes (M,)."""
    after = np.maximum(nodes.after, 0)
    sagitta = (nodes.chord + nodes.chord[after]) / 2 * np.tan(np.abs(nodes.turn) / 4) / 2
    gentle = lines & (np.abs(nodes.turn) < GENTLE_RADIANS) & (sagitta <= CHORD_MM)
    turned = np.sign(nodes.turn)
    # A run ends where the line no longer turns gently, or turns the other way.
    begins = np.ones(len(gentle), bool)
    begins[1:] = ~gentle[:-1] | (turned[1:] * turned[:-1] < 0) | (path.outline_of[1:] != path.outline_of[:-1])
    run = np.cumsum(begins) - 1
    length = np.bincount(run, gentle)
    bend = np.bincount(run, np.where(gentle, np.abs(nodes.turn), 0.0))
    long = (length >= LEAST_RUN) & (length > TOO_MANY * (np.ceil(bend / PER_TURN) + 1))
    return gentle & long[run]


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """The nodes go; the line stays within a hundredth or two of a millimetre of what it was."""
    piece = document.by_id.get(finding.pieces[0])
    if piece is None:
        return None
    within = min(WITHIN_MM, conditions.tolerance_mm)
    changes = {}
    for k, outline in enumerate(piece.path.outlines()):
        made = _plainer(outline, within)
        if made is not outline:
            changes[piece.id, k] = made
    return Edit(finding.key, changes) if changes else None


def _plainer(outline: Path, within_mm: float) -> Path:
    """Without nodes that are twice or in line; what is chopped is fitted anew, and nothing else."""
    made = outline
    twice = _twice(made, node_table(made))
    if twice.any():
        made = without_segments(made, twice) or made
    nodes = node_table(made)
    chopped = _chopped(made, nodes, _between_lines(made, nodes))
    if not chopped.any():
        in_line = _in_line(made, nodes, _between_lines(made, nodes))
        # Of a row of them every other one goes at a time, so that small turns do not add up unseen.
        while in_line.any():
            number = np.arange(len(in_line))
            in_line &= (number - np.maximum.accumulate(np.where(in_line, -1, number))) % 2 == 1
            plainer = joined_lines(made, in_line)
            if plainer is made:
                break
            made, nodes = plainer, node_table(plainer)
            in_line = _in_line(made, nodes, _between_lines(made, nodes))
        return made
    fitted = simplify(made, within_mm).path
    return fitted if fitted.segment_count < made.segment_count else made


RULE = Rule(
    id="redundant-node",
    about=LINES,
    level=Level.NOTE,
    title="More nodes than needed",
    effect="The machine stops and turns at nodes that change nothing: slower, and rougher edges.",
    find=find,
    mend=mend,
    thresholds=(
        "in line within 0.002 mm, or within 0.001 mm of the next one",
        "short lines that stand for a curve within 0.03 mm: at least 12, and 4 times as many as its bends take"
        " (common practice)",
    ),
)
