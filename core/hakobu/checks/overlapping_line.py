"""overlapping-line: a stretch of a line that lies on another one of its layer and would be cut twice.

A line is cut short where it lies on one that stays; a closed one is open then, which is worth it or not. The edges of a
filled shape are only told of: it needs them all.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable

import numpy as np

from ..geometry import Path
from ..geometry.boolean.combining import span_path
from ..geometry.flatten import points_at
from ..model import Conditions, Document, Edit, Finding, Level
from ..model.units import as_mm
from .duplicate_line import covered_by_others
from .overlapping_shape import crossed_pieces
from .rule import LINES, Rows, Rule
from .tables.outlines import OutlineTable, outline_table
from .tables.overlap_runs import Shared, covering
from .tables.piece_names import name_of

#: Stretches shorter than this in all are a touch (common practice).
LEAST_MM = 0.5
#: Parts of a line shorter than this are not left over.
LEFT_MM = 0.02


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each two outlines, or one of an outline with itself."""
    table = outline_table(document)
    shared = table.shared
    if not len(shared.length):
        return []
    doubled = table.doubled(conditions.tolerance_mm)
    gone = {match.doubled for match in doubled}
    gone |= {match.doubled for match in covered_by_others(table, gone)}
    # What crosses is welded, and its shared edges go with that.
    welded = set(crossed_pieces(table, conditions.tolerance_mm))
    by_pair: dict[tuple[int, int], list[int]] = defaultdict(list)
    back = table.nodes.after[shared.segment[:, 0]] == shared.segment[:, 1]
    back |= table.nodes.after[shared.segment[:, 1]] == shared.segment[:, 0]
    for n, (a, b) in enumerate(np.sort(shared.outline, axis=1).tolist()):
        # Out and straight back is a spike.
        if back[n] and a == b:
            continue
        if not gone & {a, b} and (table.owner[a], table.owner[b]) not in welded:
            by_pair[a, b].append(n)
    long = {pair: float(shared.length[rows].sum()) for pair, rows in by_pair.items()}
    pairs = sorted((pair for pair in by_pair if long[pair] >= LEAST_MM), key=lambda pair: -long[pair])
    return Rows(RULE, pairs, lambda pair: _finding(table, pair, by_pair[pair], long[pair]))


def _finding(table: OutlineTable, pair: tuple[int, int], rows: list[int], long: float) -> Finding:
    victim, stays = _victim(table, pair)
    shared = table.shared.take(np.array(rows))
    places = points_at(table.path, shared.segment[:, 0], shared.run[:, :, 0].mean(axis=1))
    piece, other = table.piece_of(victim), table.piece_of(stays)
    mendable = victim != stays and piece.fill is None
    (first, outline), (second, _) = table.ref(victim), table.ref(stays)
    under = "itself" if piece is other else name_of(other, "another one")
    return RULE.at(
        f"{as_mm(long)} of {name_of(piece, 'a line')} lies on {under} and would be cut twice.",
        [first, second],
        places[0],
        (*places.min(axis=0), *places.max(axis=0)),
        detail=f"{outline}",
        level=RULE.level if mendable or victim == stays else Level.NOTE,
        mendable=mendable,
        safe=mendable and not table.path.closed[victim] and _covers(piece, other),
        measure={"length_mm": round(long, 3), "outline": outline + 1, "kept_outline": table.ref(stays)[1] + 1},
    )


def _victim(table: OutlineTable, pair: tuple[int, int]) -> tuple[int, int]:
    """Which of two gives way, and which stays: open and bare before closed or filled, then by rank."""
    a, b = sorted(pair, key=lambda k: (table.path.closed[k] or table.filled[k], -table.rank[k]))
    return a, b


def _covers(piece, other) -> bool:
    """Whether the other piece's line is as wide and of the same colour."""
    a, b = piece.stroke, other.stroke
    if a is None:
        return True
    return b is not None and a.color == b.color and b.width_mm >= a.width_mm and not b.dashes and b.opacity >= a.opacity


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """The line ends where the other one begins."""
    table = outline_table(document)
    at = _numbers(table, finding)
    if at is None:
        return None
    victim, stays = at
    shared = table.shared
    both = np.sort(shared.outline, axis=1)
    rows = np.flatnonzero((both == sorted((victim, stays))).all(axis=1))
    if not len(rows):
        return None
    left = _without(table.path, victim, shared.take(rows))
    return Edit(finding.key, {table.ref(victim): left}, frozenset([table.ref(stays)]))


def _numbers(table: OutlineTable, finding: Finding) -> tuple[int, int] | None:
    found = []
    for piece, name in ((finding.pieces[0], "outline"), (finding.pieces[-1], "kept_outline")):
        row = table.row_of(piece, int(finding.measure[name]) - 1)
        if row is None:
            return None
        found.append(row)
    return found[0], found[1]


def _without(path: Path, k: int, shared: Shared) -> Path | None:
    """What is left of an outline, as open ones; None where that is nothing."""
    segment, low, high = covering(shared)
    parts: list[list[tuple[int, float, float]]] = [[]]
    for m in range(int(path.start[k]), int(path.start[k + 1])):
        own = segment == m
        at = 0.0
        for a, b in sorted(zip(low[own].tolist(), high[own].tolist(), strict=True)):
            if a > at + 1e-6:
                parts[-1].append((m, at, a))
            if b > at:
                parts.append([])
                at = b
        if at < 1 - 1e-6:
            parts[-1].append((m, at, 1.0))
    if path.closed[k] and parts[0] and parts[-1] and len(parts) > 1:
        # Past the node where it begins it goes on.
        parts[0] = parts.pop() + parts[0]
    made = [_path_of(path, part) for part in parts if part]
    made = [part for part in made if np.hypot(*np.ptp(part.ctrl.reshape(-1, 2), axis=0)) > LEFT_MM]
    return Path.concatenate(made) if made else None


def _path_of(path: Path, part: list[tuple[int, float, float]]) -> Path:
    segment = np.array([m for m, _, _ in part])
    span = np.array([(a, b) for _, a, b in part])
    ends = np.stack([points_at(path, segment, span[:, 0]), points_at(path, segment, span[:, 1])], axis=1)
    # Whole ends stay to the bit, so that what goes on does.
    ends[span == 0] = path.ctrl[segment, 0][span[:, 0] == 0]
    ends[span == 1] = path.ctrl[segment, 3][span[:, 1] == 1]
    return span_path(path, segment, span, ends, np.array([0, len(segment)]), np.array([False]))


RULE = Rule(
    id="overlapping-line",
    about=LINES,
    level=Level.SPOILS,
    title="Part of a line is cut twice",
    effect="The blade goes over that stretch again, frays the edge and cuts into what lies below.",
    find=find,
    mend=mend,
    thresholds=("at least 0.5 mm in all, within 0.01 mm of each other (common practice)",),
    version=2,
)
