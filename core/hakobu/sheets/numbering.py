"""Numbers on a sheet: of each item, within it or beside it, readable from the side that is cut."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from ..geometry import Box, Path, box_of, primitives, rotation, transform
from ..geometry.boolean import difference, intersection
from ..geometry.inner import Circle, largest_circle
from ..lettering.text_path import number_path
from ..model.sheet import Placement, Sheet
from .items import Item
from .stock import usable

WITHIN, BESIDE = "within", "beside"
#: What stays free between a number and an outline, and the smallest that is read, in mm (common practice).
CLEAR_MM, SMALLEST_MM = 0.8, 1.5


def numbers_of(sheet: Sheet, on: Sequence[tuple[Item, Placement]], covered: Sequence[Path]) -> tuple[Path, list[int]]:
    """The numbers of a sheet as lines, as it looks from the front, and which items have no room for theirs. on: what
    lies on it, and where; covered: what each of those covers."""
    if not sheet.numbers or not covered:
        return Path.concatenate([]), []
    made, without, circles = [], [], _circles(on, covered) if sheet.numbers == WITHIN else []
    taken = [box_of(path) for path in covered]
    for n in range(len(covered)):
        number = sheet.first_number + n
        place = _within(circles[n], number, sheet) if circles else _beside(n, covered, taken, number, sheet)
        if place is None:
            without.append(n)
            continue
        made.append(place)
        if sheet.numbers == BESIDE:
            taken.append(box_of(place))
    return Path.concatenate(made), without


def _circles(on: Sequence[tuple[Item, Placement]], covered: Sequence[Path]) -> list[Circle | None]:
    """The largest circle in each item at its place; of copies it is looked for once."""
    known: dict[str, Circle | None] = {}
    found = []
    for (item, place), path in zip(on, covered, strict=True):
        at, turned = np.array([place.x, place.y]), rotation(np.radians(place.turn))[:, :2]
        if item.id not in known:
            circle = largest_circle(path)
            # About the item's centre, as it lies in the design: a turn is undone by its transpose.
            known[item.id] = circle and replace(circle, centre=turned.T @ (circle.centre - at))
        own = known[item.id]
        found.append(own and replace(own, centre=turned @ own.centre + at))
    return found


def _within(circle: Circle | None, number: int, sheet: Sheet) -> Path | None:
    """As large as is wanted, or as the circle has room for."""
    if circle is None:
        return None
    width, height = _size_of(number, 1.0)
    most = (circle.radius - CLEAR_MM) / np.hypot(width / 2, height / 2)
    high = min(sheet.number_mm, most)
    return _written(number, (circle.centre[0], circle.centre[1]), high, sheet) if high >= SMALLEST_MM else None


def _beside(n: int, covered: Sequence[Path], taken: Sequence[Box], number: int, sheet: Sheet) -> Path | None:
    """Below, above, right or left of the item, where nothing else lies and the stock reaches."""
    width, height = _size_of(number, sheet.number_mm)
    left, top, right, bottom = taken[n]
    across, down = width / 2 + CLEAR_MM, height / 2 + CLEAR_MM
    x, y = (left + right) / 2, (top + bottom) / 2
    for at in ((x, bottom + down), (x, top - down), (right + across, y), (left - across, y)):
        room = (at[0] - across, at[1] - down, at[0] + across, at[1] + down)
        near = [k for k, box in enumerate(taken) if _meet(room, box)]
        rectangle = primitives.rectangle(room[0], room[1], room[2] - room[0], room[3] - room[1])
        # Of numbers their boxes are taken, of items what they cover.
        blocked = any(k >= len(covered) or len(intersection(rectangle, covered[k]).path) for k in near)
        if not blocked and not len(difference(rectangle, usable(sheet)).path):
            return _written(number, at, sheet.number_mm, sheet)
    return None


def _meet(one: Box, other: Box) -> bool:
    return one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]


def _size_of(number: int, high: float) -> tuple[float, float]:
    left, top, right, bottom = box_of(number_path(number, (0.0, 0.0), high))
    return right - left, bottom - top


def _written(number: int, at: tuple[float, float], high: float, sheet: Sheet) -> Path:
    """The number in its place; on a sheet that is cut from the back it is read from there."""
    path = number_path(number, at, high)
    return transform(path, np.array([[-1.0, 0.0, 2 * at[0]], [0.0, 1.0, 0.0]])) if sheet.mirrored else path
