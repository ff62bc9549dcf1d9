"""not-one: a piece that must be one comes off the sheet in more parts."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from ..geometry import Path, flatten, signed_areas
from ..geometry.boolean import NotCombined, Operand, union
from ..geometry.measure import outline_bounds
from ..geometry.nesting import shapes_of
from ..geometry.proximity.places import Places
from ..geometry.strips import parts_joined
from ..model import Conditions, Document, Edit, Finding, Level, Piece
from ..model.units import as_mm
from .rule import SHAPES, Rows, Rule
from .tables.piece_names import capitalised, name_of
from .tables.reshaping import STRIP_TIMES, reshaped, shape_of

#: The nearest places of two parts are looked for at points this far apart, as a share of the smaller part's size.
STEP_SHARE = 0.01
#: So many other outlines are looked at together, the nearest first.
AT_ONCE = 8


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each part beside the largest, where it comes nearest to the rest; the largest parts first."""
    pieces = [document.by_id[identity] for identity in sorted(conditions.one) if identity in document.by_id]
    return Rows(RULE, [row for piece in pieces for row in _breaks(piece)], _finding)


@dataclass(frozen=True)
class Break:
    """One of the parts of a piece: path with all outlines, own: the numbers of the part's; boxes of all."""

    piece: Piece
    path: Path
    boxes: np.ndarray
    own: list[int]
    parts: int


def _breaks(piece: Piece) -> list[Break]:
    closed = piece.path.take(np.flatnonzero(piece.path.closed).tolist())
    try:
        made = union(Operand(closed, piece.fill_rule if piece.fill else "evenodd")).path
    except NotCombined:
        # Then as they are drawn: parts that only cross each other are told apart.
        made = closed
    shapes = shapes_of(made)
    boxes, area = outline_bounds(made), signed_areas(made)
    order = sorted(range(len(shapes)), key=lambda n: -abs(float(area[shapes[n]].sum())))
    return [Break(piece, made, boxes, shapes[n], len(shapes)) for n in order[1:]]


def _finding(row: Break) -> Finding:
    gap, place = nearest(row.path, row.boxes, row.own)
    return RULE.at(
        f"{capitalised(name_of(row.piece))} must be one, but comes in {row.parts} parts:"
        f" {as_mm(round(gap, 2))} are missing here.",
        [row.piece.id],
        place,
        mendable=True,
        measure={"parts": row.parts, "gap_mm": round(gap, 3)},
    )


def nearest(path: Path, boxes: np.ndarray, own: list[int]) -> tuple[float, tuple[float, float]]:
    """How near some outlines of a path come to the others, and the middle between. Only those are looked at whose
    boxes, boxes (K, 4), are near enough."""
    part = path.take(own)
    step = max(float(np.ptp(part.ctrl.reshape(-1, 2), axis=0).max()) * STEP_SHARE, 0.01)
    points = flatten(part, 0.01, longest_mm=step).points
    low, high = boxes[own, :2].min(axis=0), boxes[own, 2:].max(axis=0)
    away = np.hypot(*np.maximum(np.maximum(boxes[:, :2] - high, low - boxes[:, 2:]), 0.0).T)
    away[own] = np.inf
    order = np.argsort(away, kind="stable")
    order = order[np.isfinite(away[order])]
    best, place = np.inf, (0.0, 0.0)
    for first in range(0, len(order), AT_ONCE):
        some = order[first : first + AT_ONCE]
        if away[some[0]] >= best:
            break
        found = Places(path.take(some.tolist())).nearest(points)
        k = int(np.argmin(found.distance))
        if found.distance[k] < best:
            best, place = float(found.distance[k]), tuple((points[k] + found.point[k]) / 2)
    return best, place


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """All its parts are joined by strips twice as wide as its material bears."""
    piece = document.by_id.get(finding.pieces[0])
    path = shape_of(piece) if piece else None
    if piece is None or path is None:
        return None
    width = conditions.material_of(document.layer_by_id[piece.layer]).least_strip_mm * STRIP_TIMES
    return reshaped(document, finding.key, {piece.id: parts_joined(path, width)})


RULE = Rule(
    id="not-one",
    about=SHAPES,
    level=Level.SPOILS,
    title="It comes in parts",
    effect="What must be one piece falls apart when it is lifted off.",
    find=find,
    mend=mend,
    version=2,
)
