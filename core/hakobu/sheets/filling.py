"""Filling sheets: what lies where, kept as it lies in the design or packed, with copies."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from math import ceil

from ..geometry import Path, area, box_of
from ..model import Document
from ..model.sheet import Placement, Sheet
from .grain import turns_on
from .items import items_of
from .packing import Wish, pack
from .packing.raster import Place
from .packing.shapes import Shape, shape_of
from .stock import usable

#: More copies than this are never meant.
MOST_COPIES = 1000
#: "As many as fit" tries so many more of each at a time.
EACH_TIME = 25
#: More sheets than this are never meant; and the share of one that packing usually uses.
MOST_SHEETS, FILL = 100, 0.7


def as_placed(document: Document, sheet: Sheet) -> Sheet:
    """All pieces of the sheet kept together as they lie in the design: where they were if that lies on the stock, else
    in its middle."""
    found = items_of(document, sheet.layers, together=True)
    if not found:
        return sheet
    item = found[0]
    x, y = item.centre
    left, top, right, bottom = box_of(usable(sheet))
    if item.box[0] < left or item.box[1] < top or item.box[2] > right or item.box[3] > bottom:
        x, y = (left + right) / 2, (top + bottom) / 2
    return replace(sheet, placements=(Placement(item.id, x, y),))


def packed(
    document: Document,
    sheet_of: Callable[[int], Sheet],
    wish: Wish,
    copies: int,
    fill: bool,
    progress: Callable[[float, float, list[Sheet]], bool] = lambda share, used, sheets: False,
) -> tuple[list[Sheet], int]:
    """The items of some layers close together; copies of each, or with `fill` as many sets as fit on one sheet.
    sheet_of: the empty sheet of a number from 1; another one is taken while items find no room. The sheets, and how
    many items are too large for any. progress(share of the work, share of a sheet's length, the sheets so far): True
    when these are enough."""
    first = sheet_of(1)
    items = items_of(document, first.layers)
    shapes = {item.id: shape_of(item) for item in items}
    wish = replace(wish, turns=turns_on(first, wish.turns))
    if fill and items:
        copies = _sets_that_fit(list(shapes.values()), usable(first), wish)
    todo = [(item.id, number) for item in items for number in range(1, copies + 1)]
    if not todo:
        return [first], 0
    # The time to search is for all sheets, about.
    covered = copies * sum(shape.area_mm2 for shape in shapes.values())
    sheets = max(ceil(covered / (FILL * abs(float(area(usable(first)))))), 1)
    wish = replace(wish, seconds=wish.seconds / sheets)
    many, made = len(todo), list[Sheet]()
    for nth in range(1, MOST_SHEETS + 1):
        sheet = sheet_of(nth)

        def told(
            share: float,
            used: float,
            places: Sequence[Place | None] | None,
            sheet: Sheet = sheet,
            todo: list[tuple[str, int]] = todo,
        ) -> bool:
            so_far = [*made, replace(sheet, placements=_placements(todo, places))] if places else made
            return progress(1 - len(todo) * (1 - share) / many, used, so_far)

        places = pack(usable(sheet), [shapes[identity] for identity, _ in todo], wish, told).places
        put = _placements(todo, places)
        todo = [each for each, place in zip(todo, places, strict=True) if place is None]
        if put or not made:
            made.append(replace(sheet, placements=put))
        # What found no room on an offcut is tried on a whole sheet.
        if not todo or not (put or sheet.outline):
            break
    return made, len(todo)


def _placements(items: Sequence[tuple[str, int]], places: Sequence[Place | None]) -> tuple[Placement, ...]:
    return tuple(
        Placement(identity, *place, number)
        for (identity, number), place in zip(items, places, strict=True)
        if place is not None
    )


def _sets_that_fit(shapes: Sequence[Shape], room: Path, wish: Wish) -> int:
    """How many times all items find room together, by the quick way: the search is given no more than that."""
    quick = replace(wish, seconds=0.0)
    most = max(MOST_COPIES // len(shapes), 1)
    count = 0
    while count < most:
        tried = min(count + EACH_TIME, most)
        made = pack(room, [shape for shape in shapes for _ in range(tried)], quick)
        # Copies of an item stand one after the other.
        put = [sum(place is not None for place in made.places[n * tried : (n + 1) * tried]) for n in range(len(shapes))]
        count = min(put)
        if count < tried:
            break
    return max(_largest_set(room, shapes, quick, count), 1)


def _largest_set(room: Path, shapes: Sequence[Shape], wish: Wish, most: int) -> int:
    """Of what fits when more are tried, some are large only because small ones lie elsewhere: fewer are tried again."""
    for count in range(most + 1, most - 3, -1):
        if count > 0 and None not in pack(room, [shape for shape in shapes for _ in range(count)], wish).places:
            return count
    return max(most - 3, 1)
