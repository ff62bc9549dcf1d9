"""The pieces of a document as a list, as the next program shows them when a file is taken apart there."""

from __future__ import annotations

from dataclasses import dataclass

from ..geometry import box_of
from ..geometry.nesting import shapes_of
from .document import Document, Piece


@dataclass(frozen=True, slots=True)
class PieceLine:
    """outers: shapes in the piece, more than one of a compound; holes: of all of them; open: whether it is a line."""

    name: str
    layer: str
    color: str
    width_mm: float
    height_mm: float
    outers: int
    holes: int
    open: bool


def piece_list(document: Document, most: int) -> list[PieceLine]:
    """The first pieces in use, in paint order."""
    return [_line(document, piece) for piece in document.pieces_in_use()[:most] if len(piece.path)]


def _line(document: Document, piece: Piece) -> PieceLine:
    layer = document.layer_by_id[piece.layer]
    left, top, right, bottom = box_of(piece.path)
    shapes = shapes_of(piece.path)
    holes = len(piece.path) - len(shapes)
    is_open = not piece.path.closed.any()
    return PieceLine(piece.name, layer.name, layer.color, right - left, bottom - top, len(shapes), holes, is_open)
