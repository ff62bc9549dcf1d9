"""The path: one or more outlines made of straight lines, cubic curves and circular arcs."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import ArrayLike

LINE, CUBIC, ARC = 0, 1, 2


def _frozen(values, dtype, shape) -> np.ndarray:
    array = np.array(values, dtype=dtype, order="C").reshape(shape)
    array.flags.writeable = False
    return array


@dataclass(frozen=True, eq=False, init=False)
class Path:
    """Immutable outlines in read-only arrays.

    ctrl (M, 4, 2) float64: the four control points of each segment. Of a line or an arc the inner two lie at the
        thirds of its chord, so that a line is also a correct cubic and one matrix product moves everything.
    kind (M,) uint8: LINE, CUBIC or ARC.
    bulge (M,) float64: tan(sweep / 4) of an arc, 0 otherwise; |bulge| <= 1, so an arc is at most half a circle. A
        positive bulge turns from +x towards +y, which with y down is clockwise on the screen. (The DXF reference
        defines bulge by the same formula with y up.)
    start (K+1,) int64: outline k holds the segments start[k] to start[k+1]. No outline is empty.
    closed (K,) bool: whether an outline ends where it started by intent; then its last point equals its first exactly.

    A lone node is an open outline of one line of no length. Raises ValueError, naming the outline, when the arrays do
    not fit together or hold a number that is not finite.
    """

    ctrl: np.ndarray
    kind: np.ndarray
    bulge: np.ndarray
    start: np.ndarray
    closed: np.ndarray

    def __init__(self, ctrl: ArrayLike, kind: ArrayLike, bulge: ArrayLike, start: ArrayLike, closed: ArrayLike) -> None:
        self.__dict__.update(
            ctrl=_frozen(ctrl, np.float64, (-1, 4, 2)),
            kind=_frozen(kind, np.uint8, (-1,)),
            bulge=_frozen(bulge, np.float64, (-1,)),
            start=_frozen(start, np.int64, (-1,)),
            closed=_frozen(closed, np.bool_, (-1,)),
        )
        _validate(self)

    @staticmethod
    def _of_checked(ctrl, kind, bulge, start, closed) -> Path:
        """Parts of paths, or several together, which have been checked before."""
        path = object.__new__(Path)
        for array in (ctrl, kind, bulge, start, closed):
            array.flags.writeable = False
        path.__dict__.update(ctrl=ctrl, kind=kind, bulge=bulge, start=start, closed=closed)
        return path

    @staticmethod
    def taking(ctrl, kind, bulge, start, closed) -> Path:
        """A path that takes arrays of the right kinds as they are, instead of copies: nobody else may have them."""
        path = Path._of_checked(ctrl, kind, bulge, start, closed)
        _validate(path)
        return path

    # -- sizes -----------------------------------------------------------------------------------------------------
    def __len__(self) -> int:
        """The number of outlines."""
        return len(self.closed)

    @property
    def segment_count(self) -> int:
        return len(self.kind)

    @cached_property
    def outline_of(self) -> np.ndarray:
        """The outline that each segment belongs to, (M,)."""
        return np.repeat(np.arange(len(self)), np.diff(self.start))

    @cached_property
    def spread(self) -> np.ndarray:
        """Width and height of each segment's control points, (M, 2)."""
        a, b, c, d = (self.ctrl[:, i] for i in range(4))
        high = np.maximum(np.maximum(a, b), np.maximum(c, d))
        return high - np.minimum(np.minimum(a, b), np.minimum(c, d))

    @cached_property
    def node_counts(self) -> np.ndarray:
        """Nodes of each outline, (K,): its segments, and one more when it is open; a full circle counts as one."""
        counts = np.diff(self.start) + ~self.closed
        return np.where(self.is_circle, 1, counts)

    @cached_property
    def is_circle(self) -> np.ndarray:
        """Which outlines are a full circle of two half arcs, (K,)."""
        two = self.closed & (np.diff(self.start) == 2)
        first = self.start[:-1]
        second = np.minimum(first + 1, max(self.segment_count - 1, 0))
        if not len(self):
            return two
        half = (np.abs(self.bulge[first]) == 1) & (self.bulge[first] == self.bulge[second])
        return two & half

    @cached_property
    def is_united(self) -> bool:
        """Whether the outlines are known not to cross nor to cover each other, and holes to run the other way."""
        return False

    def as_united(self) -> Path:
        """The same path, of which that is known: it is a boolean's result."""
        self.__dict__["is_united"] = True
        return self

    # -- parts -----------------------------------------------------------------------------------------------------
    def outline(self, index: int) -> Path:
        """One outline as a path of its own."""
        return self.split([index, 1])[1]

    def outlines(self) -> Iterator[Path]:
        return iter(self.split([1] * len(self)))

    def split(self, counts: Iterable[int]) -> list[Path]:
        """Consecutive parts with so many outlines each. They share this path's arrays, and its having been checked."""
        parts, first = [], 0
        for count in counts:
            last = first + count
            a, b = int(self.start[first]), int(self.start[last])
            start = self.start[first : last + 1] - a
            parts.append(
                Path._of_checked(self.ctrl[a:b], self.kind[a:b], self.bulge[a:b], start, self.closed[first:last])
            )
            first = last
        return parts

    def take(self, indices: Iterable[int]) -> Path:
        """The named outlines, in the order given."""
        indices = np.asarray(indices if isinstance(indices, np.ndarray) else list(indices), np.int64)
        if len(indices) == len(self) and (indices == np.arange(len(self))).all():
            return self
        first, count = self.start[indices], np.diff(self.start)[indices]
        start = np.concatenate([[0], np.cumsum(count)])
        rows = np.arange(start[-1]) + np.repeat(first - start[:-1], count)
        return Path._of_checked(self.ctrl[rows], self.kind[rows], self.bulge[rows], start, self.closed[indices])

    def between(self, first: int, last: int) -> Path:
        """The outlines from one up to another, which share the path's arrays."""
        a, b = int(self.start[first]), int(self.start[last])
        start = self.start[first : last + 1] - a
        return Path._of_checked(self.ctrl[a:b], self.kind[a:b], self.bulge[a:b], start, self.closed[first:last])

    def chained(self, chain: np.ndarray, begin: np.ndarray, closed: np.ndarray) -> Path:
        """Outlines made of this path's own, end to end: which ones (L,), from 1 on and negative where they run the
        other way, where each begins (K+1,), and whether it is closed (K,)."""
        own = np.abs(chain) - 1
        count = np.diff(self.start)[own]
        ends = np.concatenate([[0], np.cumsum(count)])
        offset = np.arange(ends[-1]) - np.repeat(ends[:-1], count)
        back = np.repeat(chain < 0, count)
        first = np.repeat(self.start[own], count)
        rows = np.where(back, first + np.repeat(count, count) - 1 - offset, first + offset)
        ctrl = self.ctrl[rows]
        ctrl[back] = ctrl[back][:, ::-1]
        bulge = np.where(back, -self.bulge[rows], self.bulge[rows])
        return Path.taking(ctrl, self.kind[rows], bulge, ends[begin], closed)

    def reversed(self) -> Path:
        """The same outlines, in the same order, each run the other way."""
        count = np.diff(self.start)
        rows = np.repeat(self.start[:-1] + self.start[1:] - 1, count) - np.arange(self.segment_count)
        ctrl = np.ascontiguousarray(self.ctrl[rows][:, ::-1])
        return Path._of_checked(ctrl, self.kind[rows], -self.bulge[rows], self.start, self.closed)

    @staticmethod
    def concatenate(paths: Iterable[Path]) -> Path:
        """All outlines of all paths, in order."""
        paths = [path for path in paths if path.closed.size]
        if len(paths) == 1:
            return paths[0]
        if not paths:
            return EMPTY
        before = np.cumsum([0] + [path.kind.size for path in paths[:-1]])
        starts = np.concatenate([path.start[1:] for path in paths]) + np.repeat(before, [p.closed.size for p in paths])
        return Path._of_checked(
            np.concatenate([path.ctrl for path in paths]),
            np.concatenate([path.kind for path in paths]),
            np.concatenate([path.bulge for path in paths]),
            np.concatenate([[0], starts]),
            np.concatenate([path.closed for path in paths]),
        )

    @staticmethod
    def from_points(points: np.ndarray, closed: bool) -> Path:
        """One outline of straight lines through points (N, 2), N >= 1; closed adds the line back to the first."""
        points = np.asarray(points, np.float64).reshape(-1, 2)
        if closed and len(points) > 1 and (points[0] != points[-1]).any():
            points = np.vstack([points, points[:1]])
        if len(points) == 1:
            points = np.vstack([points, points])
        ctrl = line_controls(points[:-1], points[1:])
        count = len(ctrl)
        return Path(ctrl, np.zeros(count), np.zeros(count), [0, count], [closed])

    # -- identity --------------------------------------------------------------------------------------------------
    @cached_property
    def digest(self) -> str:
        """A hash of every bit of the path: equal paths, equal digests."""
        state = hashlib.sha256()
        for array in (self.ctrl, self.kind, self.bulge, self.start, self.closed):
            state.update(str(array.shape).encode())
            # Adding zero turns -0.0 into 0.0, which is the same place.
            state.update((array + 0.0).tobytes() if array.dtype == np.float64 else array.tobytes())
        return state.hexdigest()

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Path) and self.digest == other.digest

    def __hash__(self) -> int:
        return hash(self.digest)

    def __repr__(self) -> str:
        return f"Path({len(self)} outlines, {self.segment_count} segments)"


