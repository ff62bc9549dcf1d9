"""arrange: the order of layers, and of pieces in the paint order."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import BadRequest, CannotDo
from ..model import Document
from .operation import Context, Operation, Outcome, parameter

PLACES = ("front", "back")


@dataclass(frozen=True)
class Arrange:
    layers: tuple[str, ...] = parameter((), help="all layers in their new order, by their ids; new ones come last")
    pieces: tuple[str, ...] = parameter((), help="the pieces to move, by their ids")
    to: str = parameter("front", help="where pieces go: to the front, painted over all others, or to the back")


def run(document: Document, parameters: Arrange, context: Context) -> Outcome:
    if parameters.to not in PLACES:
        raise BadRequest(f'Pieces go to the {" or the ".join(PLACES)}, not to "{parameters.to}".')
    layers = _ordered(document.layers, parameters.layers)
    moved, place = set(parameters.pieces), parameters.to
    if moved - set(document.by_id):
        raise CannotDo("A piece that was to be moved is no longer there; pick again.")
    if not moved:
        return Outcome(replace(document, layers=layers), "Layers put in another order", "", {})
    taken = tuple(piece for piece in document.pieces if piece.id in moved)
    others = tuple(piece for piece in document.pieces if piece.id not in moved)
    pieces = (*others, *taken) if place == "front" else (*taken, *others)
    what = "A piece" if len(moved) == 1 else f"{len(moved)} pieces"
    return Outcome(replace(document, layers=layers, pieces=pieces), f"{what} moved to the {place}", "", {})


def _ordered(layers, order: tuple[str, ...]):
    rank = {identity: number for number, identity in enumerate(order)}
    return tuple(sorted(layers, key=lambda layer: rank.get(layer.id, len(rank))))


def select(document: Document, parameters: Arrange) -> tuple[str, ...]:
    return parameters.pieces


def repair(document: Document, parameters: Arrange, pieces: tuple[str, ...]) -> Arrange:
    return replace(parameters, pieces=pieces)


OPERATION = Operation("arrange", 1, "intake", "Arrange", Arrange, run, select, repair)
