"""merge-layers: several layers made one."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import CannotDo
from ..model import Document
from ..model.declare import layers
from .operation import Context, Operation, Outcome, at_once


@dataclass(frozen=True)
class MergeLayers:
    layers: tuple[str, ...] = layers(
        label="layers", help="the layers to merge, by their ids; the first takes in the others"
    )


def run(document: Document, parameters: MergeLayers, context: Context) -> Outcome:
    """Pieces and pictures keep their own paint; name, colour, treatment and material are the first layer's."""
    gone = [layer for layer in parameters.layers if layer not in document.layer_by_id]
    if gone or len(set(parameters.layers)) < 2:
        raise CannotDo("A layer that was to be merged is no longer there; choose two that are.")
    into, others = document.layer_by_id[parameters.layers[0]], set(parameters.layers[1:])
    made = replace(
        document,
        layers=tuple(layer for layer in document.layers if layer.id not in others),
        pieces=tuple(replace(p, layer=into.id) if p.layer in others else p for p in document.pieces),
        pictures=tuple(replace(p, layer=into.id) if p.layer in others else p for p in document.pictures),
    )
    names = ", ".join(document.layer_by_id[layer].name for layer in parameters.layers[1:])
    return Outcome(made, f"{names} merged into {into.name}", "", {"layers": len(made.layers)})


OPERATION = Operation(
    id="merge-layers",
    version=1,
    station="intake",
    title="Merge layers",
    parameters=MergeLayers,
    run=run,
    sentence="Merge {layers}",
    cost=at_once,
)
