"""What an operation is: the kind of step a person can take."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import MISSING, dataclass, field, fields
from typing import Any

import numpy as np

from ..errors import BadRequest
from ..formats import ReadResult
from ..model import Document, Finding

#: Told how far a piece of work is: the share from 0 to 1, and what is being done.
Progress = Callable[[float, str], None]


def silent(share: float, stage: str) -> None:
    """Progress that nobody follows."""


@dataclass(frozen=True)
class Context:
    """What a step is handed beside the document: its key, the pieces it is for (none: all of them), the reader of
    sources: (sha256, unit, key, notes) -> what was read, the decoder of pictures: sha256 -> (H, W, 4) uint8, and whom
    to tell how far it is: (share from 0 to 1, what is being done)."""

    key: str
    selection: tuple[str, ...] = ()
    source: Callable[[str, str | None, str, bool], ReadResult] | None = None
    picture: Callable[[str], np.ndarray] | None = None
    progress: Progress = silent


@dataclass(frozen=True)
class Outcome:
    """The document after a step. title: what was done, for the log. note: its effect. findings: of what was read."""

    document: Document
    title: str
    note: str = ""
    figures: Mapping[str, float | int | str] = field(default_factory=dict)
    findings: tuple[Finding, ...] = ()


@dataclass(frozen=True)
class Operation:
    """id and version are permanent: a new version is a new result. station: where in the route the step hangs.
    parameters: a frozen dataclass whose fields carry their unit, range and help.

    select(document, parameters) names the pieces that a step is for, where its parameters say so; a step whose pieces
    are gone or changed stops. repair(document, parameters, ids) gives the parameters for what is still there.
    seconds_per_segment: what it takes for each segment of the document, roughly."""

    id: str
    version: int
    station: str
    title: str
    parameters: type
    run: Callable[[Document, Any, Context], Outcome]
    select: Callable[[Document, Any], tuple[str, ...]] | None = None
    repair: Callable[[Document, Any, tuple[str, ...]], Any] | None = None
    seconds_per_segment: float = 25e-6


#: So many pieces, layers or findings may be named in a parameter, and letters in a word, where nothing else is said.
MOST_LISTED, MOST_LETTERS = 20_000, 1000


def parameter(
    default: Any = MISSING,
    *,
    help: str,
    unit: str = "",
    low: float | None = None,
    high: float | None = None,
    choices: tuple[str, ...] = (),
    most: int = MOST_LISTED,
):
    """A field of a parameters dataclass. choices: the words that it can be, where not any; most: how many it may list
    at once."""
    told = {"help": help, "unit": unit, "low": low, "high": high, "choices": list(choices), "most": most}
    return field(default=default, metadata=told)


def schema_of(operation: Operation) -> list[dict[str, Any]]:
    """The fields of an operation as plain data, for forms, options and the API's document."""
    return [
        {
            "name": f.name,
            "type": str(f.type),
            "default": None if f.default is MISSING else f.default,
            "required": f.default is MISSING,
            **f.metadata,
        }
        for f in fields(operation.parameters)
    ]


def parameters_from(operation: Operation, values: Mapping[str, Any]) -> Any:
    """The parameters of plain data. Raises BadRequest, naming the field, where they do not fit."""
    known = {f.name: f for f in fields(operation.parameters)}
    for name in values:
        if name not in known:
            raise BadRequest(f'"{operation.id}" has no parameter "{name}"; it has {", ".join(known)}.')
    for name, f in known.items():
        if name not in values and f.default is MISSING:
            raise BadRequest(f'"{operation.id}" needs its parameter "{name}": {f.metadata["help"]}.')
    return operation.parameters(**{name: _checked(known[name], value) for name, value in values.items()})


def _checked(f, value: Any) -> Any:
    kind = str(f.type)
    if value is None and "None" in kind:
        return None
    if "float" in kind:
        if isinstance(value, bool) or not isinstance(value, int | float) or value != value:
            raise BadRequest(f'"{f.name}" must be a number, not {value!r}.')
        low, high = f.metadata["low"], f.metadata["high"]
        if (low is not None and value < low) or (high is not None and value > high):
            raise BadRequest(
                f'"{f.name}" must lie between {low:g} and {high:g} {f.metadata["unit"]}, not at {value:g}.'
            )
        return float(value)
    if "Mapping" in kind:
        if not isinstance(value, Mapping):
            raise BadRequest(f'"{f.name}" must be an object of names and values.')
        return value
    if kind.startswith("bool"):
        if not isinstance(value, bool):
            raise BadRequest(f'"{f.name}" must be true or false, not {value!r}.')
        return value
    if kind.startswith("tuple[tuple[int"):
        if not isinstance(value, list | tuple) or not all(_is_pixel(v) for v in value):
            raise BadRequest(f'"{f.name}" must be a list of pixels, each two whole numbers.')
        _refuse_more(f, value)
        return tuple((int(x), int(y)) for x, y in value)
    if kind.startswith("int"):
        low, high = f.metadata["low"], f.metadata["high"]
        if isinstance(value, bool) or not isinstance(value, int) or not (low <= value <= high):
            raise BadRequest(f'"{f.name}" must be a whole number from {low} to {high}, not {value!r}.')
        return value
    if "tuple" in kind:
        if not isinstance(value, list | tuple) or not all(isinstance(v, str) for v in value):
            raise BadRequest(f'"{f.name}" must be a list of words.')
        _refuse_more(f, value)
        return tuple(value)
    if not isinstance(value, str):
        raise BadRequest(f'"{f.name}" must be a word, not {value!r}.')
    if len(value) > MOST_LETTERS:
        raise BadRequest(f'"{f.name}" must have no more than {MOST_LETTERS:,} letters, not {len(value):,}.')
    if f.metadata["choices"] and value not in f.metadata["choices"]:
        raise BadRequest(f'"{f.name}" must be one of {", ".join(f.metadata["choices"])}, not "{value}".')
    return value


def _refuse_more(f, value: Any) -> None:
    if len(value) > f.metadata["most"]:
        raise BadRequest(f'"{f.name}" may list {f.metadata["most"]:,} at most, not {len(value):,}: take several steps.')


def _is_pixel(value: Any) -> bool:
    return (
        isinstance(value, list | tuple)
        and len(value) == 2
        and all(isinstance(v, int) and not isinstance(v, bool) for v in value)
    )
