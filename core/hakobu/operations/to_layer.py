"""to-layer: pieces moved to another layer, one that is there or a new one."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import BadRequest, CannotDo
from ..model import Document, Layer, Piece
from ..model.declare import colour, layer, text
from ..model.paint import Fill
from ..model.step import ON
from .operation import Context, Operation, Outcome, Role, at_once, without_pieces


@dataclass(frozen=True)
class ToLayer:
    layer: str = layer("", label="layer", help="the layer they go to, by its id; empty for a new one")
    name: str = text("", label="name", help="what a new layer is called", group="more")
    color: str = colour("#1b2a4e", label="colour", help="the material colour of a new layer", group="more")


def run(document: Document, parameters: ToLayer, context: Context) -> Outcome:
    """The pieces take the colour of the layer that they go to: a layer's colour is its material's."""
    moved = set(context.chosen[ON])
    layers, layer = _layer(document, parameters, context.key)
    pieces = tuple(
        replace(in_colour(piece, layer), layer=layer.id) if piece.id in moved else piece for piece in document.pieces
    )
    number = len(moved)
    what = f"{number} pieces" if number > 1 else _called(document, moved)
    made = replace(document, layers=layers, pieces=pieces)
    return Outcome(made, f"{what} moved to {layer.name}", "", {"pieces": number})


def _layer(document: Document, parameters: ToLayer, key: str) -> tuple[tuple[Layer, ...], Layer]:
    if parameters.layer:
        layer = document.layer_by_id.get(parameters.layer)
        if layer is None:
            raise CannotDo("The layer that these pieces were to go to is no longer there; choose another one.")
        return document.layers, layer
    if not parameters.name.strip():
        raise BadRequest("Say which layer the pieces go to, or what a new one is called.")
    layer = Layer(f"{key}:layer", parameters.name.strip()[:80], parameters.color)
    return (*document.layers, layer), layer


def in_colour(piece: Piece, layer: Layer) -> Piece:
    """The piece in the colour of a layer: its fill, or where it has none its line."""
    fill = Fill(layer.color, piece.fill.opacity) if piece.fill else None
    stroke = replace(piece.stroke, color=layer.color) if piece.stroke and not piece.fill else piece.stroke
    return replace(piece, fill=fill, stroke=stroke)


def _called(document: Document, moved: set[str]) -> str:
    name = next(document.by_id[identity].name for identity in moved)
    return name or "A piece"


def repair(document: Document, parameters: ToLayer, pieces: tuple[str, ...]) -> ToLayer:
    """Where their layer is gone, the first one."""
    gone = parameters.layer and parameters.layer not in document.layer_by_id
    return replace(parameters, layer=document.layers[0].id) if gone else parameters


OPERATION = Operation(
    id="to-layer",
    version=2,
    station="intake",
    title="Move to a layer",
    parameters=ToLayer,
    run=run,
    sentence="Move to {layer}",
    roles=(Role(ON, "what goes to another layer"),),
    upgrade=without_pieces,
    cost=at_once,
    repair=repair,
)
