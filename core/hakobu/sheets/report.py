"""What is reported of a sheet: the share of material used, the length of the cut, and what is wrong on it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..geometry import Box, Path, area, bounds, box_of, length
from ..model import Document, Machine
from ..model.sheet import Placement, Sheet
from ..model.units import as_mm
from ..model.words import number_of
from .distance import Near, nearest_pairs, nearest_to_rim
from .grain import runs_with
from .items import WHOLE, Item, items_of
from .numbering import numbers_of
from .packing.shapes import without_holes
from .placed import covered, items_on
from .stock import outline_of
from .weeding import weeding_of

#: Distances are true within this, in mm.
EXACT_MM = 0.01


@dataclass(frozen=True)
class Problem:
    """What is wrong: a sentence, how far, in mm, and a place on the sheet."""

    kind: str
    sentence: str
    by_mm: float
    place: tuple[float, float] | None = None


@dataclass(frozen=True)
class SheetReport:
    """used: the share of the stock that pieces cover, holes with them. line_mm: the length of what the tool follows.
    left: items that lie on no place of it. offcut_mm: width and height of the largest strip across or down that stays
    whole. nearest_mm: the least distance between items, None of one alone.
    box: of all that lies on it. numbers: of the items, as lines."""

    pieces: int
    items: int
    used: float
    line_mm: float
    left: int
    offcut_mm: tuple[float, float]
    nearest_mm: float | None
    box: Box | None
    numbers: Path
    problems: tuple[Problem, ...]


def report_of(document: Document, sheet: Sheet, machine: Machine | None = None) -> SheetReport:
    """Distances are exact within EXACT_MM."""
    on = items_on(document, sheet)
    shapes = covered(on)
    rim = outline_of(sheet)
    stock = abs(float(area(rim)))
    used = sum(abs(float(area(without_holes(shape)))) for shape in shapes)
    pairs = nearest_pairs(shapes, max(sheet.spacing_mm, 1.0) + 5.0) if len(shapes) > 1 else []
    numbers, unnumbered = numbers_of(sheet, on, shapes)
    left = _items_left(document, sheet)
    problems = [
        *_near_each_other(pairs, sheet),
        *_near_the_rim(shapes, rim, sheet),
        *_out_of_reach(shapes, sheet, machine),
        *_against_the_grain(on, sheet),
        *_without_number(unnumbered, shapes),
        *_left_out(len(left)),
    ]
    return SheetReport(
        pieces=sum(len(item.pieces) for item, _ in on),
        items=len(on),
        used=used / stock if stock else 0.0,
        line_mm=float(sum(length(item.path) for item, _ in on) + length(weeding_of(sheet, shapes)) + length(numbers)),
        left=len(left),
        offcut_mm=_offcut(shapes, sheet),
        nearest_mm=min((near.mm for near in pairs), default=None),
        box=bounds(Path.concatenate(shapes)),
        numbers=numbers,
        problems=tuple(problems),
    )


def _near_each_other(pairs: Sequence[Near], sheet: Sheet) -> list[Problem]:
    near = [pair for pair in pairs if pair.mm < sheet.spacing_mm - EXACT_MM]
    if not near:
        return []
    worst = min(near, key=lambda pair: pair.mm)
    what = "touch or lie on each other" if worst.mm <= EXACT_MM else f"are only {as_mm(round(worst.mm, 2))} apart"
    more = f"; {number_of(len(near), 'place')} are nearer than {as_mm(sheet.spacing_mm)}" if len(near) > 1 else ""
    return [Problem("near", f"Two pieces {what}{more}.", sheet.spacing_mm - worst.mm, worst.ends[0])]


def _near_the_rim(shapes: list[Path], rim: Path, sheet: Sheet) -> list[Problem]:
    near = [each for each in nearest_to_rim(shapes, rim) if each.mm < sheet.margin_mm - EXACT_MM]
    if not near:
        return []
    worst = min(near, key=lambda each: each.mm)
    some = f"; {number_of(len(near), 'item')} in all" if len(near) > 1 else ""
    if worst.mm < 0:
        sentence = f"Reaches {as_mm(round(-worst.mm, 2))} beyond the rim of the sheet{some}."
        return [Problem("off", sentence, -worst.mm, worst.ends[0])]
    sentence = (
        f"Comes within {as_mm(round(worst.mm, 2))} of the rim, where {as_mm(sheet.margin_mm)} is to stay free{some}."
    )
    return [Problem("rim", sentence, sheet.margin_mm - worst.mm, worst.ends[0])]


def _out_of_reach(shapes: list[Path], sheet: Sheet, machine: Machine | None) -> list[Problem]:
    if machine is None or not shapes:
        return []
    left, top, right, bottom = box_of(Path.concatenate(shapes))
    if sheet.mirrored:
        left, right = sheet.width_mm - right, sheet.width_mm - left
    x, y = sheet.at[0] - machine.reach_left_mm, sheet.at[1] - machine.reach_top_mm
    beyond = {
        "left": -(left + x),
        "top": -(top + y),
        "right": right + x - machine.reach_width_mm,
        "bottom": bottom + y - machine.reach_height_mm,
    }
    side, far = max(beyond.items(), key=lambda each: each[1])
    if far <= EXACT_MM:
        return []
    place = {"left": (left, top), "top": (left, top), "right": (right, top), "bottom": (left, bottom)}[side]
    return [
        Problem("reach", f"{as_mm(round(far, 1))} beyond the reach of the {machine.name}, at the {side}.", far, place)
    ]


def _items_left(document: Document, sheet: Sheet) -> list[Item]:
    """The items that lie on none of the sheets of these layers; told of the last of those."""
    same = [each for each in document.sheets if each.layers == sheet.layers] or [sheet]
    placed = {placement.item for each in same for placement in each.placements}
    if WHOLE in placed or same[-1].id != sheet.id:
        return []
    return [item for item in items_of(document, sheet.layers) if item.id not in placed]


def _against_the_grain(on: Sequence[tuple[Item, Placement]], sheet: Sheet) -> list[Problem]:
    wrong = [place for _, place in on if not runs_with(sheet, place.turn)]
    if not wrong:
        return []
    what = number_of(len(wrong), "item lies", "items lie")
    way = "across the sheet" if sheet.grain_across else "up the sheet"
    return [Problem("grain", f"{what} against the grain, which runs {way}.", 0.0, (wrong[0].x, wrong[0].y))]


def _without_number(without: Sequence[int], shapes: Sequence[Path]) -> list[Problem]:
    if not without:
        return []
    left, top, right, bottom = box_of(shapes[without[0]])
    what = number_of(len(without), "item has", "items have")
    return [Problem("number", f"{what} no room for a number.", 0.0, ((left + right) / 2, (top + bottom) / 2))]


def _left_out(count: int) -> list[Problem]:
    if not count:
        return []
    what = number_of(count, "piece or group is", "pieces or groups are")
    return [Problem("left", f"{what} not laid on it: too large for it, or newer than it.", 0.0)]


def _offcut(shapes: list[Path], sheet: Sheet) -> tuple[float, float]:
    """What is left right of all, or below all, whichever is larger."""
    if not shapes:
        return sheet.width_mm, sheet.height_mm
    _, _, right, bottom = box_of(Path.concatenate(shapes))
    beside = (max(sheet.width_mm - right, 0.0), sheet.height_mm)
    below = (sheet.width_mm, max(sheet.height_mm - bottom, 0.0))
    return max(beside, below, key=lambda size: size[0] * size[1])
