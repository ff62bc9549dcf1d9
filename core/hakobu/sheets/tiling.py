"""Tiling: where a design that is larger than a sheet is cut into parts, and where the joints cross it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry import Box, Path, primitives
from ..geometry.boolean import cut_lines

#: Candidate positions of each cut, and the cost of each crossing beside its length, in mm.
TRIED, CROSSING_MM = 48, 2.0
#: A part is no smaller than this, in mm.
LEAST_PART_MM = 10.0


@dataclass(frozen=True)
class Joint:
    """Where a cut runs through material: the middle of that, its length in mm, and whether the cut stands upright."""

    at: tuple[float, float]
    length_mm: float
    upright: bool


def cuts_along(shapes: Path, box: Box, axis: int, most_mm: float, overlap_mm: float, searched: bool) -> list[float]:
    """Where cuts lie between parts that are no larger than so much, with half of the overlap at each cut. axis: 0 for
    upright cuts, 1 for level ones. searched: each lies where it crosses the shapes least; else they are even."""
    low, high = box[axis], box[axis + 2]
    if high - low <= most_mm:
        return []
    # A part in the middle loses half of the overlap at both of its ends, the first and the last at one.
    each = most_mm - overlap_mm
    count = int(np.ceil((high - low - overlap_mm) / each - 1e-9))
    cuts: list[float] = []
    for n in range(1, count):
        before = cuts[-1] if cuts else low + overlap_mm / 2
        even = low + (high - low) * n / count
        # The parts that follow have to reach the end.
        least = max(high - overlap_mm / 2 - each * (count - n), before + min(LEAST_PART_MM, each))
        most = min(before + each, high - LEAST_PART_MM)
        cuts.append(
            _best(shapes, box, axis, least, most, even) if searched and most > least else min(most, max(even, least))
        )
    return cuts


def _best(shapes: Path, box: Box, axis: int, least: float, most: float, even: float) -> float:
    places = np.unique(np.append(np.linspace(least, most, TRIED), np.clip(even, least, most)))
    costs = np.zeros(len(places))
    for joint, place in _crossed(shapes, box, axis, places):
        costs[place] += joint.length_mm + CROSSING_MM
    # Of equal ones the most even.
    return float(places[np.lexsort((np.abs(places - even), costs.round(3)))[0]])


def joints_of(shapes: Path, box: Box, axis: int, cuts: Sequence[float]) -> list[Joint]:
    """Where cuts run through shapes."""
    return [joint for joint, _ in _crossed(shapes, box, axis, np.array(cuts))] if len(cuts) else []


def _crossed(shapes: Path, box: Box, axis: int, places: np.ndarray) -> list[tuple[Joint, int]]:
    """What of lines across the shapes lies inside, with the number of its line."""
    other = 1 - axis
    ends = np.array([box[other] - 1.0, box[other + 2] + 1.0])
    lines = []
    for place in places.tolist():
        points = np.empty((2, 2))
        points[:, axis], points[:, other] = place, ends
        lines.append(Path.from_points(points, closed=False))
    found = []
    for part in cut_lines(Path.concatenate(lines), shapes).path.outlines():
        one, last = part.ctrl[0, 0], part.ctrl[-1, 3]
        middle = (one + last) / 2
        number = int(np.abs(places - middle[axis]).argmin())
        joint = Joint((float(middle[0]), float(middle[1])), float(np.hypot(*(last - one))), axis == 0)
        found.append((joint, number))
    return found


@dataclass(frozen=True)
class Tile:
    """One part: its name, A1 for the top left one and A2 below it, and its rectangle."""

    name: str
    box: Box

    @property
    def path(self) -> Path:
        left, top, right, bottom = self.box
        return primitives.rectangle(left, top, right - left, bottom - top)


def tiles_of(box: Box, upright: Sequence[float], level: Sequence[float], overlap_mm: float) -> list[Tile]:
    """The rectangles between cuts, each reaching half of the overlap beyond them; those at the rim reach beyond it."""
    columns = _spans(box[0] - 1.0, box[2] + 1.0, upright, overlap_mm / 2)
    rows = _spans(box[1] - 1.0, box[3] + 1.0, level, overlap_mm / 2)
    return [
        Tile(f"{_letters(c)}{r + 1}", (left, top, right, bottom))
        for c, (left, right) in enumerate(columns)
        for r, (top, bottom) in enumerate(rows)
    ]


def _spans(low: float, high: float, cuts: Sequence[float], beyond: float) -> list[tuple[float, float]]:
    begin, end = [low, *(cut - beyond for cut in cuts)], [*(cut + beyond for cut in cuts), high]
    return list(zip(begin, end, strict=True))


def _letters(number: int) -> str:
    """A to Z, then AA."""
    return (_letters(number // 26 - 1) if number >= 26 else "") + chr(65 + number % 26)
