"""thicken: shapes made thicker or thinner, all over, or only where a strip or a gap is too narrow."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..errors import CannotDo
from ..geometry import Path
from ..geometry.boolean import difference, intersection, union
from ..geometry.offset import offset
from ..geometry.thickness import thickened, widened
from ..model import Document, Piece
from ..model.declare import choice, length
from ..model.shapes import has_inside, operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import counted, number_of
from .making import with_shapes
from .operation import Context, Operation, Outcome, Role, SourceCost, by_pieces

WHERE = (
    ("all", "all over, by"),
    ("thin", "where a strip is thinner than"),
    ("gaps", "where a gap is narrower than"),
)
#: Corners stay pointed up to so many times the distance.
MITRE = 10.0


@dataclass(frozen=True)
class Thicken:
    where: str = choice("thin", label="where", help="where shapes change", choices=WHERE)
    by_mm: float = length(
        0.5,
        label="by",
        help="on each side; thinner where it is negative",
        low=-100.0,
        high=100.0,
        step=0.1,
        when=("where", ("all",)),
        handle="out",
    )
    width_mm: float | None = length(
        None,
        label="width",
        help="without it, what the material bears",
        low=0.02,
        high=100.0,
        step=0.1,
        when=("where", ("thin", "gaps")),
    )


def run(document: Document, parameters: Thicken, context: Context) -> Outcome:
    """Corners are kept. A gap between pieces widens on both sides."""
    pieces = [piece for piece in context.pieces(document) if has_inside(piece)]
    if not pieces:
        raise CannotDo("Lines that do not close have no thickness: pick closed shapes, or give the lines a width.")
    changes, places = _WAYS[parameters.where](document, pieces, parameters, context)
    if not changes:
        what = "strip" if parameters.where == "thin" else "gap"
        raise CannotDo(f"No {what} of these pieces is that narrow: nothing changes.")
    gone = [piece for piece in pieces if piece.id in changes and not len(changes[piece.id])]
    if gone:
        raise CannotDo(f"Nothing would be left of {gone[0].name or 'a piece'}: take a smaller figure.")
    after = with_shapes(document, changes)
    title = {
        "all": f"{'Thicker' if parameters.by_mm > 0 else 'Thinner'} by {as_mm(abs(parameters.by_mm))} on each side",
        "thin": f"{counted(places, 'thin strip').capitalize()} made thicker",
        "gaps": f"{counted(places, 'narrow gap').capitalize()} made wider",
    }[parameters.where]
    return Outcome(after, title, number_of(len(changes), "piece"), {"places": places, "pieces": len(changes)})


def _all(document: Document, pieces: Sequence[Piece], parameters: Thicken, context: Context):
    if not parameters.by_mm:
        raise CannotDo("Type by how much: 0 mm changes nothing.")
    paths = {
        p.id: offset(operand_of(p), distance_mm=parameters.by_mm, join="mitre", mitre_limit=MITRE).path for p in pieces
    }
    return paths, 0


def _thin(document: Document, pieces: Sequence[Piece], parameters: Thicken, context: Context):
    changes, places = {}, 0
    for number, piece in enumerate(pieces):
        context.progress(number / len(pieces), "Looking for thin strips")
        material = context.conditions.material_of(document.layer_by_id[piece.layer])
        made = thickened(union(operand_of(piece)).path, parameters.width_mm or material.least_strip_mm)
        if made.places:
            changes[piece.id], places = made.path, places + made.places
    return changes, places


def _gaps(document: Document, pieces: Sequence[Piece], parameters: Thicken, context: Context):
    changes: dict[str, Path] = {}
    places = 0
    for layer in dict.fromkeys(piece.layer for piece in pieces):
        own = [piece for piece in pieces if piece.layer == layer]
        material = context.conditions.material_of(document.layer_by_id[layer])
        whole = union(*map(operand_of, own)).path
        made = widened(whole, parameters.width_mm or material.least_gap_mm)
        if not made.places:
            continue
        places += made.places
        away = difference(whole, made.path).path
        for piece in own:
            if len(intersection(operand_of(piece), away).path):
                changes[piece.id] = difference(operand_of(piece), away).path
    return changes, places


_WAYS = {"all": _all, "thin": _thin, "gaps": _gaps}
#: A middle line takes so many times as long as most of what is done to a piece.
TIMES = 8


def cost(document: Document, parameters: Thicken, source: SourceCost) -> float:
    return (1 if parameters.where == "all" else TIMES) * by_pieces(document, parameters, source)


OPERATION = Operation(
    id="thicken",
    version=1,
    station="build",
    title="Thicken",
    parameters=Thicken,
    run=run,
    sizes=("by_mm", "width_mm"),
    cost=cost,
    sentence="Make it thicker {where}[ {by_mm}][ {width_mm}]",
    roles=(Role(ON, "what is made thicker", everything=True),),
)
