"""interlock: pieces that lie over each other by turns, the lower one cut away with an even gap where they cross."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, area, bounds
from ..geometry.boolean import Operand, difference, intersection
from ..geometry.inner import centre_of
from ..geometry.nesting import shapes_of
from ..geometry.offset import offset
from ..model import Document, Piece
from ..model.declare import choice, length, spots
from ..model.ids import made_id
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import number_of
from .grown import backing_color, on_layer, own_layer, with_layer
from .making import solid, with_made, with_shapes
from .operation import Context, Operation, Outcome, Role, Spot, by_pieces

OVER = (("alternating", "by turns"), ("topmost", "the topmost always"))
#: The gap is wider by this, in mm, as far as offsets may be off, so that it is nowhere narrower than was asked.
SURE_MM = 0.003
#: What is left of a piece is nothing below this area, in mm2.
NOTHING_MM2 = 1e-6


@dataclass(frozen=True)
class Interlock:
    gap_mm: float = length(0.4, label="gap", help="between the pieces where they cross", low=0.01, high=100.0, step=0.1)
    rim_mm: float = length(2.0, label="rim", help="round each piece; none at 0", high=500.0)
    over: str = choice("alternating", label="over", help="which piece lies over the other", choices=OVER)
    turned: tuple[str, ...] = spots((), label="turned over", help="crossings at which the other piece lies over")


def run(document: Document, parameters: Interlock, context: Context) -> Outcome:
    """Each rim is a piece of its own, on a layer of rims below its piece's. A rim counts as its piece."""
    found = solid(context.pieces(document))
    if len(found) < 2:
        raise CannotDo("Pick two closed shapes or more to interlock.")
    pieces, cores = [piece for piece, _ in found], [path for _, path in found]
    shapes = [offset(core, distance_mm=parameters.rim_mm).path for core in cores] if parameters.rim_mm else cores
    crossings = _crossings(pieces, shapes, parameters)
    if not crossings:
        raise CannotDo("These pieces do not overlap: move them over each other first.")
    away: dict[int, list[Path]] = {}
    for crossing in crossings:
        away.setdefault(crossing.under, []).append(crossing.zone)
    changes: dict[str, Path] = {}
    rims: dict[str, Piece] = {}
    layers = document
    for number, (piece, core, shape) in enumerate(zip(pieces, cores, shapes, strict=True)):
        zones = away.get(number, [])
        left = difference(core, *zones).path if zones else core
        if area(left) < NOTHING_MM2:
            raise CannotDo(f"Nothing would be left of {piece.name or 'a piece'}: take a smaller gap or a thinner rim.")
        if zones:
            changes[piece.id] = left
        if parameters.rim_mm:
            own = layers.layer_by_id[piece.layer]
            layer = own_layer(layers, f"{context.key}:layer", f"{own.name}, rims", own, backing_color(own))
            layers = with_layer(layers, layer, own.id)
            path = difference(shape, core, *zones).path
            name = f"{piece.name}, rim" if piece.name else "Rim"
            rims[piece.id] = on_layer(piece, layer, made_id(context.key, [piece.id], 0), path, name)
    after = with_made(with_shapes(layers, changes), {identity: [rim] for identity, rim in rims.items()}, ())
    spots_of = tuple(crossing.spot for crossing in crossings)
    title = f"Interlocked with a gap of {as_mm(parameters.gap_mm)}"
    statistics = {"crossings": len(crossings), "pieces": len(pieces)}
    return Outcome(after, title, number_of(len(crossings), "crossing"), statistics, spots=spots_of)


@dataclass(frozen=True)
class _Crossing:
    """zone: all that is nearer than the gap to both pieces; under: the number of the piece that is cut away there."""

    zone: Path
    under: int
    spot: Spot


def _crossings(pieces: Sequence[Piece], shapes: Sequence[Path], parameters: Interlock) -> list[_Crossing]:
    grown = [offset(shape, distance_mm=parameters.gap_mm + SURE_MM).path for shape in shapes]
    found = []
    for i, j in combinations(range(len(pieces)), 2):
        if not _may_meet(grown[i], grown[j]):
            continue
        near = intersection(grown[i], grown[j]).path
        zones = _in_order([near.take(rows) for rows in shapes_of(near)])
        for nth, zone in enumerate(zones):
            # What comes near the other one without being nearer than the gap is no crossing.
            if not len(intersection(zone, Operand(shapes[j])).path) or not len(intersection(zone, shapes[i]).path):
                continue
            identity = f"{pieces[i].id} {pieces[j].id} {nth}"
            lower_goes_under = parameters.over == "topmost" or nth % 2 == 0
            under = i if lower_goes_under != (identity in parameters.turned) else j
            x, y = centre_of(zone).tolist()
            spot = Spot(identity, (x, y))
            found.append(_Crossing(zone, under, spot))
    return found


def _may_meet(one: Path, other: Path) -> bool:
    a, b = np.array(bounds(one)), np.array(bounds(other))
    return bool((a[:2] <= b[2:]).all() and (b[:2] <= a[2:]).all())


def _in_order(zones: list[Path]) -> list[Path]:
    """Along the way in which they are spread the farthest."""
    if len(zones) < 2:
        return zones
    boxes = np.array([bounds(zone) for zone in zones])
    middle = (boxes[:, :2] + boxes[:, 2:]) / 2
    own = middle - middle.mean(axis=0)
    _, _, ways = np.linalg.svd(own, full_matrices=False)
    way = ways[0] if ways[0] @ (1.0, 0.9) > 0 else -ways[0]
    return [zones[k] for k in np.argsort(own @ way, kind="stable")]


OPERATION = Operation(
    id="interlock",
    version=1,
    station="build",
    title="Interlock",
    parameters=Interlock,
    run=run,
    sizes=("gap_mm", "rim_mm"),
    cost=by_pieces,
    sentence="Interlock them with a gap of {gap_mm} and a rim of {rim_mm}; over lies {over}",
    roles=(Role(ON, "what is interlocked", least=2, everything=True),),
)
