"""resize: the whole design, its page and its stroke widths at another size, in proportion."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..geometry import compose, scaling, transform
from ..model import Document, Page
from ..model.errors import BadRequest, CannotDo
from ..model.units import as_mm, size_text
from .operation import Context, Operation, Outcome, parameter


@dataclass(frozen=True)
class Resize:
    width_mm: float | None = parameter(None, help="the width of all outlines", unit="mm", low=0.1, high=20000)
    height_mm: float | None = parameter(None, help="the height of all outlines", unit="mm", low=0.1, high=20000)
    factor: float | None = parameter(None, help="times the present size", unit="times", low=0.0001, high=10000)
    reason: str = parameter("", help="why, for the log: for instance that units were mistaken")


def run(document: Document, parameters: Resize, context: Context) -> Outcome:
    """Scales about the page's top left, in proportion."""
    width, height = document.extent_mm
    factor = _factor(parameters, width, height)
    matrix = scaling(factor)
    pieces = tuple(
        replace(
            piece,
            path=transform(piece.path, matrix),
            stroke=_scaled(piece.stroke, factor) if piece.stroke else None,
        )
        for piece in document.pieces
    )
    pictures = tuple(replace(picture, matrix=_moved(picture.matrix, matrix)) for picture in document.pictures)
    page = document.page and Page(document.page.width_mm * factor, document.page.height_mm * factor)
    result = replace(document, page=page, pieces=pieces, pictures=pictures)
    note = f"{size_text(width, height)} became {size_text(width * factor, height * factor)}"
    title = parameters.reason or f"Sized to {as_mm(width * factor)} wide"
    return Outcome(result, title, note, {"factor": factor})


def _factor(parameters: Resize, width: float, height: float) -> float:
    given = [v for v in (parameters.width_mm, parameters.height_mm, parameters.factor) if v is not None]
    if len(given) != 1:
        raise BadRequest("Give a width, a height or a factor: one of them, the others follow in proportion.")
    if parameters.factor is not None:
        return parameters.factor
    side, whole = (parameters.width_mm, width) if parameters.width_mm is not None else (parameters.height_mm, height)
    if whole <= 0:
        raise CannotDo("This design has no extent in that direction, so it cannot be sized by it; use the other one.")
    return side / whole


def _scaled(stroke, factor: float):
    dashes = tuple(d * factor for d in stroke.dashes)
    return replace(stroke, width_mm=stroke.width_mm * factor, dashes=dashes, dash_offset=stroke.dash_offset * factor)


def _moved(values: tuple[float, ...], matrix) -> tuple[float, ...]:
    return tuple(compose(matrix, np.array(values).reshape(3, 2).T).T.ravel().tolist())


OPERATION = Operation("resize", 1, "intake", "Set the size", Resize, run)
