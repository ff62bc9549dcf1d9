"""caption: a word in layers that fit: its letters, a backing that they are cut through, and inlays for counters."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, signed_areas
from ..geometry.boolean import Operand, difference, union
from ..geometry.offset import offset
from ..model import Document
from ..model.declare import choice, length
from ..model.ids import made_id
from ..model.shapes import has_inside, operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import number_of
from .bits import Bits, without_slivers
from .grown import backing_color, on_layer, own_layer, with_layer, without_hollows
from .making import parents_of
from .operation import Context, Operation, Outcome, Role, by_pieces

#: Inlays are cut from a third sheet, in a colour of their own.
INLAY = "#b5893a"
COUNTERS = (("inlay", "as inlays"), ("open", "left open"))


@dataclass(frozen=True)
class Caption:
    distance_mm: float = length(2.5, label="backing", help="how far it reaches out", low=0.05, handle="out")
    clearance_mm: float = length(
        0.1, label="clearance", help="between the letters and what lies round and in them", high=20.0, step=0.05
    )
    counters: str = choice("inlay", label="counters", help="what becomes of them", choices=COUNTERS)


def run(document: Document, parameters: Caption, context: Context) -> Outcome:
    """The letters stay as they are; the backing is cut out round them; what fills their counters is a layer of its
    own."""
    pieces = [piece for piece in context.pieces(document) if has_inside(piece)]
    if not pieces:
        raise CannotDo("Pick letters or other closed shapes: lines have no inside.")
    word = union(*map(operand_of, pieces)).path
    solid = without_hollows(word, np.inf)
    outer = without_hollows(offset(solid, distance_mm=parameters.distance_mm).path, np.inf)
    opening = offset(solid, distance_mm=parameters.clearance_mm).path if parameters.clearance_mm else solid
    backing = difference(outer, opening).path
    if not len(backing):
        raise CannotDo("The clearance is as large as the backing: take a smaller one, or a wider backing.")
    lowest = pieces[0]
    source = document.layer_by_id[lowest.layer]
    parents = parents_of(document, pieces)
    color = backing_color(source)
    behind = own_layer(document, f"{context.key}:backing", f"{source.name}, backing", source, color)
    made = [on_layer(lowest, behind, made_id(context.key, parents, 0), backing, "Backing")]
    after = with_layer(document, behind, lowest.layer)
    dropped = Bits()
    if parameters.counters == "inlay":
        material = context.conditions.material_of(source)
        fitting, dropped = without_slivers(
            _counters(word, parameters.clearance_mm), material.least_piece_mm2, material.least_strip_mm / 2
        )
        if len(fitting):
            inlays = own_layer(document, f"{context.key}:inlays", f"{source.name}, inlays", source, INLAY)
            made.append(on_layer(lowest, inlays, made_id(context.key, parents, 1), fitting, "Inlays"))
            after = with_layer(after, inlays, lowest.layer)
    at = after.pieces.index(lowest)
    after = replace(after, pieces=(*after.pieces[:at], *made, *after.pieces[at:]))
    count = len(made[1].path) if len(made) > 1 else 0
    notes = [number_of(count, "inlay"), f"{as_mm(parameters.clearance_mm)} clearance"]
    if dropped.parts:
        notes.append(f"{number_of(dropped.parts, 'counter')} too small for an inlay")
    title = f"Letters cut through a backing {as_mm(parameters.distance_mm)} out"
    return Outcome(after, title, "; ".join(notes), {"inlays": count, "too_small": dropped.parts})


def _counters(word: Path, clearance_mm: float) -> Path:
    """What fits into the holes of a word, islands in them left out."""
    holes = word.take(np.flatnonzero(signed_areas(word) < 0)).reversed()
    if not len(holes):
        return holes
    inside = difference(holes, Operand(word)).path
    return offset(inside, distance_mm=-clearance_mm).path if clearance_mm else inside


OPERATION = Operation(
    id="caption",
    version=1,
    station="build",
    title="Layered caption",
    parameters=Caption,
    run=run,
    sizes=("distance_mm", "clearance_mm"),
    cost=by_pieces,
    sentence="Cut the letters through a backing {distance_mm} out, with {clearance_mm} clearance, counters {counters}",
    roles=(Role(ON, "the letters", everything=True),),
)
