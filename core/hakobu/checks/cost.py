"""How much work looking at a design is, reckoned from what overlaps in it: a fraction of a second for any design."""

from __future__ import annotations

import numpy as np

from ..geometry import Path
from ..model import Document
from .tables.exact_copies import kinds_of, number_among_copies
from .tables.outlines import MOST_COPIES

#: Seconds for each segment, and for each two whose boxes overlap; more of these than so many are not compared
#: (measured on two cores of 2.5 GHz, generously).
PER_SEGMENT, PER_PAIR, MOST_PAIRS = 25e-6, 5e-6, 4_000_000
#: Cells of the grid in which boxes are counted, each way.
CELLS = 256


def seconds_to_check(document: Document) -> float:
    """Seconds of one processor's work that `check` takes, about."""
    path = Path.concatenate(piece.path for piece in document.pieces_followed())
    if not path.segment_count:
        return 0.0
    kept = number_among_copies(kinds_of(path, np.zeros(len(path), np.int64))) < MOST_COPIES
    pairs = overlapping_boxes(path.take(np.flatnonzero(kept)))
    return path.segment_count * PER_SEGMENT + min(pairs, MOST_PAIRS) * PER_PAIR


def overlapping_boxes(path: Path) -> float:
    """How many pairs of segments there are whose boxes overlap, about: boxes are counted in the cells of a grid, and of
    each segment the mean count of its cells is taken (summed-area tables, Crow 1984)."""
    low, high = path.ctrl.min(axis=1), path.ctrl.max(axis=1)
    corner = low.min(axis=0)
    size = np.maximum(high.max(axis=0) - corner, 1e-9)
    (x0, y0), (x1, y1) = (np.minimum((p - corner) / size * CELLS, CELLS - 1).astype(np.int64).T for p in (low, high))
    count = np.zeros((CELLS + 1, CELLS + 1))
    for y, x, sign in ((y0, x0, 1), (y1 + 1, x1 + 1, 1), (y0, x1 + 1, -1), (y1 + 1, x0, -1)):
        np.add.at(count, (y, x), sign)
    held = count.cumsum(axis=0).cumsum(axis=1)[:-1, :-1]
    total = np.pad(held.cumsum(axis=0).cumsum(axis=1), ((1, 0), (1, 0)))
    inside = total[y1 + 1, x1 + 1] - total[y0, x1 + 1] - total[y1 + 1, x0] + total[y0, x0]
    cells = (x1 - x0 + 1) * (y1 - y0 + 1)
    return float((inside / cells - 1).sum() / 2)
