"""join: loose parts hung on what they belong to by strips, so that all of it is one piece."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..errors import CannotDo, TooMuch
from ..geometry import Path
from ..geometry.boolean import Combined, union
from ..geometry.nesting import shapes_of
from ..geometry.strips import flowing, joints_of
from ..model import Document, Piece
from ..model.declare import choice, length, spots
from ..model.shapes import operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import counted, number_of
from .making import Made, pieces_of, solid, with_made
from .operation import Context, Operation, Outcome, Role, Spot, by_pieces

#: The role of what all else is joined to.
TO = "to"
WAYS = (("straight", "straight"), ("flowing", "flowing into both"))
#: So many parts are joined in one step.
MOST_PARTS = 2000


@dataclass(frozen=True)
class Join:
    width_mm: float = length(1.5, label="strip", help="how wide a strip is", low=0.05, high=100.0, step=0.1)
    way: str = choice("straight", label="strips", help="how they meet what they join", choices=WAYS)
    within_mm: float | None = length(
        None, label="not farther than", help="what lies farther apart stays loose", group="more"
    )
    without: tuple[str, ...] = spots((), label="left out", help="strips that are not made")


def run(document: Document, parameters: Join, context: Context) -> Outcome:
    """Each part is joined where it is nearest, straight down where one stands over the other. What hangs together is
    one piece, which looks like the lowest of those that it is of."""
    held = [piece for piece, _ in solid(context.pieces(document, TO))]
    pieces = [*held, *(p for p, _ in solid(context.pieces(document)) if p not in held)]
    if not pieces:
        raise CannotDo("Lines that do not close cannot be joined so: pick closed shapes.")
    made = union(*map(operand_of, pieces))
    parts = [made.path.take(rows) for rows in shapes_of(made.path)]
    if len(parts) > MOST_PARTS:
        raise TooMuch(f"These are {len(parts):,} parts: join no more than {MOST_PARTS:,} at once.")
    if len(parts) < 2:
        raise CannotDo("It hangs together already: there is nothing to join.")
    own = _held_parts(made, parts, len(held))
    joints = joints_of(parts, parameters.width_mm, own)
    spots_of = [Spot(f"{_place(joint.at)}", joint.at) for joint in joints]
    wanted = [
        joint
        for joint, spot in zip(joints, spots_of, strict=True)
        if spot.id not in parameters.without and (parameters.within_mm is None or joint.gap_mm <= parameters.within_mm)
    ]
    if not wanted:
        raise CannotDo("All parts lie farther apart than that: allow more.")
    hung = union(*map(operand_of, pieces), *(joint.strip for joint in wanted))
    strips = union(*(joint.strip for joint in wanted)).path if parameters.way == "flowing" else None
    after, count = _placed(document, pieces, hung, strips, parameters.width_mm, context.key)
    farthest = max(joint.gap_mm for joint in wanted)
    note = f"{number_of(count, 'piece')}; the longest bridges {as_mm(round(farthest, 2))}"
    title = f"{counted(len(wanted), 'strip').capitalize()} of {as_mm(parameters.width_mm)}"
    statistics = {"strips": len(wanted), "pieces": count}
    return Outcome(after, title, note, statistics, spots=tuple(spots_of))


def _held_parts(made, parts: list[Path], held: int) -> list[int]:
    """The numbers of the parts that were picked to be joined to."""
    if not held:
        return []
    starts, found = made.path.start, []
    for number, rows in enumerate(shapes_of(made.path)):
        if any((made.operand[starts[row] : starts[row + 1]] < held).any() for row in rows):
            found.append(number)
    return found


def _place(at: tuple[float, float]) -> str:
    return f"{at[0]:.1f},{at[1]:.1f}"


def _placed(
    document: Document, pieces: list[Piece], hung: Combined, strips: Path | None, width_mm: float, key: str
) -> tuple[Document, int]:
    """Each shape as a piece in place of the lowest whose outlines it has."""
    order = {piece.id: n for n, piece in enumerate(document.pieces)}
    starts, made = hung.path.start, []
    for rows in shapes_of(hung.path):
        of = np.unique(np.concatenate([hung.operand[starts[row] : starts[row + 1]] for row in rows]))
        parents = [pieces[k] for k in of.tolist() if k < len(pieces)] or pieces
        path = hung.path.take(rows)
        path = path if strips is None else flowing(path, strips, width_mm)
        made.append(Made(path, tuple(sorted(parents, key=lambda p: order[p.id]))))
    by_place: dict[str, list[Piece]] = {}
    for part, piece in zip(made, pieces_of(key, made), strict=True):
        by_place.setdefault(part.parents[0].id, []).append(piece)
    return with_made(document, by_place, {piece.id for piece in pieces}), len(made)


OPERATION = Operation(
    id="join",
    version=1,
    station="build",
    title="Join loose parts",
    parameters=Join,
    run=run,
    sizes=("width_mm",),
    cost=by_pieces,
    sentence="Join loose parts by strips {width_mm} wide, {way}",
    roles=(Role(ON, "what is joined", everything=True), Role(TO, "what it is joined to", least=0)),
)
