"""split-by-colour: a layer parted into one for each colour on it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import CannotDo
from ..formats.color_words import color_words
from ..model import Document, Layer
from ..model.declare import layer
from ..model.query import colour_of
from .operation import Context, Operation, Outcome, at_once


@dataclass(frozen=True)
class SplitByColour:
    layer: str = layer(label="layer", help="the layer to split, by its id")


def run(document: Document, parameters: SplitByColour, context: Context) -> Outcome:
    """The colour that comes first keeps the layer; every other one gets a layer of its own after it, with the same
    treatment and material."""
    layer = document.layer_by_id.get(parameters.layer)
    if layer is None:
        raise CannotDo("The layer that was to be split is no longer there; choose another one.")
    colours = list(dict.fromkeys(colour_of(document, p) for p in document.pieces if p.layer == layer.id))
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
        replace(p, layer=fresh[colour_of(document, p)].id)
        if p.layer == layer.id and colour_of(document, p) in fresh
        else p
        for p in document.pieces
    )
    title = f"{layer.name} split into {len(colours)} colours"
    return Outcome(replace(document, layers=layers, pieces=pieces), title, "", {"layers": len(layers)})


def _name(layer: Layer, colour: str) -> str:
    return f"{layer.name}, {color_words(colour).lower()}"


OPERATION = Operation(
    id="split-by-colour",
    version=1,
    station="intake",
    title="Split by colour",
    parameters=SplitByColour,
    run=run,
    sentence="Split {layer} by colour",
    cost=at_once,
)
