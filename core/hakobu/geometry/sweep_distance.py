"""How far a shape can be moved straight until it meets another one."""

from __future__ import annotations

import numpy as np

from .affine import rotation, transform
from .flatten import flatten
from .path import Path

#: Chords stand for curves within this, in mm.
CHORD_MM = 1e-3


def room_ahead(shape: Path, other: Path, way: np.ndarray) -> float | None:
    """How far a shape moves along a way (2,), of length 1, until it first meets the outlines of another one that lie
    before it; None where none do. Outlines run straight between their nodes, so the nearest place is at one of them."""
    # Turned so that the way runs down the page.
    turn = rotation(float(np.pi / 2 - np.arctan2(way[1], way[0])))
    ours, theirs = (_edges(transform(path, turn)) for path in (shape, other))
    left, right = ours[:, [0, 2]].min(), ours[:, [0, 2]].max()
    across = np.concatenate([ours[:, [0, 2]].ravel(), theirs[:, [0, 2]].ravel()])
    across = np.unique(across[(across >= left) & (across <= right)])
    # Just beside the nodes, since outlines may jump there.
    step = 1e-7
    across = np.concatenate([across - step, across + step])
    low = _crossed(ours, across).max(axis=0)
    crossed = _crossed(theirs, across, np.inf)
    crossed = np.where(crossed >= low - 1e-9, crossed, np.inf).min(axis=0)
    room = crossed - low
    room = room[np.isfinite(room)]
    return float(room.min()) if len(room) else None


def _edges(path: Path) -> np.ndarray:
    """Chords (N, 4) of outlines: x, y of both ends."""
    first, last, _ = flatten(path, CHORD_MM).edges()
    return np.column_stack([first, last])


def _crossed(edges: np.ndarray, across: np.ndarray, none: float = -np.inf) -> np.ndarray:
    """Where vertical lines at places (P,) meet edges (N, P), none where they do not."""
    x0, y0, x1, y1 = (column[:, None] for column in edges.T)
    meets = (np.minimum(x0, x1) <= across) & (np.maximum(x0, x1) > across)
    share = (across - x0) / np.where(x0 == x1, 1.0, x1 - x0)
    return np.where(meets, y0 + share * (y1 - y0), none)
