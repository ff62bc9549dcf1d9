"""Names as they come out of files and keyboards, for showing and for writing into files."""

from __future__ import annotations

import unicodedata
from dataclasses import replace

from .document import Document

#: Kinds of signs that are not seen but act on what stands about them: controls, directions, halves of signs.
UNSEEN = ("Cc", "Cf", "Cs")
#: Of those, what joins letters of some scripts stays.
JOINERS = "\u200c\u200d"


def without_controls(name: str) -> str:
    """A name without signs that are not seen; line breaks and tabs become spaces."""
    if name.isascii() and name.isprintable():
        return name
    spaced = "".join(" " if sign.isspace() else sign for sign in name)
    return "".join(s for s in spaced if s in JOINERS or unicodedata.category(s) not in UNSEEN).strip()


def with_plain_names(document: Document) -> Document:
    """A document whose layers and pieces have such names."""
    layers = tuple(replace(layer, name=without_controls(layer.name)) for layer in document.layers)
    pieces = tuple(
        piece if (name := without_controls(piece.name)) == piece.name else replace(piece, name=name)
        for piece in document.pieces
    )
    return replace(document, layers=layers, pieces=pieces)
