"""A step: one change to the document, by an operation with its parameters, for what was picked."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from .ids import Fingerprint

#: The role of what a step is for, where an operation has no other.
ON = "on"


@dataclass(frozen=True)
class Selection:
    """What a step takes in one role: pieces by their ids, with the fingerprints that they had when they were picked,
    None where that has yet to be seen; or those that a query means when the step runs."""

    ids: Mapping[str, Fingerprint | None] = field(default_factory=dict)
    query: str = ""

    def as_json(self) -> dict[str, Any]:
        return {"query": self.query} if self.query else {"ids": _marks(self.ids)}

    @staticmethod
    def from_json(data: Mapping[str, Any]) -> Selection:
        return Selection(_fingerprints(data.get("ids", {})), data.get("query", ""))


@dataclass(frozen=True)
class Step:
    """key: random, made once. selection: by role; a role that is not there means all that the operation can take."""

    key: str
    operation: str
    version: int
    parameters: Mapping[str, Any] = field(default_factory=dict)
    selection: Mapping[str, Selection] = field(default_factory=dict)
    enabled: bool = True

    @property
    def picked(self) -> Mapping[str, Fingerprint | None]:
        """The pieces that it is for by their ids, in all roles."""
        return {key: mark for chosen in self.selection.values() for key, mark in chosen.ids.items()}

    def as_json(self) -> dict[str, Any]:
        return {
            "key": self.key,
            "operation": self.operation,
            "version": self.version,
            "parameters": dict(self.parameters),
            "selection": self._selection_json(),
            "enabled": self.enabled,
        }

    def _selection_json(self) -> dict[str, Any]:
        """Picked pieces of the one role stand by themselves: so they were kept before there were roles, and results are
        known by it."""
        only = self.selection.get(ON)
        if not self.selection or (len(self.selection) == 1 and only and not only.query):
            return _marks(only.ids) if only else {}
        return {"roles": {role: chosen.as_json() for role, chosen in sorted(self.selection.items())}}

    @staticmethod
    def from_json(data: Mapping[str, Any]) -> Step:
        kept = data.get("selection", {})
        if "roles" in kept:
            selection = {role: Selection.from_json(chosen) for role, chosen in kept["roles"].items()}
        else:
            selection = {ON: Selection(_fingerprints(kept))} if kept else {}
        return Step(
            data["key"],
            data["operation"],
            data["version"],
            dict(data.get("parameters", {})),
            selection,
            data.get("enabled", True),
        )


def _marks(ids: Mapping[str, Fingerprint | None]) -> dict[str, Any]:
    return {
        key: {"box": list(f.box), "area": f.area, "centre": list(f.centre)} if f else None for key, f in ids.items()
    }


def _fingerprints(marks: Mapping[str, Any]) -> dict[str, Fingerprint | None]:
    return {key: Fingerprint(tuple(f["box"]), f["area"], tuple(f["centre"])) if f else None for key, f in marks.items()}
