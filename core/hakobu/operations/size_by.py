"""size-by: the whole design sized so that holes, slots, strips or distances are truly so large."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from ..geometry.features import Feature, size_after
from ..model import Document
from ..model.declare import choice, data, flag, length, line, point
from ..model.dimension import Dimension
from ..model.features import (
    ONE_PLACE,
    TWO_PLACES,
    DrawnDimension,
    default_places,
    drawn_dimensions,
    size_words,
)
from ..model.following import with_dimensions
from ..model.units import as_mm
from .operation import Context, Operation, Outcome
from .resize import FEATURES, Resize, factors_by_features, remainders, wanted_features
from .resize import run as resize


@dataclass(frozen=True)
class SizeBy:
    feature: str = choice("hole", label="feature", help="what is measured", choices=FEATURES[1:])
    at: tuple[float, float] | None = point(
        None, label="at", help="where it is", when=("feature", ONE_PLACE), handle="place", by_press=True
    )
    ends: tuple[float, float, float, float] | None = line(
        None,
        label="between",
        help="what is nearest to these places",
        when=("feature", TWO_PLACES),
        handle="ends",
        by_press=True,
    )
    to_mm: float | None = length(None, label="its true size", help="what it truly measures", low=0.01)
    others: Mapping[str, Any] | None = data(
        None, label="other features", help='{"features": [{"feature": "hole", "at": [x, y], "to_mm": 4}, ...]}'
    )
    stretch: bool = flag(
        False, label="across and down apart", help="with several features: a factor for each", group="more"
    )
    holes_mm: float | None = length(
        None, label="round holes stay up to", help="rivet and hanging holes of no more keep their size", group="more"
    )
    lines: bool = flag(False, label="strokes stay", help="they keep their breadth", group="more")


def run(document: Document, parameters: SizeBy, context: Context) -> Outcome:
    """Features without a true size are measured only. What is measured is drawn where it is in the end."""
    found = wanted_features(document, _placed(document, parameters))
    sized = [(dimension, feature, size) for dimension, feature, size in found if size is not None]
    across, down = factors_by_features(sized, parameters.stretch) if sized else (1.0, 1.0)
    notes, statistics = remainders(sized, (across, down))
    made = resize(document, _wish(document, parameters, across, down), context)
    known = {dimension.id for dimension, _, _ in sized}
    present = [f"{f.about} {as_mm(f.size)}: type its true size" for d, f, _ in found if d.id not in known]
    if made.moved:
        marks = tuple(_moved(dimension, feature, made.moved, (across, down)) for dimension, feature, _ in found)
    else:
        marks = _followed(document, made.document, [dimension for dimension, _, _ in found])
    note = "; ".join([*([made.note] if sized else []), *notes, *present])
    statistics = {**made.statistics, **statistics, "present_mm": found[0][1].size}
    title = made.title if sized else "Measured"
    return Outcome(made.document, title, note, statistics, marks=marks, moved=made.moved)


def _placed(document: Document, parameters: SizeBy) -> SizeBy:
    """In the middle of the design, or at its corners, while nobody has said where."""
    given = parameters.ends if parameters.feature in TWO_PLACES else parameters.at
    if given is not None:
        return parameters
    values = sum(default_places(document, parameters.feature), ())
    return replace(parameters, **{"ends" if parameters.feature in TWO_PLACES else "at": values})


def _wish(document: Document, parameters: SizeBy, across: float, down: float) -> Resize:
    stays = {"holes_mm": parameters.holes_mm, "lines": parameters.lines}
    if across == down:
        return Resize(factor=across, **stays)
    width, height = document.extent_mm
    return Resize(width_mm=width * across, height_mm=height * down, stretch=True, **stays)


def _moved(dimension: Dimension, feature: Feature, matrix: tuple, factors: tuple[float, float]) -> DrawnDimension:
    """A feature as it is drawn on a design that was moved as a whole."""
    a, _, _, d, e, f = matrix
    ends = tuple((float(a * x + e), float(d * y + f)) for x, y in feature.ends)
    size = size_after(feature, factors)
    return DrawnDimension(dimension.id, "", dimension.kind, ends, size, size_words(dimension.kind, size))


def _followed(before: Document, after: Document, dimensions: Sequence[Dimension]) -> tuple[DrawnDimension, ...]:
    """What was measured, found again on the sized design."""
    measured = replace(before, dimensions=tuple(dimensions))
    moved = with_dimensions(measured, replace(after, dimensions=measured.dimensions))
    return tuple(drawn_dimensions(moved))


OPERATION = Operation(
    id="size-by",
    version=2,
    station="size",
    title="Size by a feature",
    parameters=SizeBy,
    run=run,
    sentence="Make {feature}[ at {at}][ {ends}] truly {to_mm}",
)
