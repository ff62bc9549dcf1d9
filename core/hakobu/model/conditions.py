"""Conditions: what a design is checked against: its materials, the machine, its purpose, its target."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, fields
from typing import Any

from ..errors import BadRequest
from .document import Document, Layer, Treatment
from .machines import Machine
from .materials import Material, material_of
from .purposes import PURPOSES, Purpose, purpose_of
from .targets import Target

#: Where nothing is said of the material, only what no material could do is a fault: common practice for the finest
#: film on a liner.
ANY_MATERIAL = Material("", "no material chosen", "#000000", 0.1, 0.3, 0.0, 0.0, False, 0.1, 0.25)


@dataclass(frozen=True)
class Conditions:
    """tolerance_mm: how far a line may move, and how wide a gap is closed, when a design is mended. material: of layers
    that name none of their own; materials: those, by their ids, where they are not as they ship. one: the pieces that
    must each be one. layers: what is set anew of layers. target: what the design goes onto, and target_off: how far its
    middle lies off that of the target."""

    tolerance_mm: float = 0.25
    material: Material | None = None
    materials: Mapping[str, Material] = field(default_factory=dict)
    machine: Machine | None = None
    purpose: Purpose = PURPOSES[0]
    one: frozenset[str] = frozenset()
    layers: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)
    target: Target | None = None
    target_off: tuple[float, float] = (0.0, 0.0)

    def named_material(self, layer: Layer) -> Material | None:
        """What a layer is made of, where that is known."""
        if layer.material:
            return self.materials.get(layer.material) or material_of(layer.material)
        return self.material

    def material_of(self, layer: Layer) -> Material:
        """What a layer is made of, or that which is true of any material."""
        return self.named_material(layer) or ANY_MATERIAL

    def settled(self, document: Document) -> Document:
        """The document with what is said of its layers."""
        return document.with_layers(self.layers)

    def to_json(self) -> dict[str, Any]:
        """Plain data, complete in itself, so that a step means the same for ever."""
        return {
            "tolerance_mm": self.tolerance_mm,
            "material": asdict(self.material) if self.material else None,
            "materials": {key: asdict(value) for key, value in sorted(self.materials.items())},
            "machine": asdict(self.machine) if self.machine else None,
            "purpose": asdict(self.purpose),
            "one": sorted(self.one),
            "layers": {key: dict(sorted(value.items())) for key, value in sorted(self.layers.items())},
            # Left out where there is none, so that what was kept before there were targets is known again.
            **({"target": asdict(self.target), "target_off": list(self.target_off)} if self.target else {}),
        }

    @staticmethod
    def from_json(data: Mapping[str, Any]) -> Conditions:
        """Raises BadRequest, naming what does not fit."""
        known = {f.name for f in fields(Conditions)}
        for name in data:
            if name not in known:
                raise BadRequest(f'"{name}" is not a condition; there are {", ".join(sorted(known))}.')
        try:
            for values in data.get("layers", {}).values():
                Treatment(values.get("treatment", Treatment.CUT))
            return Conditions(
                float(data.get("tolerance_mm", 0.25)),
                Material(**data["material"]) if data.get("material") else None,
                {key: Material(**value) for key, value in data.get("materials", {}).items()},
                Machine(**data["machine"]) if data.get("machine") else None,
                _purpose(data.get("purpose", "")),
                frozenset(data.get("one", ())),
                data.get("layers", {}),
                Target(**data["target"]) if data.get("target") else None,
                tuple(data.get("target_off", (0.0, 0.0))),
            )
        except (TypeError, ValueError, AttributeError) as error:
            raise BadRequest("The conditions that a design is checked against do not fit together.") from error

    @property
    def key(self) -> str:
        """The same text for the same conditions."""
        return json.dumps(self.to_json(), sort_keys=True)


def _purpose(said: str | Mapping[str, Any]) -> Purpose:
    """One that ships, by its id, or one with all that is said of it."""
    return purpose_of(said) if isinstance(said, str) else Purpose(**said)
