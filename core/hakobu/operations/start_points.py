"""start-points: where closed outlines are begun, by the person."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Any

from ..errors import BadRequest
from ..model import Document, StartPoint
from ..model.declare import data
from ..model.words import number_of
from .operation import Context, Operation, Outcome, at_once


@dataclass(frozen=True)
class StartPoints:
    places: Mapping[str, Any] | None = data(
        None, label="starts", help='a piece to its outlines, from "0", each with a share of its length from 0 to 1'
    )


def run(document: Document, parameters: StartPoints, context: Context) -> Outcome:
    """Outlines that are named begin there; those that are gone, or open now, are passed over. Without any all begin
    where the machine wants it."""
    starts = tuple(each for each in _read(parameters.places or {}) if _is_there(document, each))
    made = replace(document, starts=starts)
    if not starts:
        return Outcome(made, "Starts by the machine")
    return Outcome(made, f"{number_of(len(starts), 'start')} of your own", "", {"starts": len(starts)})


def _read(places: Mapping[str, Any]) -> Iterator[StartPoint]:
    for piece, outlines in places.items():
        for outline, share in outlines.items() if isinstance(outlines, dict) else [("", None)]:
            whole = isinstance(outline, str) and outline.isdecimal() and len(outline) < 10
            if not whole or not isinstance(share, int | float) or not 0 <= share <= 1:
                raise BadRequest(f'Starts of "{piece}" are numbers of its outlines, each with a share from 0 to 1.')
            yield StartPoint(piece, int(outline), share % 1.0)


def _is_there(document: Document, start: StartPoint) -> bool:
    piece = document.by_id.get(start.piece)
    return piece is not None and start.outline < len(piece.path) and bool(piece.path.closed[start.outline])


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
