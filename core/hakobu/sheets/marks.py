"""Registration marks: open shapes in the corners of a print, by which a machine finds it again."""

from __future__ import annotations

import numpy as np

from ..geometry import Path, primitives
from ..geometry.boolean import union
from ..geometry.offset import around
from ..model import Machine
from ..model.sheet import Sheet

#: How wide the lines of a mark are printed, in mm (common practice).
MARK_LINE_MM = 0.5


def marks_of(sheet: Sheet, machine: Machine | None) -> Path:
    """The marks of a sheet as filled shapes, as it looks from the front: in three or four corners, the lower right one
    first left out, so that which way up a print lies is seen. Nothing where the machine wants none."""
    if machine is None or machine.marks == "none":
        return Path.concatenate([])
    inset, size = machine.mark_inset_mm, machine.mark_mm
    left, top, right, bottom = inset, inset, sheet.width_mm - inset, sheet.height_mm - inset
    corners = [(left, top, 1, 1), (right, top, -1, 1), (left, bottom, 1, -1), (right, bottom, -1, -1)]
    made = [_MARKS[machine.marks](x, y, across, down, size) for x, y, across, down in corners[: machine.mark_count]]
    return union(*made).path


def _corner(x: float, y: float, across: int, down: int, size: float) -> Path:
    """Two lines that meet at the place and run inwards."""
    line = Path.from_points(np.array([(x + across * size, y), (x, y), (x, y + down * size)]), closed=False)
    return around(line, MARK_LINE_MM / 2, ends="flat", join="mitre").path


def _circle(x: float, y: float, across: int, down: int, size: float) -> Path:
    return primitives.circle(x + across * size / 2, y + down * size / 2, size / 2)


def _cross(x: float, y: float, across: int, down: int, size: float) -> Path:
    middle, half = (x + across * size / 2, y + down * size / 2), size / 2
    level = Path.from_points(np.array([(middle[0] - half, middle[1]), (middle[0] + half, middle[1])]), closed=False)
    upright = Path.from_points(np.array([(middle[0], middle[1] - half), (middle[0], middle[1] + half)]), closed=False)
    return around(Path.concatenate([level, upright]), MARK_LINE_MM / 2, ends="flat").path


_MARKS = {"corners": _corner, "circles": _circle, "crosses": _cross}
