"""dimension-off: a dimension is not what it must be, or what it measured is gone."""

from __future__ import annotations

from collections.abc import Iterable

from ..model import Conditions, Document, Finding, Level
from ..model.features import OFF_DEGREES, OFF_MM, DrawnDimension, drawn_dimensions, size_words
from .rule import DOCUMENT, Rule


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each."""
    pieces = {dimension.id: dimension.pieces for dimension in document.dimensions}
    for drawn in drawn_dimensions(document):
        if drawn.holds is False:
            there = [identity for identity in pieces[drawn.id] if identity in document.by_id]
            yield RULE.at(_said(drawn), there, drawn.ends[0], detail=drawn.id, measure=_values(drawn))


def _said(drawn: DrawnDimension) -> str:
    assert drawn.must_be is not None, "what does not hold must be something"
    must = size_words(drawn.kind, drawn.must_be)
    if drawn.size is None:
        return f'"{drawn.name}" must be {must}, and what it measured is no longer there.'
    return f'"{drawn.name}" must be {must}, and is {size_words(drawn.kind, drawn.size)}.'


def _values(drawn: DrawnDimension) -> dict[str, float | None]:
    return {"must_be": drawn.must_be} if drawn.size is None else {"is": round(drawn.size, 4), "must_be": drawn.must_be}


RULE = Rule(
    id="dimension-off",
    about=DOCUMENT,
    level=Level.SPOILS,
    title="Not the size it must be",
    effect="It will not fit what it is made for.",
    find=find,
    thresholds=(f"more than {OFF_MM} mm or {OFF_DEGREES} degrees off (common practice)",),
)
