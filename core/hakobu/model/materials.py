"""Materials: what a layer is made of, and what it can do."""

from __future__ import annotations

from dataclasses import dataclass

from .declare import area, choice, colour, flag, length, text

#: Letters of a name, and the largest sheet: what is more is a slip of the keyboard.
MOST_NAME, MOST_SHEET_MM = 60, 100_000.0
GRAINS = (("", "none"), ("lines", "alike both ways"), ("pile", "one way only"))


@dataclass(frozen=True, slots=True)
class Material:
    """least_strip_mm: a strip narrower than this tears. least_gap_mm: a gap narrower than this is not weeded clean.
    least_piece_mm2: a part smaller than this comes loose and is lost. sheet: the width and height it is usually sold
    in. cut_from_back: it is cut mirrored. on_liner: it lies on a liner that holds what is loose. grain: whether pieces
    have to lie along it; what is upright in the design lies along the grain."""

    id: str = text(label="id", help="by which layers and jobs name it", most=40)
    name: str = text(label="name", help="what it is called", most=MOST_NAME)
    color: str = colour(label="colour", help="as it looks")
    thickness_mm: float = length(label="thickness", help="of the sheet", high=50.0)
    least_strip_mm: float = length(label="narrowest strip", help="a narrower one tears", low=0.01, high=50.0)
    sheet_width_mm: float = length(label="sheet width", help="as it is usually sold", low=1.0, high=MOST_SHEET_MM)
    sheet_height_mm: float = length(label="sheet height", help="as it is usually sold", low=1.0, high=MOST_SHEET_MM)
    cut_from_back: bool = flag(False, label="cut from the back", help="it is cut mirrored")
    least_gap_mm: float = length(0.3, label="narrowest gap", help="a narrower one is not weeded", low=0.01, high=50.0)
    least_piece_mm2: float = area(1.0, label="smallest part", help="a smaller one is lost", low=0.001, high=1000.0)
    on_liner: bool = flag(False, label="on a liner", help="a liner holds what is loose")
    grain: str = choice("", label="grain", help="which way pieces may lie on it", choices=GRAINS)


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
