"""thin-gap: a place where two cuts run so near to each other that what is between them is not weeded clean."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..geometry.boolean import difference, union
from ..geometry.thickness import widened
from ..model import Conditions, Document, Edit, Finding, Level
from ..model.units import as_mm
from .rule import SHAPES, Rows, Rule
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import within
from .tables.reshaping import WIDER, reshaped, shape_of
from .tables.thin_places import ThinPlaces, thin_places_of


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each place, the narrowest first."""
    table = outline_table(document)
    found = thin_places_of(table, conditions)
    return Rows(RULE, np.flatnonzero(~found.inside).tolist(), lambda n: _finding(table, conditions, found, n))


def _finding(table: OutlineTable, conditions: Conditions, found: ThinPlaces, n: int) -> Finding:
    material = conditions.material_of(table.layers[found.layer[n]])
    first, second = (table.pieces[k] for k in found.piece[n])
    width = float(found.width[n])
    return RULE.at(
        f"A gap {within(first)}is only {as_mm(round(width, 3))} wide.",
        [first.id, second.id],
        found.points[n].mean(axis=0),
        found.reach[n],
        mendable=True,
        measure={"width_mm": round(width, 4), "least_mm": material.least_gap_mm},
    )


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """All narrow gaps in and between the pieces are made as wide as can be weeded: both sides give way."""
    pieces = [document.by_id[identity] for identity in finding.pieces if identity in document.by_id]
    shapes = [shape for piece in pieces if (shape := shape_of(piece)) is not None]
    if not pieces or len(shapes) < len(pieces):
        return None
    whole = union(*shapes).path
    made = widened(whole, conditions.material_of(document.layer_by_id[pieces[0].layer]).least_gap_mm * WIDER)
    if not made.places:
        return None
    away = difference(whole, made.path).path
    return reshaped(
        document, finding.key, {p.id: difference(s, away).path for p, s in zip(pieces, shapes, strict=True)}
    )


RULE = Rule(
    id="thin-gap",
    about=SHAPES,
    level=Level.NOTE,
    title="A narrow gap",
    effect="The waste in it is not weeded clean, or both edges lift.",
    find=find,
    mend=mend,
    version=2,
    thresholds=("narrower than the material's least gap; 0.1 mm where no material is chosen (common practice)",),
)
