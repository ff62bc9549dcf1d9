"""On which side of an outline what is kept lies."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..geometry import Path, signed_areas
from ..geometry.nesting import parents_of
from ..model import Piece
from ..model.sheet import HELPS


def sides_of(pieces: Sequence[Piece]) -> np.ndarray:
    """Of all outlines of the pieces of a layer, in order: 1 where what an outline encloses is kept, -1 where it is a
    hole, 0 where it parts nothing (open, or the same on both sides).

    Of pieces that are filled by their fill rule. Pieces that have lines only are outlines and holes in turn, as one
    lies in another: a drawing without fill tells no more (common practice).
    """
    sides = [_of_piece(piece) for piece in pieces]
    plain = [n for n, piece in enumerate(pieces) if piece.fill is None and not piece.id.startswith(HELPS)]
    if len(plain) > 1:
        path = Path.concatenate(pieces[n].path for n in plain)
        parity = np.where(path.closed, np.where(_depth(parents_of(path)) % 2 == 0, 1, -1), 0)
        at = 0
        for n in plain:
            sides[n] = parity[at : at + len(pieces[n].path)]
            at += len(pieces[n].path)
    return np.concatenate(sides) if sides else np.zeros(0, np.int64)


def _of_piece(piece: Piece) -> np.ndarray:
    path = piece.path
    if piece.id.startswith(HELPS):
        return np.zeros(len(path), np.int64)
    if len(path) == 1:
        return path.closed.astype(np.int64)
    parent = parents_of(path)
    if piece.fill_rule == "evenodd" or piece.fill is None:
        return np.where(path.closed, np.where(_depth(parent) % 2 == 0, 1, -1), 0)
    own = np.where(path.closed, np.sign(signed_areas(path)), 0).astype(np.int64)
    outside = np.zeros(len(path), np.int64)
    above = parent.copy()
    while (there := above >= 0).any():
        outside[there] += own[above[there]]
        above[there] = parent[above[there]]
    inside = outside + own
    return np.where(path.closed, (inside != 0).astype(np.int64) - (outside != 0).astype(np.int64), 0)


def _depth(parent: np.ndarray) -> np.ndarray:
    depth = np.zeros(len(parent), np.int64)
    above = parent.copy()
    while (there := above >= 0).any():
        depth[there] += 1
        above[there] = parent[above[there]]
    return depth
