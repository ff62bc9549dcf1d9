"""How pieces are called in what is said of them."""

from __future__ import annotations

from ...model import Piece


def name_of(piece: Piece, otherwise: str = "this shape") -> str:
    """A piece by its name, or by what it is where it has none."""
    return f'"{piece.name}"' if piece.name else otherwise


def capitalised(text: str) -> str:
    """A sentence's beginning."""
    return text[:1].upper() + text[1:]


def within(piece: Piece) -> str:
    """Where something is, before the rest of a sentence; nothing where the piece has no name."""
    return f'in "{piece.name}" ' if piece.name else ""
