"""thin-strip: a place where what is cut out is thinner than its material bears."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..model import Conditions, Document, Finding, Level
from ..model.units import as_mm
from .naming import within
from .outline_table import OutlineTable, outline_table
from .rule import SHAPES, Rows, Rule
from .thin_places import ThinPlaces, thin_places_of


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each place, the thinnest first."""
    table = outline_table(document)
    found = thin_places_of(table, conditions)
    return Rows(RULE, np.flatnonzero(found.inside).tolist(), lambda n: _finding(table, conditions, found, n))


def _finding(table: OutlineTable, conditions: Conditions, found: ThinPlaces, n: int) -> Finding:
    material = conditions.material_of(table.layers[found.layer[n]])
    piece = table.pieces[found.piece[n, 0]]
    width = float(found.width[n])
    limit = f"{material.name} bears {as_mm(material.least_strip_mm)}" if material.id else "hardly any material bears it"
    return RULE.at(
        f"A strip {within(piece)}is only {as_mm(round(width, 3))} wide; {limit}.",
        [piece.id, table.pieces[found.piece[n, 1]].id],
        found.points[n].mean(axis=0),
        found.reach[n],
        measure={"width_mm": round(width, 4), "least_mm": material.least_strip_mm},
    )


RULE = Rule(
    id="thin-strip",
    about=SHAPES,
    level=Level.SPOILS,
    title="A strip that tears",
    effect="It tears when it is weeded or lifted off, or lets go of what hangs on it.",
    find=find,
    thresholds=("thinner than the material's least strip; 0.3 mm where no material is chosen (common practice)",),
)
