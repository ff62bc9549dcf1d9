"""A finding: a fault in a document, as data."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum


class Level(StrEnum):
    """stops: the cut fails. spoils: the result is bad. note: worth knowing."""

    STOPS = "stops"
    SPOILS = "spoils"
    NOTE = "note"

    @property
    def rank(self) -> int:
        return ("note", "spoils", "stops").index(self.value)


@dataclass(frozen=True)
class Finding:
    """rule: the permanent id. key: this instance, by which it can be set aside. place: x, y in mm, or None for the
    whole document. measure: the values of its message. extent: the box of what it is about."""

    rule: str
    key: str
    level: Level
    message: str
    pieces: tuple[str, ...] = ()
    place: tuple[float, float] | None = None
    measure: Mapping[str, float | int | str] = field(default_factory=dict)
    mendable: bool = False
    safe: bool = False
    title: str = ""
    effect: str = ""
    extent: tuple[float, float, float, float] | None = None

    @property
    def is_rest(self) -> bool:
        """Whether it stands for more of its kind than are listed, which its measure tells."""
        return "more" in self.measure

    @property
    def count(self) -> int:
        """How many it stands for: itself, or those of its kind that are not listed."""
        return int(self.measure.get("more", 1))

    def as_json(self) -> dict:
        """The words of the command line's contract."""
        return {
            "id": self.rule,
            "key": self.key,
            "level": self.level.value,
            "pieces": list(self.pieces),
            "place": list(self.place) if self.place else None,
            "measure": dict(self.measure),
            "mendable": self.mendable,
            "safe": self.safe,
            "message": self.message,
        }

    def to_json(self) -> dict:
        """All fields, for keeping."""
        extent = list(self.extent) if self.extent else None
        return {**self.as_json(), "title": self.title, "effect": self.effect, "extent": extent}

    @staticmethod
    def from_json(data: Mapping) -> Finding:
        return Finding(
            rule=data["id"],
            key=data["key"],
            level=Level(data["level"]),
            message=data["message"],
            pieces=tuple(data["pieces"]),
            place=tuple(data["place"]) if data["place"] else None,
            measure=data["measure"],
            mendable=data["mendable"],
            safe=data["safe"],
            title=data["title"],
            effect=data["effect"],
            extent=tuple(data["extent"]) if data["extent"] else None,
        )


#: Places are told apart on this grid in a finding's key, so that a small change keeps the key.
COARSE_MM = 2.0


def finding_key(rule: str, pieces: Iterable[str], place: tuple[float, float] | None, detail: str = "") -> str:
    """The key of one instance: its rule, its pieces in any order, and where it is, coarsely."""
    spot = "" if place is None else f"{round(place[0] / COARSE_MM)},{round(place[1] / COARSE_MM)}"
    text = "\n".join([rule, *sorted(pieces), spot, detail])
    return f"{rule}-{hashlib.sha256(text.encode()).hexdigest()[:12]}"
