"""take-apart: a compound parted into pieces with their holes, or into single outlines."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import CannotDo
from ..geometry import Path
from ..geometry.boolean import union
from ..geometry.nesting import shapes_of
from ..model import Document, Piece
from ..model.declare import choice
from ..model.shapes import operand_of
from ..model.step import ON
from ..model.words import number_of
from .making import Made, pieces_of, with_made
from .operation import Context, Operation, Outcome, Role, by_pieces

INTO = (("pieces", "pieces with their holes"), ("outlines", "single outlines"))


@dataclass(frozen=True)
class TakeApart:
    into: str = choice("pieces", label="into", help="what a compound is parted into", choices=INTO)


def run(document: Document, parameters: TakeApart, context: Context) -> Outcome:
    """Every part keeps the looks and the layer of what it was part of; one that was a single part stays as it is."""
    made: dict[str, list[Piece]] = {}
    for piece in context.pieces(document):
        parts = _outlines(piece) if parameters.into == "outlines" else _shapes(piece)
        if len(parts) > 1:
            made[piece.id] = pieces_of(context.key, [Made(part, (piece,)) for part in parts])
    if not made:
        raise CannotDo("Each of these is one part already: there is nothing to take apart.")
    count = sum(map(len, made.values()))
    title = f"{number_of(len(made), 'piece')} taken apart into {count:,}"
    return Outcome(with_made(document, made, made), title, "", {"pieces": count})


def _outlines(piece: Piece) -> list[Path]:
    return list(piece.path.outlines())


def _shapes(piece: Piece) -> list[Path]:
    """Of a filled piece the shapes that it covers, as drawn where that is the same; of bare lines what is nested."""
    rows: Sequence[Sequence[int]] = shapes_of(piece.path)
    if piece.fill and not np.all(piece.path.closed):
        # An open outline is painted closed, and stays open where it is cut.
        return [piece.path.take(each) for each in rows]
    if piece.fill:
        whole = union(operand_of(piece)).path
        found = shapes_of(whole)
        return [piece.path.take(each) for each in rows] if len(found) == len(rows) else [whole.take(r) for r in found]
    return [piece.path.take(each) for each in rows]


OPERATION = Operation(
    id="take-apart",
    version=1,
    station="build",
    title="Take apart",
    parameters=TakeApart,
    run=run,
    cost=by_pieces,
    sentence="Take apart into {into}",
    roles=(Role(ON, "what is taken apart", everything=True),),
)
