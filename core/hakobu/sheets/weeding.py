"""Helps for weeding: a box round the work or round each item, and lines that part large waste."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..geometry import Path, box_of, primitives
from ..geometry.boolean import cut_lines, intersection, union
from ..geometry.offset import offset
from ..model.sheet import Sheet
from .stock import usable

#: Lines stay so far from pieces where the box is no farther out, in mm.
LEAST_CLEAR_MM = 1.0
#: A line shorter than this helps nobody, in mm.
SHORTEST_MM = 3.0


def weeding_of(sheet: Sheet, covered: Sequence[Path]) -> Path:
    """The boxes and lines of a sheet, as it looks from the front; nothing where none are wanted. Boxes that meet are
    one; what would lie beyond the margin is cut off. Lines keep clear of pieces by the distance of the box."""
    if not sheet.weed_box or not covered:
        return Path.concatenate([])
    groups = [Path.concatenate(covered)] if sheet.weed_box == "all" else list(covered)
    grown = [_grown(path, sheet.weed_mm) for path in groups]
    boxes = intersection(union(*grown).path, usable(sheet)).path
    if not sheet.weed_lines_mm:
        return boxes
    left, top, right, bottom = box_of(boxes)
    heights = np.arange(top + sheet.weed_lines_mm, bottom - SHORTEST_MM, sheet.weed_lines_mm)
    if not len(heights):
        return boxes
    level = [Path.from_points(np.array([(left - 1, y), (right + 1, y)]), closed=False) for y in heights.tolist()]
    clear = offset(*covered, distance_mm=max(sheet.weed_mm, LEAST_CLEAR_MM)).path
    inside = cut_lines(Path.concatenate(level), boxes).path
    free = cut_lines(inside, clear, keep="outside").path if len(inside) else inside
    rows = [k for k, line in enumerate(free.outlines()) if _length(line) >= SHORTEST_MM]
    return Path.concatenate([boxes, free.take(rows)])


def _grown(path: Path, by_mm: float) -> Path:
    left, top, right, bottom = box_of(path)
    return primitives.rectangle(left - by_mm, top - by_mm, right - left + 2 * by_mm, bottom - top + 2 * by_mm)


def _length(line: Path) -> float:
    return float(np.hypot(*(line.ctrl[-1, 3] - line.ctrl[0, 0])))
