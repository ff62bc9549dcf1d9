"""background-rectangle: the page itself, or the rim of a picture, as a shape that would be cut round everything."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..geometry import CUBIC
from ..geometry.measure import outline_bounds
from ..model import Conditions, Document, Edit, Finding, Level, Piece, Treatment
from ..model.finding import finding_key
from ..model.units import size_text
from .rule import DOCUMENT, Rule
from .tables.outlines import outline_table

#: A side counts as the page's own where it lies within this share of the page's longer side from it.
SHARE_OF_PAGE = 0.01
#: How far an outline may leave the sides of its box and still be a rectangle, as a share of its longer side.
SHARE_OF_SIDE = 0.01


def find(document: Document, conditions: Conditions) -> Iterator[Finding]:
    """A piece whose outer outline is a rectangle as large as the page, where there is something else to cut."""
    yield from (_finding(piece, box) for piece, box in backgrounds(document))


def backgrounds(document: Document) -> Iterator[tuple[Piece, tuple[float, float, float, float]]]:
    """Those pieces, each with its box."""
    table = outline_table(document)
    if document.page is None or len(table.pieces) < 2:
        return
    page = np.array([0.0, 0.0, document.page.width_mm, document.page.height_mm])
    near = SHARE_OF_PAGE * page.max()
    for n in np.flatnonzero(np.abs(table.piece_boxes - page).max(axis=1) <= near).tolist():
        piece, box = table.pieces[n], tuple(table.piece_boxes[n].tolist())
        if document.treatment_of(piece) is Treatment.CUT and _has_rectangle(piece, box):
            yield piece, box


def _has_rectangle(piece: Piece, box: tuple[float, float, float, float]) -> bool:
    """Whether the outline as large as the piece follows the sides of its box."""
    boxes = outline_bounds(piece.path)
    slack = SHARE_OF_SIDE * max(box[2] - box[0], box[3] - box[1])
    for k in np.flatnonzero((np.abs(boxes - np.array(box)) <= slack).all(axis=1)).tolist():
        outline = piece.path.outline(k)
        points = outline.ctrl[:, 0] if not (outline.kind == CUBIC).any() else outline.ctrl.reshape(-1, 2)
        sides = np.abs(np.concatenate([points - box[:2], points - box[2:]], axis=1)).min(axis=1)
        if bool(outline.closed[0]) and (sides <= slack).all():
            return True
    return False


def _finding(piece: Piece, box: tuple[float, float, float, float]) -> Finding:
    place = (round(box[0], 4), round(box[1], 4))
    size = size_text(box[2] - box[0], box[3] - box[1])
    filled = piece.fill is not None
    return Finding(
        RULE.id,
        finding_key(RULE.id, [piece.id], None),
        RULE.level if filled else Level.NOTE,
        f"A rectangle of {size}, as large as the page, lies round everything.",
        (piece.id,),
        place,
        {"width_mm": round(box[2] - box[0], 3), "height_mm": round(box[3] - box[1], 3)},
        mendable=True,
        safe=not filled and piece.stroke is None,
        title=RULE.title,
        effect=RULE.effect,
        extent=box,
    )


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """Takes the piece away."""
    piece = document.by_id.get(finding.pieces[0])
    return Edit(finding.key, {(piece.id, k): None for k in range(len(piece.path))}) if piece else None


RULE = Rule(
    id="background-rectangle",
    about=DOCUMENT,
    level=Level.SPOILS,
    title="The background would be cut out",
    effect="The blade runs round the whole page, and the sheet falls out as a rectangle.",
    find=find,
    mend=mend,
    thresholds=("sides within 1 % of the page's longer side from the page's own",),
)
