"""Which stroke of a machine file is which outline of the design, and how far each two are apart.

Most files have a stroke for each outline. Two lines whose boxes agree are followed side by side: of two that run along
each other the largest distance between them is one from a node of either (the distance to a straight chord is convex).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry import EXACT_MM, Path, flatten

#: So many strokes are tried for an outline, those first whose boxes agree best.
MOST_TRIED = 12
#: Lines whose ends are so near are closed.
CLOSED_MM = 1e-6


@dataclass(frozen=True)
class Pairs:
    """outline, stroke (N,): which belong together, each once; apart (N,), how far they are, in mm; place (N, 2), where
    they are so far."""

    outline: np.ndarray
    stroke: np.ndarray
    apart: np.ndarray
    place: np.ndarray


@dataclass(frozen=True)
class _Side:
    """One side's lines: kinds of equal ones, the first of each kind, and how many there are of each."""

    points: np.ndarray
    start: np.ndarray
    round_: np.ndarray
    boxes: np.ndarray

    @property
    def lines(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        return self.points, self.start, self.round_

    @staticmethod
    def of(path: Path) -> _Side:
        chords = flatten(path, EXACT_MM)
        points, start = np.ascontiguousarray(chords.points), chords.start
        low, high = (f.reduceat(points, start[:-1]) for f in (np.minimum, np.maximum))
        ends = np.abs(points[start[:-1]] - points[start[1:] - 1]).max(axis=1) < CLOSED_MM
        return _Side(points, start, chords.closed | ends, np.hstack([low, high]))


def paired(outlines: Path, strokes: Path, within_mm: float) -> Pairs:
    """Outlines and strokes that are nowhere farther than this from each other, as many as can be found."""
    from scipy.spatial import KDTree  # loaded only where a proof is made

    from ..geometry.kernels.walking import pairs_apart

    design, file = _Side.of(outlines), _Side.of(strokes)
    design_kind, file_kind = _kinds(design), _kinds(file)
    first_d, first_f = _first(design_kind), _first(file_kind)
    room = np.bincount(file_kind)
    tried = min(MOST_TRIED, len(first_f))
    tree, reach = KDTree(file.boxes[first_f]), 2 * within_mm
    near = tree.query(design.boxes[first_d], tried, p=np.inf, distance_upper_bound=reach)[1].reshape(-1, tried)
    open_, rows = np.arange(len(outlines)), []
    for turn in range(tried):
        kind = near[design_kind[open_], turn]
        asked = np.flatnonzero(kind < len(first_f))
        pair, which = np.unique(np.column_stack([design_kind[open_[asked]], kind[asked]]), axis=0, return_inverse=True)
        lines = np.ascontiguousarray(np.column_stack([first_d[pair[:, 0]], first_f[pair[:, 1]]]))
        apart, place = pairs_apart(*design.lines, *file.lines, lines, within_mm)
        which = which.ravel()
        good = apart[which] <= within_mm
        asked, which = asked[good], which[good]
        # Of more outlines than there are strokes of a kind, the first have them.
        order = np.argsort(kind[asked], kind="stable")
        number = np.empty(len(order), np.int64)
        number[order] = np.arange(len(order)) - np.searchsorted(kind[asked][order], kind[asked][order])
        has = number < room[kind[asked]]
        asked, which = asked[has], which[has]
        room -= np.bincount(kind[asked], minlength=len(room))
        rows.append((open_[asked], kind[asked], apart[which], place[which]))
        open_ = np.delete(open_, asked)
    found, kind, apart, place = (np.concatenate(column) for column in zip(*rows, strict=True))
    points = np.vstack([design.points, file.points])
    return Pairs(found, _strokes(file_kind, kind), apart, points[place])


def _strokes(file_kind: np.ndarray, kind: np.ndarray) -> np.ndarray:
    """For each that has a stroke of a kind, one of that kind, each once."""
    order = np.argsort(file_kind, kind="stable")
    begin = np.searchsorted(file_kind[order], kind)
    mine = np.argsort(kind, kind="stable")
    number = np.empty(len(kind), np.int64)
    number[mine] = np.arange(len(kind)) - np.searchsorted(kind[mine], kind[mine])
    return order[begin + number]


def _kinds(side: _Side) -> np.ndarray:
    """A number for each line (K,) that those share whose points are equal, in their order."""
    count = np.diff(side.start)
    weight = np.arange(len(side.points)) - np.repeat(side.start[:-1], count) + 1.0
    whole = np.round(side.points / 1e-6)
    sums = np.add.reduceat(np.column_stack([whole, whole * weight[:, None]]), side.start[:-1])
    return np.unique(np.column_stack([sums, count]), axis=0, return_inverse=True)[1].ravel()


def _first(kind: np.ndarray) -> np.ndarray:
    return np.unique(kind, return_index=True)[1]
