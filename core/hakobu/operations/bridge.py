"""bridge: strips that hold what stands in openings, so that it does not fall out of a stencil."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..errors import CannotDo
from ..geometry import Path
from ..geometry.boolean import difference, union
from ..geometry.strips import Bridge as Strip
from ..geometry.strips import bridge_at, bridges_of
from ..model import Document
from ..model.declare import angle, count, length, places, spots
from ..model.shapes import has_inside, operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import counted, number_of
from .making import with_shapes
from .operation import Context, Operation, Outcome, Role, Spot, by_pieces


@dataclass(frozen=True)
class Bridge:
    number: int = count(2, label="bridges", help="from each hole; none, where they are placed by hand", low=0, high=16)
    width_mm: float = length(1.5, label="width", help="how wide a bridge is", low=0.05, high=100.0, step=0.1)
    turn: float = angle(0.0, label="turned", help="the first one off upright")
    without: tuple[str, ...] = spots((), label="left out", help="bridges that are not made")
    by_hand: tuple[tuple[float, float], ...] = places(
        (), label="by hand", help="places that bridges are to lead to, each from its nearest hole"
    )


def run(document: Document, parameters: Bridge, context: Context) -> Outcome:
    """A bridge is taken out of the opening round what stands in it, which then hangs together with the sheet."""
    changes: dict[str, Path] = {}
    found: list[Spot] = []
    made = 0
    for piece in context.pieces(document):
        if not has_inside(piece):
            continue
        path = union(operand_of(piece)).path
        strips: list[Path] = []
        for bridge in bridges_of(path, parameters.number, parameters.width_mm, math.radians(parameters.turn)):
            spot = Spot(f"{piece.id} {bridge.hole}.{bridge.nth}", bridge.at)
            found.append(spot)
            if spot.id not in parameters.without:
                strips.append(bridge.strip)
        strips += [each.strip for each in _by_hand(path, parameters)]
        if strips:
            made += len(strips)
            changes[piece.id] = difference(path, *strips).path
    if not changes:
        raise CannotDo("No hole of these pieces can be bridged: there is none, or nothing is round it.")
    gone = [key for key, path in changes.items() if not len(path)]
    if gone:
        raise CannotDo(f"Bridges of {as_mm(parameters.width_mm)} leave nothing of a piece: take narrower ones.")
    title = f"{counted(made, 'bridge').capitalize()} of {as_mm(parameters.width_mm)}"
    note = f"in {number_of(len(changes), 'piece')}"
    statistics = {"bridges": made, "pieces": len(changes)}
    return Outcome(with_shapes(document, changes), title, note, statistics, spots=tuple(found))


def _by_hand(path: Path, parameters: Bridge) -> list[Strip]:
    made = (bridge_at(path, place, parameters.width_mm) for place in parameters.by_hand)
    return [bridge for bridge in made if bridge is not None]


OPERATION = Operation(
    id="bridge",
    version=1,
    station="build",
    title="Bridge holes",
    parameters=Bridge,
    run=run,
    sizes=("width_mm",),
    cost=by_pieces,
    sentence="Bridge each hole {number} times, {width_mm} wide, the first turned by {turn}",
    roles=(Role(ON, "the openings that are bridged", everything=True),),
)
