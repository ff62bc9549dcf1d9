"""The proposal: one sheet for each material and colour, with its stock, and what goes on it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..errors import CannotDo
from ..geometry import Box, Path, bounds
from ..model import Conditions, Document, Layer, Treatment
from ..model.pages import picture_box
from ..model.sheet import Sheet
from ..model.stock import STOCK
from .stock import outline_from

#: Where neither the material nor the page says how large the stock is: A4 (ISO 216).
STOCK_MM = (STOCK[0].width_mm, STOCK[0].height_mm)


@dataclass(frozen=True)
class Stock:
    """What is typed of the stock: of all sheets, and by the name of a sheet (`own_name`) what is otherwise there: its
    width_mm, height_mm, outline, margin_mm, at, mirrored, grain_across and machine. of_all: other values that every
    sheet gets, by the names of its fields."""

    width_mm: float | None
    height_mm: float | None
    margin_mm: float
    of_all: Mapping[str, Any]
    own: Mapping[str, Mapping[str, Any]]


def own_name(layer: str, nth: int) -> str:
    """By which what is otherwise of a sheet is named: the id of its first layer, from the second of them on with its
    number."""
    return layer if nth == 1 else f"{layer}:{nth}"


def layer_sets(document: Document, conditions: Conditions) -> list[list[Layer]]:
    """The layers of the sheets of each material and colour that is cut, those that are cut first; what is scored, drawn
    or printed goes with the pieces that it lies on. Raises CannotDo where there is nothing to put on a sheet."""
    paths = {layer.id: _path_of(document, layer) for layer in document.layers}
    followed = [layer for layer in document.layers if layer.treatment.follows_lines and len(paths[layer.id])]
    cut = [layer for layer in followed if layer.treatment is Treatment.CUT]
    sets: dict[tuple, list[Layer]] = {}
    for layer in cut or followed:
        sets.setdefault(_material_key(layer, conditions), []).append(layer)
    made = list(sets.values())
    if not made:
        raise CannotDo("There is nothing to cut, score or draw yet: bring in a design, or make one.")
    for layer in followed if cut else ():
        if layer not in cut:
            made_of = _material_key(layer, conditions)
            box = bounds(paths[layer.id])
            # Of those that it lies on alike, the one of its own material and colour.
            max(
                made,
                key=lambda own: (
                    round(_overlap(box, [paths[each.id] for each in own]), 3),
                    _material_key(own[0], conditions) == made_of,
                ),
            ).append(layer)
    for picture in document.pictures:
        layer = document.layer_by_id[picture.layer]
        if layer.treatment is Treatment.PRINT and all(layer not in own for own in made):
            box = picture_box(picture)
            max(made, key=lambda own: _overlap(box, [paths[each.id] for each in own])).append(layer)
    return made


def _material_key(layer: Layer, conditions: Conditions) -> tuple:
    material = conditions.named_material(layer)
    return (material.id if material else None, layer.color.lower())


def _path_of(document: Document, layer: Layer) -> Path:
    return Path.concatenate(piece.path for piece in document.pieces if piece.layer == layer.id)


def _overlap(one: Box | None, others: list[Path]) -> float:
    """The area that a box shares with that of outlines: a measure of whether it lies on pieces."""
    other = bounds(Path.concatenate(others))
    if one is None or other is None:
        return 0.0
    across = min(one[2], other[2]) - max(one[0], other[0])
    down = min(one[3], other[3]) - max(one[1], other[1])
    return max(across, 0.0) * max(down, 0.0)


def proposed_sheet(
    document: Document, layers: list[Layer], conditions: Conditions, stock: Stock, key: str, nth: int = 1
) -> Sheet:
    """An empty sheet for some layers. nth: 2 for the one that takes what the first had no room for; it is as the first
    one is, but for an outline: an offcut is there once."""
    first = layers[0]
    own = dict(stock.own.get(first.id, {}))
    if nth > 1:
        if own.pop("outline", ""):
            own = {name: value for name, value in own.items() if name not in ("width_mm", "height_mm")}
        own |= stock.own.get(own_name(first.id, nth), {})
    material = conditions.named_material(first)
    size = _size(document, own, stock, material and (material.sheet_width_mm, material.sheet_height_mm))
    from_back = bool(material and material.cut_from_back and not first.mirrored)
    return Sheet(
        id=f"{key}:{own_name(first.id, nth)}",
        name=first.name if nth == 1 else f"{first.name} {nth}",
        layers=tuple(layer.id for layer in layers),
        width_mm=size[0],
        height_mm=size[1],
        outline=own.get("outline", ""),
        margin_mm=float(own.get("margin_mm", stock.margin_mm)),
        material=material.id if material else None,
        mirrored=bool(own.get("mirrored", from_back)),
        at=_at(own, conditions),
        machine=own.get("machine") or None,
        grain=material.grain if material else "",
        grain_across=bool(own.get("grain_across", False)),
        **stock.of_all,
    )


def _at(own: Mapping[str, Any], conditions: Conditions) -> tuple[float, float]:
    """Where a sheet lies on the carrier: what is typed, or where the reach of the machine begins."""
    if own.get("at"):
        x, y = own["at"]
        return float(x), float(y)
    machine = conditions.machine
    return (machine.reach_left_mm, machine.reach_top_mm) if machine else (0.0, 0.0)


def _size(
    document: Document, own: Mapping[str, Any], stock: Stock, sold: tuple[float, float] | None
) -> tuple[float, float]:
    """Width and height: what is typed of this sheet, of all, what the material is sold in, the page, or A4, turned so
    that the design lies on it where it can."""
    if own.get("outline"):
        left, top, right, bottom = bounds(outline_from(own["outline"])) or (0.0, 0.0, 1.0, 1.0)
        return right - left, bottom - top
    width = own.get("width_mm") or stock.width_mm
    height = own.get("height_mm") or stock.height_mm
    if width and height:
        return float(width), float(height)
    page = document.page
    fixed = (page.width_mm, page.height_mm) if page and page.fixed and not page.roll else None
    usual = sold if sold and sold[0] > 0 and sold[1] > 0 else fixed or STOCK_MM
    if width or height:
        return float(width or usual[0]), float(height or usual[1])
    need = document.size_mm
    lies = need[0] <= usual[0] and need[1] <= usual[1]
    turned = need[0] <= usual[1] and need[1] <= usual[0]
    return (usual[1], usual[0]) if turned and not lies else usual
