"""stroke-only: a shape drawn as a broad line: it is cut along the middle of that line, not around it."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..geometry import Path, bounds
from ..geometry.offset import Offset
from ..geometry.offset.stroke import stroke_outline
from ..model import Conditions, Document, Edit, Fill, Finding, Level, Stroke, Treatment
from ..model.paint import BROAD_MM
from ..model.units import as_mm
from .rule import DOCUMENT, Rows, Rule
from .stray_node import STRAY_MM
from .tables.piece_names import capitalised, name_of

JOINS = {"miter": "mitre", "round": "round", "bevel": "bevel"}
ENDS = {"butt": "flat", "round": "round", "square": "square"}


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each piece of a layer that is cut."""
    rows = [
        piece
        for piece in document.pieces_followed()
        if piece.fill is None
        and piece.stroke is not None
        and piece.stroke.width_mm > BROAD_MM
        and document.treatment_of(piece) is Treatment.CUT
        and np.ptp(piece.path.ctrl.reshape(-1, 2), axis=0).max() >= STRAY_MM
    ]

    def finding(piece) -> Finding:
        width = round(piece.stroke.width_mm, 3)
        box = bounds(piece.path)
        return RULE.at(
            f"{capitalised(name_of(piece, 'a line'))} is drawn {as_mm(width)} wide,"
            " and would be cut once, along its middle.",
            [piece.id],
            piece.path.ctrl[0, 0],
            box,
            mendable=True,
            measure={"width_mm": width},
        )

    return Rows(RULE, rows, finding)


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """The outline about the line takes its place."""
    piece = document.by_id.get(finding.pieces[0])
    if piece is None or piece.stroke is None:
        return None
    stroke = piece.stroke
    made = painted_by(stroke, piece.path)
    changes = {(piece.id, k): None for k in range(1, len(piece.path))}
    looks = {"fill": Fill(stroke.color, stroke.opacity), "stroke": None, "fill_rule": "nonzero"}
    return Edit(finding.key, {**changes, (piece.id, 0): made.path}, pieces={piece.id: looks}, off_mm=made.off_mm)


def painted_by(stroke: Stroke, path: Path) -> Offset:
    """The shape that a line of this look paints along a path."""
    return stroke_outline(
        path,
        stroke.width_mm,
        JOINS[stroke.join],
        ENDS[stroke.cap],
        stroke.miter_limit,
        stroke.dashes,
        stroke.dash_offset,
    )


RULE = Rule(
    id="stroke-only",
    about=DOCUMENT,
    level=Level.SPOILS,
    title="A broad line without an outline",
    effect="The blade runs once along the middle: what is seen as a bar comes out as a slit.",
    find=find,
    mend=mend,
    thresholds=("wider than 0.5 mm, on a layer that is cut (common practice)",),
)
