"""size-by: the whole design sized so that a hole, a slot, a strip or a distance is truly so large."""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import CannotDo
from ..model import Document
from ..model.declare import choice, flag, length, line, point
from ..model.units import as_mm
from .operation import Context, Operation, Outcome, Spot
from .resize import FEATURES, Resize, feature_of
from .resize import run as resize


@dataclass(frozen=True)
class SizeBy:
    feature: str = choice("hole", label="feature", help="what is measured", choices=FEATURES[1:])
    at: tuple[float, float] | None = point(
        None, label="at", help="where it is", when=("feature", ("hole", "strip")), handle="place"
    )
    ends: tuple[float, float, float, float] | None = line(
        None, label="between", help="the nodes nearest to these places", when=("feature", ("distance",)), handle="ends"
    )
    to_mm: float | None = length(None, label="its true size", help="what it truly measures", low=0.01)
    holes_mm: float | None = length(
        None, label="round holes stay up to", help="rivet and hanging holes of no more keep their size", group="more"
    )
    lines: bool = flag(False, label="strokes stay", help="they keep their breadth", group="more")


def run(document: Document, parameters: SizeBy, context: Context) -> Outcome:
    """Until the true size is typed it says how large it is now."""
    found = feature_of(document, parameters.feature, _at(document, parameters))
    wanted = parameters.to_mm or found.size_mm
    wish = Resize(factor=wanted / found.size_mm, holes_mm=parameters.holes_mm, lines=parameters.lines)
    made = resize(document, wish, context)
    ends = tuple(Spot(f"end {k}", (float(x), float(y))) for k, (x, y) in enumerate(found.ends))
    present = f"{found.about} {as_mm(found.size_mm)}"
    note = f"{made.note}; {present} became {as_mm(wanted)}" if parameters.to_mm else f"{present}: type its true size"
    title = made.title if parameters.to_mm else "Measured"
    return Outcome(made.document, title, note, {**made.figures, "present_mm": found.size_mm}, spots=ends)


def _at(document: Document, parameters: SizeBy) -> list[float]:
    """Where it is, or the middle of the design where nobody has said."""
    if not document.box:
        raise CannotDo("There is nothing here to measure yet.")
    left, top, right, bottom = document.box
    if parameters.feature == "distance":
        return list(parameters.ends or (left, top, right, bottom))
    return list(parameters.at or ((left + right) / 2, (top + bottom) / 2))


OPERATION = Operation(
    id="size-by",
    version=1,
    station="build",
    title="Size by a feature",
    parameters=SizeBy,
    run=run,
    sentence="Make {feature}[ at {at}][ {ends}] truly {to_mm}",
)
