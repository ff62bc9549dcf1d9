"""Steps for a design of another size: places follow it, lengths follow or keep their values."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any

from ..errors import CannotDo
from ..model import Step
from ..model.declare import declared, is_required
from .operation import Operation, upgraded

Off = tuple[float, float]


def scaled_step(operation: Operation, step: Step, factor: float, off: Off, keeps: bool) -> Step:
    """The step for a design that is so many times as large, and then moved by `off` in mm. keeps: whether its sizes
    (Operation.sizes) stay as they are. Raises CannotDo where parts of it were set by hand and cannot follow."""
    values = upgraded(operation, step.parameters, step.version)
    made = scaled_values(operation, values, factor, off, keeps)
    return replace(step, parameters=made, version=operation.version)


def scaled_values(
    operation: Operation, values: Mapping[str, Any], factor: float, off: Off, keeps: bool
) -> dict[str, Any]:
    made = dict(values)
    for name, (told, field) in declared(operation.parameters).items():
        value = values[name] if name in values or is_required(field) else field.default
        stays = keeps and name in operation.sizes
        if value is not None and not stays and told.kind in _SCALED:
            made[name] = _SCALED[told.kind](value, factor, (0.0, 0.0) if told.is_vector else off)
    if operation.scale:
        return operation.scale(made, factor, off)
    by_hand = [
        told.label for name, (told, _) in declared(operation.parameters).items() if _is_by_hand(told, values, name)
    ]
    if by_hand and not keeps:
        raise CannotDo(f'"{operation.title}" cannot follow: its {", ".join(by_hand)} are set by hand. Pin it, too.')
    return made


def _is_by_hand(told, values: Mapping[str, Any], name: str) -> bool:
    return told.kind == "data" and name not in FREE and bool(values.get(name))


#: Data that say nothing of sizes.
FREE = ("axes", "conditions")


def scaled_place(value: Any, factor: float, off: Off) -> list[float]:
    return [factor * v + off[k % 2] for k, v in enumerate(value)]


_SCALED: dict[str, Callable[[Any, float, Off], Any]] = {
    "length": lambda value, factor, off: value * factor,
    "area": lambda value, factor, off: value * factor**2,
    "point": scaled_place,
    "line": scaled_place,
    "axis": scaled_place,
    "places": lambda value, factor, off: [scaled_place(each, factor, off) for each in value],
}
