"""Drawing a path, command by command: the protocol between every reader and the arrays."""

from __future__ import annotations

import math
from array import array
from collections.abc import Callable, Iterable, Iterator, Sequence
from itertools import chain
from typing import NamedTuple

import numpy as np

from .arcs import cubics_needed, endpoint_to_centre, unit_arc_cubics
from .bezier import from_quadratic
from .path import ARC, CUBIC, LINE, Path
from .tolerances import JOIN_MM

Point = tuple[float, float]
#: Bulges this near to 1 are half circles: below the rounding of coordinates in files.
HALF_CIRCLE = 1e-5


class Built(NamedTuple):
    """Drawn outlines: eight coordinates for each segment, all in one row; kinds and bulges of the segments; first
    segment and closedness of each outline. Numbers lie packed: readers hold those of a whole file at once."""

    coordinates: array
    kinds: bytearray
    bulges: array
    starts: list[int]
    closed: list[bool]

    def row(self, i: int) -> array:
        """The eight coordinates of a segment."""
        return self.coordinates[8 * i : 8 * i + 8]


def join_built(
    parts: Sequence[Built], moved: Callable[[np.ndarray], np.ndarray] | None = None, used_up: bool = False
) -> Path:
    """One path of all parts in order. moved: what is done to the control points (M, 4, 2) of them all on the way.
    used_up: the parts' own coordinates may go, one after the other."""
    ctrl = packed(_coordinates(parts, used_up)).reshape(-1, 4, 2)
    before = np.cumsum([0, *(len(part.kinds) for part in parts)])
    starts = [at + first for first, part in zip(before.tolist(), parts, strict=False) for at in part.starts]
    return Path.taking(
        ctrl if moved is None else moved(ctrl),
        np.frombuffer(b"".join(part.kinds for part in parts), np.uint8),
        packed(part.bulges for part in parts),
        np.array([*starts, len(ctrl)], np.int64),
        np.fromiter(chain.from_iterable(part.closed for part in parts), bool),
    )


def _coordinates(parts: Sequence[Built], used_up: bool) -> Iterator[array]:
    for part in parts:
        yield part.coordinates
        if used_up:
            del part.coordinates[:]


def packed(rows: Iterable[array]) -> np.ndarray:
    """All numbers of many rows, one after the other."""
    whole = array("d")
    for row in rows:
        whole.extend(row)
    return np.frombuffer(whole) if whole else np.zeros(0)


