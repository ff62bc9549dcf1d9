"""tab-places: where tabs hold what is cut, by the person."""

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
class TabPlaces:
    places: Mapping[str, Any] | None = data(
        None, label="tabs", help='a piece to its outlines, from "0", each with shares of its length from 0 to 1'
    )


def run(document: Document, parameters: TabPlaces, context: Context) -> Outcome:
    """Without any they are where the machine wants them."""
    tabs = places_there(document, parameters.places)
    made = replace(document, tabs=tabs)
    if not tabs:
        return Outcome(made, "Tabs by the machine")
    return Outcome(made, f"{number_of(len(tabs), 'tab')} of your own", "", {"tabs": len(tabs)})


OPERATION = Operation(
    id="tab-places",
    version=1,
    station="proof",
    title="Places of tabs",
    parameters=TabPlaces,
    run=run,
    sentence="Hold outlines by tabs at these places",
    cost=at_once,
)
