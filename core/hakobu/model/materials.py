"""Materials: what a layer is made of."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Material:
    """least_strip_mm: a strip narrower than this tears. cut_from_back: it is cut mirrored."""

    id: str
    name: str
    color: str
    thickness_mm: float
    least_strip_mm: float
    cut_from_back: bool = False


#: What ships. Thickness and least strip are common practice.
MATERIALS: tuple[Material, ...] = (
    Material("black-card", "black card 0.3 mm", "#26272b", thickness_mm=0.3, least_strip_mm=1.0),
    Material("adhesive-vinyl", "adhesive vinyl, copper", "#b4673e", thickness_mm=0.08, least_strip_mm=0.5),
)
