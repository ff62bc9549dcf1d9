"""Round holes that keep their size while the design gets another."""

from __future__ import annotations

import numpy as np

from ..geometry import Path, transform, translation
from ..geometry.features import round_outlines
from ..geometry.measure import outline_bounds
from ..geometry.proximity.places import Places
from ..model import Document, Piece
from ..model.shapes import has_inside, operand_of

#: Whether an outline is a hole is seen beside its line, so far towards its middle, as a share of its radius.
BESIDE = 0.01


def with_holes(before: Document, after: Document, up_to_mm: float) -> tuple[Document, int]:
    """The sized design with round holes of no more than a diameter at the size they had, about their new middles; and
    how many they are."""
    pieces = [piece for piece in before.pieces_followed() if has_inside(piece)]
    whole = Path.concatenate(piece.path for piece in pieces)
    rows = round_outlines(whole, up_to_mm)
    ends = np.cumsum([0] + [len(piece.path) for piece in pieces])
    owner = np.searchsorted(ends, rows, side="right") - 1
    held, paths = 0, {}
    for k in np.unique(owner).tolist():
        piece = pieces[k]
        own = _holes(piece, rows[owner == k] - ends[k])
        if len(own):
            held += len(own)
            paths[piece.id] = _held(piece.path, after.by_id[piece.id].path, set(own.tolist()))
    return after.with_paths(paths), held


def _holes(piece: Piece, rows: np.ndarray) -> np.ndarray:
    """Those of some round outlines of a piece that have nothing of it just inside."""
    boxes = outline_bounds(piece.path)[rows]
    middle = (boxes[:, :2] + boxes[:, 2:]) / 2
    start = piece.path.ctrl[piece.path.start[rows], 0]
    beside = start + BESIDE * (middle - start)
    return rows[~Places(piece.path).contains(beside, operand_of(piece).rule)]


def _held(before: Path, after: Path, rows: set[int]) -> Path:
    parts = []
    boxes = [outline_bounds(path) for path in (before, after)]
    middles = [(box[:, :2] + box[:, 2:]) / 2 for box in boxes]
    for k in range(len(after)):
        if k in rows:
            parts.append(transform(before.take([k]), translation(*(middles[1][k] - middles[0][k]))))
        else:
            parts.append(after.take([k]))
    return Path.concatenate(parts)
