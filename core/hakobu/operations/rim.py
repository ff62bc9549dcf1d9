"""rim: the band between outlines and others a distance out, or in."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import CannotDo
from ..geometry import Path
from ..geometry.boolean import union
from ..model import Document, Piece
from ..model.declare import text
from ..model.ids import made_id
from ..model.shapes import operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import number_of
from .grown import (
    HOLLOWS,
    HOLLOWS_HELP,
    Growing,
    band,
    grown_path,
    layer_for,
    least_hollow,
    on_layer,
    shapes_to_grow,
    with_layer,
    without_hollows,
)
from .making import parents_of, parts_of
from .operation import Context, Operation, Outcome, Role


@dataclass(frozen=True)
class Rim(Growing):
    """How wide, and what corners and hollows become."""

    hollows: str = text("keep", label="hollows", help=HOLLOWS_HELP, choices=HOLLOWS)


def run(document: Document, parameters: Rim, context: Context) -> Outcome:
    """The rim lies round the pieces, or inside their edges where the distance is negative; several lie round each
    other. Hollows that are filled have no rim."""
    if parameters.distance_mm == 0:
        raise CannotDo("A rim needs a width: type how far out it goes, or how far in.")
    groups = shapes_to_grow(document, parameters, context)
    lowest = groups[0][0]
    layer = layer_for(document, parameters, context, document.layer_by_id[lowest.layer], "rim")
    made = [
        on_layer(pieces[0], layer, identity, path)
        for pieces in groups
        for identity, path in _rims(document, pieces, parameters, context.key)
        if len(path)
    ]
    if not made:
        raise CannotDo(f"There is no room for a rim of {as_mm(abs(parameters.distance_mm))} here: take a smaller one.")
    at = document.pieces.index(lowest)
    after = replace(document, pieces=(*document.pieces[:at], *made, *document.pieces[at:]))
    count = sum(len(parts_of(piece.path)) for piece in made)
    title = f"Rim of {as_mm(abs(parameters.distance_mm))} {'round' if parameters.distance_mm > 0 else 'inside'}"
    return Outcome(with_layer(after, layer, lowest.layer), title, number_of(count, "piece"), {"pieces": count})


def _rims(document: Document, pieces: list[Piece], parameters: Rim, key: str) -> list[tuple[str, Path]]:
    # Hollows that the outer line fills are filled within as well: they have no rim.
    inner = without_hollows(union(*map(operand_of, pieces)).path, least_hollow(parameters))
    found = []
    for nth in range(1, parameters.steps + 1):
        outer, _ = grown_path(pieces, parameters, nth)
        path = band(outer, inner) if parameters.distance_mm > 0 else band(inner, outer)
        found.append((made_id(key, parents_of(document, pieces), nth - 1), path))
        inner = outer
    return found


OPERATION = Operation(
    id="rim",
    version=1,
    station="build",
    title="Lay a rim",
    parameters=Rim,
    run=run,
    sizes=("distance_mm",),
    sentence="Lay a rim of {distance_mm}, corners {join}, hollows {hollows}",
    roles=(Role(ON, "what the rim runs round", everything=True),),
)
