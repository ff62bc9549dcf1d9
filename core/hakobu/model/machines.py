"""Machines: what cuts, scores or draws. The profiles that ship stand in machines/ as data."""

from __future__ import annotations

from dataclasses import dataclass

from .declare import choice, count, length, number, text
from .materials import MOST_NAME, MOST_SHEET_MM

TOOLS = ("knife", "pen", "laser")
#: What the material lies on, and by which edge it goes in.
CARRIERS = (("mat", "a mat"), ("bed", "a bed"), ("roll", "a roll"))
#: Marks that are printed for a machine to find a print again.
MARKS = (("none", "no marks"), ("corners", "corners"), ("circles", "circles"), ("crosses", "crosses"))
EDGES = (("top", "the top edge"), ("bottom", "the bottom edge"), ("left", "the left edge"), ("right", "the right edge"))


@dataclass(frozen=True, slots=True)
class Machine:
    """reach: the width and height the tool can get to. format: the id of the files it takes. chord_mm: how far a
    straight stroke may leave a curve. pens: how many tools it can be told to change between. speed, force: what its
    files ask for, where they are to: in mm a second, and grams on the blade. tool: knife, pen or laser. kerf_mm: the
    width that it takes away, or draws. finest_mm: an outline smaller across than this comes out as a spot: a dragged
    blade cannot turn in it, a kerf eats it. carrier: what the material lies on; carrier_width, carrier_height: its
    size, which without them is the reach; reach_left, reach_top: where on it the reach begins; grid_mm: of the lines
    that are printed on it; goes_in: the edge that goes in first. marks: what it finds a print by; mark_mm: their size,
    mark_inset_mm: how far they stand from the rim of the sheet, mark_count: in how many corners."""

    id: str = text(label="id", help="by which jobs name it", most=40)
    name: str = text(label="name", help="what it is called", most=MOST_NAME)
    reach_width_mm: float = length(label="reach, across", help="how far its tool gets", low=1.0, high=MOST_SHEET_MM)
    reach_height_mm: float = length(label="reach, down", help="how far its tool gets", low=1.0, high=MOST_SHEET_MM)
    format: str = text(label="format", help="of the files that it takes, by its id", most=20)
    chord_mm: float = length(label="chord", help="how far a stroke may leave a curve", low=0.001, high=0.1)
    pens: int = count(label="pens", help="tools it can change between", low=1, high=99)
    speed_mm_s: float | None = number(None, label="speed", help="in mm a second", unit="mm/s", low=0.1, high=5000.0)
    force_g: float | None = number(None, label="force", help="in grams", unit="g", low=1.0, high=10_000.0)
    tool: str = choice("knife", label="tool", help="what runs along the lines", choices=[(t, t) for t in TOOLS])
    kerf_mm: float = length(0.0, label="kerf", help="the width that it takes away, or draws", high=10.0)
    finest_mm: float = length(0.5, label="finest outline", help="a smaller one comes out as a spot", high=50.0)
    carrier: str = choice("mat", label="carrier", help="what the material lies on", choices=CARRIERS)
    carrier_width_mm: float = length(0.0, label="carrier, across", help="0: as wide as the reach", high=MOST_SHEET_MM)
    carrier_height_mm: float = length(0.0, label="carrier, down", help="0: as high as the reach", high=MOST_SHEET_MM)
    reach_left_mm: float = length(0.0, label="reach begins, across", help="from the carrier's left", high=1000.0)
    reach_top_mm: float = length(0.0, label="reach begins, down", help="from the carrier's top", high=1000.0)
    grid_mm: float = length(10.0, label="grid", help="between the lines on the carrier", low=1.0, high=500.0)
    goes_in: str = choice("top", label="goes in by", help="the edge that goes in first", choices=EDGES)

    marks: str = choice("none", label="marks", help="what it finds a print by", choices=MARKS)
    mark_mm: float = length(10.0, label="size of a mark", help="across", low=1.0, high=100.0)
    mark_inset_mm: float = length(10.0, label="marks from the rim", help="of the sheet", high=200.0)
    mark_count: int = count(3, label="number of marks", help="in so many corners", low=3, high=4)

    @property
    def carrier_mm(self) -> tuple[float, float]:
        """Width and height of what the material lies on."""
        return self.carrier_width_mm or self.reach_width_mm, self.carrier_height_mm or self.reach_height_mm
