"""copies: pieces in rows and columns, or round a centre."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import BadRequest
from ..geometry import Path, bounds, compose, rotation, translation
from ..model import Document, Piece
from ..model.declare import choice, flag, length, point
from ..model.declare import count as a_count
from ..model.step import ON
from ..model.words import counted
from .operation import Context, Operation, Outcome, Role
from .place import about, copied
from .spelling import number_of, place_of

HOW = (("rows", "in rows and columns"), ("around", "round a centre"))
ROUND = {"how": "around"}
#: More would be a pattern, which fills a shape.
MOST = 2000


@dataclass(frozen=True)
class Copies:
    how: str = choice("rows", label="how", help="how they lie", choices=HOW)
    columns: int = a_count(2, label="columns", help="how many side by side", low=1, high=500, when=("how", ("rows",)))
    rows: int = a_count(1, label="rows", help="how many below each other", low=1, high=500, when=("how", ("rows",)))
    gap_mm: float = length(
        2.0, label="gap", help="room between them", low=-1000.0, high=1000.0, when=("how", ("rows",))
    )
    count: int = a_count(6, label="how many", help="how many in all", low=2, high=500, when=("how", ("around",)))
    around: tuple[float, float] | None = point(
        None,
        label="round",
        help="the centre; without it, the middle of the page",
        when=("how", ("around",)),
        handle="place",
    )
    upright: bool = flag(
        False, label="upright", help="copies are not turned with the circle", group="more", when=("how", ("around",))
    )


def run(document: Document, parameters: Copies, context: Context) -> Outcome:
    """What is picked is one of them and stays where it is."""
    pieces = context.pieces(document)
    rows = parameters.how == "rows"
    matrices = _in_rows(pieces, parameters) if rows else _around(document, pieces, parameters)
    if not matrices:
        raise BadRequest("One row of one column is what is there already: type how many there are to be.")
    if len(matrices) * len(pieces) > MOST:
        raise BadRequest(f"That would be more than {MOST:,} pieces: make fewer at once.")
    after = copied(document, pieces, matrices, context.key)
    total = (len(matrices) + 1) * len(pieces)
    where = f"in {parameters.rows} by {parameters.columns}" if rows else f"round a centre, {parameters.count} in all"
    title = f"{counted(len(pieces), 'piece').capitalize()} copied {where}"
    return Outcome(after, title, f"{total:,} pieces", {"pieces": total})


def _in_rows(pieces: Sequence[Piece], parameters: Copies) -> list[np.ndarray]:
    left, top, right, bottom = bounds(Path.concatenate(piece.path for piece in pieces)) or (0.0, 0.0, 0.0, 0.0)
    across, down = right - left + parameters.gap_mm, bottom - top + parameters.gap_mm
    places = [(c * across, r * down) for r in range(parameters.rows) for c in range(parameters.columns)]
    return [translation(x, y) for x, y in places[1:]]


def _around(document: Document, pieces: Sequence[Piece], parameters: Copies) -> list[np.ndarray]:
    width, height = document.frame
    centre = parameters.around or (width / 2, height / 2)
    left, top, right, bottom = bounds(Path.concatenate(piece.path for piece in pieces)) or (0.0, 0.0, 0.0, 0.0)
    middle = (left + right) / 2, (top + bottom) / 2
    made = []
    for nth in range(1, parameters.count):
        way = 2 * math.pi * nth / parameters.count
        turned = about(rotation(way), centre)
        made.append(compose(turned, about(rotation(-way), middle)) if parameters.upright else turned)
    return made


OPERATION = Operation(
    id="copies",
    version=1,
    station="build",
    title="Copies",
    parameters=Copies,
    run=run,
    sizes=("gap_mm",),
    sentence="Copy {how}[: {columns} columns,][ {rows} rows,][ {gap_mm} apart][, {count} in all,][ about {around}]",
    roles=(Role(ON, "what is copied", everything=True),),
    # Whoever names a centre, or how many in all, means copies round one.
    spellings={
        "around": ("the centre that they lie round, as x,y", lambda typed: ROUND | {"around": place_of(typed)}),
        "count": ("how many in all, round a centre", lambda typed: ROUND | {"count": number_of(typed)}),
    },
)
