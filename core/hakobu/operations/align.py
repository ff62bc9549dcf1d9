"""align: pieces lined up with each other, with the page or with one of them, or spread evenly."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..errors import BadRequest, CannotDo
from ..geometry import Path, bounds, transform, translation
from ..geometry.boolean import union
from ..geometry.measure import centre_of_area
from ..model import Document, Piece
from ..model.declare import choice, flag
from ..model.declare import piece as a_piece
from ..model.shapes import operand_of
from ..model.step import ON
from ..model.words import counted
from .operation import Context, Operation, Outcome, Role

ACROSS = (
    ("stay", "stay"),
    ("left", "at the left"),
    ("centre", "in the middle"),
    ("right", "at the right"),
    ("spread", "spread evenly"),
)
DOWN = (
    ("stay", "stay"),
    ("top", "at the top"),
    ("middle", "in the middle"),
    ("bottom", "at the bottom"),
    ("spread", "spread evenly"),
)
BY = (("outline", "by their outlines"), ("area", "by the centre of their area"))
EACH_OTHER, PAGE = "each other", "page"


@dataclass(frozen=True)
class Align:
    x: str = choice("stay", label="across", help="where they go from left to right", choices=ACROSS)
    y: str = choice("stay", label="down", help="where they go from top to bottom", choices=DOWN)
    to: str = a_piece(
        EACH_OTHER,
        label="with",
        help='"each other", "page", or the id of a piece, which then stays',
        choices=((EACH_OTHER, "each other"), (PAGE, "the page")),
    )
    by: str = choice("outline", label="by", help="what of a piece is lined up in the middle", choices=BY, group="more")
    together: bool = flag(False, label="as one", help="all are moved as one, as they lie", group="more")


def run(document: Document, parameters: Align, context: Context) -> Outcome:
    """Groups stay together. Pieces are only moved."""
    if parameters.x == "stay" and parameters.y == "stay":
        raise BadRequest("Say where the pieces go: across, down, or both.")
    pieces = [p for p in context.pieces(document) if p.id != parameters.to]
    units = [pieces] if parameters.together else _units(document, pieces)
    frame = _frame(document, parameters, pieces)
    steps = np.array([[0.0, 0.0]] * len(units))
    for axis, word in enumerate((parameters.x, parameters.y)):
        if word != "stay":
            steps[:, axis] = _steps(units, frame, axis, word, parameters.by)
    by_piece = {piece.id: step for unit, step in zip(units, steps, strict=True) for piece in unit}
    paths = {p.id: transform(p.path, translation(*by_piece[p.id])) for p in pieces if by_piece[p.id].any()}
    if not paths:
        raise CannotDo("These pieces lie so already.")
    after = replace(
        document, pieces=tuple(replace(p, path=paths[p.id]) if p.id in paths else p for p in document.pieces)
    )
    to = {PAGE: "with the page", EACH_OTHER: "with each other"}.get(parameters.to, "with a piece")
    return Outcome(after, f"{counted(len(pieces), 'piece').capitalize()} lined up {to}", "", {"moved": len(paths)})


def _units(document: Document, pieces: Sequence[Piece]) -> list[list[Piece]]:
    """What is moved as one: a group with all of its pieces, or a piece."""
    units: dict[str, list[Piece]] = {}
    for piece in pieces:
        units.setdefault(document.outermost_group_of.get(piece.id, piece.id), []).append(piece)
    return list(units.values())


def _frame(document: Document, parameters: Align, pieces: Sequence[Piece]) -> tuple[float, float, float, float]:
    if parameters.to == EACH_OTHER:
        return _box(pieces)
    if parameters.to == PAGE:
        return 0.0, 0.0, *document.frame
    other = document.by_id.get(parameters.to)
    if other is None:
        raise CannotDo("The piece that others were lined up with is no longer there: choose another one.")
    return _box([other])


def _box(pieces: Sequence[Piece]) -> tuple[float, float, float, float]:
    box = bounds(Path.concatenate(piece.path for piece in pieces))
    if box is None:
        raise CannotDo("There is nothing to line up: pick pieces with outlines.")
    return box


def _steps(units: Sequence[Sequence[Piece]], frame, axis: int, word: str, by: str) -> np.ndarray:
    """How far each unit goes along an axis, (N,)."""
    boxes = np.array([_box(unit) for unit in units])
    low, high = boxes[:, axis], boxes[:, 2 + axis]
    if word == "spread":
        return _spread(low, high, frame[axis], frame[2 + axis])
    if word in ("left", "top"):
        return frame[axis] - low
    if word in ("right", "bottom"):
        return frame[2 + axis] - high
    middle: Callable = _centre if by == "area" else lambda unit: (_box(unit)[axis] + _box(unit)[2 + axis]) / 2
    at = np.array([middle(unit)[axis] if by == "area" else middle(unit) for unit in units])
    return (frame[axis] + frame[2 + axis]) / 2 - at


def _spread(low: np.ndarray, high: np.ndarray, first: float, last: float) -> np.ndarray:
    """The same gap between each two, the first and the last at the ends of the frame."""
    if len(low) < 3 and not (first < low.min() or last > high.max()):
        raise CannotDo("Three pieces at least are spread evenly: pick one more.")
    order = np.argsort((low + high) / 2, kind="stable")
    sizes = (high - low)[order]
    gap = (last - first - sizes.sum()) / max(len(low) - 1, 1)
    begin = first + np.concatenate([[0.0], np.cumsum(sizes[:-1] + gap)])
    steps = np.empty(len(low))
    steps[order] = begin - low[order]
    return steps


def _centre(unit: Sequence[Piece]) -> tuple[float, float]:
    """The centre of the area of pieces, or of their box where they have none."""
    found = centre_of_area(union(*map(operand_of, unit)).path)
    left, top, right, bottom = _box(unit)
    return found or ((left + right) / 2, (top + bottom) / 2)


OPERATION = Operation(
    id="align",
    version=1,
    station="build",
    title="Line up",
    parameters=Align,
    run=run,
    sentence="Line up: across {x}, down {y}, with {to}",
    roles=(Role(ON, "what is lined up", everything=True),),
)
