"""OPERATIONS: every kind of step a person can take, a line each. One is loaded when it is first asked for."""

from __future__ import annotations

from functools import cache
from importlib import import_module

from ..errors import BadRequest
from .operation import Context, Operation, Outcome, Progress, Role, parameters_from, schema_of, silent, upgraded

#: Where steps hang on the route, in the order of work; nothing is changed at handover.
STATIONS = ("intake", "trace", "check", "build", "size", "sheet", "proof", "handover")

#: The ids of all operations; the module of that name, with underscores, holds each.
NAMES: tuple[str, ...] = (
    "bring-in",
    "page",
    "resize",
    "layer",
    "to-layer",
    "merge-layers",
    "split-by-colour",
    "arrange",
    "remove",
    "trace",
    "mend",
    "combine",
    "take-apart",
    "put-together",
    "backing",
    "rim",
    "holes",
    "place",
    "align",
    "copies",
    "shape",
    "simplify",
    "words",
    "open-along",
    "symmetry",
    "interlock",
    "let-in",
    "caption",
    "bridge",
    "join",
    "stand",
    "thicken",
    "corners",
    "smooth",
    "pattern",
    "dash",
    "fold",
    "edges",
    "nodes",
    "cut-along",
    "size-by",
    "measure",
    "tiles",
    "sheets",
    "lay",
    "work-order",
    "start-points",
    "tab-places",
)


@cache
def operation_of(identity: str) -> Operation:
    """Raises BadRequest for an id that is not known."""
    if identity not in NAMES:
        raise BadRequest(f'"{identity}" is not a step that is known here: use one of {", ".join(NAMES)}.')
    return import_module(f".{identity.replace('-', '_')}", __name__).OPERATION


def __getattr__(name: str):
    if name == "OPERATIONS":
        return tuple(operation_of(identity) for identity in NAMES)
    raise AttributeError(f"module {__name__!r} has no attribute {name!r}")


OPERATIONS: tuple[Operation, ...]

__all__ = [
    "NAMES",
    "OPERATIONS",
    "STATIONS",
    "Context",
    "Operation",
    "Outcome",
    "Progress",
    "Role",
    "operation_of",
    "parameters_from",
    "schema_of",
    "silent",
    "upgraded",
]
