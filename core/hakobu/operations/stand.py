"""stand: pieces set onto a bar or hung from it, sunk in and welded, as letters on a frame."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, area, bounds, box_of, transform, translation
from ..geometry.boolean import union
from ..geometry.strips import parts_joined
from ..geometry.sweep_distance import room_ahead
from ..model import Document, Piece
from ..model.declare import choice, flag, length
from ..model.shapes import operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import counted, number_of
from .making import Made, parts_of, pieces_of, solid, with_made
from .operation import Context, Operation, Outcome, Role, by_pieces

#: The role of what others are set onto.
ONTO = "onto"
WAYS = {"down": (0.0, 1.0), "up": (0.0, -1.0), "left": (-1.0, 0.0), "right": (1.0, 0.0)}
SIDES = (("down", "stands on it"), ("up", "hangs from it"), ("left", "at its left"), ("right", "at its right"))
SET = ("true",)
#: A piece belongs to another one before or behind which so much of its breadth lies, and that is so much larger.
BELONGS_SHARE, SMALLER_SHARE = 0.6, 0.5


@dataclass(frozen=True)
class Stand:
    side: str = choice("down", label="how", help="which way it is moved until it meets", choices=SIDES)
    sink_mm: float = length(0.5, label="sunk", help="how far it reaches in", high=100.0, step=0.1)
    dots: bool = flag(True, label="dots joined", help="loose parts of each, such as the dot of an i, are joined to it")
    strip_mm: float = length(
        1.5, label="strip", help="how wide those joins are", low=0.05, high=100.0, when=("dots", SET), group="more"
    )
    each: bool = flag(True, label="each alone", help="each piece is moved until it meets, not all by as much")
    weld: bool = flag(True, label="welded", help="all becomes one piece with what it meets", group="more")


def run(document: Document, parameters: Stand, context: Context) -> Outcome:
    """Openings stay: only what a piece covers of them is filled."""
    onto = _onto(document, context)
    found = [(p, path) for p, path in solid(context.pieces(document)) if p not in onto]
    pieces = [piece for piece, _ in found]
    if not pieces:
        raise CannotDo("Pick what is to stand or hang there: closed shapes beside the bar.")
    way = np.array(WAYS[parameters.side])
    groups = _together(found, way)
    shapes = [_whole(together, parameters) for together in groups]
    base = union(*map(operand_of, onto)).path
    rooms = [room_ahead(shape, base, way) for shape in shapes]
    if any(room is None for room in rooms) if parameters.each else all(room is None for room in rooms):
        raise CannotDo("Nothing lies there for a piece to meet: move it before the bar, or choose another side.")
    if not parameters.each:
        rooms = [min(room for room in rooms if room is not None)] * len(rooms)
    moved = [
        transform(shape, translation(*(way * (room + parameters.sink_mm))))
        for shape, room in zip(shapes, rooms, strict=True)
        if room is not None
    ]
    title = f"{counted(len(pieces), 'piece').capitalize()} {'welded' if parameters.weld else 'set'} to a bar"
    note = f"sunk {as_mm(parameters.sink_mm)}"
    if not parameters.weld:
        paths = {}
        for together, path in zip(groups, moved, strict=True):
            paths |= {together[0].id: path, **dict.fromkeys(p.id for p in together[1:])}
        return Outcome(document.with_paths(paths), title, note, {"pieces": len(pieces)})
    whole = union(base, *moved).path
    made = [Made(path, (*onto, *pieces)) for path in parts_of(whole)]
    after = with_made(document, {onto[0].id: pieces_of(context.key, made)}, {piece.id for piece in (*onto, *pieces)})
    return Outcome(after, title, f"{note}; {number_of(len(made), 'piece')}", {"pieces": len(made)})


def _whole(together: Sequence[Piece], parameters: Stand) -> Path:
    path = union(*map(operand_of, together)).path
    return parts_joined(path, parameters.strip_mm) if parameters.dots else path


def _together(shapes: Sequence[tuple[Piece, Path]], way: np.ndarray) -> list[list[Piece]]:
    """Pieces with what belongs to them: a smaller one that lies before or behind a larger one, as the dot of an i."""
    boxes = np.array([bounds(path) for _, path in shapes]).reshape(-1, 2, 2)
    # The span across the way, and the area.
    side = 0 if way[0] == 0 else 1
    low, high = boxes[:, 0, side], boxes[:, 1, side]
    sizes = [area(path) for _, path in shapes]
    order = np.argsort(sizes, kind="stable")[::-1].tolist()
    found: dict[int, list[int]] = {}
    for k in order:
        over = [o for o in found if min(high[k], high[o]) - max(low[k], low[o]) >= BELONGS_SHARE * (high[k] - low[k])]
        host = next((o for o in over if sizes[k] <= SMALLER_SHARE * sizes[o]), None)
        if host is None:
            found[k] = [k]
        else:
            found[host].append(k)
    return [[shapes[k][0] for k in own] for _, own in sorted(found.items())]


def _onto(document: Document, context: Context) -> list[Piece]:
    """What was picked, or the piece of all in use that reaches farthest."""
    picked = [piece for piece, _ in solid(context.pieces(document, ONTO))]
    if picked:
        return picked

    def reach(piece: Piece) -> float:
        left, top, right, bottom = box_of(piece.path)
        return (right - left) * (bottom - top)

    found = [piece for piece, _ in solid(document.pieces_followed())]
    if not found:
        raise CannotDo("There is no bar or frame here: draw one first.")
    return [max(found, key=reach)]


OPERATION = Operation(
    id="stand",
    version=1,
    station="build",
    title="Set onto a bar",
    parameters=Stand,
    run=run,
    sizes=("sink_mm", "strip_mm"),
    cost=by_pieces,
    sentence="Each {side}, sunk {sink_mm}",
    roles=(
        Role(ON, "what stands or hangs", everything=True),
        Role(ONTO, "the bar or frame; without it, the largest piece", least=0),
    ),
)
