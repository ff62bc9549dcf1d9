"""OPERATIONS: every kind of step a person can take, a line each."""

from __future__ import annotations

from ..errors import BadRequest
from .arrange import OPERATION as ARRANGE
from .bring_in import OPERATION as BRING_IN
from .layer import OPERATION as LAYER
from .mend import OPERATION as MEND
from .merge_layers import OPERATION as MERGE_LAYERS
from .operation import Context, Operation, Outcome, Progress, parameters_from, schema_of, silent
from .page import OPERATION as PAGE
from .remove import OPERATION as REMOVE
from .resize import OPERATION as RESIZE
from .split_by_colour import OPERATION as SPLIT_BY_COLOUR
from .to_layer import OPERATION as TO_LAYER
from .trace import OPERATION as TRACE

OPERATIONS: tuple[Operation, ...] = (
    BRING_IN,
    PAGE,
    RESIZE,
    LAYER,
    TO_LAYER,
    MERGE_LAYERS,
    SPLIT_BY_COLOUR,
    ARRANGE,
    REMOVE,
    TRACE,
    MEND,
)


def operation_of(identity: str) -> Operation:
    for operation in OPERATIONS:
        if operation.id == identity:
            return operation
    known = ", ".join(operation.id for operation in OPERATIONS)
    raise BadRequest(f'"{identity}" is not a step that is known here: use one of {known}.')


__all__ = [
    "OPERATIONS",
    "Context",
    "Operation",
    "Outcome",
    "Progress",
    "operation_of",
    "parameters_from",
    "schema_of",
    "silent",
]
