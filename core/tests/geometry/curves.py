"""Outlines that several tests of geometry begin from."""

from __future__ import annotations

import math

import numpy as np
import shapely

from hakobu.geometry import Path, PathBuilder, flatten, rotation, scaling, signed_areas, transform, translation
from hakobu.geometry.boolean.combining import closed_up
from hakobu.geometry.flatten import points_at


def polygon(*points) -> Path:
    return Path.from_points(np.array(points, float), closed=True)


def regular(count: int, radius: float = 10.0, x: float = 0.0, y: float = 0.0) -> Path:
    """A regular polygon."""
    angle = np.linspace(0, 2 * np.pi, count, endpoint=False)
    return Path.from_points(np.column_stack([x + radius * np.cos(angle), y + radius * np.sin(angle)]), closed=True)


def four_cubic_circle(x: float, y: float, radius: float, turn: float = 0.0) -> Path:
    builder, k = PathBuilder(), 4 / 3 * math.tan(math.pi / 8)
    builder.move_to((1.0, 0.0))
    for q in range(4):
        c, s = round(math.cos(q * math.pi / 2)), round(math.sin(q * math.pi / 2))
        builder.cubic_to((c - k * s, s + k * c), (-s + k * c, c + k * s), (float(-s), float(c)))
    builder.close()
    made = transform(builder.path(), rotation(turn))
    return transform(transform(made, scaling(radius)), translation(x, y))


def flower(seed: int, x: float = 0.0, y: float = 0.0) -> Path:
    """A closed outline of smooth cubics that may cross itself."""
    random = np.random.default_rng(seed)
    points = random.uniform(-10, 10, (int(random.integers(3, 7)), 2)) + np.array([x, y])
    builder = PathBuilder()
    builder.move_to(tuple(points[0]))
    for a, b in zip(points, np.roll(points, -1, axis=0), strict=True):
        builder.cubic_to(tuple(a + random.normal(0, 4, 2)), tuple(b + random.normal(0, 4, 2)), tuple(b))
    builder.close()
    return builder.path()


def split_at(path: Path, share: float) -> Path:
    """The same outline with every segment in two."""
    from hakobu.geometry.boolean.combining import span_path

    rows = np.repeat(np.arange(path.segment_count), 2)
    span = np.tile([[0.0, share], [share, 1.0]], (path.segment_count, 1))
    ends = np.stack([points_at(path, rows, span[:, 0]), points_at(path, rows, span[:, 1])], axis=1)
    return span_path(path, rows, span, ends, 2 * path.start, path.closed)


def total_area(path: Path) -> float:
    return float(signed_areas(path).sum())


def painted(path: Path, rule: str = "nonzero", chord_mm: float = 1e-5):
    """The painted area as shapely has it, by fine chords."""
    chords = flatten(closed_up(path), chord_mm)
    result = shapely.Polygon()
    if rule == "evenodd":
        for k in range(len(chords)):
            result = result.symmetric_difference(shapely.make_valid(shapely.Polygon(chords.outline(k))))
        return result
    # Non-zero: every face of the arrangement whose inner point is wound about.
    lines = shapely.unary_union([shapely.LineString(chords.outline(k)) for k in range(len(chords))])
    faces = shapely.get_parts(shapely.polygonize([lines]))
    inner = np.array([[p.x, p.y] for p in shapely.point_on_surface(faces)]).reshape(-1, 2)
    return shapely.unary_union([f for f, p in zip(faces, inner, strict=True) if chord_winding(chords, p)])


def chord_winding(chords, point) -> int:
    """How often chords wind round a point, by the half-open rule."""
    a, b, _ = chords.edges()
    up, down = (a[:, 1] <= point[1]) & (b[:, 1] > point[1]), (b[:, 1] <= point[1]) & (a[:, 1] > point[1])
    side = (b[:, 0] - a[:, 0]) * (point[1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (point[0] - a[:, 0])
    return int((up & (side > 0)).sum()) - int((down & (side < 0)).sum())
