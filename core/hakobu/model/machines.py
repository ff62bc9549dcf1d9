"""Machines: what cuts, scores or draws. The profiles that ship stand in machines/ as data."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Machine:
    """reach: the width and height the tool can get to. format: the id of the files it takes. chord_mm: how far a
    straight stroke may leave a curve. pens: how many tools it can be told to change between. speed, force: what its
    files ask for, where they are to: in mm a second, and grams on the blade. tool: knife, pen or laser. kerf_mm: the
    width that it takes away, or draws. finest_mm: an outline smaller across than this comes out as a spot: a dragged
    blade cannot turn in it, a kerf eats it."""

    id: str
    name: str
    reach_width_mm: float
    reach_height_mm: float
    format: str
    chord_mm: float
    pens: int
    speed_mm_s: float | None = None
    force_g: float | None = None
    tool: str = "knife"
    kerf_mm: float = 0.0
    finest_mm: float = 0.5
