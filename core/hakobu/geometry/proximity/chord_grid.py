"""Chords of curves in a grid: which segments come near each other."""

from __future__ import annotations

from functools import cached_property
from threading import Lock
from weakref import ref

import numpy as np

from ..arcs import centre_and_radius
from ..parallel import parallel_map
from ..path import ARC, LINE, Path
from ..tolerances import STRAIGHT_BULGE

#: How far, of its own size, a cubic may leave the chords that are searched.
SEARCH_SHARE = 0.05
#: Curves come near each other within this, in mm, and what their chords leave out.
NEAR_MM = 4e-5
#: So many chords in cells keep a processor busy long enough that a second one is worth asking.
WORTH_SHARING = 50_000


class Search:
    """Chords of a path in a grid: table, owner, begin as `kernels.chords` makes them; cells, member, frame as
    `kernels.grid` does; following (M,), the segment that goes on where each ends, or -1."""

    def __init__(
        self,
        path: Path,
        group: np.ndarray | None,
        share: float,
        kinds: np.ndarray,
        geometry: np.ndarray,
        near_mm: float = NEAR_MM,
    ) -> None:
        from .kernels.grid import boxes_of, grid_of

        self.near_mm = near_mm
        self.table, self.owner, self.begin = _chords(path, kinds, geometry, share)
        self.group = np.zeros(path.segment_count, np.int64) if group is None else np.asarray(group, np.int64)
        if group is not None:
            self.group = np.ascontiguousarray(self.group[path.outline_of])
        self.following = following_of(path)
        self.frame = _frame(self.table)
        self.box = boxes_of(self.table, near_mm)
        self.cells, self.member, self.slanting = grid_of(self.table, self.box, near_mm, *self.frame)

    def near(self, within_mm: float | None = None) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Pairs of near chords (N, 2), the shares along them, and whether their curves meet once at most; within less
        than is searched for where that is named."""
        chords, shares, once = self._all_near
        if within_mm is None or within_mm >= self.near_mm:
            return chords, shares, once
        kept = self.apart(chords, shares) <= within_mm
        return chords[kept], shares[kept], once[kept]

    def apart(self, chords: np.ndarray, shares: np.ndarray) -> np.ndarray:
        """How near the curves of pairs of chords come to each other at least (N,)."""
        from ..kernels.chords import AX, BX, REACH

        places, reach = [], np.zeros(len(chords))
        for side in (0, 1):
            row = self.table[chords[:, side]]
            first, last = row[:, AX : AX + 2], row[:, BX : BX + 2]
            places.append(first + shares[:, side, None] * (last - first))
            reach += row[:, REACH]
        return np.hypot(*(places[0] - places[1]).T) - reach

    @property
    def tests(self) -> float:
        """How often two chords are compared to find those that are near each other."""
        many = np.diff(self.cells)
        return float((many * (many - 1.0)).sum() / 2)

    def has_more_than(self, pairs: int, tests: int) -> bool:
        """Whether more pairs of chords are near each other, or more are to be compared, than can be worked out."""
        return self.tests > pairs and (self.tests > tests or self.count() > pairs)

    def count(self) -> int:
        """How many pairs of chords are near each other: what `near` would list."""
        from .kernels.chord_pairs import near_chords

        def work(first: int, last: int) -> int:
            return near_chords(*self._search_arguments, first, last, 0)[3]

        return sum(parallel_map(work, np.diff(self.cells[:: self.frame[3]]) + 1.0, WORTH_SHARING))

    @property
    def _search_arguments(self) -> tuple:
        tables = (self.table, self.box, self.owner, self.begin, self.following, self.group, self.cells, self.member)
        return (*tables, self.slanting, self.near_mm, *self.frame)

    @cached_property
    def _all_near(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        from .kernels.chord_pairs import near_chords

        many = np.diff(self.cells[:: self.frame[3]])

        def work(first: int, last: int) -> list[np.ndarray]:
            most = int(many[first:last].sum()) + 1000
            arguments = (*self._search_arguments, first, last)
            *listed, found = near_chords(*arguments, most)
            return near_chords(*arguments, found)[:3] if found > most else listed

        done = parallel_map(work, many + 1.0, WORTH_SHARING)
        one, other, apart = (np.concatenate(each) for each in zip(*done, strict=True)) if len(done) > 1 else done[0]
        return one, other, apart


#: Several questions are asked of one path after the other, or at once: its chords are kept for the next, unless they
#: are so many that their memory is worth more.
MOST_KEPT = 400_000
_KEPT: dict[str, tuple] = {}
_ONE_AT_A_TIME = Lock()


def _chords(path: Path, kinds: np.ndarray, geometry: np.ndarray, share: float) -> tuple:
    """Chords of a path, as `kernels.chords` makes them; nobody changes them."""
    from ..kernels.chords import chords_of

    if share != SEARCH_SHARE or path.segment_count > MOST_KEPT:
        return chords_of(kinds, geometry, path.ctrl, share)
    with _ONE_AT_A_TIME:
        of, made = _KEPT.get("last", (lambda: None, ()))
        if of() is not path:
            made = chords_of(kinds, geometry, path.ctrl, share)
            _KEPT["last"] = ref(path, _forget), made
    return made


def _forget(gone: ref) -> None:
    if _KEPT.get("last", (None,))[0] is gone:
        _KEPT.clear()


def following_of(path: Path) -> np.ndarray:
    """The segment that goes on where each ends (M,), -1 at the end of an open outline."""
    following = np.arange(path.segment_count) + 1
    following[path.start[1:] - 1] = np.where(path.closed, path.start[:-1], -1)
    return following


def _frame(table: np.ndarray) -> tuple[float, float, float, int, int]:
    """Origin, size of a cell, columns and rows of a grid with about two chords for each cell. What lies far off, a
    hundredth at each side, is left to the cells at the rim."""
    if not len(table):
        return 0.0, 0.0, 1.0, 1, 1
    some = table[:: max(len(table) // 5000, 1)]
    middle = (some[:, 0:2] + some[:, 2:4]) / 2
    out = len(some) // 100
    low, high = np.sort(middle, axis=0)[[out, len(some) - 1 - out]]
    mean = float(np.hypot(some[:, 2] - some[:, 0], some[:, 3] - some[:, 1]).mean())
    box = np.maximum(high - low, mean)
    cell = max(1.4 * float(np.sqrt(box[0] * box[1] / len(table))), 0.7 * mean, float(box.max()) / 4000, 1e-9)
    columns, rows = (int(n) for n in np.ceil(box / cell + 1e-9))
    return float(low[0]), float(low[1]), cell, max(columns, 1), max(rows, 1)


def curve_table(path: Path) -> tuple[np.ndarray, np.ndarray]:
    """Kinds (M,) and rows of eight numbers (M, 8) as the kernels take them: an arc that is straight is a line."""
    kinds = path.kind.astype(np.int64)
    straight = (path.kind == ARC) & (np.abs(path.bulge) < STRAIGHT_BULGE)
    kinds[straight] = LINE
    geometry = path.ctrl.reshape(-1, 8).copy()
    arc = kinds == ARC
    first, last, bulge = path.ctrl[arc, 0], path.ctrl[arc, 3], path.bulge[arc]
    centre, radius = centre_and_radius(first, last, bulge)
    geometry[arc] = 0.0
    geometry[arc, :2], geometry[arc, 2] = centre, radius
    geometry[arc, 3] = np.arctan2(first[:, 1] - centre[:, 1], first[:, 0] - centre[:, 0])
    geometry[arc, 4] = 4 * np.arctan(bulge)
    return kinds, geometry
