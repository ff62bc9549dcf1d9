"""split-by-colour: a layer parted into one for each colour on it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import CannotDo
from ..formats.color_words import color_words
from ..model import Document, Layer, Piece
from .operation import Context, Operation, Outcome, parameter


@dataclass(frozen=True)
class SplitByColour:
    layer: str = parameter(help="the layer to split, by its id")


def run(document: Document, parameters: SplitByColour, context: Context) -> Outcome:
    """The colour that comes first keeps the layer; every other one gets a layer of its own after it, with the same
    treatment and material."""
    layer = document.layer_by_id.get(parameters.layer)
    if layer is None:
        raise CannotDo("The layer that was to be split is no longer there; choose another one.")
    colours = list(dict.fromkeys(colour_of(p, layer) for p in document.pieces if p.layer == layer.id))
    if len(colours) < 2:
        raise CannotDo(f"{layer.name} has one colour only: there is nothing to split.")
    kept, *others = colours
    fresh = {
        colour: Layer(f"{context.key}:{colour[1:]}", _name(layer, colour), colour, layer.treatment, layer.material)
        for colour in others
    }
    at = document.layers.index(layer)
    layers = (*document.layers[:at], replace(layer, color=kept), *fresh.values(), *document.layers[at + 1 :])
    pieces = tuple(
        replace(p, layer=fresh[colour_of(p, layer)].id) if p.layer == layer.id and colour_of(p, layer) in fresh else p
        for p in document.pieces
    )
    title = f"{layer.name} split into {len(colours)} colours"
    return Outcome(replace(document, layers=layers, pieces=pieces), title, "", {"layers": len(layers)})


def _name(layer: Layer, colour: str) -> str:
    return f"{layer.name}, {color_words(colour).lower()}"


def colour_of(piece: Piece, layer: Layer) -> str:
    """The colour that a piece is told by: its fill's, else its line's, else its layer's."""
    if piece.fill:
        return piece.fill.color
    return piece.stroke.color if piece.stroke else layer.color


OPERATION = Operation("split-by-colour", 1, "intake", "Split by colour", SplitByColour, run)
