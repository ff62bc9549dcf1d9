"""The placing page: at true size, where a sheet lies on its carrier and what is cut from it where."""

from __future__ import annotations

import numpy as np

from ..geometry import Path, primitives, transform, translation
from ..lettering.text_path import text_path
from ..model import Document, Layer, Machine, Page, Piece, Stroke, Treatment
from ..model.sheet import Sheet
from ..sheets.files import corner_words, sheet_note
from ..sheets.placed import as_cut, from_back
from ..sheets.stock import outline_of

#: Capitals of the lines of text, room about everything, and half the length of a corner's mark, in mm.
TEXT_MM, MARGIN_MM, MARK_MM = 2.6, 12.0, 8.0
LINE_MM, INK, PIECE, RIM = 0.2, "#1b2a4e", "#9a948a", "#b4331f"


def placing_page(document: Document, sheet: Sheet, machine: Machine | None) -> Document:
    """The lower left corner of the carrier, the outline of the sheet and its pieces as the tool sees them, to be
    printed at true size and laid under a scrap, or beside it."""
    laid = as_cut(document, sheet)
    high = machine.carrier_mm[1] if machine else sheet.height_mm
    x, y = sheet.at if machine else (0.0, 0.0)
    # The page holds the sheet and the carrier's lower left corner.
    below = max(high - y - sheet.height_mm, 0.0)
    rim = from_back(outline_of(sheet), sheet) if sheet.mirrored else outline_of(sheet)
    parts = [
        (rim, RIM),
        (_corner(-x, sheet.height_mm + below), INK),
        *((piece.path, PIECE) for piece in laid.pieces),
    ]
    left, top = min(-x, 0.0) - MARGIN_MM, -MARGIN_MM - 3 * TEXT_MM
    width = sheet.width_mm - left + MARGIN_MM
    height = sheet.height_mm + below - top + MARGIN_MM
    lines = [sheet_note(sheet), "True size: print at 100 %. Grey: what is cut. Red: the rim of the sheet."]
    if machine:
        lines.insert(1, corner_words(sheet, machine.carrier_mm, machine.carrier))
    for n, words in enumerate(lines):
        parts.append((text_path(words, (0.0, top + MARGIN_MM + n * TEXT_MM * 1.8 - 3 * TEXT_MM), TEXT_MM), INK))
    moved = [(transform(path, translation(-left, -top)), color) for path, color in parts if len(path)]
    pieces = tuple(
        Piece(f"a:{n}", path, "page", "", stroke=Stroke(color, LINE_MM)) for n, (path, color) in enumerate(moved)
    )
    return Document(Page(width, height), (Layer("page", "Page", INK, Treatment.DRAW),), pieces)


def _corner(x: float, y: float) -> Path:
    """The lower left corner of the carrier: two lines, and a circle on it."""
    across = Path.from_points(np.array([(x - MARK_MM / 2, y), (x + MARK_MM, y)]), closed=False)
    down = Path.from_points(np.array([(x, y + MARK_MM / 2), (x, y - MARK_MM)]), closed=False)
    return Path.concatenate([across, down, primitives.circle(x, y, MARK_MM / 4)])
