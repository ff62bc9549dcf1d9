"""The outline of a sheet's stock, and what of it may be cut."""

from __future__ import annotations

import re
from functools import lru_cache

from ..errors import BadRequest
from ..geometry import Path, box_of, primitives, transform, translation
from ..geometry.offset import offset
from ..geometry.path_data import closed_outline
from ..model.sheet import Sheet


def outline_of(sheet: Sheet) -> Path:
    """The closed outline of a sheet, in mm from its top left. Raises BadRequest where its path data make none."""
    if not sheet.outline:
        return primitives.rectangle(0.0, 0.0, sheet.width_mm, sheet.height_mm)
    return outline_from(sheet.outline)


@lru_cache(64)
def outline_from(data: str) -> Path:
    """The outline that SVG path data or corners ("0 0, 180 0, 90 120") make, in mm, with the top left of its box at
    0, 0. Raises BadRequest."""
    try:
        path = closed_outline(_path_data(data))
    except ValueError as error:
        raise BadRequest(f"The outline of this stock is not a closed shape: {error}.") from error
    left, top, _, _ = box_of(path)
    return transform(path, translation(-left, -top))


def _path_data(text: str) -> str:
    """Corners that are typed as numbers, two for each, as path data; path data as they are."""
    if re.search(r"[a-df-zA-DF-Z]", text):
        return text
    numbers = text.replace(",", " ").replace(";", " ").split()
    if len(numbers) < 6 or len(numbers) % 2:
        raise BadRequest("Corners are typed as two numbers each, three corners at least: 0 0, 180 0, 90 120.")
    return f"M{' '.join(numbers)}Z"


def usable(sheet: Sheet) -> Path:
    """What of a sheet may be cut: its outline less the margin. Raises BadRequest where the margin leaves nothing."""
    rim = outline_of(sheet)
    inner = offset(rim, distance_mm=-sheet.margin_mm).path if sheet.margin_mm > 0 else rim
    if not len(inner):
        raise BadRequest(f"A margin of {sheet.margin_mm:g} mm leaves nothing of a sheet of this size: type less.")
    return inner
