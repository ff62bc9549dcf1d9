"""holes: filled, dropped or kept, all or those below a size."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, signed_areas
from ..geometry.boolean import union
from ..geometry.inner import largest_circle
from ..geometry.nesting import parents_of
from ..model import Document, Piece
from ..model.declare import area, choice, length
from ..model.shapes import has_inside, operand_of
from ..model.step import ON
from ..model.words import counted, number_of
from .making import with_shapes
from .operation import Context, Operation, Outcome, Role, by_pieces

ACTIONS = (("fill", "filled"), ("drop", "dropped"), ("keep", "kept, all others filled"))


@dataclass(frozen=True)
class Holes:
    action: str = choice("fill", label="what happens", help="what becomes of the holes that are meant", choices=ACTIONS)
    below_mm2: float | None = area(None, label="below", help="only holes of a smaller area are meant")
    narrower_mm: float | None = length(None, label="narrower than", help="only holes that no wider circle fits into")


def run(document: Document, parameters: Holes, context: Context) -> Outcome:
    """A hole that is filled, or whose outline is dropped, goes with the islands in it."""
    changes: dict[str, Path] = {}
    filled = 0
    for piece in context.pieces(document):
        if has_inside(piece) and (made := _filled(piece, parameters)):
            path, count = made
            changes[piece.id] = path
            filled += count
    if not changes:
        raise CannotDo("There is no such hole in the picked pieces.")
    title = f"{counted(filled, 'hole').capitalize()} filled"
    note = f"in {number_of(len(changes), 'piece')}"
    return Outcome(with_shapes(document, changes), title, note, {"holes": filled, "pieces": len(changes)})


def _filled(piece: Piece, parameters: Holes) -> tuple[Path, int] | None:
    """The path of a piece without the holes that are to go, and how many those are; None where there are none."""
    path = union(operand_of(piece)).path
    areas, parent = signed_areas(path), parents_of(path)
    meant = np.array([areas[k] < 0 and _is_meant(path, k, -areas[k], parameters) for k in range(len(path))], bool)
    gone = (areas < 0) & ~meant if parameters.action == "keep" else meant
    count = int(gone.sum())
    if not count:
        return None
    # What lies in a hole that goes, however deep, goes with it.
    under = gone.copy()
    for k in range(len(path)):
        at = parent[k]
        while at >= 0 and not under[k]:
            under[k], at = gone[at], parent[at]
    return path.take(np.flatnonzero(~under)), count


def _is_meant(path: Path, outline: int, area_mm2: float, parameters: Holes) -> bool:
    if parameters.below_mm2 is not None and area_mm2 >= parameters.below_mm2:
        return False
    if parameters.narrower_mm is None:
        return True
    circle = largest_circle(path.outline(outline).reversed())
    return circle is None or 2 * circle.radius < parameters.narrower_mm


OPERATION = Operation(
    id="holes",
    version=1,
    station="build",
    title="Holes",
    parameters=Holes,
    run=run,
    sizes=("narrower_mm",),
    cost=by_pieces,
    sentence="Holes are {action}: those below {below_mm2} and narrower than {narrower_mm}",
    roles=(Role(ON, "the pieces whose holes are meant", everything=True),),
)
