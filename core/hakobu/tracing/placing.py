"""What is found in a picture, put where it belongs: to the scale of a reference, mirrored, within other shapes."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

import numpy as np

from ..geometry import Path, bounds, transform
from ..model.errors import CannotDo
from .asking import Asked, Found, FoundPiece, View


def placed(
    view: View,
    find: Callable[[View, Asked], Found],
    asked: Asked,
    reference: str | None = None,
    mirrored: bool = False,
    within: Sequence[Path] = (),
) -> Found:
    """What `find` finds in the view, of true size by a reference, which is dropped; mirrored about its middle; cut off
    at shapes. Raises CannotDo where nothing is left."""
    notes: tuple[str, ...] = ()
    chosen: dict[str, float] = {}
    if reference:
        from .reference import parse_reference, scaled_by

        scaled = scaled_by(view, parse_reference(reference))
        view, asked = scaled.view, replace(asked, dropped=(*asked.dropped, scaled.middle))
        notes = (f"true to {100 * scaled.error:.3f} % by its {reference.partition(':')[0]}",)
        chosen = {"reference_error": scaled.error, "turned_degrees": float(np.degrees(scaled.turned))}
    found = find(view, asked)
    if not found.pieces:
        raise CannotDo("Nothing is left of what was found: keep smaller bits, or less of the background away.")
    pieces = list(found.pieces)
    if mirrored:
        pieces = _mirrored(pieces)
    if within:
        pieces = _within(pieces, found, within)
    return replace(found, pieces=tuple(pieces), notes=(*found.notes, *notes), chosen=found.chosen | chosen)


def _mirrored(pieces: list[FoundPiece]) -> list[FoundPiece]:
    left, _, right, _ = bounds(Path.concatenate(piece.path for piece in pieces))
    turned = np.array([[-1.0, 0.0, left + right], [0.0, 1.0, 0.0]])
    return [replace(piece, path=transform(piece.path, turned).reversed()) for piece in pieces]


def _within(pieces: list[FoundPiece], found: Found, shapes: Sequence[Path]) -> list[FoundPiece]:
    from ..geometry.boolean import cut_lines, intersection, union

    area = union(*shapes).path
    lines = {layer.key for layer in found.layers if layer.lines}
    cut = []
    for piece in pieces:
        path = cut_lines(piece.path, area).path if piece.layer in lines else intersection(piece.path, area).path
        if len(path):
            cut.append(replace(piece, path=path))
    if not cut:
        raise CannotDo("Nothing of what was found lies within those pieces: move the picture onto them.")
    return cut
