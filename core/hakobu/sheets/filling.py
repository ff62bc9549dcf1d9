"""Filling sheets: what lies where, kept as it lies in the design or packed, with copies."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from ..geometry import Path, box_of
from ..model import Document
from ..model.sheet import Placement, Sheet
from .items import items_of
from .packing import Wish, pack
from .packing.shapes import Shape, shape_of
from .stock import usable

#: More copies than this are never meant.
MOST_COPIES = 1000
#: "As many as fit" tries so many more of each at a time.
EACH_TIME = 25


@dataclass(frozen=True)
class Filled:
    """sheet: with its placements. left: the items that found no room, with how many copies of each."""

    sheet: Sheet
    left: tuple[tuple[str, int], ...] = ()


def as_placed(document: Document, sheet: Sheet) -> Filled:
    """All pieces of the sheet kept together as they lie in the design: where they were if that lies on the stock, else
    in its middle."""
    found = items_of(document, sheet.layers, together=True)
    if not found:
        return Filled(sheet)
    item = found[0]
    x, y = item.centre
    left, top, right, bottom = box_of(usable(sheet))
    if item.box[0] < left or item.box[1] < top or item.box[2] > right or item.box[3] > bottom:
        x, y = (left + right) / 2, (top + bottom) / 2
    return Filled(replace(sheet, placements=(Placement(item.id, x, y),)))


def packed(
    document: Document,
    sheet: Sheet,
    wish: Wish,
    copies: int,
    fill: bool,
    progress: Callable[[float, float], None] = lambda share, used: None,
) -> Filled:
    """The items of a sheet close together; copies of each, or with `fill` as many sets as fit."""
    items = items_of(document, sheet.layers)
    if not items:
        return Filled(sheet)
    room = usable(sheet)
    shapes = [shape_of(item) for item in items]
    if fill:
        copies = _sets_that_fit(shapes, room, wish)
    wanted = [item for item in items for _ in range(copies)]
    made = pack(room, [shape for shape in shapes for _ in range(copies)], wish, progress)
    placements, left = [], dict.fromkeys((item.id for item in items), 0)
    number = dict.fromkeys((item.id for item in items), 0)
    for item, place in zip(wanted, made.places, strict=True):
        number[item.id] += 1
        if place is None:
            left[item.id] += 1
        else:
            x, y, degrees = place
            placements.append(Placement(item.id, x, y, degrees, number[item.id]))
    return Filled(replace(sheet, placements=tuple(placements)), tuple((k, n) for k, n in left.items() if n))


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
