"""The outline of a sheet's stock, and the sizes that paper and boards are sold in."""

from __future__ import annotations

from functools import lru_cache

from ..errors import BadRequest
from ..geometry import Path, bounds, primitives, transform, translation
from ..geometry.build import PathBuilder
from ..geometry.offset import offset
from ..geometry.path_data import draw
from ..model.sheet import Sheet

#: Width and height in mm, upright: ISO 216 (A and B series), ANSI/ASME Y14.1 (letter sizes).
SIZES: dict[str, tuple[float, float]] = {
    "A2": (420.0, 594.0),
    "A3": (297.0, 420.0),
    "A4": (210.0, 297.0),
    "A5": (148.0, 210.0),
    "B4": (250.0, 353.0),
    "ANSI A": (215.9, 279.4),
    "ANSI B": (279.4, 431.8),
    "ANSI C": (431.8, 558.8),
}


def outline_of(sheet: Sheet) -> Path:
    """The closed outline of a sheet, in mm from its top left. Raises BadRequest where its path data make none."""
    if not sheet.outline:
        return primitives.rectangle(0.0, 0.0, sheet.width_mm, sheet.height_mm)
    return outline_from(sheet.outline)


@lru_cache(64)
def outline_from(data: str) -> Path:
    """The outline that SVG path data make, in mm, with the top left of its box at 0, 0. Raises BadRequest."""
    builder = PathBuilder()
    wrong = draw(data, builder)
    path = builder.path()
    box = bounds(path)
    if wrong or box is None or not path.closed.all() or min(box[2] - box[0], box[3] - box[1]) <= 0:
        why = f": {wrong}" if wrong else ""
        raise BadRequest(f"The outline of this stock is not a closed shape{why}.")
    return transform(path, translation(-box[0], -box[1]))


def usable(sheet: Sheet) -> Path:
    """What of a sheet may be cut: its outline less the margin. Raises BadRequest where the margin leaves nothing."""
    rim = outline_of(sheet)
    inner = offset(rim, distance_mm=-sheet.margin_mm).path if sheet.margin_mm > 0 else rim
    if not len(inner):
        raise BadRequest(f"A margin of {sheet.margin_mm:g} mm leaves nothing of a sheet of this size: type less.")
    return inner
