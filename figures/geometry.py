"""Geometry: shapes united on their curves, beside GEOS on copies of chords within 0.001 mm."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import shapely

from hakobu.geometry import Path, PathBuilder, flatten
from hakobu.geometry.boolean import Operand, difference, union
from hakobu.geometry.intersect import meetings

CHORD_MM = 0.001


def circles(count: int, side: float, radius: float, seed: int = 1) -> list[Path]:
    random = np.random.default_rng(seed)
    made = []
    for x, y in random.uniform(0, side, (count, 2)):
        builder = PathBuilder()
        builder.circle(x, y, radius)
        made.append(builder.path())
    return made


def polygons(paths: list[Path]) -> list:
    return [shapely.Polygon(flatten(path, CHORD_MM).outline(0)) for path in paths]


def geometry() -> Iterator:
    crowd, spread = circles(200, 100.0, 10.0), circles(2000, 2000.0, 10.0, 2)
    flat, wide = polygons(crowd), polygons(spread)
    beside = "GEOS: chords within 0.001 mm"
    yield "union of 200 overlapping circles", lambda: union(*crowd), lambda: shapely.union_all(flat), beside
    yield "union of 2,000 circles, mostly apart", lambda: union(*spread), lambda: shapely.union_all(wide), beside
    sheet, holes = (
        Path.from_points(np.array([[0, 0], [100, 0], [100, 100], [0, 100.0]]), True),
        Operand(Path.concatenate(crowd)),
    )
    square, merged = shapely.box(0, 0, 100, 100), shapely.union_all(flat)
    yield "a square less 200 circles", lambda: difference(sheet, holes), lambda: square.difference(merged), beside
    whole = Path.concatenate(spread)
    yield "all crossings of 2,000 circles", lambda: meetings(whole), None, ""
    made = union(*crowd)
    yield f"The union of the 200 circles has {made.path.segment_count} arcs."
