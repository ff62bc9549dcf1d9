"""A step: one change to the document, by an operation with its parameters."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from .ids import Fingerprint


@dataclass(frozen=True)
class Step:
    """key: random, made once. selection: piece ids with the fingerprints they had when picked; empty means all."""

    key: str
    operation: str
    version: int
    parameters: Mapping[str, Any] = field(default_factory=dict)
    selection: Mapping[str, Fingerprint] = field(default_factory=dict)
    enabled: bool = True

    def as_json(self) -> dict:
        return {
            "key": self.key,
            "operation": self.operation,
            "version": self.version,
            "parameters": dict(self.parameters),
            "selection": {
                key: {"box": list(f.box), "area": f.area, "centre": list(f.centre)} for key, f in self.selection.items()
            },
            "enabled": self.enabled,
        }

    @staticmethod
    def from_json(data: Mapping[str, Any]) -> Step:
        selection = {
            key: Fingerprint(tuple(f["box"]), f["area"], tuple(f["centre"]))
            for key, f in data.get("selection", {}).items()
        }
        return Step(
            data["key"],
            data["operation"],
            data["version"],
            dict(data.get("parameters", {})),
            selection,
            data.get("enabled", True),
        )
