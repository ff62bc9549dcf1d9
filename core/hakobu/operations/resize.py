"""resize: the whole design, its page and its stroke widths at another size, in proportion."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import BadRequest, CannotDo
from ..model import Document
from ..model.declare import length, number, text
from ..model.scaling import scaled
from ..model.units import as_mm, size_text
from .operation import Context, Operation, Outcome
from .page import centred


@dataclass(frozen=True)
class Resize:
    width_mm: float | None = length(
        None, label="width", help="the width of all outlines", low=0.1, instead_of=("height_mm", "factor")
    )
    height_mm: float | None = length(
        None, label="height", help="the height of all outlines", low=0.1, instead_of=("width_mm", "factor")
    )
    factor: float | None = number(
        None,
        label="factor",
        help="times the present size",
        unit="times",
        low=0.0001,
        high=10000,
        instead_of=("width_mm", "height_mm"),
    )
    reason: str = text("", label="reason", help="why, for the log: for instance that units were mistaken", group="")


def run(document: Document, parameters: Resize, context: Context) -> Outcome:
    """Scales about the page's top left, in proportion. A page that a person has set stays, with the design on it."""
    width, height = document.extent_mm
    factor = _factor(parameters, width, height)
    note = f"{size_text(width, height)} became {size_text(width * factor, height * factor)}"
    by_height = parameters.height_mm is not None
    size = f"{as_mm(height * factor)} high" if by_height else f"{as_mm(width * factor)} wide"
    title = parameters.reason or f"Sized to {size}"
    made = scaled(document, factor)
    if made.page and made.page.fixed:
        made = centred(made, made.page)
    return Outcome(replace(made, sized=_typed(parameters)), title, note, {"factor": factor})


def _typed(parameters: Resize) -> tuple[str, float] | None:
    if parameters.width_mm is not None:
        return "width", parameters.width_mm
    return None if parameters.height_mm is None else ("height", parameters.height_mm)


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


OPERATION = Operation(
    id="resize",
    version=2,
    station="intake",
    title="Set the size",
    parameters=Resize,
    run=run,
    sentence="Make it {width_mm} wide, or {height_mm} high, or {factor} times as large",
)