def line_controls(first: np.ndarray, last: np.ndarray) -> np.ndarray:
    """Control points (M, 4, 2) of straight segments, or of arcs' chords, from their ends (M, 2)."""
    step = (last - first) / 3.0
    return np.stack([first, first + step, last - step, last], axis=1)


def segments_of(path: Path, rows: np.ndarray) -> Path:
    """Some segments of a path (N,), each as an open outline."""
    open_ = np.zeros(len(rows), bool)
    return Path(path.ctrl[rows], path.kind[rows], path.bulge[rows], np.arange(len(rows) + 1), open_)


def _validate(path: Path) -> None:
    count, outlines = len(path.kind), len(path.closed)
    if len(path.ctrl) != count or len(path.bulge) != count:
        raise ValueError(f"a path needs one kind and one bulge for each of its {len(path.ctrl)} segments")
    start = path.start
    if len(start) != outlines + 1 or start[0] != 0 or start[-1] != count:
        raise ValueError("the starts of a path's outlines must run from 0 to its number of segments")
    short = np.flatnonzero(np.diff(start) < 1)
    if len(short):
        raise ValueError(f"outline {short[0]} is empty: an outline has at least one segment")
    if not count:
        return
    # Not a number is neither: whole arrays are looked at first, since few paths are bad.
    bad = ~(np.abs(path.bulge) <= 1) | (path.kind > ARC) | ((path.kind != ARC) & (path.bulge != 0))
    if not np.isfinite(path.ctrl).all():
        bad |= ~np.isfinite(path.ctrl).all(axis=(1, 2))
    _refuse(path, bad, "holds a number that is not finite, an unknown kind, or a bulge that does not fit")
    gap = np.zeros(count, bool)
    gap[1:] = (path.ctrl[1:, 0, 0] != path.ctrl[:-1, 3, 0]) | (path.ctrl[1:, 0, 1] != path.ctrl[:-1, 3, 1])
    gap[start[1:-1]] = False
    _refuse(path, gap, "has a segment that does not start where the one before it ends")
    loose = (path.ctrl[start[:-1], 0] != path.ctrl[start[1:] - 1, 3]).any(axis=1) & path.closed
    if loose.any():
        raise ValueError(f"outline {np.flatnonzero(loose)[0]} is called closed but does not end where it starts")


def _refuse(path: Path, bad: np.ndarray, why: str) -> None:
    if bad.any():
        segment = int(np.flatnonzero(bad)[0])
        raise ValueError(f"outline {path.outline_of[segment]} {why}")


EMPTY = Path(np.zeros((0, 4, 2)), [], [], [0], [])
