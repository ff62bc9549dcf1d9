"""place: pieces moved, turned, mirrored, or copied so."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..errors import BadRequest
from ..geometry import Path, bounds, compose, rotation, scaling, transform, translation
from ..model import Document, Piece
from ..model.declare import angle, choice, flag, point
from ..model.ids import made_id
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import counted
from .operation import Context, Operation, Outcome, Role

MIRRORED = (("no", "not mirrored"), ("x", "mirrored left to right"), ("y", "mirrored top to bottom"))
MOST_MM = 20_000.0


@dataclass(frozen=True)
class Place:
    move: tuple[float, float] = point(
        (0.0, 0.0), label="move", help="how far to the right and down", handle="by", is_vector=True
    )
    turn: float = angle(0.0, label="turn", help="clockwise, about the middle of all picked pieces", handle="turn")
    mirror: str = choice("no", label="mirrored", help="about the middle of all picked pieces", choices=MIRRORED)
    copy: bool = flag(False, label="a copy", help="what is picked stays, and a copy is placed", group="more")


def run(document: Document, parameters: Place, context: Context) -> Outcome:
    """Mirrored first, then turned, then moved. Widths of lines stay what they are."""
    pieces = context.pieces(document)
    if parameters.move == (0.0, 0.0) and parameters.turn == 0 and parameters.mirror == "no" and not parameters.copy:
        raise BadRequest("Say how far the pieces are moved, by how much they are turned, or whether they are mirrored.")
    if max(map(abs, parameters.move)) > MOST_MM:
        raise BadRequest(f"Pieces are moved by {as_mm(MOST_MM)} at most.")
    matrix = placing(pieces, parameters)
    after = copied(document, pieces, [matrix], context.key) if parameters.copy else moved(document, pieces, matrix)
    what = counted(len(pieces), "piece").capitalize()
    return Outcome(
        after, f"{what} {'copied, ' if parameters.copy else ''}{_said(parameters)}", "", {"pieces": len(pieces)}
    )


def placing(pieces: Sequence[Piece], parameters: Place) -> np.ndarray:
    """The matrix (2, 3) that pieces are placed by."""
    left, top, right, bottom = bounds(Path.concatenate(piece.path for piece in pieces)) or (0.0, 0.0, 0.0, 0.0)
    middle = (left + right) / 2, (top + bottom) / 2
    across, down = -1.0 if parameters.mirror == "x" else 1.0, -1.0 if parameters.mirror == "y" else 1.0
    made = about(scaling(across, down), middle)
    made = compose(about(rotation(math.radians(parameters.turn)), middle), made)
    return compose(translation(*parameters.move), made)


def about(matrix: np.ndarray, place: tuple[float, float]) -> np.ndarray:
    """A matrix about a place in place of the page's top left."""
    x, y = place
    return compose(translation(x, y), compose(matrix, translation(-x, -y)))


def moved(document: Document, pieces: Sequence[Piece], matrix: np.ndarray) -> Document:
    paths = {piece.id: transform(piece.path, matrix) for piece in pieces}
    return replace(
        document,
        pieces=tuple(replace(p, path=paths[p.id]) if p.id in paths else p for p in document.pieces),
    )


def copied(document: Document, pieces: Sequence[Piece], matrices: Sequence[np.ndarray], key: str) -> Document:
    """The document with a copy of the pieces for each matrix, over all that they are copies of, in the same order. A
    group that is copied whole is a group again."""
    made, groups = [], []
    for nth, matrix in enumerate(matrices):
        ids = {piece.id: made_id(key, [piece.id], nth) for piece in pieces}
        made += [replace(p, id=ids[p.id], path=transform(p.path, matrix)) for p in pieces]
        # Inner groups come before those that hold them.
        for group in document.groups:
            if all(member in ids for member in group.members):
                ids[group.id] = made_id(key, [group.id], nth)
                groups.append(replace(group, id=ids[group.id], members=tuple(ids[m] for m in group.members)))
    at = document.pieces.index(pieces[-1]) + 1
    return replace(
        document,
        pieces=(*document.pieces[:at], *made, *document.pieces[at:]),
        groups=(*document.groups, *groups),
    )


def _said(parameters: Place) -> str:
    words = []
    if parameters.mirror != "no":
        words.append(dict(MIRRORED)[parameters.mirror])
    if parameters.turn:
        words.append(f"turned by {parameters.turn:g} degrees")
    x, y = parameters.move
    if x:
        words.append(f"{as_mm(abs(x))} to the {'right' if x > 0 else 'left'}")
    if y:
        words.append(f"{as_mm(abs(y))} {'down' if y > 0 else 'up'}")
    return ", ".join(words) or "in place"


OPERATION = Operation(
    id="place",
    version=1,
    station="build",
    title="Place",
    parameters=Place,
    run=run,
    sentence="Move by {move}, turned by {turn}, {mirror}",
    roles=(Role(ON, "what is placed", everything=True),),
)
