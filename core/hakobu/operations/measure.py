"""measure: a dimension that stays on the design and follows it through every later step."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..model import Document
from ..model.declare import choice, length, line, number, point, text
from ..model.dimension import Dimension, Place
from ..model.features import (
    KINDS,
    LENGTHS,
    ONE_PLACE,
    TWO_PLACES,
    default_places,
    drawn_dimensions,
    feature_at,
    settled_places,
    size_words,
)
from .operation import Context, Operation, Outcome, at_once

CHOICES = [(kind, known.words) for kind, known in KINDS.items()]


@dataclass(frozen=True)
class Measure:
    kind: str = choice("hole", label="what", help="what is measured", choices=CHOICES)
    at: tuple[float, float] | None = point(
        None, label="at", help="where it is", when=("kind", (*ONE_PLACE, "angle")), handle="place", by_press=True
    )
    ends: tuple[float, float, float, float] | None = line(
        None, label="between", help="the two places", when=("kind", TWO_PLACES), handle="ends", by_press=True
    )
    name: str = text("", label="name", help="what it is called", most=60, group="more")
    must_mm: float | None = length(
        None, label="must be", help="a finding tells when it no longer is", low=0.01, when=("kind", LENGTHS)
    )
    angle_degrees: float | None = number(
        None,
        label="must be",
        help="a finding tells when it no longer is, in degrees",
        unit="degrees",
        low=0.1,
        high=180.0,
        when=("kind", ("angle",)),
    )


def run(document: Document, parameters: Measure, context: Context) -> Outcome:
    """Adds the dimension. Its id is that of the step, so a changed step changes the same dimension."""
    kind = parameters.kind
    found, pieces = feature_at(document, kind, _places(document, parameters))
    wanted = parameters.angle_degrees if kind == "angle" else parameters.must_mm
    name = parameters.name or found.about
    places = settled_places(kind, found)
    made = Dimension(context.key, kind, places, pieces, name, wanted)
    after = replace(document, dimensions=(*document.dimensions, made))
    shown = drawn_dimensions(after)[-1]
    must = ", as it must be" if shown.holds else ""
    if shown.holds is False and wanted is not None:
        must = f"; must be {size_words(kind, wanted)}"
    return Outcome(after, f"Measured: {name}", f"{shown.text}{must}", {"size": found.size})


def _places(document: Document, parameters: Measure) -> Sequence[Place]:
    if KINDS[parameters.kind].places == 1:
        return (parameters.at,) if parameters.at else default_places(document, parameters.kind)
    ends = parameters.ends
    return (ends[:2], ends[2:]) if ends else default_places(document, parameters.kind)


OPERATION = Operation(
    id="measure",
    version=1,
    station="size",
    title="Measure",
    parameters=Measure,
    run=run,
    sentence="Measure {kind}[ at {at}][ between {ends}][, which must be {must_mm}][, which must be {angle_degrees}]",
    cost=at_once,
)
