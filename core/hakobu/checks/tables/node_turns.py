"""How outlines turn at their nodes, as the rules about nodes look at them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...geometry import Path
from ...geometry.nodes import turns_after
from ...geometry.proximity.chord_grid import following_of


@dataclass(frozen=True)
class NodeTable:
    """after (M,): the segment that goes on where each ends, or -1; before (M,); chord (M,), from end to end of each;
    turn (M,): by how much the line turns where each ends, positive from +x towards +y, 0 at a loose end."""

    after: np.ndarray
    before: np.ndarray
    chord: np.ndarray
    turn: np.ndarray


def node_table(path: Path) -> NodeTable:
    after = following_of(path)
    before = np.full(len(after), -1)
    before[after[after >= 0]] = np.flatnonzero(after >= 0)
    chord = np.hypot(*(path.ctrl[:, 3] - path.ctrl[:, 0]).T)
    return NodeTable(after, before, chord, turns_after(path, after))
