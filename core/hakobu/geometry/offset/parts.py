"""A path as lines and arcs, ready for what is asked of distances."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..parallel import parallel_map
from ..path import CUBIC, Path
from ..proximity.chord_grid import curve_table

#: How far lines and arcs may be from the curves that they stand for, in mm. What lies at a distance moves no more.
PARTS_MM = 5e-4
#: The same of curves that are shorter than this as a rule, as of a traced outline: how far its curves may be fitted
#: depends on its noise, and what the parts are off is taken from that.
FINE_PARTS_MM, SHORT_MM = 2e-4, 0.15
#: So many curves keep a processor busy long enough that a second one is worth asking.
WORTH_SHARING = 2000


@dataclass(frozen=True)
class Parts:
    """table (E, 13): lines and arcs as `kernels.elements` has them; owner (E,): the segment of the path that each
    stands for; off_mm (E,): how far each is from that at most; start (K+1,): the first of each outline, which may have
    none, and closed (K,)."""

    path: Path
    table: np.ndarray
    owner: np.ndarray
    off_mm: np.ndarray
    start: np.ndarray

    @property
    def closed(self) -> np.ndarray:
        return self.path.closed

    @cached_property
    def plain(self) -> np.ndarray:
        """Which parts were drawn as a line or an arc (E,)."""
        return self.path.kind[self.owner] != CUBIC

    @cached_property
    def box(self) -> np.ndarray:
        """The box of each part (E, 4)."""
        from ..kernels.parallels import boxes_about

        return boxes_about(self.table)

    @cached_property
    def tree(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """The boxes of all levels of a tree over the parts, the first box of each level, and the order of the parts in
        it: along each outline, the outlines along a Z curve."""
        from ..proximity.kernels.boxtree import packed, z_order

        box = self.box
        filled = np.flatnonzero(np.diff(self.start))
        first, count = self.start[:-1][filled], np.diff(self.start)[filled]
        low, high = np.minimum.reduceat(box[:, :2], first), np.maximum.reduceat(box[:, 2:], first)
        by = np.argsort(z_order(np.hstack([low, high])), kind="stable")
        begin = np.repeat(first[by] - np.cumsum(count[by]) + count[by], count[by])
        order = begin + np.arange(len(box))
        return *packed(box, order), order


def parts_of(path: Path, within_mm: float | None = None) -> Parts:
    """The path as lines and arcs within a distance. An open outline of no length is a line of none."""
    from ..kernels.elements import UX, VX, elements_of

    if within_mm is None:
        within_mm = FINE_PARTS_MM if _usual_chord(path) < SHORT_MM else PARTS_MM

    kinds, geometry = curve_table(path)

    def work(first: int, last: int) -> tuple:
        part = slice(first, last)
        table, owner, begin, off = elements_of(
            kinds[part], geometry[part], path.ctrl[part], path.bulge[part], within_mm
        )
        return table, owner + first, np.diff(begin), off

    done = parallel_map(work, np.ones(path.segment_count), WORTH_SHARING)
    table, owner, count, off = (np.concatenate(each) for each in zip(*done, strict=True))
    begin = np.concatenate([[0], np.cumsum(count)])
    start = begin[path.start]
    dots = np.flatnonzero((np.diff(start) == 0) & ~path.closed)
    if len(dots):
        rows = np.zeros((len(dots), table.shape[1]))
        place = path.ctrl[path.start[dots], 0]
        rows[:, 0:2], rows[:, 2:4], rows[:, UX], rows[:, VX] = place, place, 1.0, 1.0
        at = start[dots]
        table = np.ascontiguousarray(np.insert(table, at, rows, axis=0))
        owner, off = np.insert(owner, at, path.start[dots]), np.insert(off, at, 0.0)
        start = start + np.concatenate([[0], np.cumsum(np.isin(np.arange(len(path)), dots))])
    return Parts(path, table, owner, off, start)


def _usual_chord(path: Path) -> float:
    return float(np.median(np.hypot(*(path.ctrl[:, 3] - path.ctrl[:, 0]).T))) if path.segment_count else 0.0
