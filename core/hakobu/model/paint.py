"""How a piece looks: fill and stroke, with the meaning of SVG 2's painting chapter."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Fill:
    """A plain colour (#rrggbb) with its opacity."""

    color: str
    opacity: float = 1.0


#: A thinner line only shows where the cut is (common practice).
BROAD_MM = 0.5


@dataclass(frozen=True, slots=True)
class Stroke:
    """A plain line: colour, opacity, width; cap butt, round or square; join miter, round or bevel; dashes in mm."""

    color: str
    width_mm: float
    opacity: float = 1.0
    cap: str = "butt"
    join: str = "miter"
    miter_limit: float = 4.0
    dashes: tuple[float, ...] = ()
    dash_offset: float = 0.0
