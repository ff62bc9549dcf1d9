"""OPERATIONS: every kind of step a person can take, a line each."""

from __future__ import annotations

from ..errors import BadRequest
from .align import OPERATION as ALIGN
from .arrange import OPERATION as ARRANGE
from .backing import OPERATION as BACKING
from .bring_in import OPERATION as BRING_IN
from .combine import OPERATION as COMBINE
from .copies import OPERATION as COPIES
from .holes import OPERATION as HOLES
from .layer import OPERATION as LAYER
from .mend import OPERATION as MEND
from .merge_layers import OPERATION as MERGE_LAYERS
from .operation import Context, Operation, Outcome, Progress, Role, parameters_from, schema_of, silent, upgraded
from .page import OPERATION as PAGE
from .place import OPERATION as PLACE
from .put_together import OPERATION as PUT_TOGETHER
from .remove import OPERATION as REMOVE
from .resize import OPERATION as RESIZE
from .rim import OPERATION as RIM
from .shape import OPERATION as SHAPE
from .split_by_colour import OPERATION as SPLIT_BY_COLOUR
from .take_apart import OPERATION as TAKE_APART
from .to_layer import OPERATION as TO_LAYER
from .trace import OPERATION as TRACE

#: Where steps hang on the route, in the order of work; nothing is changed at handover.
STATIONS = ("intake", "trace", "check", "build", "handover")

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
    COMBINE,
    TAKE_APART,
    PUT_TOGETHER,
    BACKING,
    RIM,
    HOLES,
    PLACE,
    ALIGN,
    COPIES,
    SHAPE,
)


def operation_of(identity: str) -> Operation:
    for operation in OPERATIONS:
        if operation.id == identity:
            return operation
    known = ", ".join(operation.id for operation in OPERATIONS)
    raise BadRequest(f'"{identity}" is not a step that is known here: use one of {known}.')


__all__ = [
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
