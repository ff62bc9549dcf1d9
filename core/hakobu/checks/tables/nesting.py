"""What lies in what on each layer, and what of a piece is painted on either side of its outlines."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...geometry.nesting import parents_of

#: What an outline is to its piece: the outside of what it paints, the rim of a hole in it, or a line with the same on
#: both sides.
OUTER, HOLE, NEITHER = 0, 1, 2


@dataclass(frozen=True)
class Nested:
    """parent (K,): the smallest closed outline of the layer that each lies in, or -1; own (K,): that of the same piece;
    depth (K,): how many of its own piece it lies in; role (K,): OUTER, HOLE or NEITHER. A piece without a fill has
    holes by turns, as the even-odd rule would."""

    parent: np.ndarray
    own: np.ndarray
    depth: np.ndarray
    role: np.ndarray


def nested_in(table) -> Nested:
    """Of an outline table."""
    parent = np.full(len(table.owner), -1)
    for layer in np.unique(table.group).tolist():
        rows = np.flatnonzero(table.group == layer)
        path = table.path if len(rows) == len(parent) else table.path.take(rows)
        found = parents_of(path, table.area[rows], table.boxes[rows])
        parent[rows] = np.where(found >= 0, rows[found], -1)
    own = _nearest(parent, table.owner)
    depth, outside = _down(own, np.sign(table.area).astype(np.int64))
    by_turns = np.array([p.fill_rule == "evenodd" or p.fill is None for p in table.pieces], bool)[table.owner]
    inside = outside + np.sign(table.area).astype(np.int64)
    before = np.where(by_turns, depth % 2 == 1, outside != 0)
    after = np.where(by_turns, depth % 2 == 0, inside != 0)
    role = np.where(before == after, NEITHER, np.where(after, OUTER, HOLE))
    role[~table.path.closed] = NEITHER
    return Nested(parent, own, depth, role)


def _nearest(parent: np.ndarray, owner: np.ndarray) -> np.ndarray:
    """The nearest outline about each that is of the same piece, or -1."""
    own = parent.copy()
    open_ = np.flatnonzero((own >= 0) & (owner[np.maximum(own, 0)] != owner))
    while len(open_):
        own[open_] = parent[own[open_]]
        open_ = open_[(own[open_] >= 0) & (owner[np.maximum(own[open_], 0)] != owner[open_])]
    return own


def _down(parent: np.ndarray, turn: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """How many outlines are about each (K,), and how they wind about it in all (K,)."""
    depth, winding = np.zeros(len(parent), np.int64), np.zeros(len(parent), np.int64)
    rows, at = np.flatnonzero(parent >= 0), parent[parent >= 0]
    while len(rows):
        depth[rows] += 1
        winding[rows] += turn[at]
        further = parent[at]
        rows, at = rows[further >= 0], further[further >= 0]
    return depth, winding
