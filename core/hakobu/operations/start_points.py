"""start-points: where closed outlines are begun, by the person."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from ..model import Document
from ..model.declare import data
from ..model.words import number_of
from .operation import Context, Operation, Outcome, at_once
from .outline_places import places_there


@dataclass(frozen=True)
class StartPoints:
    places: Mapping[str, Any] | None = data(
        None, label="starts", help='a piece to its outlines, from "0", each with shares of its length from 0 to 1'
    )


def run(document: Document, parameters: StartPoints, context: Context) -> Outcome:
    """Without any they are where the machine wants them."""
    starts = places_there(document, parameters.places)
    made = replace(document, starts=starts)
    if not starts:
        return Outcome(made, "Starts by the machine")
    return Outcome(made, f"{number_of(len(starts), 'start')} of your own", "", {"starts": len(starts)})


OPERATION = Operation(
    id="start-points",
    version=1,
    station="proof",
    title="Start points",
    parameters=StartPoints,
    run=run,
    sentence="Begin outlines at these places",
    cost=at_once,
)
