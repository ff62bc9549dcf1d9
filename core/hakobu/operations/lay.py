"""lay: what lies on a sheet moved or turned, by hand or by typed values."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from ..errors import BadRequest, CannotDo
from ..model import Document
from ..model.declare import data, text
from ..model.sheet import Placement, Sheet
from ..model.units import as_mm
from ..model.words import number_of
from .operation import Context, Operation, Outcome, at_once

MOST_MM = 1e5


@dataclass(frozen=True)
class Lay:
    sheet: str = text(label="sheet", help="the sheet, by its id", group="")
    moves: Mapping[str, Any] = data(
        None,
        label="places",
        help='where items lie then: "item*copy" to x and y in mm of its centre, and its turn in degrees',
    )


def run(document: Document, parameters: Lay, context: Context) -> Outcome:
    """Sets the placements that are named; the others stay, and names of items that are gone are ignored."""
    sheet = next((sheet for sheet in document.sheets if sheet.id == parameters.sheet), None)
    if sheet is None:
        raise CannotDo("The sheet that this was laid on is no longer there: lay it again.")
    moves = {key: _place(key, value) for key, value in (parameters.moves or {}).items()}
    placements = tuple(_moved(each, moves) for each in sheet.placements)
    done = sum(one != other for one, other in zip(placements, sheet.placements, strict=True))
    if not done:
        raise CannotDo("None of these lies on the sheet any more: lay them again.")
    made = _with(document, replace(sheet, placements=placements))
    what = "What lies on it" if len(sheet.placements) == 1 else number_of(done, "item")
    where = ""
    if done == 1:
        one = next(new for new, old in zip(placements, sheet.placements, strict=True) if new != old)
        where = f"centre at {as_mm(round(one.x, 3))}, {as_mm(round(one.y, 3))}"
    return Outcome(made, f"{what} laid on {sheet.name}", where, {"moved": done})


def key_of(placement: Placement) -> str:
    """The name of a placement among those of its sheet."""
    return f"{placement.item}*{placement.copy}"


def _moved(placement: Placement, moves: Mapping[str, tuple[float, float, float]]) -> Placement:
    if key_of(placement) not in moves:
        return placement
    x, y, turn = moves[key_of(placement)]
    return replace(placement, x=x, y=y, turn=turn)


def _with(document: Document, sheet: Sheet) -> Document:
    return replace(document, sheets=tuple(sheet if each.id == sheet.id else each for each in document.sheets))


def _place(key: str, value: Any) -> tuple[float, float, float]:
    numbers = value if isinstance(value, list | tuple) else ()
    if len(numbers) != 3 or not all(isinstance(v, int | float) and abs(v) <= MOST_MM for v in numbers):
        raise BadRequest(f'Where "{key}" is to lie is three numbers: x and y in mm, and its turn in degrees.')
    x, y, turn = map(float, numbers)
    return x, y, turn


OPERATION = Operation(
    id="lay",
    version=1,
    station="sheet",
    title="Move on a sheet",
    parameters=Lay,
    run=run,
    sentence="Lay what is picked elsewhere on the sheet",
    cost=at_once,
)
