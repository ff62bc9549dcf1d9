"""OPERATIONS: every kind of step a person can take, a line each."""

from __future__ import annotations

from ..model.errors import BadRequest
from .bring_in import OPERATION as BRING_IN
from .mend import OPERATION as MEND
from .operation import Context, Operation, Outcome, Progress, parameters_from, schema_of, silent
from .page import OPERATION as PAGE
from .resize import OPERATION as RESIZE
from .trace import OPERATION as TRACE

OPERATIONS: tuple[Operation, ...] = (BRING_IN, PAGE, RESIZE, TRACE, MEND)


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
