"""Bits: holes and parts of a shape that are too small to be kept, dropped and counted."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry import Path, signed_areas
from ..geometry.nesting import shapes_of


@dataclass(frozen=True)
class Bits:
    """How many holes and parts were dropped."""

    holes: int = 0
    parts: int = 0

    def __add__(self, other: Bits) -> Bits:
        return Bits(self.holes + other.holes, self.parts + other.parts)


def without_bits(path: Path, below_mm2: float | None) -> tuple[Path, Bits]:
    """Closed outlines, outer ones clockwise and holes the other way, without holes and parts of a smaller area, each
    measured by its own outline."""
    if not below_mm2 or not len(path):
        return path, Bits()
    areas = signed_areas(path)
    small = np.abs(areas) < below_mm2
    if not small.any():
        return path, Bits()
    kept: list[int] = []
    holes = parts = 0
    for rows in shapes_of(path):
        inner = [row for row in rows if areas[row] < 0]
        outer = next(row for row in rows if areas[row] > 0)
        if small[outer]:
            parts += 1
            continue
        stay = [row for row in inner if not small[row]]
        holes += len(inner) - len(stay)
        kept += [outer, *stay]
    return path.take(sorted(kept)), Bits(holes, parts)


def without_slivers(path: Path, below_mm2: float, narrower_mm: float) -> tuple[Path, Bits]:
    """The shapes of a path that are larger than an area and hold a circle of a width somewhere."""
    from ..geometry.inner import largest_circle

    kept: list[int] = []
    parts = 0
    for rows in shapes_of(path):
        part = path.take(rows)
        size = float(signed_areas(part).sum())
        if size < below_mm2 or (circle := largest_circle(part)) is None or 2 * circle.radius < narrower_mm:
            parts += 1
        else:
            kept += rows
    return path.take(sorted(kept)), Bits(0, parts)
