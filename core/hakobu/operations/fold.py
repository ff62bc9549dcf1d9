"""fold: a straight line across shapes along which they bend: scored, or perforated as a hinge."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, box_of, length
from ..geometry.boolean import cut_lines
from ..geometry.offset import offset
from ..model import Document, Piece, Stroke
from ..model import declare as declaring
from ..model.declare import choice, line
from ..model.ids import piece_id
from ..model.shapes import has_inside, operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import counted
from .dash import COLORS, TREATMENT, dashes_of
from .grown import own_layer, with_layer
from .operation import Context, Operation, Outcome, Role
from .shape import LINE_MM

WAYS = (("score", "scored"), ("perforation", "perforated"))


@dataclass(frozen=True)
class Fold:
    ends: tuple[float, float, float, float] | None = line(
        None, label="line", help="from one point to another; without it, across the middle", handle="ends"
    )
    way: str = choice("score", label="how", help="what the tool does along it", choices=WAYS)
    cut_mm: float = declaring.length(
        3.0, label="cut", help="how long each cut is", low=0.05, step=0.1, when=("way", ("perforation",))
    )
    gap_mm: float = declaring.length(
        1.0, label="gap", help="how much stays between", low=0.05, step=0.1, when=("way", ("perforation",))
    )
    inset_mm: float = declaring.length(
        0.0, label="off the edge", help="how far from the edge it begins and ends", step=0.1, group="more"
    )


def run(document: Document, parameters: Fold, context: Context) -> Outcome:
    """Only what lies on the shapes; holes interrupt it."""
    pieces = [piece for piece in context.pieces(document) if has_inside(piece)]
    if not pieces:
        raise CannotDo("Pick the closed shapes that bend.")
    left, top, right, bottom = box_of(Path.concatenate(piece.path for piece in pieces))
    x0, y0, x1, y1 = parameters.ends or (left, (top + bottom) / 2, right, (top + bottom) / 2)
    shape = offset(*map(operand_of, pieces), distance_mm=-parameters.inset_mm).path
    path = cut_lines(Path.from_points(np.array([(x0, y0), (x1, y1)]), closed=False), shape).path
    if not len(path) or length(path) < 1e-6:
        raise CannotDo("The line misses these shapes: move its ends onto them.")
    size = length(path)
    if parameters.way == "perforation":
        path = dashes_of(path, parameters.cut_mm, parameters.gap_mm)
    topmost = pieces[-1]
    own = document.layer_by_id[topmost.layer]
    layer = own_layer(document, f"{context.key}:layer", f"{own.name}, folds", own, COLORS[parameters.way])
    layer = replace(layer, treatment=TREATMENT[parameters.way])
    made = Piece(piece_id(context.key, "fold"), path, layer.id, "Fold", stroke=Stroke(layer.color, LINE_MM))
    after = with_layer(document, layer, own.id, above=True)
    at = after.pieces.index(topmost) + 1
    after = replace(after, pieces=(*after.pieces[:at], made, *after.pieces[at:]))
    title = f"Fold line {dict(WAYS)[parameters.way]}"
    return Outcome(after, title, f"{as_mm(round(size, 2))} on {counted(len(pieces), 'piece')}", {"length_mm": size})


OPERATION = Operation(
    id="fold",
    version=1,
    station="build",
    title="Fold line",
    parameters=Fold,
    run=run,
    sizes=("cut_mm", "gap_mm", "inset_mm"),
    sentence="Lay a fold line {ends}, {way}[, cuts of {cut_mm} with {gap_mm} between]",
    roles=(Role(ON, "what bends", everything=True),),
)
