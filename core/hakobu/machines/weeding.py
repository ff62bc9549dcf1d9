"""What remains after cutting and weeding, by the lines of the machine file itself."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry import Path, area, flatten, signed_areas
from ..geometry.boolean import Operand, divide, union
from ..geometry.nesting import parents_of
from ..geometry.offset import offset
from ..geometry.proximity.places import Places

#: Faces smaller than this, in mm2, are where lines that should be one lie beside each other by a machine's step.
NOTHING_MM2 = 1e-3
#: Faces are looked at along so many level lines each.
LEVELS = 7
CHORD_MM = 0.01


@dataclass(frozen=True)
class Remaining:
    """A face that comes away and is wanted. loose: whether it lies free in a hole of another one, so that it drops out
    of what has nothing to hold it."""

    path: Path
    area_mm2: float
    loose: bool


@dataclass(frozen=True)
class Weeded:
    """remaining: the faces that stay, in mm; waste: how many faces inside of cut lines are taken away; open_lines: how
    many lines of the file end without closing, so that nothing comes away along them."""

    remaining: tuple[Remaining, ...]
    waste: int
    open_lines: int

    @property
    def area_mm2(self) -> float:
        return sum(face.area_mm2 for face in self.remaining)


def weeded(strokes: Path, shapes: Sequence[Operand], kerf_mm: float = 0.0) -> Weeded:
    """strokes: the cut lines of one sheet as a machine file has them; shapes: what is wanted, as the design has it;
    kerf_mm: the width that is gone along each line, half of it on either side.

    The closed strokes part the sheet into faces, of which those stay that the design covers. What is about all strokes
    is the rest of the sheet, and is taken away. Raises NotCombined as booleans do.
    """
    closed = strokes.take(np.flatnonzero(strokes.closed & (np.abs(signed_areas(strokes)) > NOTHING_MM2)).tolist())
    open_lines = int((~strokes.closed).sum())
    if not len(closed) or not shapes:
        return Weeded((), 0, open_lines)
    # Each is a shape of its own: within one, a line that runs both ways would bound nothing.
    faces = divide(*closed.outlines())
    number = int(faces.face.max()) + 1 if len(faces.face) else 0
    parts = [faces.of(face) for face in range(number)]
    sizes = np.array([area(part) for part in parts])
    parts = [part for part, size in zip(parts, sizes, strict=True) if size > NOTHING_MM2]
    if not parts:
        return Weeded((), 0, open_lines)
    inner = np.array([place_in(part) for part in parts])
    wanted = Places(union(*shapes).path).contains(inner)
    kept = [part for part, wants in zip(parts, wanted, strict=True) if wants]
    if kerf_mm:
        kept = [left for part in kept if len(left := offset(part, distance_mm=-kerf_mm / 2).path)]
    remaining = tuple(Remaining(part, area(part), bool(loose)) for part, loose in zip(kept, _loose(kept), strict=True))
    return Weeded(remaining, int((~wanted).sum()), open_lines)


def _loose(kept: Sequence[Path]) -> np.ndarray:
    """Which faces lie in a hole of another one (N,)."""
    if not kept:
        return np.zeros(0, bool)
    # The outer outline of a face is the one that encloses the most.
    outer = [part.outline(int(signed_areas(part).argmax())) for part in kept]
    return parents_of(Path.concatenate(outer)) >= 0


def place_in(face: Path) -> np.ndarray:
    """A place well inside a face, (2,): the middle of the longest stretch inside, on a few level lines."""
    chords = flatten(face, CHORD_MM)
    first, last, _ = chords.edges()
    low, high = chords.points[:, 1].min(), chords.points[:, 1].max()
    # Level lines at odd shares of the height pass no node but by chance.
    levels = low + (high - low) * (np.arange(LEVELS) + 0.4831) / LEVELS
    best, place = -1.0, chords.points[0]
    for y in levels:
        over = (first[:, 1] > y) != (last[:, 1] > y)
        a, b = first[over], last[over]
        x = np.sort(a[:, 0] + (y - a[:, 1]) / (b[:, 1] - a[:, 1]) * (b[:, 0] - a[:, 0]))
        stretch = x[1::2] - x[0::2]
        if len(stretch) and stretch.max() > best:
            k = int(stretch.argmax())
            best, place = float(stretch[k]), np.array([(x[2 * k] + x[2 * k + 1]) / 2, y])
    return place
