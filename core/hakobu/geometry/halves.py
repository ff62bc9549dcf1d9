"""Shapes parted by a straight line, and the room between two of them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from .affine import compose, rotation, transform, translation
from .boolean import Operand, cut_lines, intersection, union
from .flatten import flatten
from .measure import box_of
from .path import Path
from .primitives import rectangle

#: A half plane reaches so many times farther than what it parts.
REACH = 4.0
#: Hulls are taken of chords within this, in mm.
CHORD_MM = 1e-3


@dataclass(frozen=True)
class Line:
    """A straight line without ends: through a point (2,), at an angle in radians, clockwise on the page."""

    point: tuple[float, float]
    angle: float = 0.0

    @cached_property
    def way(self) -> np.ndarray:
        """Along it, (2,), of length 1."""
        return np.array([np.cos(self.angle), np.sin(self.angle)])

    @cached_property
    def across(self) -> np.ndarray:
        """Off it, (2,), of length 1: down, where the line runs to the right."""
        return np.array([-np.sin(self.angle), np.cos(self.angle)])

    def off(self, points: np.ndarray) -> np.ndarray:
        """How far points (N, 2) are off the line, (N,): positive on the side that `across` shows to."""
        return (np.asarray(points) - self.point) @ self.across

    def half_plane(self, box: tuple[float, float, float, float], side: int) -> Path:
        """All of one side about a box, as a rectangle: 1 for the side that `across` shows to, -1 for the other."""
        corners = np.array(box).reshape(2, 2) - self.point
        reach = REACH * (float(np.abs(corners).max()) + 1.0)
        flat = rectangle(-reach, 0.0 if side > 0 else -reach, 2 * reach, reach)
        return transform(flat, compose(translation(*self.point), rotation(self.angle)))

    @property
    def mirror(self) -> np.ndarray:
        """The matrix (2, 3) that mirrors in the line."""
        flat = compose(np.array([[1.0, 0.0, 0.0], [0.0, -1.0, 0.0]]), rotation(-self.angle))
        return compose(compose(translation(*self.point), compose(rotation(self.angle), flat)), _back(self.point))


def _back(point: tuple[float, float]) -> np.ndarray:
    return translation(-point[0], -point[1])


def halves(shape: Operand, line: Line) -> tuple[Path, Path]:
    """What of a shape lies on the side that `line.across` shows away from, and what on the other, closed along it."""
    box = box_of(shape.path)
    one, other = (intersection(shape, line.half_plane(box, side)).path for side in (-1, 1))
    return one, other


def halves_left_open(shape: Operand, line: Line) -> tuple[Path, Path]:
    """The same with no edge along the line: outlines that it cuts are open."""
    whole, box = union(shape).path, box_of(shape.path)
    one, other = (cut_lines(whole, line.half_plane(box, side)).path for side in (-1, 1))
    return one, other


def lines_parted(path: Path, line: Line) -> tuple[Path, Path]:
    """Open and closed lines, cut where the line meets them."""
    box = box_of(path)
    one, other = (cut_lines(path, line.half_plane(box, side)).path for side in (-1, 1))
    return one, other


@dataclass(frozen=True)
class Gap:
    """The widest straight room between two shapes: line, its middle line through its middle; high: how wide it is
    across, wide: how far both shapes reach along it."""

    line: Line
    high: float
    wide: float


def gap_between(one: Path, other: Path) -> Gap | None:
    """The widest strip that lies between the hulls of two shapes, by an edge of one of them (the separating axes of
    convex polygons); None where the hulls overlap."""
    from scipy.spatial import ConvexHull

    hulls = []
    for path in (one, other):
        points = flatten(path, CHORD_MM).points
        hulls.append(points[ConvexHull(points).vertices])
    best: tuple[float, np.ndarray, float] | None = None
    for hull in hulls:
        edge = np.roll(hull, -1, axis=0) - hull
        normal = np.column_stack([-edge[:, 1], edge[:, 0]]) / np.maximum(np.hypot(*edge.T), 1e-12)[:, None]
        reach = [normal @ each.T for each in hulls]
        for low, high in ((0, 1), (1, 0)):
            room = reach[high].min(axis=1) - reach[low].max(axis=1)
            k = int(room.argmax())
            if room[k] > 0 and (best is None or room[k] > best[0] + 1e-9):
                best = float(room[k]), normal[k], float(reach[low][k].max() + room[k] / 2)
    if best is None:
        return None
    high, normal, middle = best
    angle = float(np.arctan2(-normal[0], normal[1]))
    # The way that words run: to the right, or down.
    if np.cos(angle) < -1e-9 or (abs(np.cos(angle)) <= 1e-9 and np.sin(angle) < 0):
        angle += np.pi
    way = np.array([np.cos(angle), np.sin(angle)])
    along = [hull @ way for hull in hulls]
    low, far = min(a.min() for a in along), max(a.max() for a in along)
    point = normal * middle + way * (low + far) / 2
    return Gap(Line((float(point[0]), float(point[1])), angle), high, float(far - low))