class PathBuilder:
    """Collects drawing commands and makes a Path of them.

    scale: how many millimetres a unit of these coordinates will be in the end; conics are approximated accordingly.
    """

    def __init__(self, scale: float = 1.0) -> None:
        self._coordinates, self._kinds, self._bulges = array("d"), bytearray(), array("d")
        self._starts: list[int] = []
        self._closed: list[bool] = []
        self._first: Point | None = None
        self._at: Point | None = None
        self._pending = False
        self._scale = scale

    @property
    def position(self) -> Point | None:
        return self._at

    @property
    def here(self) -> Point:
        """Where it is. Raises ValueError before the first move_to."""
        if self._at is None:
            raise ValueError("an outline starts with move_to")
        return self._at

    def move_to(self, point: Point) -> None:
        """Starts an outline. One that gets no segment is kept as a lone node."""
        self._end_lone()
        self._first = self._at = point
        self._pending = True

    def line_to(self, point: Point) -> None:
        self._add(LINE, self.here, self._thirds(point), point, 0.0)

    def lines_to(self, points: np.ndarray) -> None:
        """Straight lines through points (N, 2), one after the other: the same as line_to to each, only faster."""
        if not len(points):
            return
        self.line_to((float(points[0, 0]), float(points[0, 1])))
        first, last = points[:-1], points[1:]
        third = (last - first) / 3
        rows = np.stack([first, first + third, last - third, last], axis=1)
        self._coordinates.frombytes(np.ascontiguousarray(rows, np.float64).tobytes())
        self._kinds.extend(bytes([LINE]) * len(rows))
        self._bulges.frombytes(bytes(8 * len(rows)))
        self._at = (float(points[-1, 0]), float(points[-1, 1]))

    def cubic_to(self, handle1: Point, handle2: Point, point: Point) -> None:
        self._add(CUBIC, self.here, (handle1, handle2), point, 0.0)

    def quadratic_to(self, handle: Point, point: Point) -> None:
        self._add(CUBIC, self.here, from_quadratic(self.here, handle, point), point, 0.0)

    def bulge_to(self, bulge: float, point: Point) -> None:
        """A circular arc of at most half a circle."""
        self._add(ARC, self.here, self._thirds(point), point, bulge)

    def elliptical_arc_to(self, rx: float, ry: float, rotation: float, large: bool, sweep: bool, point: Point) -> None:
        """An arc as in SVG path data; angle in radians. A circular one stays an arc, others become cubics."""
        rx, ry = abs(rx), abs(ry)
        if point == self._at:
            return
        if rx == 0 or ry == 0:
            return self.line_to(point)
        first, last = np.array(self.here), np.array(point)
        centre, rx, ry, start, turn = endpoint_to_centre(first, last, rx, ry, rotation, large, sweep)
        if abs(rx - ry) <= 1e-12 * rx:
            return self.arc_about((float(centre[0]), float(centre[1])), turn, point)
        count = int(cubics_needed(np.array(turn), np.array(max(rx, ry) * self._scale)))
        cos, sin = math.cos(rotation), math.sin(rotation)
        curves = unit_arc_cubics(start, turn, count) * (rx, ry) @ np.array([[cos, sin], [-sin, cos]]) + centre
        for i, (_, handle1, handle2, end) in enumerate(curves.tolist()):
            self.cubic_to((*handle1,), (*handle2,), point if i == count - 1 else (*end,))

    def arc_about(self, centre: Point, turn: float, point: Point | None = None) -> None:
        """Circular arcs about a centre from where it is, by an angle in radians to either side; where they end, if that
        is known better than by the angle."""
        x, y = self.here[0] - centre[0], self.here[1] - centre[1]
        parts = max(math.ceil(abs(turn) / math.pi - 1e-9), 1)
        bulge = math.tan(turn / parts / 4)
        # Half a circle is meant where a hair is missing to it, so that a circle written in two halves stays one.
        bulge = math.copysign(1.0, bulge) if abs(abs(bulge) - 1) < HALF_CIRCLE else bulge
        for i in range(1, parts + 1):
            c, s = math.cos(turn * i / parts), math.sin(turn * i / parts)
            to = (centre[0] + x * c - y * s, centre[1] + x * s + y * c)
            self.bulge_to(bulge, point if i == parts and point is not None else to)

    def circle(self, x: float, y: float, radius: float) -> None:
        """A full circle of two half arcs, from its rightmost point."""
        self.move_to((x + radius, y))
        self.bulge_to(1.0, (x - radius, y))
        self.bulge_to(1.0, (x + radius, y))
        self.close()

    def close(self) -> None:
        """Closes the outline, with a straight line where it is not back at its start yet."""
        if self._at is None or self._first is None:
            return
        if self._pending:
            self._add(LINE, self._at, self._thirds(self._at), self._at, 0.0)
        gap = math.dist(self._at, self._first)
        if gap > JOIN_MM / self._scale:
            self.line_to(self._first)
        elif gap > 0:
            self._coordinates[-2:] = array("d", self._first)
        self._closed[-1] = True
        self._at = self._first
        self._pending = True
        self._lone = False

    def path(self) -> Path:
        """All that was drawn."""
        return join_built([self.built()])

    def built(self) -> Built:
        """All that was drawn, as lists that many builders' worth of can be made arrays of at once."""
        self._end_lone()
        return Built(self._coordinates, self._kinds, self._bulges, self._starts, self._closed)

    # ----------------------------------------------------------------------------------------------------------------
    _lone = True

    def _end_lone(self) -> None:
        if self._pending and self._lone:
            self._add(LINE, self.here, self._thirds(self.here), self.here, 0.0)
        self._pending, self._lone = False, True

    def _add(self, kind: int, first: Point, inner: tuple[Point, Point], last: Point, bulge: float) -> None:
        if self._pending:
            self._starts.append(len(self._kinds))
            self._closed.append(False)
            self._pending, self._lone = False, True
        self._coordinates.extend((*first, *inner[0], *inner[1], *last))
        self._kinds.append(kind)
        self._bulges.append(bulge)
        self._at = last

    def _thirds(self, to: Point) -> tuple[Point, Point]:
        (x0, y0), (x1, y1) = self.here, to
        dx, dy = (x1 - x0) / 3, (y1 - y0) / 3
        return (x0 + dx, y0 + dy), (x1 - dx, y1 - dy)
