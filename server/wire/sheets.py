"""Sheets as the browser shows them: their stock and carrier, what lies on them, and what is reported of each."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from hakobu.geometry import transform, translation
from hakobu.geometry.path_text import path_data
from hakobu.model import Document, Machine
from hakobu.model.sheet import Sheet
from hakobu.sheets.files import corner_words
from hakobu.sheets.items import Item
from hakobu.sheets.marks import marks_of
from hakobu.sheets.placed import covered, items_on
from hakobu.sheets.report import report_of
from hakobu.sheets.stock import outline_of, usable
from hakobu.sheets.weeding import weeding_of

#: Digits of a millimetre that a screen shows.
DECIMALS = 3


def sheets_of(document: Document, machine_of: Callable[[Sheet], Machine | None]) -> list[dict[str, Any]]:
    """All sheets of a document, in their order. machine_of: what each goes to."""
    return [_sheet(document, sheet, machine_of(sheet)) for sheet in document.sheets]


def _sheet(document: Document, sheet: Sheet, machine: Machine | None) -> dict[str, Any]:
    on = items_on(document, sheet)
    prints = any(item.pictures for item, _ in on)
    first = document.layer_by_id.get(sheet.layers[0])
    report = report_of(document, sheet, machine)
    return {
        "id": sheet.id,
        "name": sheet.name,
        "color": first.color if first else "#808080",
        "layers": list(sheet.layers),
        "width_mm": sheet.width_mm,
        "height_mm": sheet.height_mm,
        "margin_mm": sheet.margin_mm,
        "spacing_mm": sheet.spacing_mm,
        "mirrored": sheet.mirrored,
        "material": sheet.material,
        "own": sheet.id.partition(":")[2],
        "machine": sheet.machine,
        "grain": sheet.grain,
        "grain_across": sheet.grain_across,
        "number_by": sheet.number_by,
        "numbers": path_data(report.numbers, DECIMALS),
        "at": list(sheet.at),
        "rim": path_data(outline_of(sheet), DECIMALS),
        "usable": path_data(usable(sheet), DECIMALS),
        "marks": path_data(marks_of(sheet, machine), DECIMALS) if prints else "",
        "prints": prints,
        "weeding": path_data(weeding_of(sheet, covered(on)), DECIMALS) if sheet.weed_box else "",
        "shapes": {item.id: _shapes(document, item) for item in {item.id: item for item, _ in on}.values()},
        "items": [
            {
                "key": f"{placement.item}*{placement.copy}",
                "item": item.id,
                "x": placement.x,
                "y": placement.y,
                "turn": placement.turn,
            }
            for item, placement in on
        ],
        "lies": corner_words(sheet, machine.carrier_mm, machine.carrier) if machine else "",
        "carrier": _carrier(machine) if machine else None,
        "report": {
            "pieces": report.pieces,
            "items": report.items,
            "used": report.used,
            "line_mm": report.line_mm,
            "left": report.left,
            "offcut_mm": list(report.offcut_mm),
            "nearest_mm": report.nearest_mm,
            "box": report.box and list(report.box),
            "problems": [
                {"kind": each.kind, "sentence": each.sentence, "place": each.place and list(each.place)}
                for each in report.problems
            ],
        },
    }


def _shapes(document: Document, item: Item) -> list[dict[str, str]]:
    """The pieces of an item about its centre, each with its colour and treatment."""
    x, y = item.centre
    made = []
    for piece in item.pieces:
        layer = document.layer_by_id[piece.layer]
        path = path_data(transform(piece.path, translation(-x, -y)), DECIMALS)
        filled = "fill" if piece.path.closed.all() and layer.treatment.value == "cut" else "line"
        made.append({"path": path, "color": layer.color, "rule": piece.fill_rule, "as": filled, "name": piece.name})
    return made


def _carrier(machine: Machine) -> dict[str, Any]:
    width, height = machine.carrier_mm
    return {
        "kind": machine.carrier,
        "machine": machine.name,
        "width_mm": width,
        "height_mm": height,
        "reach": [machine.reach_left_mm, machine.reach_top_mm, machine.reach_width_mm, machine.reach_height_mm],
        "grid_mm": machine.grid_mm,
        "goes_in": machine.goes_in,
    }
