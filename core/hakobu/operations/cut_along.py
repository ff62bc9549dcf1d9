"""cut-along: shapes cut by a line that is drawn, or what lies within a drawn loop taken away."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, box_of
from ..model import Document, Piece
from ..model.declare import choice, places
from ..model.step import ON
from ..model.words import counted, number_of
from .making import Made, part_in, pieces_of, with_made, with_shapes
from .operation import Context, Operation, Outcome, Role

WAYS = (
    ("cut", "cut along it"),
    ("inside", "take away what lies in it"),
    ("outside", "take away what lies outside"),
)
#: The line goes on straight at both ends, so many times the size of the design.
REACH = 4.0


@dataclass(frozen=True)
class CutAlong:
    line: tuple[tuple[float, float], ...] = places(
        label="the line", help="its places, in order; a loop goes back to the first", group="sentence"
    )
    way: str = choice("cut", label="what happens", help="to shapes and lines under it", choices=WAYS)


def run(document: Document, parameters: CutAlong, context: Context) -> Outcome:
    """A cut goes on straight beyond the ends of the line."""
    points = np.array(parameters.line, float).reshape(-1, 2)
    loop = parameters.way != "cut"
    if len(points) < (3 if loop else 2):
        raise CannotDo(f"Set {'three places' if loop else 'two places'} on the work at least.")
    pieces = context.pieces(document)
    shape = Path.from_points(points, closed=True) if loop else _one_side(points, pieces)
    made: dict[str, list[Piece]] = {}
    changes: dict[str, Path | None] = {}
    for piece in pieces:
        inside, outside = _parts(piece, shape)
        if not len(inside) or (parameters.way == "cut" and not len(outside)):
            if parameters.way == "outside":
                changes[piece.id] = None
            continue
        if parameters.way == "cut":
            made[piece.id] = pieces_of(context.key, [Made(part, (piece,)) for part in (inside, outside)])
        else:
            left = outside if parameters.way == "inside" else inside
            changes[piece.id] = left if len(left) else None
    if not made and not changes:
        raise CannotDo("The line meets none of these pieces: set its places across them.")
    kept = {identity: path for identity, path in changes.items() if path is not None}
    after = with_shapes(document, kept)
    after = with_made(after, made, made).with_paths({i: None for i, path in changes.items() if path is None})
    count = len(made) or len(changes)
    title = f"{counted(count, 'piece').capitalize()} {'cut along a line' if not loop else 'cut by a loop'}"
    total = sum(map(len, made.values()))
    return Outcome(after, title, number_of(total, "piece") if made else "", {"pieces": count})


def _one_side(points: np.ndarray, pieces: list[Piece]) -> Path:
    """All that lies on one side of a line, as far as pieces reach."""
    left, top, right, bottom = box_of(Path.concatenate(piece.path for piece in pieces))
    corners = np.array([(left, top), (right, bottom), *points])
    far = REACH * float(np.ptp(corners, axis=0).max() + 1.0)
    first, last = points[0] - points[1], points[-1] - points[-2]
    size = min(np.hypot(*first), np.hypot(*last))
    if size < 1e-9:
        raise CannotDo("Two places of the line lie on each other: move them apart.")
    start, end = points[0] + first / np.hypot(*first) * far, points[-1] + last / np.hypot(*last) * far
    middle = corners.mean(axis=0)
    # Round one side, far out: from the end back to the start by a circle about the middle.
    a, b = (np.arctan2(*(place - middle)[::-1]) for place in (end, start))
    turn = (b - a) % (2 * np.pi)
    angles = a + np.linspace(0, turn, 9)[1:-1]
    reach = 2 * far
    rim = middle + np.column_stack([np.cos(angles), np.sin(angles)]) * reach
    return Path.from_points(np.vstack([start, points, end, rim]), closed=True)


def _parts(piece: Piece, shape: Path) -> tuple[Path, Path]:
    """What of a piece lies in a shape, and what outside."""
    return part_in(piece, shape), part_in(piece, shape, outside=True)


OPERATION = Operation(
    id="cut-along",
    version=1,
    station="build",
    title="Cut along a line",
    parameters=CutAlong,
    run=run,
    sentence="Draw a line on the work and {way}",
    roles=(Role(ON, "what is cut", everything=True),),
)
