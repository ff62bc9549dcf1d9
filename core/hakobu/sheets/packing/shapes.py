"""What packing works with: each shape that is placed, once, with its own outline about its centre."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ...geometry import LINE, Box, Path, area, box_of, flatten, primitives, signed_areas, transform, translation
from ...geometry.boolean import Operand, union
from ...geometry.offset import around, offset
from ..items import Item

#: Polygons that stand for a shape leave it by so much at most, outwards.
POLYGON_MM = 0.1
#: A line takes so much of a sheet: as wide as a fine blade cuts.
LINE_MM = 0.1
#: Angles that are tried, in degrees, by the name of what may be turned.
TURNS: dict[str, tuple[float, ...]] = {
    "fixed": (0.0,),
    "half": (0.0, 180.0),
    "quarter": (0.0, 90.0, 180.0, 270.0),
    "across": (90.0,),
    "across-half": (90.0, 270.0),
    "free": (0.0, 45.0, 90.0, 135.0, 180.0, 225.0, 270.0, 315.0),
}


@dataclass(frozen=True, eq=False)
class Shape:
    """What an item covers, about the centre of its box. key: of equal shapes the same."""

    path: Path
    key: str

    @cached_property
    def area_mm2(self) -> float:
        return float(area(self.path))

    def grown(self, by_mm: float, holes: bool) -> Path:
        """All that is nearer than a distance; without holes, unless others may lie in them."""
        made = offset(self.path, distance_mm=by_mm).path if by_mm > 0 else self.path
        return made if holes else without_holes(made)

    def polygon(self) -> np.ndarray:
        """One polygon (N, 2) that holds the shape and leaves it by POLYGON_MM at most; of a shape in several parts
        their convex hull."""
        made = without_holes(offset(self.path, distance_mm=POLYGON_MM / 2).path)
        if len(made) != 1:
            return _hull(flatten(made, POLYGON_MM / 2).points)
        points = flatten(made, POLYGON_MM / 2).points
        return points[:-1] if (points[0] == points[-1]).all() else points


def shape_of(item: Item) -> Shape:
    """What an item covers: the inside of closed outlines, and lines as wide as they are drawn."""
    x, y = item.centre
    parts: list[Operand | Path] = []
    for piece in item.pieces:
        closed = np.flatnonzero(piece.path.closed)
        open_ = np.flatnonzero(~piece.path.closed)
        if len(closed):
            parts.append(Operand(piece.path.take(closed), piece.fill_rule))
        if len(open_):
            parts.append(around(piece.path.take(open_), LINE_MM / 2).path)
    whole = union(*parts).path
    if not len(whole):
        # Outlines without an inside, and lone nodes, are followed all the same.
        whole = union(around(item.path, LINE_MM / 2).path, _dots(item.path)).path
    path = transform(whole, translation(-x, -y))
    return Shape(path, path.digest)


def _dots(path: Path) -> Path:
    return Path.concatenate(primitives.circle(x, y, LINE_MM / 2) for x, y in path.ctrl[path.start[:-1], 0].tolist())


def without_holes(path: Path) -> Path:
    """The outer outlines of united shapes."""
    return path.take(np.flatnonzero(signed_areas(path) > 0))


def is_box(shape: Shape) -> bool:
    """Whether a shape is a rectangle that stands level."""
    low, high = shape.path.ctrl.reshape(-1, 2).min(axis=0), shape.path.ctrl.reshape(-1, 2).max(axis=0)
    width, height = high - low
    return len(shape.path) == 1 and abs(shape.area_mm2 - width * height) < 1e-6 * width * height


def rectangle_of(path: Path) -> Box | None:
    """The box of an outline that is a level rectangle."""
    if len(path) != 1 or (path.kind != LINE).any() or path.segment_count != 4:
        return None
    step = np.abs(path.ctrl[:, 3] - path.ctrl[:, 0])
    return box_of(path) if (step.min(axis=1) < 1e-9).all() else None


def box_sizes(shapes: Sequence[Shape]) -> np.ndarray:
    """Width and height of each, (N, 2)."""
    boxes = np.array([box_of(shape.path) for shape in shapes]).reshape(-1, 4)
    return boxes[:, 2:] - boxes[:, :2]


def _hull(points: np.ndarray) -> np.ndarray:
    from scipy.spatial import ConvexHull

    return points[ConvexHull(points).vertices]
