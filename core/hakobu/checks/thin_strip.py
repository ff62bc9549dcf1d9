"""thin-strip: a place where what is cut out is thinner than its material bears."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..geometry.thickness import thickened
from ..model import Conditions, Document, Edit, Finding, Level
from ..model.units import as_mm
from .rule import SHAPES, Rows, Rule
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import within
from .tables.reshaping import WIDER, reshaped, shape_of
from .tables.small_outlines import least_strips
from .tables.thin_places import ThinPlaces, thin_places_of


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each place, the thinnest first, or for a ring that is too thin all along."""
    table = outline_table(document)
    found = thin_places_of(table, conditions)
    rings = _thin_rings(table, conditions, found)
    rows = [n for n in np.flatnonzero(found.inside).tolist() if rings.get(n, n) == n]
    return Rows(RULE, rows, lambda n: _finding(table, conditions, found, n, n in rings))


def _thin_rings(table: OutlineTable, conditions: Conditions, found: ThinPlaces) -> dict[int, int]:
    """Of each place in a ring that is thinner than the material's least strip on the whole, the number of the ring's
    thinnest place."""
    own, least = table.nested.own, least_strips(table, conditions)
    holes = np.bincount(own[own >= 0], minlength=len(own))
    thinnest: dict[int, int] = {}
    rings: dict[int, int] = {}
    # The thinnest place comes first.
    for n in np.flatnonzero(found.inside & (found.outline >= 0).all(axis=1)).tolist():
        a, b = found.outline[n].tolist()
        outer, inner = (a, b) if own[b] == a else (b, a)
        if own[inner] != outer or holes[outer] != 1:
            continue
        between = abs(table.area[outer]) - abs(table.area[inner])
        if 2 * between / (table.size[outer] + table.size[inner]) < least[outer]:
            rings[n] = thinnest.setdefault(outer, n)
    return rings


def _finding(table: OutlineTable, conditions: Conditions, found: ThinPlaces, n: int, ring: bool) -> Finding:
    material = conditions.material_of(table.layers[found.layer[n]])
    piece = table.pieces[found.piece[n, 0]]
    width = float(found.width[n])
    limit = f"{material.name} bears {as_mm(material.least_strip_mm)}" if material.id else "hardly any material bears it"
    reach, measure = found.reach[n], {"width_mm": round(width, 4), "least_mm": material.least_strip_mm}
    what = f"A strip {within(piece)}is only {as_mm(round(width, 3))} wide"
    if ring:
        sides = found.outline[n]
        length = float(table.size[sides].mean())
        reach, measure = table.box_at(sides[0]), {**measure, "length_mm": round(length, 3)}
        what = (
            f"A ring {within(piece)}of {as_mm(round(length, 1))} is only {as_mm(round(width, 3))} wide at its thinnest"
        )
    return RULE.at(
        f"{what}; {limit}.",
        [piece.id, table.pieces[found.piece[n, 1]].id],
        found.points[n].mean(axis=0),
        reach,
        mendable=piece is table.pieces[found.piece[n, 1]],
        measure=measure,
    )


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """All strips of the piece that its material does not bear are made as wide as it bears."""
    piece = document.by_id.get(finding.pieces[0])
    path = shape_of(piece) if piece and len(finding.pieces) == 1 else None
    if piece is None or path is None:
        return None
    made = thickened(path, conditions.material_of(document.layer_by_id[piece.layer]).least_strip_mm * WIDER)
    return reshaped(document, finding.key, {piece.id: made.path}) if made.places else None


RULE = Rule(
    id="thin-strip",
    about=SHAPES,
    level=Level.SPOILS,
    title="A strip that tears",
    effect="It tears when it is weeded or lifted off, or lets go of what hangs on it.",
    find=find,
    mend=mend,
    version=2,
    thresholds=("thinner than the material's least strip; 0.3 mm where no material is chosen (common practice)",),
)
