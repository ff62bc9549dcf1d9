"""What is found in a picture, put where it belongs: to the scale of a reference, of two points or of a size that is
known, mirrored, within other shapes."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from ...errors import BadRequest, CannotDo
from ...geometry import Path, box_of, transform, translation
from ..options import FoundPiece, TraceOptions, TraceResult, View


@dataclass(frozen=True)
class Placing:
    """reference: a shape of known size in the picture, as square:60mm. ends, apart_mm: two pixels x, y and how far they
    are apart in truth. width_mm, height_mm: of the box of what is found. within: shapes."""

    reference: str | None = None
    ends: tuple[tuple[int, int], ...] = ()
    apart_mm: float | None = None
    width_mm: float | None = None
    height_mm: float | None = None
    mirrored: bool = False
    within: Sequence[Path] = ()


Find = Callable[[View, TraceOptions], TraceResult]


def place_result(view: View, find: Find, asked: TraceOptions, how: Placing) -> TraceResult:
    """What `find` finds in the view, at its true size and place; a reference is dropped. Raises CannotDo where nothing
    is left."""
    notes: tuple[str, ...] = ()
    chosen: dict[str, float] = {}
    plane = None
    if how.reference:
        from .reference import parse_reference, scaled_by

        reference = parse_reference(how.reference)
        scaled = view.memoize(("scaled", how.reference), lambda: scaled_by(view, reference))
        view = scaled.view
        middle = scaled.middle[0] + view.origin[0], scaled.middle[1] + view.origin[1]
        asked = replace(asked, dropped=(*asked.dropped, middle))
        notes = (f"true to {100 * scaled.error:.3f} % by its {how.reference.partition(':')[0]}",)
        chosen = {"reference_error": scaled.error, "turned_degrees": float(np.degrees(scaled.turned))}
        if scaled.plane is not None:
            plane = np.linalg.inv(_affine(view.matrix)) @ scaled.plane
    elif how.apart_mm is not None:
        view = _enlarged(view, how.apart_mm / _apart(view, how.ends))
    found = _left(find(view, asked))
    if how.width_mm is not None or how.height_mm is not None:
        view, found = _scale_to_size(view, found, find, asked, how)
    pieces = list(found.pieces)
    matrix = view.matrix
    if how.mirrored:
        pieces, matrix = _mirrored(pieces, matrix)
    if how.within:
        pieces, matrix, laid = _onto(pieces, matrix, how.within)
        pieces = _within(pieces, found, how.within)
        notes = (*notes, *laid)
    return replace(
        found,
        pieces=tuple(pieces),
        notes=(*found.notes, *notes),
        chosen=found.chosen | chosen,
        matrix=_of_whole(matrix, view.origin),
        view=view,
        plane=None if plane is None else _affine(matrix) @ plane,
    )


def _affine(matrix: tuple[float, ...]) -> np.ndarray:
    a, b, c, d, e, f = matrix
    return np.array([[a, c, e], [b, d, f], [0, 0, 1]])


def _left(found: TraceResult) -> TraceResult:
    if not found.pieces:
        raise CannotDo("Nothing is left of what was found: keep smaller bits, or less of the background away.")
    return found


def _apart(view: View, ends: tuple[tuple[int, int], ...]) -> float:
    """The distance of two pixels, in mm as the picture lies now. Raises BadRequest, CannotDo."""
    if len(ends) != 2:
        raise BadRequest("Two points and the distance between them tell the scale: both points are needed.")
    one, other = view.to_mm(np.array(ends, float) + 0.5)
    apart = float(np.hypot(*(one - other)))
    if apart < 2 * view.pixel_mm:
        raise CannotDo("These two points are as good as one: take them farther apart.")
    return apart


def _enlarged(view: View, factor: float) -> View:
    """About the corner that the picture hangs from."""
    a, b, c, d, e, f = view.matrix
    return replace(view, matrix=(a * factor, b * factor, c * factor, d * factor, e, f))


def _scale_to_size(
    view: View, found: TraceResult, find: Find, asked: TraceOptions, how: Placing
) -> tuple[View, TraceResult]:
    """What is found once the picture is of the size at which that is as wide, or as high, as it is to be: distances in
    mm then mean what they say."""
    for _ in range(2):
        box = box_of(Path.concatenate(piece.path for piece in found.pieces))
        factor = _factor(box, how)
        view = _enlarged(view, factor)
        if abs(factor - 1) < 1e-3:
            break
        found = _left(find(view, asked))
    box = box_of(Path.concatenate(piece.path for piece in found.pieces))
    factor = _factor(box, how)
    left, top = view.matrix[4:]
    exact = np.array([[factor, 0.0, left * (1 - factor)], [0.0, factor, top * (1 - factor)]])
    pieces = tuple(replace(piece, path=transform(piece.path, exact)) for piece in found.pieces)
    return _enlarged(view, factor), replace(found, pieces=pieces)


def _factor(box: Sequence[float], how: Placing) -> float:
    wanted = [(how.width_mm, box[2] - box[0]), (how.height_mm, box[3] - box[1])]
    factors = [asked / now for asked, now in wanted if asked is not None and now > 0]
    if not factors:
        raise CannotDo("What was found is a level or an upright line: give the size that it has.")
    return min(factors)


def _mirrored(pieces: list[FoundPiece], matrix: tuple[float, ...]) -> tuple[list[FoundPiece], tuple[float, ...]]:
    left, _, right, _ = box_of(Path.concatenate(piece.path for piece in pieces))
    turned = np.array([[-1.0, 0.0, left + right], [0.0, 1.0, 0.0]])
    a, b, c, d, e, f = matrix
    moved = [replace(piece, path=transform(piece.path, turned).reversed()) for piece in pieces]
    return moved, (-a, b, -c, d, left + right - e, f)


def _of_whole(matrix: tuple[float, ...], origin: tuple[int, int]) -> tuple[float, ...]:
    """The matrix of the picture that a view with such a matrix is a part of."""
    a, b, c, d, e, f = matrix
    x, y = origin
    return (a, b, c, d, e - a * x - c * y, f - b * x - d * y)


def _onto(
    pieces: list[FoundPiece], matrix: tuple[float, ...], shapes: Sequence[Path]
) -> tuple[list[FoundPiece], tuple[float, ...], tuple[str, ...]]:
    """What lies beside the shapes is laid onto the middle of them; what lies on them stays."""
    own = np.reshape(box_of(Path.concatenate(piece.path for piece in pieces)), (2, 2))
    other = np.reshape(box_of(Path.concatenate(shapes)), (2, 2))
    if (own[0] < other[1]).all() and (other[0] < own[1]).all():
        return pieces, matrix, ()
    by = other.mean(axis=0) - own.mean(axis=0)
    moved = [replace(piece, path=transform(piece.path, translation(*by))) for piece in pieces]
    a, b, c, d, e, f = matrix
    return moved, (a, b, c, d, e + float(by[0]), f + float(by[1])), ("laid onto the middle of the pieces",)


def _within(pieces: list[FoundPiece], found: TraceResult, shapes: Sequence[Path]) -> list[FoundPiece]:
    from ...geometry.boolean import cut_lines, intersection, union

    area = union(*shapes).path
    lines = {layer.key for layer in found.layers if layer.lines}
    cut = []
    for piece in pieces:
        path = cut_lines(piece.path, area).path if piece.layer in lines else intersection(piece.path, area).path
        if len(path):
            cut.append(replace(piece, path=path))
    if not cut:
        raise CannotDo("Nothing of what was found lies within those pieces: choose others, or another size.")
    return cut
