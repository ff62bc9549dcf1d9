"""Sheets: the material that pieces are cut from, and where each piece lies on it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any

#: Ids of what is on a sheet and is no piece, boxes for weeding and numbers, begin so.
HELPS = "sheet:"


@dataclass(frozen=True, slots=True)
class Placement:
    """Where an item lies on a sheet: a piece or a group by its id, or with "" all that the sheet takes, kept as it lies
    in the design. x, y: the centre of its box, in mm from the sheet's top left; turn: about that centre, in degrees
    clockwise. copy: 1 for the first of several. The design may move or grow: the item stays where it was put."""

    item: str
    x: float
    y: float
    turn: float = 0.0
    copy: int = 1


@dataclass(frozen=True, slots=True)
class Sheet:
    """A sheet of one material, as it looks from the front; y down from its top left, in mm. layers: those whose pieces
    it takes. outline: SVG path data of an odd piece of stock, in mm from the top left of its box; a rectangle without.
    margin_mm: what stays free along the rim. mirrored: it is cut from the back. at: its top left on the carrier, as the
    tool sees it. spacing_mm: what stays free between items.
    machine: the id of the one that it goes to, where that is not the job's. grain: how the material runs, as of a
    Material; grain_across: it runs across the sheet, not up.
    numbers: "within" or "beside" each item, or none; number_mm: how high; number_by: what the tool does with them, a
    Treatment; first_number: of the first placement.
    printed: "outlines" for prints that end at what is cut, "bleed" for bleed_mm beyond it, or as they are.
    weed_box: "all" for a box round the work, "each" for one round each item, or none; weed_mm: how far out it lies;
    weed_lines_mm: from line to line through waste, none at 0."""

    id: str
    name: str
    layers: tuple[str, ...]
    width_mm: float
    height_mm: float
    outline: str = ""
    margin_mm: float = 0.0
    spacing_mm: float = 0.0
    material: str | None = None
    mirrored: bool = False
    at: tuple[float, float] = (0.0, 0.0)
    placements: tuple[Placement, ...] = ()
    weed_box: str = ""
    weed_mm: float = 3.0
    weed_lines_mm: float = 0.0
    machine: str | None = None
    grain: str = ""
    grain_across: bool = False
    numbers: str = ""
    number_mm: float = 4.0
    number_by: str = "draw"
    first_number: int = 1
    printed: str = ""
    bleed_mm: float = 2.0


def sheet_to_json(sheet: Sheet) -> dict[str, Any]:
    return asdict(sheet)


def sheet_from_json(data: Mapping[str, Any]) -> Sheet:
    """Raises TypeError, or KeyError, where the data are none."""
    placements = tuple(Placement(**each) for each in data["placements"])
    return Sheet(**{**data, "layers": tuple(data["layers"]), "at": tuple(data["at"]), "placements": placements})
