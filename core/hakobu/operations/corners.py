"""corners: rounded by a radius, or cut off straight."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..errors import CannotDo
from ..geometry import Path
from ..geometry.boolean import union
from ..geometry.corners import Corners as Found
from ..geometry.corners import corners_of, with_corners
from ..model import Document, Piece
from ..model.declare import choice, length, spots
from ..model.shapes import has_inside, operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import counted, number_of
from .making import with_shapes
from .operation import Context, Operation, Outcome, Role, Spot, by_pieces

WAYS = (("round", "rounded"), ("cut", "cut off"))
WHICH = (("all", "all corners"), ("outer", "corners that stick out"), ("inner", "corners that turn in"))
#: So many corners can be taken hold of.
MOST_SPOTS = 400


@dataclass(frozen=True)
class Corners:
    which: str = choice("all", label="which", help="which corners are meant", choices=WHICH)
    way: str = choice("round", label="how", help="what becomes of a corner", choices=WAYS)
    size_mm: float = length(2.0, label="by", help="the radius, or how far from the corner it is cut", low=0.02)
    without: tuple[str, ...] = spots((), label="left as they are", help="corners that stay")


def run(document: Document, parameters: Corners, context: Context) -> Outcome:
    """Where the figure does not fit beside its neighbours, a corner gets the largest that does."""
    changes: dict[str, Path] = {}
    found: list[Spot] = []
    done = smaller = left = 0
    for number, piece in enumerate(pieces := context.pieces(document)):
        context.progress(number / len(pieces), "Looking for corners")
        path = _outlines(piece)
        corners = _meant(corners_of(path), parameters.which)
        names = [f"{piece.id} {row}" for row in corners.before.tolist()]
        found += [Spot(n, (float(x), float(y))) for n, (x, y) in zip(names, corners.points, strict=True)]
        kept = np.array([name not in parameters.without for name in names], bool)
        if not kept.any():
            continue
        made = with_corners(path, corners.take(kept), parameters.size_mm, parameters.way == "cut")
        if made.done:
            changes[piece.id] = made.path
        done, smaller, left = done + made.done, smaller + made.smaller, left + made.left
    if not changes:
        raise CannotDo("There is no such corner in these pieces.")
    notes = [f"in {number_of(len(changes), 'piece')}"]
    if smaller:
        notes.append(f"{number_of(smaller, 'corner')} by less, since there is no room for more")
    if left:
        notes.append(f"{number_of(left, 'corner')} left as they are")
    title = f"{counted(done, 'corner').capitalize()} {dict(WAYS)[parameters.way]} by {as_mm(parameters.size_mm)}"
    statistics = {"corners": done, "smaller": smaller, "left": left}
    return Outcome(with_shapes(document, changes), title, "; ".join(notes), statistics, spots=tuple(found[:MOST_SPOTS]))


def _outlines(piece: Piece) -> Path:
    """Outer outlines clockwise, so that it can be told which corners stick out; lines as they are."""
    return union(operand_of(piece)).path if has_inside(piece) else piece.path


def _meant(corners: Found, which: str) -> Found:
    if which == "all":
        return corners
    return corners.take(corners.turn > 0 if which == "outer" else corners.turn < 0)


OPERATION = Operation(
    id="corners",
    version=1,
    station="build",
    title="Round corners",
    parameters=Corners,
    run=run,
    sizes=("size_mm",),
    cost=by_pieces,
    sentence="Have {which} {way} by {size_mm}",
    roles=(Role(ON, "whose corners are meant", everything=True),),
)
