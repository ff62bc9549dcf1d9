"""Materials: what a layer is made of, and what it can do."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Material:
    """least_strip_mm: a strip narrower than this tears. least_gap_mm: a gap narrower than this is not weeded clean.
    least_piece_mm2: a part smaller than this comes loose and is lost. sheet: the width and height it is usually sold
    in. cut_from_back: it is cut mirrored. on_liner: it lies on a liner that holds what is loose."""

    id: str
    name: str
    color: str
    thickness_mm: float
    least_strip_mm: float
    sheet_width_mm: float
    sheet_height_mm: float
    cut_from_back: bool = False
    least_gap_mm: float = 0.3
    least_piece_mm2: float = 1.0
    on_liner: bool = False


#: What ships. Thickness, least sizes and sheets are common practice; A4 is ISO 216's.
MATERIALS: tuple[Material, ...] = (
    Material("black-card", "black card 0.3 mm", "#26272b", 0.3, 1.0, 210.0, 297.0, False, 0.4, 2.0),
    Material("white-card", "white card 0.25 mm", "#f4f0e6", 0.25, 1.0, 210.0, 297.0, False, 0.4, 2.0),
    Material("paper", "paper 120 g", "#efe8d8", 0.15, 0.8, 210.0, 297.0, False, 0.3, 1.0),
    Material("adhesive-vinyl", "adhesive vinyl, copper", "#b4673e", 0.08, 0.5, 300.0, 300.0, False, 0.2, 0.5, True),
    Material("heat-vinyl", "heat-transfer vinyl, vermilion", "#c8402a", 0.1, 0.8, 300.0, 500.0, True, 0.3, 1.0, True),
    Material("felt", "felt 1.5 mm", "#7d3f46", 1.5, 3.0, 300.0, 300.0, False, 1.0, 9.0),
    Material("thin-wood", "thin wood 3 mm", "#c79a63", 3.0, 1.5, 300.0, 200.0, False, 0.3, 4.0),
    Material("acetate", "acetate, amber", "#d99a2b", 0.2, 0.8, 210.0, 297.0, False, 0.3, 1.0),
)


def material_of(identity: str | None) -> Material | None:
    """A material that ships, by its id; None where there is none of that id."""
    return next((material for material in MATERIALS if material.id == identity), None)
