"""drop-out: what falls out where the purpose says that it must hold: an island of a stencil, the dot of an i."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..geometry import area
from ..geometry.boolean import union
from ..geometry.nesting import shapes_of
from ..geometry.strips import bridged, joints_of, parts_joined
from ..model import Conditions, Document, Edit, Finding, Level
from ..model.shapes import has_inside
from ..model.units import size_text
from .rule import SHAPES, Rows, Rule
from .tables.nesting import HOLE, OUTER
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import within
from .tables.reshaping import STRIP_TIMES, reshaped, shape_of

#: So many bridges hold what stands in an opening (common practice: two at least).
BRIDGES = 2


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each part; none on a liner, or where nothing is said of the purpose."""
    purpose = conditions.purpose
    if not purpose.is_stencil and not purpose.parts_hold:
        return []
    table = outline_table(document)
    falling = islands(table) if purpose.is_stencil else loose_parts(table)
    rows = falling[np.argsort(-np.abs(table.area[falling]), kind="stable")]
    return Rows(RULE, rows.tolist(), lambda k: _finding(table, k, purpose.is_stencil))


def islands(table: OutlineTable) -> np.ndarray:
    """Of openings cut into a sheet, the outlines about what stands inside them."""
    return np.flatnonzero((table.nested.role == HOLE) & table.cut)


def loose_parts(table: OutlineTable) -> np.ndarray:
    """The outer outlines of each layer that do not belong to its largest part; shapes that cross each other hang
    together."""
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    outer = np.flatnonzero((table.nested.role == OUTER) & table.cut)
    if len(outer) < 2:
        return np.zeros(0, np.int64)
    crossed = [(a, b) for a, b, _ in table.crossed(same=False)]
    a, b = np.array(crossed, np.int64).reshape(-1, 2).T
    count = len(table.owner)
    _, label = connected_components(coo_array((np.ones(len(a)), (a, b)), shape=(count, count)), directed=False)
    size = np.abs(table.area)
    found = []
    for layer in np.unique(table.group[outer]).tolist():
        own = outer[table.group[outer] == layer]
        largest = label[own[np.argmax(size[own])]]
        # One finding for all that hang together: at the largest of them.
        rest = own[label[own] != largest]
        order = rest[np.lexsort((-size[rest], label[rest]))]
        found.append(order[np.concatenate([[True], np.diff(label[order]) != 0])] if len(order) else order)
    return np.concatenate(found)


def _finding(table: OutlineTable, k: int, stencil: bool) -> Finding:
    piece, (identity, outline) = table.piece_of(k), table.ref(k)
    left, top, right, bottom = table.boxes[k]
    size = size_text(right - left, bottom - top)
    what = (
        f"An island of {size} stands {within(piece)}in an opening"
        if stencil
        else f"A part of {size} lies {within(piece)}apart"
    )
    return RULE.at(
        f"{what}: nothing holds it.",
        [identity],
        ((left + right) / 2, (top + bottom) / 2),
        table.boxes[k],
        detail=str(outline),
        mendable=True,
        measure={"area_mm2": round(abs(float(table.area[k])), 3), "outline": outline + 1},
    )


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """What stands in openings is bridged, twice for each; a loose part is joined to its own piece, or to the largest
    part of its layer. Bridges and strips are twice as wide as the material bears."""
    piece = document.by_id.get(finding.pieces[0])
    path = shape_of(piece) if piece else None
    if piece is None or path is None:
        return None
    width = conditions.material_of(document.layer_by_id[piece.layer]).least_strip_mm * STRIP_TIMES
    if conditions.purpose.is_stencil:
        return reshaped(document, finding.key, {piece.id: bridged(path, BRIDGES, width, 0.0)})
    if len(shapes_of(path)) > 1:
        return reshaped(document, finding.key, {piece.id: parts_joined(path, width)})
    others = [p for p in document.pieces_followed() if p.layer == piece.layer and p.id != piece.id and has_inside(p)]
    shapes = {p.id: shape for p in others if (shape := shape_of(p)) is not None and len(shape)}
    if not shapes:
        return None
    host = max(shapes, key=lambda identity: area(shapes[identity]))
    (joint, *_) = joints_of([shapes[host], path], width, [0])
    return reshaped(document, finding.key, {host: union(shapes[host], path, joint.strip).path, piece.id: None})


RULE = Rule(
    id="drop-out",
    about=SHAPES,
    level=Level.SPOILS,
    title="It drops out",
    effect="As soon as it is cut, it falls out, and what was drawn there is gone.",
    find=find,
    mend=mend,
    version=2,
    thresholds=("only where the purpose is a stencil, or that a layer holds together in one",),
)
