"""How far apart on a baseline two letters just touch."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from ..geometry import Path, box_of, flatten

#: Chords stand for curves within this, in mm at the nominal size: at 40 mm, within 0.002 mm.
CHORD_MM = 5e-3
#: So many pairs of letters are remembered.
_REMEMBERED = 20_000


@lru_cache(_REMEMBERED)
def contact(left: Path, right: Path) -> float:
    """How far right of the left letter's place the right one's is when their outlines touch, both on one baseline.
    Where they have no height in common, their boxes touch."""
    chords, others = _chords(left), _chords(right)
    ours, theirs = chords[:, [1, 3]], others[:, [1, 3]]
    low, high = max(ours.min(), theirs.min()), min(ours.max(), theirs.max())
    heights = np.concatenate([ours.ravel(), theirs.ravel()])
    heights = np.unique(heights[(heights >= low) & (heights <= high)])
    if not len(heights):
        return box_of(left)[2] - box_of(right)[0]
    # Between heights of nodes both sides run straight, so the nearest place is at one of them.
    gap = _side(others, heights, np.minimum, np.inf) - _side(chords, heights, np.maximum, -np.inf)
    nearest = float(gap.min())
    return -nearest if np.isfinite(nearest) else box_of(left)[2] - box_of(right)[0]


@lru_cache(1000)
def _chords(letter: Path) -> np.ndarray:
    """Chords (N, 4) of its outlines, closed: x, y of both ends."""
    first, last, _ = flatten(letter, CHORD_MM).edges()
    return np.column_stack([first, last])


def _side(chords: np.ndarray, heights: np.ndarray, of: np.ufunc, none: float) -> np.ndarray:
    """The outermost x of chords at heights (H,)."""
    x0, y0, x1, y1 = (column[:, None] for column in chords.T)
    spans = (np.minimum(y0, y1) <= heights) & (np.maximum(y0, y1) >= heights)
    flat = np.abs(y1 - y0) < 1e-12
    share = np.clip((heights - y0) / np.where(flat, 1.0, y1 - y0), 0, 1)
    at = np.where(flat, of(x0, x1), x0 + share * (x1 - x0))
    return of.reduce(np.where(spans, at, none), axis=0)
