"""Stock: sheets and offcuts in store."""

from __future__ import annotations

from dataclasses import dataclass

from .declare import length, text
from .materials import MOST_NAME, MOST_SHEET_MM
from .targets import MOST_OUTLINE


@dataclass(frozen=True, slots=True)
class StockSheet:
    """material: the id of what it is of; of any without. outline: of an offcut, as SVG path data or
    corners in mm, whose box has this width and height; a rectangle without. margin_mm: what stays free along its
    rim."""

    id: str = text(label="id", help="by which it is named", most=40)
    name: str = text(label="name", help="what it is called", most=MOST_NAME)
    width_mm: float = length(label="width", help="of its box", low=1.0, high=MOST_SHEET_MM)
    height_mm: float = length(label="height", help="of its box", low=1.0, high=MOST_SHEET_MM)
    material: str = text("", label="material", help="what it is of, by the material's id", most=40)
    outline: str = text("", label="outline", help="SVG path data, or corners, in mm", most=MOST_OUTLINE)
    margin_mm: float = length(5.0, label="margin", help="what stays free along its rim", high=500.0)


#: What ships: sizes of ISO 216 and of ANSI/ASME Y14.1, and two offcuts that are made up.
STOCK: tuple[StockSheet, ...] = (
    StockSheet("a4", "A4, upright", 210.0, 297.0),
    StockSheet("a4-level", "A4, level", 297.0, 210.0),
    StockSheet("a3", "A3, upright", 297.0, 420.0),
    StockSheet("letter", "ANSI A, upright", 215.9, 279.4),
    StockSheet("card-corner", "corner of black card", 180.0, 150.0, "black-card", "M0 0H180V80L110 150H0Z", 4.0),
    StockSheet(
        "vinyl-end", "end of copper vinyl", 220.0, 130.0, "adhesive-vinyl", "M0 12C60 0 150 24 220 6V130H0Z", 3.0
    ),
)
