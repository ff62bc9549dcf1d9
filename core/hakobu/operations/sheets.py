"""sheets: one sheet for each material and colour, its pieces kept as they lie or packed close together."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from ..errors import BadRequest
from ..model import Document, Layer
from ..model.declare import choice, count, data, flag, length, number
from ..model.materials import MOST_SHEET_MM
from ..model.sheet import Sheet
from ..model.targets import MOST_OUTLINE
from ..model.units import as_mm, size_text
from ..model.words import number_of
from ..sheets.filling import MOST_COPIES, as_placed, packed
from ..sheets.packing import Wish
from ..sheets.proposal import Stock, layer_sets, proposed_sheet
from ..sheets.stock import outline_from
from .lay import key_of
from .operation import Context, Operation, Outcome, SourceCost, by_pieces

PLACED, PACKED = "placed", "packed"
BOXED = ("weed_box", ("all", "each"))
ONLY_PACKED = ("arrange", (PACKED,))
NUMBERED = ("numbers", ("within", "beside"))
#: What may be typed of a sheet by itself, and what it has to be.
OWN: Mapping[str, type | tuple[type, ...]] = {
    "width_mm": (int, float),
    "height_mm": (int, float),
    "margin_mm": (int, float),
    "outline": str,
    "at": (list, tuple),
    "mirrored": bool,
    "grain_across": bool,
    "machine": str,
}


@dataclass(frozen=True)
class Sheets:
    arrange: str = choice(
        PLACED,
        label="arranged",
        help="kept together as they lie in the design, or close together to save material",
        choices=[(PLACED, "as they lie"), (PACKED, "packed")],
    )
    spacing_mm: float = length(2.0, label="apart", help="what stays free between pieces", high=200, when=ONLY_PACKED)
    margin_mm: float = length(5.0, label="margin", help="what stays free along the rim of a sheet", high=500)
    copies: int = count(1, label="of each", help="copies", low=1, high=MOST_COPIES, when=ONLY_PACKED)
    fill: bool = flag(False, label="as many as fit", help="copies until the sheet is full", when=ONLY_PACKED)
    turns: str = choice(
        "quarter",
        label="turned",
        help="how pieces may be turned: along the grain only, or any way",
        choices=[
            ("fixed", "not at all"),
            ("half", "by half a turn"),
            ("quarter", "by quarter turns"),
            ("free", "any way"),
        ],
        when=ONLY_PACKED,
        group="more",
    )
    in_holes: bool = flag(
        False, label="in holes of others", help="small pieces may lie there", when=ONLY_PACKED, group="more"
    )
    weed_box: str = choice(
        "",
        label="weed box",
        help="a box that is cut round the work or round each piece, for the waste to come off in parts",
        choices=[("", "none"), ("all", "round the work"), ("each", "round each piece")],
        group="more",
    )
    weed_mm: float = length(
        3.0, label="weed box out", help="how far from the pieces", low=0.5, high=200, when=BOXED, group="more"
    )
    weed_lines_mm: float = length(
        0.0, label="weed lines every", help="lines through large waste; none at 0", high=500, when=BOXED, group="more"
    )
    seconds: float = number(
        0.0, label="search", help="seconds to look for a closer packing", unit="s", low=0, high=240, when=ONLY_PACKED,
        group="more",
    )  # fmt: skip
    width_mm: float | None = length(
        None, label="sheets wide", help="without it, as the material is sold", low=1, high=MOST_SHEET_MM, group="more"
    )
    height_mm: float | None = length(
        None, label="sheets high", help="without it, as the material is sold", low=1, high=MOST_SHEET_MM, group="more"
    )
    numbers: str = choice(
        "",
        label="numbers",
        help="a number for each piece or group, readable from the side that is cut",
        choices=[("", "none"), ("within", "within pieces"), ("beside", "beside pieces")],
        when=ONLY_PACKED,
        group="more",
    )
    number_mm: float = length(
        4.0,
        label="numbers high",
        help="less where there is less room",
        low=1.5,
        high=100,
        when=NUMBERED,
        group="more",
    )
    number_by: str = choice(
        "draw",
        label="numbers are",
        help="what the tool does with them",
        choices=[("draw", "drawn"), ("score", "scored"), ("cut", "cut")],
        when=NUMBERED,
        group="more",
    )
    printed: str = choice(
        "",
        label="prints",
        help="where pictures that are printed end",
        choices=[("", "as they are"), ("outlines", "end at outlines"), ("bleed", "go beyond outlines")],
        group="more",
    )
    bleed_mm: float = length(
        2.0, label="bleed", help="how far beyond", low=0.1, high=50, when=("printed", ("bleed",)), group="more"
    )
    own: Mapping[str, Any] | None = data(
        None, label="single sheets", help="what is otherwise of a sheet, by the id of its first layer"
    )


def run(document: Document, parameters: Sheets, context: Context) -> Outcome:
    """Sheets that were there before are made anew. A packing is proven by its distances, not by how it was found."""
    stock = _stock(parameters)
    sets = layer_sets(document, context.conditions)
    sheets: list[Sheet] = []
    left = 0
    for at, layers in enumerate(sets):

        def sheet_of(nth: int, layers: list[Layer] = layers) -> Sheet:
            return proposed_sheet(document, layers, context.conditions, stock, context.key, nth)

        def progress(
            share: float, used: float, so_far: list[Sheet], at: int = at, before: tuple[Sheet, ...] = tuple(sheets)
        ) -> bool:
            stage = f"Packing: {100 * used:.0f} % of the sheet's length"
            return context.progress((at + share) / len(sets), stage, _shown([*before, *so_far]))

        if parameters.arrange == PLACED:
            sheets.append(as_placed(document, sheet_of(1)))
            continue
        seconds = parameters.seconds / len(sets)
        wish = Wish(parameters.spacing_mm, parameters.turns, parameters.in_holes, seconds)
        made, without = packed(document, sheet_of, wish, parameters.copies, parameters.fill, progress)
        sheets += made
        left += without
    after = replace(document, sheets=tuple(_numbered(sheets)))
    title = f"Laid on {number_of(len(sheets), 'sheet')}"
    return Outcome(after, title, _note(sheets, left), {"sheets": len(sheets), "left": left})


def _stock(parameters: Sheets) -> Stock:
    packs = parameters.arrange == PACKED
    return Stock(
        parameters.width_mm,
        parameters.height_mm,
        parameters.margin_mm,
        {
            "spacing_mm": parameters.spacing_mm if packs else 0.0,
            "weed_box": parameters.weed_box,
            "weed_mm": parameters.weed_mm,
            "weed_lines_mm": parameters.weed_lines_mm if parameters.weed_box else 0.0,
            "numbers": parameters.numbers if packs else "",
            "number_mm": parameters.number_mm,
            "number_by": parameters.number_by,
            "printed": parameters.printed,
            "bleed_mm": parameters.bleed_mm,
        },
        checked_own(parameters.own or {}),
    )


def _shown(sheets: Sequence[Sheet]) -> dict[str, Any]:
    """What is there so far: by the id of a sheet, x, y and turn of what lies on it by their keys."""
    return {sheet.id: {key_of(p): [round(p.x, 3), round(p.y, 3), p.turn] for p in sheet.placements} for sheet in sheets}


def _numbered(sheets: Sequence[Sheet]) -> list[Sheet]:
    """Numbers go on from sheet to sheet."""
    made, first = [], 1
    for sheet in sheets:
        made.append(replace(sheet, first_number=first))
        first += len(sheet.placements)
    return made


def _note(sheets: Sequence[Sheet], left: int) -> str:
    said = [f"{each.name} on {size_text(each.width_mm, each.height_mm)}" for each in sheets[:4]]
    if len(sheets) > 4:
        said.append(f"{len(sheets) - 4} more")
    mirrored = list(dict.fromkeys(each.name for each in sheets if each.mirrored))
    if mirrored:
        said.append(f"{' and '.join(mirrored)} mirrored, since it is cut from the back")
    if left:
        said.append(f"{number_of(left, 'piece or group is', 'pieces or groups are')} too large for any")
    return "; ".join(said)


def checked_own(own: Mapping[str, Any]) -> Mapping[str, Mapping[str, Any]]:
    """What is typed of single sheets. Raises BadRequest, naming what makes no sense."""
    for layer, values in own.items():
        if not isinstance(values, Mapping):
            raise BadRequest(f'What is otherwise of the sheet "{layer}" is given by its values.')
        for name, value in dict[str, Any](values).items():
            of = OWN.get(name)
            if of is None:
                raise BadRequest(f'"{name}" is nothing that a sheet has; it has {", ".join(OWN)}.')
            if not isinstance(value, of) or isinstance(value, bool) != (of is bool):
                raise BadRequest(f'The {name} of a sheet cannot be "{value}".')
            if name in ("width_mm", "height_mm") and not 1 <= value <= MOST_SHEET_MM:
                raise BadRequest(f"A sheet is {as_mm(1)} to {as_mm(MOST_SHEET_MM)} wide and high, not {as_mm(value)}.")
            if name == "margin_mm" and not 0 <= value <= 500:
                raise BadRequest(f"A margin is 0 to 500 mm, not {as_mm(value)}.")
            if name == "at" and isinstance(value, list | tuple) and not _is_place(value):
                raise BadRequest("Where a sheet lies on its carrier is two lengths, x and y.")
            if name == "outline" and isinstance(value, str) and len(value) > MOST_OUTLINE:
                raise BadRequest(f"The outline of a sheet has {MOST_OUTLINE:,} letters at most.")
            if name == "outline" and isinstance(value, str) and value:
                outline_from(value)
    return own


def _is_place(value: Sequence[Any]) -> bool:
    return len(value) == 2 and all(isinstance(v, int | float) and abs(v) <= MOST_SHEET_MM for v in value)


def _cost(document: Document, parameters: Sheets, source: SourceCost) -> float:
    if parameters.arrange == PLACED:
        return 0.0
    # A piece on the raster takes a hundredth of a second or two for each angle.
    many = len(document.pieces) * (parameters.copies if not parameters.fill else 100)
    return parameters.seconds + 0.02 * many + by_pieces(document, parameters, source)


OPERATION = Operation(
    id="sheets",
    version=1,
    station="sheet",
    title="Lay on sheets",
    parameters=Sheets,
    run=run,
    sentence="One sheet for each material, pieces {arrange}[, {spacing_mm} apart][, {copies} of each]"
    "[, {fill} as many as fit], {margin_mm} from the rim",
    cost=_cost,
    quick={"seconds": 0.0},
    reads_conditions=True,
)
