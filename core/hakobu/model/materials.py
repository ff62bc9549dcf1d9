"""Materials: what a layer is made of."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Material:
    """least_strip_mm: a strip narrower than this tears. sheet: the width and height it is usually sold in.
    cut_from_back: it is cut mirrored."""

    id: str
    name: str
    color: str
    thickness_mm: float
    least_strip_mm: float
    sheet_width_mm: float
    sheet_height_mm: float
    cut_from_back: bool = False


#: What ships. Thickness, least strip and sheets are common practice; A4 is ISO 216's.
MATERIALS: tuple[Material, ...] = (
    Material("black-card", "black card 0.3 mm", "#26272b", 0.3, 1.0, 210.0, 297.0),
    Material("adhesive-vinyl", "adhesive vinyl, copper", "#b4673e", 0.08, 0.5, 300.0, 300.0),
)
