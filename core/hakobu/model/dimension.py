"""A dimension: what is measured of a design, and stays on it."""

from __future__ import annotations

from dataclasses import dataclass

Place = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Dimension:
    """kind: a kind of feature (features.py). places: where it is measured, in mm, one or two; pieces: the ids of the
    pieces that the places lie on. must_be: what it has to measure, in mm or degrees, where that is a rule. lost: what
    it measured is gone."""

    id: str
    kind: str
    places: tuple[Place, ...]
    pieces: tuple[str, ...]
    name: str = ""
    must_be: float | None = None
    lost: bool = False
