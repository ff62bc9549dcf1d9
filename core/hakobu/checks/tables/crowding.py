"""Where more lines lie across and on each other than can be compared one by one."""

from __future__ import annotations

import numpy as np

from ...geometry import Path
from ...geometry.proximity.chord_grid import Search

#: So many pairs of near chords, and as many more as there are chords, are looked at in a design, and so many times are
#: two chords compared to find them: seconds of work, and some hundred MB.
MOST_PAIRS, MOST_TESTS = 200_000, 100_000_000
#: Of fewer segments all pairs are looked at.
FEW_SEGMENTS = 500


def crowded_out(path: Path, search: Search, share: float = 1.0) -> np.ndarray | None:
    """Which outlines (K,) are to be left out, so that what is left can be compared; None where all can. Those go that
    lie where most others do, the smaller first, and those that cross themselves there too often; share: of the pairs
    that are looked at, to come nearer to what can be compared than once is enough."""
    many, tests = np.diff(search.cells), search.tests
    most = MOST_PAIRS + len(search.table)
    if tests <= most:
        return None
    allowed = MOST_TESTS * share
    if tests <= MOST_TESTS:
        found = search.count()
        if found <= most:
            return None
        allowed = tests * most / found * share
    return _beyond(path, search, many, _cap(many, allowed))


def _cap(many: np.ndarray, allowed: float) -> int:
    """How many chords each cell may hold, so that they are compared so often at most."""
    low, high = 1, int(many.max())
    while low < high:
        middle = (low + high + 1) // 2
        kept = np.minimum(many, middle)
        low, high = (middle, high) if (kept * (kept - 1.0)).sum() / 2 <= allowed else (low, middle - 1)
    return low


def _beyond(path: Path, search: Search, many: np.ndarray, cap: int) -> np.ndarray:
    """Outlines with chords in a cell beyond so many."""
    out = np.zeros(len(path), bool)
    cell = np.repeat(np.arange(len(many)), many)
    full = many[cell] > cap
    cell, outline = cell[full], path.outline_of[search.owner[search.member[full]]]
    pair, own = np.unique(cell * len(path) + outline, return_counts=True)
    out[pair[own > cap] % len(path)] = True
    rest = ~out[outline]
    cell, outline = cell[rest], outline[rest]
    low, high = (np.minimum, np.maximum)
    first = path.start[:-1]
    ctrl = path.ctrl
    size = high.reduceat(ctrl.max(axis=1), first) - low.reduceat(ctrl.min(axis=1), first)
    order = np.lexsort((outline, -size.max(axis=1)[outline], cell))
    cell, outline = cell[order], outline[order]
    number = np.arange(len(cell)) - np.searchsorted(cell, cell)
    out[outline[number >= cap]] = True
    return out
