"""What a revision's design is held against, from its settings."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from hakobu.lists import MATERIAL_LIMITS, Lists
from hakobu.model import Conditions, Document, Machine, Material
from hakobu.model.conditions import ANY_MATERIAL
from hakobu.model.sheet import Sheet
from hakobu.toolpaths import Plan
from library.lists import differing, lists_at, newest

from .models import Revision
from .store import load_document


def conditions_of(settings: Mapping[str, Any]) -> Conditions:
    """Of settings as a revision keeps them."""
    lists = lists_at(settings.get("lists"))
    return Conditions(
        material=_material(lists, settings),
        materials=lists.own_materials,
        machine=lists.machine(settings["machine"]) if settings.get("machine") else None,
        purpose=lists.purpose(settings.get("purpose") or ""),
        target=lists.target(settings["target"]) if settings.get("target") else None,
        target_off=_pair(settings.get("target_off") or (0.0, 0.0)),
        one=frozenset(key for key, values in settings.get("pieces", {}).items() if values.get("one")),
    )


def machine_of(settings: Mapping[str, Any], sheet: Sheet) -> Machine | None:
    """What a sheet goes to: a machine of its own, from the newest lists if those of the job do not have it; or that of
    the job. Raises BadRequest where it is on neither."""
    identity = sheet.machine or settings.get("machine")
    if not identity:
        return None
    lists = lists_at(settings.get("lists"))
    known = any(machine.id == identity for machine in lists.machines)
    return (lists if known else lists_at(newest())).machine(identity)


def plan_of(settings: Mapping[str, Any], document: Document, machine: Machine | None, **more) -> Plan:
    """How a document is worked with a machine, as a revision's lists have it. more: of the plan."""
    usual, lists = settings.get("material"), lists_at(settings.get("lists"))
    return lists.plan(document, machine, lambda layer: layer.material or usual, **more)


def _pair(values: Sequence[float]) -> tuple[float, float]:
    x, y = values
    return x, y


def _material(lists: Lists, settings: Mapping[str, Any]) -> Material | None:
    """The job's material, with what was set otherwise of it."""
    material = lists.material(settings["material"]) if settings.get("material") else None
    limits = settings.get("limits") or {}
    return replace(material or ANY_MATERIAL, **limits) if limits else material


def conditions_for(revision: Revision) -> Conditions:
    return conditions_of(revision.settings)


def held_against(revision: Revision) -> dict[str, Any]:
    """The same in words and numbers: the names of what was chosen, what the material bears, and what of it is another
    on the lists now."""
    conditions = conditions_of(revision.settings)
    material = conditions.material or ANY_MATERIAL
    materials = {layer.material for layer in load_document(revision.document_id).layers if layer.material}
    return {
        "material": conditions.material.name if conditions.material and revision.settings.get("material") else None,
        "machine": conditions.machine.name if conditions.machine else None,
        "purpose": conditions.purpose.name,
        "target": conditions.target.name if conditions.target else None,
        "purpose_says": conditions.purpose.says,
        "bears": {name: getattr(material, name) for name in MATERIAL_LIMITS},
        "differing": differing(revision.settings, materials),
    }
