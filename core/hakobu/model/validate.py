"""Values checked against their declarations, and the declarations as JSON Schema: msgspec does both."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Annotated, Any, Literal

from ..errors import BadRequest
from .declare import Declared, declared, is_required

#: What a value of a kind must be, in words.
MUST_BE = {
    "length": "a length",
    "area": "an area",
    "angle": "an angle",
    "number": "a number",
    "count": "a whole number",
    "flag": "true or false",
    "text": "a word",
    "colour": "a colour as #rrggbb, for instance #b5653c",
    "layer": "the id of a layer, a word",
    "piece": "the id of a piece, a word",
    "font": "the id of a face, a word",
    "layers": "a list of words, the ids of layers",
    "pieces": "a list of words, the ids of pieces",
    "words": "a list of words",
    "places": "a list of places, each x and y in mm",
    "spots": "a list of words, the ids of spots",
    "pixels": "a list of pixels, each two whole numbers",
    "point": "a place, as x and y in mm",
    "line": "a line, as x, y, x, y in mm",
    "axis": "an axis, as x, y, x, y in mm",
    "data": "an object of names and values",
}


#: All kinds of parameters.
KINDS = (*MUST_BE, "choice")


def validated(of: type, values: Mapping[str, Any], name: str) -> Any:
    """The dataclass made of plain data. name: what it is for. Raises BadRequest, naming the field, where it does not
    fit."""
    import msgspec  # loaded only where something is checked

    known = declared(of)
    for given in values:
        if given not in known:
            raise BadRequest(f'"{name}" has no parameter "{given}"; it has {", ".join(known) or "none"}.')
    made = {}
    for field, (told, f) in known.items():
        if field not in values:
            if is_required(f):
                raise BadRequest(f'"{name}" needs its parameter "{field}": {told.help}.')
            continue
        value = values[field]
        if value is None and f.default is None:
            made[field] = None
            continue
        try:
            made[field] = msgspec.convert(value, type_of(told))
        except msgspec.ValidationError as error:
            raise BadRequest(_sentence(field, told, value)) from error
        if not _is_finite(made[field]):
            raise BadRequest(_sentence(field, told, value))
    return of(**made)


def schema_of_values(of: type, tag: str) -> tuple[dict[str, Any], dict[str, Any]]:
    """JSON Schema (2020-12) of a dataclass, and what it refers to: an object with `operation` for its tag."""
    import msgspec

    rows = []
    for field, (told, f) in declared(of).items():
        kind: Any = Annotated[type_of(told), msgspec.Meta(title=told.label, description=told.help)]
        if is_required(f):
            rows.append((field, kind))
        else:
            rows.append((field, kind | None if f.default is None else kind, f.default))
    rows.sort(key=lambda row: len(row))
    struct = msgspec.defstruct(tag, rows, tag_field="operation", tag=tag, kw_only=True, forbid_unknown_fields=True)
    (schema,), parts = msgspec.json.schema_components([struct], ref_template="#/components/schemas/{name}")
    return schema, parts


def type_of(told: Declared) -> Any:
    """The type that msgspec checks a value of such a kind by."""
    from msgspec import Meta

    word = Annotated[str, Meta(max_length=told.most if told.kind == "text" else 1000)]
    place = tuple[float, float]
    kinds = {
        "flag": bool,
        "text": word,
        "colour": Annotated[str, Meta(pattern="^#[0-9a-fA-F]{6}$")],
        "layer": word,
        "piece": word,
        "font": word,
        "point": place,
        "line": tuple[float, float, float, float],
        "axis": tuple[float, float, float, float],
        "data": dict[str, Any],
        "places": Annotated[tuple[place, ...], Meta(max_length=told.most)],
        "pixels": Annotated[tuple[tuple[int, int], ...], Meta(max_length=told.most)],
    }
    if told.kind in ("layers", "pieces", "words", "spots"):
        return Annotated[tuple[word, ...], Meta(max_length=told.most)]
    if told.kind == "choice":
        return Literal[tuple(value for value, _ in told.choices)]
    if told.kind in kinds:
        return kinds[told.kind]
    figure = {"count": int}.get(told.kind, float)
    return Annotated[figure, Meta(ge=told.low, le=told.high)]


def _is_finite(value: Any) -> bool:
    if isinstance(value, float):
        return math.isfinite(value)
    return all(map(_is_finite, value)) if isinstance(value, tuple) else True


def _sentence(field: str, told: Declared, value: Any) -> str:
    shown = repr(value) if len(repr(value)) <= 60 else f"{repr(value)[:57]}..."
    if isinstance(value, list | tuple) and len(value) > told.most:
        return f'"{field}" may list {told.most:,} at most, not {len(value):,}: take several steps.'
    if told.kind == "choice":
        return f'"{field}" must be one of {", ".join(v for v, _ in told.choices)}, not {shown}.'
    if told.kind == "text" and isinstance(value, str):
        return f'"{field}" must have no more than {told.most:,} letters, not {len(value):,}.'
    number = isinstance(value, int | float) and not isinstance(value, bool)
    if told.low is not None and told.high is not None:
        between = f"between {told.low:g} and {told.high:g}{f' {told.unit}' if told.unit else ''}"
        if number and (told.kind != "count" or isinstance(value, int)):
            return f'"{field}" must lie {between}, not at {value:g}.'
        return f'"{field}" must be a number {between}: {MUST_BE[told.kind]}, not {shown}.'
    return f'"{field}" must be {MUST_BE[told.kind]}, not {shown}.'
