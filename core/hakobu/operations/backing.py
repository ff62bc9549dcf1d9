"""backing: a filled shape a distance out from others, on a layer of its own below them."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import CannotDo
from ..model import Document, Piece
from ..model.ids import made_id
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import number_of
from .grown import Growing, backing_color, grown_path, layer_for, on_layer, shapes_to_grow, with_layer
from .making import parents_of, parts_of
from .operation import Context, Operation, Outcome, Role


@dataclass(frozen=True)
class Backing(Growing):
    """How far, and what corners and hollows become."""


def run(document: Document, parameters: Backing, context: Context) -> Outcome:
    """One for all pieces together, or one for each, below the lowest of them; of several the farthest lies lowest."""
    groups = shapes_to_grow(document, parameters, context)
    lowest = groups[0][0]
    source = document.layer_by_id[lowest.layer]
    layer = layer_for(document, parameters, context, source, "backing", backing_color(source))
    made: list[Piece] = []
    off = 0.0
    for nth in range(parameters.steps, 0, -1):
        for pieces in groups:
            path, by = grown_path(pieces, parameters, nth)
            off = max(off, by)
            name = (pieces[0].name + ", backing") if len(pieces) == 1 and pieces[0].name else ""
            identity = made_id(context.key, parents_of(document, pieces), nth - 1)
            if len(path):
                made.append(on_layer(pieces[0], layer, identity, path, name))
    if not made:
        raise CannotDo(f"Nothing is left of these pieces {as_mm(-parameters.distance_mm)} in: take a smaller distance.")
    at = document.pieces.index(lowest)
    after = replace(document, pieces=(*document.pieces[:at], *made, *document.pieces[at:]))
    after = with_layer(after, layer, lowest.layer)
    count = sum(len(parts_of(piece.path)) for piece in made)
    holes = sum(len(piece.path) for piece in made) - count
    note = f"{number_of(count, 'piece')}, {number_of(holes, 'hollow')} kept" if holes else number_of(count, "piece")
    if off:
        note += f"; where curves came too near each other, lines within {as_mm(off)} took their place"
    out = f"{as_mm(abs(parameters.distance_mm))} {'out' if parameters.distance_mm >= 0 else 'in'}"
    return Outcome(after, f"Backing laid {out}", note, {"pieces": count, "hollows": holes})


OPERATION = Operation(
    id="backing",
    version=1,
    station="build",
    title="Lay a backing",
    parameters=Backing,
    run=run,
    sizes=("distance_mm",),
    sentence="Lay a backing {distance_mm} out, corners {join}, hollows {hollows}",
    roles=(Role(ON, "what the backing lies behind", everything=True),),
)
