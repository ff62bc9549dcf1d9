"""The steps of a revision, as a client names them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from hakobu.errors import BadRequest, NotThere
from hakobu.model import Step
from hakobu.model.ids import new_key
from hakobu.model.query import parse_query
from hakobu.model.step import Selection
from hakobu.operations import operation_of, parameters_from
from library.lists import refuse_unknown

from .conditions import conditions_of
from .history import base_of, steps_of
from .models import Job


def steps_from_request(
    job: Job, based_on: int, items: list[Mapping[str, Any]], settings: Mapping[str, Any] = {}
) -> tuple[list[Step], dict[str, str]]:
    """Steps as a client names them: {"key"} keeps a step of the base as it is; one with a key and more changes it; one
    without a key is new. With them, which are to find their pieces anew: see run_chain. A new mend keeps what the
    design was held against when it was made, from the settings, those of the base and new ones."""
    base = base_of(job, based_on)
    known = {step.key: step for step in steps_of(base)}
    named = [item["key"] for item in items if item.get("key")]
    if len(set(named)) < len(named):
        raise BadRequest("A step stands in the list twice: each can be kept once.")
    held = conditions_of({**base.settings, **settings}).to_json()
    steps = [_step_from(_with_conditions(item, held, known), known) for item in items]
    selection_modes = {
        step.key: "repair" if item.get("repair") else "select"
        for item, step in zip(items, steps, strict=True)
        if item.get("repair") or "parameters" in item or "selection" in item or step.key not in known
    }
    fresh = (step for step in steps if step.operation == "layer" and step.key in selection_modes)
    refuse_unknown({**base.settings, **settings}, filter(None, (step.parameters.get("material") for step in fresh)))
    return steps, selection_modes


def _with_conditions(item: Mapping[str, Any], held: Mapping[str, Any], known: Mapping[str, Step]) -> Mapping[str, Any]:
    values = item.get("parameters", {})
    if item.get("operation") != "mend" or item.get("key") in known or "conditions" in values:
        return item
    return {**item, "parameters": {**values, "conditions": held}}


def _step_from(item: Mapping[str, Any], known: Mapping[str, Step]) -> Step:
    old = known.get(item.get("key", ""))
    if item.get("key") and old is None:
        raise NotThere("One of the steps to keep is not in the revision this is based on.")
    operation = operation_of(item.get("operation") or (old.operation if old else ""))
    values = item.get("parameters", old.parameters if old else {})
    parameters_from(operation, values, old.version if old and "parameters" not in item else None)
    enabled = bool(item.get("enabled", old.enabled if old else True))
    # What is changed is made anew, by the operation as it is now.
    version = old.version if old and "parameters" not in item else operation.version
    selection = _selection_from(item["selection"]) if "selection" in item else old.selection if old else {}
    return Step(old.key if old else new_key(), operation.id, version, values, selection, enabled)


def _selection_from(roles: Mapping[str, Mapping[str, Any]]) -> dict[str, Selection]:
    """Pieces as a client names them, not marked yet, or a query."""
    for chosen in roles.values():
        if chosen.get("query"):
            parse_query(chosen["query"])
    return {
        role: Selection(dict.fromkeys(chosen.get("ids", ())), chosen.get("query", "")) for role, chosen in roles.items()
    }
