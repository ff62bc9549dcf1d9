"""What a revision's design is held against, from its settings."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from hakobu.machines import machine_of
from hakobu.model import Conditions, Material
from hakobu.model.conditions import ANY_MATERIAL
from hakobu.model.materials import material_of
from hakobu.model.purposes import purpose_of

from .models import Revision

#: What of a layer's settings decides what is a fault.
OF_LAYERS = ("treatment", "material", "mirrored")
#: What a person may set otherwise of the job's material, and between which values.
LIMITS = {"least_strip_mm": (0.01, 50.0), "least_gap_mm": (0.01, 50.0), "least_piece_mm2": (0.001, 1000.0)}


def conditions_of(settings: Mapping[str, Any]) -> Conditions:
    """Of settings as a revision keeps them; its document has what they say of layers already."""
    return Conditions(
        material=_material(settings),
        machine=machine_of(settings["machine"]) if settings.get("machine") else None,
        purpose=purpose_of(settings.get("purpose") or ""),
        one=frozenset(key for key, values in settings.get("pieces", {}).items() if values.get("one")),
    )


def _material(settings: Mapping[str, Any]) -> Material | None:
    """The job's material, with what was set otherwise of it."""
    material, limits = material_of(settings.get("material")), settings.get("limits") or {}
    return replace(material or ANY_MATERIAL, **limits) if limits else material


def conditions_for(revision: Revision) -> Conditions:
    return conditions_of(revision.settings)


def for_a_step(settings: Mapping[str, Any]) -> dict[str, Any]:
    """The same as a step keeps it, with what is said of layers: its own document has none of that."""
    layers = {
        key: said
        for key, values in settings.get("layers", {}).items()
        if (said := {name: values[name] for name in OF_LAYERS if name in values})
    }
    return conditions_of(settings).to_json() | {"layers": layers}
