"""bring-in: a source becomes part of the document."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..geometry import transform, translation
from ..model import Document, Page
from ..model.document import px_per_inch
from ..model.units import size_text
from .operation import Context, Operation, Outcome, parameter

#: Room between what is there and what comes in beside it.
BESIDE_MM = 10.0


@dataclass(frozen=True)
class BringIn:
    source: str = parameter(help="the source's hash")
    name: str = parameter("", help="what the file is called")
    unit: str | None = parameter(None, help="what a number means in a file that states no unit: mm, in or px")


def run(document: Document, parameters: BringIn, context: Context) -> Outcome:
    """The first source brings its page; a later one is laid to the right of what is there."""
    result = context.source(parameters.source, parameters.unit, context.key)
    coming = result.document
    joined = _beside(document, coming) if document.pieces or document.pictures else coming
    width, height = coming.extent_mm
    pieces = len(coming.pieces_in_use())
    note = f"{size_text(width, height)}, {_what(coming, pieces)}"
    figures = {"width_mm": width, "height_mm": height, "pieces": pieces}
    return Outcome(joined, f"{parameters.name or 'A file'} brought in", note, figures, result.findings)


def _what(coming: Document, pieces: int) -> str:
    if not coming.pictures:
        return f"{pieces} {'piece' if pieces == 1 else 'pieces'}"
    across, down = coming.pictures[0].size_px
    return f"{across} \u00d7 {down} pixels, {px_per_inch(coming.pictures[0]):.4g} an inch"


def _beside(document: Document, coming: Document) -> Document:
    width, height = document.frame
    right = max(width, document.box[2] if document.box else 0.0)
    shift = translation(right + BESIDE_MM, 0.0)
    pieces = tuple(replace(piece, path=transform(piece.path, shift)) for piece in coming.pieces)
    pictures = tuple(replace(picture, matrix=_shifted(picture.matrix, shift)) for picture in coming.pictures)
    layers = {layer.id: layer for layer in (*document.layers, *coming.layers)}
    more_width, more_height = coming.frame
    return Document(
        Page(right + BESIDE_MM + more_width, max(height, more_height)),
        tuple(layers.values()),
        (*document.pieces, *pieces),
        (*document.groups, *coming.groups),
        (*document.pictures, *pictures),
    )


def _shifted(matrix: tuple[float, ...], shift) -> tuple[float, ...]:
    a, b, c, d, e, f = matrix
    return a, b, c, d, e + float(shift[0, 2]), f + float(shift[1, 2])


OPERATION = Operation("bring-in", 1, "intake", "Bring in a file", BringIn, run)
