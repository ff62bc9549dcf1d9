"""Parameters and pieces as they are typed: the options of the command line, from an operation's declarations."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any

from ..errors import BadRequest
from ..model import Document
from ..model.declare import Declared, declared
from ..model.step import Selection
from ..model.units import parse_angle, parse_area, parse_length
from .operation import Operation

#: How a parameter is called that has another name in the data.
OTHERWISE = {"color": "colour"}
_UNIT = re.compile(r"_(mm2|mm|degrees)$")
_COMMA = re.compile(r"\s*[,;]\s*")


def option_of(field: str) -> str:
    """The option of a parameter: without its unit, words joined by dashes."""
    return _UNIT.sub("", OTHERWISE.get(field, field)).replace("_", "-")


def options_of(operation: Operation) -> dict[str, tuple[str, Declared]]:
    """The parameters that can be typed, by their options; each with its field."""
    return {
        option_of(field): (field, told)
        for field, (told, _) in declared(operation.parameters).items()
        if told.kind not in ("data", "pixels") and option_of(field) not in operation.spellings
    }


def values_from(operation: Operation, typed: Mapping[str, str | bool], document: Document) -> dict[str, Any]:
    """The parameters of what was typed, by its options. Raises BadRequest, naming the option, for what makes no
    sense."""
    known, values = options_of(operation), {}
    for option, text in typed.items():
        if option in operation.spellings:
            values |= operation.spellings[option][1](str(text))
            continue
        field, told = known[option]
        try:
            values[field] = _value(told, text, document)
        except BadRequest as error:
            raise BadRequest(f"--{option}: {error.sentence}") from error
    return values


def selection_from(operation: Operation, typed: Mapping[str, str]) -> dict[str, Selection]:
    """The selection of queries, by role."""
    return {role: Selection(query=text) for role, text in typed.items()}


def _value(told: Declared, text: str | bool, document: Document) -> Any:
    return text if isinstance(text, bool) else _READ.get(told.kind, _word)(text, document)


def _word(text: str, document: Document) -> str:
    return text


def _figure(kind: type, what: str) -> Callable[[str, Document], float]:
    def read(text: str, document: Document) -> float:
        try:
            return kind(text.replace(",", "."))
        except ValueError:
            raise BadRequest(f'"{text}" is not {what}.') from None

    return read


def _lengths(number: int, what: str) -> Callable[[str, Document], tuple[float, ...]]:
    def read(text: str, document: Document) -> tuple[float, ...]:
        parts = [part for part in _COMMA.split(text.strip()) if part]
        if len(parts) != number:
            raise BadRequest(f'"{text}" is not {what}, with commas between: {", ".join("xyxy"[:number])}.')
        return tuple(parse_length(part) for part in parts)

    return read


def place_of(typed: str) -> tuple[float, ...]:
    """x,y in mm."""
    return _lengths(2, "a place")(typed, Document())


def number_of(typed: str) -> float:
    """A whole number."""
    return _figure(int, "a whole number")(typed, Document())


def _layer(text: str, document: Document) -> str:
    """A layer by its id or its name."""
    known = {layer.id for layer in document.layers}
    if text in known or not text:
        return text
    named = [layer.id for layer in document.layers if layer.name == text]
    if len(named) != 1:
        names = ", ".join(f'"{layer.name}"' for layer in document.layers) or "none"
        raise BadRequest(f'"{text}" is no layer of this design; there are {names}.')
    return named[0]


def _listed(read: Callable[[str, Document], str]) -> Callable[[str, Document], tuple[str, ...]]:
    return lambda text, document: tuple(read(part, document) for part in _COMMA.split(text.strip()) if part)


def _places(text: str, document: Document) -> tuple[tuple[float, ...], ...]:
    """Places with blanks between them: 10,20 30,20."""
    return tuple(place_of(part) for part in text.split())


#: How a kind of parameter is read from what was typed.
_READ: dict[str, Callable[[str, Document], Any]] = {
    "length": lambda text, document: parse_length(text),
    "area": lambda text, document: parse_area(text),
    "angle": lambda text, document: parse_angle(text),
    "number": _figure(float, "a number"),
    "count": _figure(int, "a whole number"),
    "layer": _layer,
    "layers": _listed(_layer),
    "pieces": _listed(_word),
    "words": _listed(_word),
    "spots": _listed(_word),
    "places": _places,
    "point": _lengths(2, "a place"),
    "line": _lengths(4, "a line"),
    "axis": _lengths(4, "an axis"),
}
