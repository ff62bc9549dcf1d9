"""arrange: the order of layers, and of pieces in the paint order."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..model import Document
from ..model.declare import choice, layers
from ..model.step import ON
from .operation import Context, Operation, Outcome, Role, at_once, without_pieces

PLACES = (("front", "to the front"), ("back", "to the back"))


@dataclass(frozen=True)
class Arrange:
    layers: tuple[str, ...] = layers(
        (), label="order", help="all layers in their new order, by their ids; new ones come last", group=""
    )
    to: str = choice(
        "front", label="where to", help="to the front, painted over all others, or to the back", choices=PLACES
    )


def run(document: Document, parameters: Arrange, context: Context) -> Outcome:
    in_order = _ordered(document.layers, parameters.layers)
    moved, place = set(context.chosen.get(ON, ())), parameters.to
    if not moved:
        return Outcome(replace(document, layers=in_order), "Layers put in another order", "", {})
    taken = tuple(piece for piece in document.pieces if piece.id in moved)
    others = tuple(piece for piece in document.pieces if piece.id not in moved)
    pieces = (*others, *taken) if place == "front" else (*taken, *others)
    what = "A piece" if len(moved) == 1 else f"{len(moved)} pieces"
    return Outcome(replace(document, layers=in_order, pieces=pieces), f"{what} moved to the {place}", "", {})


def _ordered(layers, order: tuple[str, ...]):
    rank = {identity: number for number, identity in enumerate(order)}
    return tuple(sorted(layers, key=lambda layer: rank.get(layer.id, len(rank))))


OPERATION = Operation(
    id="arrange",
    version=2,
    station="intake",
    title="Arrange",
    parameters=Arrange,
    run=run,
    sentence="Bring {to}",
    roles=(Role(ON, "what goes to the front or the back", least=0),),
    upgrade=without_pieces,
    cost=at_once,
)
