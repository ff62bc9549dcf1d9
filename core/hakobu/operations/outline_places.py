"""Places along outlines, set by a person: what the steps for start points and for tabs share."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from ..errors import BadRequest
from ..model import Document, OutlinePlace
from ..model.declare import data
from ..model.words import number_of
from .operation import Operation, Outcome, at_once

#: Places on one outline.
MOST = 200


@dataclass(frozen=True)
class OutlinePlaces:
    places: Mapping[str, Any] | None = data(
        None, label="places", help='a piece to its outlines, from "0", each with shares of its length from 0 to 1'
    )


def places_step(identity: str, title: str, sentence: str, field: str, one: str) -> Operation:
    """The step that keeps places in a field of the document; without any they are the machine's again."""

    def run(document: Document, parameters: OutlinePlaces, context) -> Outcome:
        places = places_there(document, parameters.places)
        made = replace(document, **{field: places})
        if not places:
            return Outcome(made, f"{one.capitalize()}s by the machine")
        return Outcome(made, f"{number_of(len(places), one)} of your own", "", {field: len(places)})

    return Operation(
        id=identity, version=1, station="proof", title=title, parameters=OutlinePlaces, run=run, sentence=sentence,
        cost=at_once,
    )  # fmt: skip


def places_there(document: Document, places: Mapping[str, Any] | None) -> tuple[OutlinePlace, ...]:
    """The places that are named, without those on outlines that are gone, or open now. Raises BadRequest for what names
    none."""
    found = [
        OutlinePlace(piece, number, share)
        for piece, outlines in (places or {}).items()
        for number, shares in _outlines(piece, outlines)
        for share in shares
    ]
    return tuple(each for each in found if _is_there(document, each))


def _outlines(piece: str, outlines: Any) -> list[tuple[int, list[float]]]:
    said = f'Places on "{piece}" are numbers of its outlines, from "0", each with shares of its length from 0 to 1.'
    if not isinstance(outlines, dict):
        raise BadRequest(said)
    made = []
    for number, value in outlines.items():
        shares = value if isinstance(value, list) else [value]
        whole = isinstance(number, str) and number.isdecimal() and len(number) < 10
        if not whole or len(shares) > MOST or not all(_is_share(share) for share in shares):
            raise BadRequest(said)
        made.append((int(number), [float(share) % 1.0 for share in shares]))
    return made


def _is_share(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool) and 0 <= value <= 1


def _is_there(document: Document, place: OutlinePlace) -> bool:
    piece = document.by_id.get(place.piece)
    return piece is not None and place.outline < len(piece.path) and bool(piece.path.closed[place.outline])
