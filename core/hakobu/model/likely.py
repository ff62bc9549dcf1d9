"""LikelySize: what the numbers of a file may have meant, where the size that they were read at can hardly be right.

The readings are those that programs mix up (common practice): 72, 90 and 96 units an inch, millimetres for inches.
"""

from __future__ import annotations

from dataclasses import dataclass

from .units import MM_PER_INCH, FileUnit, in_words

#: Readings of a drawing's number, by what one is in mm.
OF_A_DRAWING = (
    ("a unit is a millimetre", 1.0),
    ("a unit is an inch", MM_PER_INCH),
    ("a unit is a centimetre", 10.0),
    ("72 units an inch", MM_PER_INCH / 72),
    ("90 units an inch", MM_PER_INCH / 90),
    ("96 units an inch", MM_PER_INCH / 96),
)
OF_A_PICTURE = tuple((f"{n} pixels an inch", MM_PER_INCH / n) for n in (72, 96, 150, 300, 600))
OF_A_PLOT = tuple((f"a step is {mm:g} mm", mm) for mm in (0.025, 0.01, 0.1))
READINGS = {"pixel": OF_A_PICTURE, "step": OF_A_PLOT}

#: Nothing is prepared for cutting smaller or larger than this, by its longer side in mm; nor is a picture printed
#: larger, of which only a screen's resolution is known.
SMALLEST_MM, LARGEST_MM, LARGEST_PICTURE_MM = 4.0, 1500.0, 600.0
#: What lies beyond is not offered.
OFFERED_MM = (4.0, 3000.0)
#: Resolutions that programs fill in for screens.
OF_SCREENS = (72.0, 96.0)
#: Readings that differ by less are the same.
SAME_SHARE = 0.005


@dataclass(frozen=True, slots=True)
class LikelySize:
    """A reading, the size that it gives, that size in words, and how many times the size as read it is."""

    reading: str
    factor: float
    width_mm: float
    height_mm: float
    in_words: str


def likely_sizes(width_mm: float, height_mm: float, unit: FileUnit) -> tuple[LikelySize, ...]:
    """Other sizes that something may have, which was read so large with a unit."""
    sizes = []
    for reading, mm in READINGS.get(unit.name, OF_A_DRAWING):
        factor = mm / unit.mm
        width, height = width_mm * factor, height_mm * factor
        if abs(factor - 1) > SAME_SHARE and OFFERED_MM[0] <= max(width, height) <= OFFERED_MM[1]:
            sizes.append(LikelySize(reading, factor, width, height, in_words(width, height)))
    return tuple(sizes)


def doubt(width_mm: float, height_mm: float, unit: FileUnit) -> str:
    """Why the size may not be what was meant, in a sentence; nothing where there is no reason to think so."""
    longer = max(width_mm, height_mm)
    if not unit.stated:
        return _SILENT.get(unit.name, _SILENT["mm"])
    if longer > LARGEST_MM:
        return f"That is {longer / 1000:.1f} m: larger than what most machines reach."
    if 0 < longer < SMALLEST_MM:
        return "That is smaller than a grain of rice."
    per_inch = MM_PER_INCH / unit.mm
    if unit.name == "pixel" and longer > LARGEST_PICTURE_MM and any(abs(per_inch - n) < 0.5 for n in OF_SCREENS):
        return f"It says {per_inch:.0f} pixels an inch, which programs fill in where they do not know better."
    return ""


_SILENT = {
    "px": "The file states no unit; 96 units an inch were taken.",
    "mm": "The file states no unit; a unit was taken as a millimetre.",
    "pixel": "The picture states no resolution; 96 pixels an inch were taken.",
}
