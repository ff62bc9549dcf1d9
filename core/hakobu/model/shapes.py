"""Pieces as shapes: what they cover."""

from __future__ import annotations

from ..geometry.boolean import Operand
from .document import Piece


def has_inside(piece: Piece) -> bool:
    """Whether it is a shape: painted, or with lines that close."""
    return piece.fill is not None or bool(piece.path.closed.all())


def operand_of(piece: Piece) -> Operand:
    """A piece as a shape. Bare lines enclose by turns what they enclose, whichever way they run."""
    return Operand(piece.path, piece.fill_rule if piece.fill else "evenodd")
