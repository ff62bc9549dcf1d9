"""let-in: pieces let into others, with a clearance all round; what is cut out may be kept as inlays."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, area, bounds, transform, translation
from ..geometry.boolean import Operand, difference, intersection, union
from ..geometry.offset import offset
from ..model import Document, Layer, Piece
from ..model.declare import choice, length, point
from ..model.ids import made_id
from ..model.shapes import operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import number_of
from .bits import Bits, without_slivers
from .grown import backing_color, on_layer, own_layer, with_layer, without_hollows
from .making import solid, with_made, with_shapes
from .operation import Context, Operation, Outcome, Role, by_pieces

#: The role of what others are let into.
INTO = "into"
CENTRED = (
    ("no", "as it lies"),
    ("across", "in the middle across"),
    ("down", "in the middle, up and down"),
    ("both", "in the middle"),
)
HOLLOWS = (("keep", "stay"), ("fill", "go as well"))
CUT_OUT = (("drop", "is waste"), ("keep", "is kept as an inlay"))


@dataclass(frozen=True)
class LetIn:
    clearance_mm: float | None = length(
        None,
        label="clearance",
        help="all round; without it, the narrowest gap that the material bears",
        high=100.0,
        step=0.1,
    )
    centred: str = choice("no", label="placed", help="where it lies in what it is let into", choices=CENTRED)
    move: tuple[float, float] = point(
        (0.0, 0.0), label="move", help="how far to the right and down", handle="by", is_vector=True
    )
    hollows: str = choice(
        "keep", label="what lies in its openings", help="of what it is let into", choices=HOLLOWS, group="more"
    )
    cut_out: str = choice("drop", label="what is cut out", help="what becomes of it", choices=CUT_OUT, group="more")
    under_mm: float = length(
        0.0,
        label="inlay larger by",
        help="how far an inlay reaches under the edge; less than nothing leaves room",
        low=-100.0,
        high=100.0,
        step=0.1,
        when=("cut_out", ("keep",)),
        group="more",
    )


def run(document: Document, parameters: LetIn, context: Context) -> Outcome:
    """Parts that are smaller or narrower than the material bears are dropped and counted. What is let in stays a piece
    of its own material."""
    inner = [piece for piece, _ in solid(context.pieces(document))]
    if not inner:
        raise CannotDo("Pick a closed shape that is let in: lines have no inside.")
    shape = union(*map(operand_of, inner)).path
    into, over = _into(document, inner, shape, context)
    matrix = translation(*_by(shape, into, parameters, over))
    shape = transform(shape, matrix)
    moved = {piece.id: transform(piece.path, matrix) for piece in inner}
    whole = without_hollows(shape, np.inf) if parameters.hollows == "fill" else shape
    changes, inlays, dropped, clearances = {}, {}, Bits(), set()
    layers = document
    for piece in into:
        layer = document.layer_by_id[piece.layer]
        material = context.conditions.material_of(layer)
        clearance = material.least_gap_mm if parameters.clearance_mm is None else parameters.clearance_mm
        clearances.add(clearance)
        cutter = offset(whole, distance_mm=clearance).path
        left = difference(operand_of(piece), cutter).path
        left, bits = without_slivers(left, material.least_piece_mm2, material.least_strip_mm)
        dropped += bits
        if not len(left):
            raise CannotDo(f"Nothing would be left of {piece.name or 'a piece'}: take a smaller clearance, or move it.")
        changes[piece.id] = left
        if parameters.cut_out == "keep":
            layers, made = _inlay(layers, layer, piece, cutter, parameters.under_mm, context)
            inlays[piece.id] = made
    after = with_made(with_shapes(layers, changes).with_paths(moved), inlays, ())
    apart = as_mm(max(clearances))
    laid = "" if over or parameters.centred != "no" else "laid in the middle, since it lay beside"
    notes = [f"{apart} all round", laid, number_of(dropped.parts, "sliver") + " dropped" if dropped.parts else ""]
    title = f"{inner[0].name or number_of(len(inner), 'piece')} let in"
    statistics = {"clearance_mm": max(clearances), "dropped": dropped.parts}
    return Outcome(after, title, "; ".join(filter(None, notes)), statistics)


def _into(document: Document, inner: Sequence[Piece], shape: Path, context: Context) -> tuple[list[Piece], bool]:
    """What was picked, or all that the inner pieces lie over; and whether they lie over any of it. Where they lie over
    nothing, all else is meant."""
    picked = [piece for piece, _ in solid(context.pieces(document, INTO)) if piece not in inner]
    others = picked or [piece for piece, _ in solid(document.pieces_followed()) if piece not in inner]
    if not others:
        raise CannotDo("There is no other shape that it could be let into.")
    over = [piece for piece in others if area(intersection(operand_of(piece), shape).path) > 0]
    return picked or over or others, bool(over)


def _by(shape: Path, into: Sequence[Piece], parameters: LetIn, over: bool) -> tuple[float, float]:
    """How far the inner pieces are moved: to the middle where that is wished for, or where they lie over nothing."""
    x, y = parameters.move
    centred = parameters.centred if over or parameters.centred != "no" else "both"
    own = np.array(bounds(shape)).reshape(2, 2).mean(axis=0)
    theirs = np.array(bounds(Path.concatenate(p.path for p in into))).reshape(2, 2).mean(axis=0)
    across, down = theirs - own
    return (
        x + (across if centred in ("across", "both") else 0.0),
        y + (down if centred in ("down", "both") else 0.0),
    )


def _inlay(
    document: Document, layer: Layer, piece: Piece, cutter: Path, under_mm: float, context: Context
) -> tuple[Document, list[Piece]]:
    """What is cut out of a piece, larger or smaller than its opening, on a layer of inlays."""
    path = intersection(operand_of(piece), cutter).path
    path = offset(Operand(path), distance_mm=under_mm).path if under_mm else path
    own = own_layer(document, f"{context.key}:layer", f"{layer.name}, inlays", layer, backing_color(layer))
    made = on_layer(piece, own, made_id(context.key, [piece.id], 0), path, "Inlay")
    return with_layer(document, own, layer.id), [made] if len(path) else []


OPERATION = Operation(
    id="let-in",
    version=1,
    station="build",
    title="Let in",
    parameters=LetIn,
    run=run,
    sizes=("clearance_mm", "under_mm"),
    cost=by_pieces,
    sentence="Let it in with {clearance_mm} clearance, {centred}, moved by {move}",
    roles=(Role(ON, "what is let in"), Role(INTO, "what it is let into", least=0)),
)
