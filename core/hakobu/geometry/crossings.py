"""Where lines cross each other."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .flatten import flatten
from .path import Path

#: Curves are compared as chords within this; what crosses by less is a touch.
CROSS_MM = 0.005
#: No more are listed: a design with so many is nothing but crossings.
MOST_CROSSINGS = 200_000
#: Cells of the grid, for each chord.
CELLS_PER_CHORD = 1.0


@dataclass(frozen=True)
class Crossings:
    """outlines (N, 2): the numbers of the outlines that cross, the lower first, equal where one crosses itself; places
    (N, 2) in mm."""

    outlines: np.ndarray
    places: np.ndarray


def crossings(path: Path, group: np.ndarray) -> Crossings:
    """All places where outlines of the same group cross, themselves or each other; group (K,) int. Touching lines, and
    chords that follow one another along an outline, do not cross."""
    chords = flatten(path, CROSS_MM)
    first, last, owner = chords.edges()
    moved = (first != last).any(axis=1)
    first, last, owner = first[moved], last[moved], owner[moved]
    if len(first) < 2:
        return Crossings(np.zeros((0, 2), np.int64), np.zeros((0, 2)))
    from .kernels.grid_crossings import crossing_pairs

    box = np.ptp(np.vstack([first, last]), axis=0)
    longest = float(np.abs(last - first).max(axis=1).mean())
    cell = max((box[0] * box[1] / (CELLS_PER_CHORD * len(first))) ** 0.5, longest, float(box.max()) / 4000, 1e-6)
    pairs, places = crossing_pairs(
        np.ascontiguousarray(first),
        np.ascontiguousarray(last),
        np.ascontiguousarray(group[owner], np.int64),
        cell,
        MOST_CROSSINGS,
    )
    both = np.sort(owner[pairs], axis=1)
    order = np.lexsort((places[:, 0], places[:, 1], both[:, 1], both[:, 0]))
    return Crossings(both[order], places[order])
