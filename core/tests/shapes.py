"""Paths and documents that several tests start from."""

from __future__ import annotations

import numpy as np

from hakobu.geometry import Path, PathBuilder
from hakobu.model import Document, Fill, Layer, Page, Piece, Stroke, Treatment


def square(x: float = 0.0, y: float = 0.0, side: float = 10.0) -> Path:
    return Path.from_points(np.array([[x, y], [x + side, y], [x + side, y + side], [x, y + side]]), closed=True)


def circle(x: float = 0.0, y: float = 0.0, radius: float = 10.0) -> Path:
    builder = PathBuilder()
    builder.circle(x, y, radius)
    return builder.path()


def blob() -> Path:
    """A closed outline of cubics, an open one with an arc, and a lone node."""
    builder = PathBuilder()
    builder.move_to((0.0, 0.0))
    builder.cubic_to((10.0, -8.0), (20.0, 18.0), (30.0, 0.0))
    builder.cubic_to((25.0, 20.0), (5.0, 20.0), (0.0, 0.0))
    builder.close()
    builder.move_to((40.0, 0.0))
    builder.line_to((50.0, 0.0))
    builder.bulge_to(-0.5, (60.0, 5.0))
    builder.move_to((70.0, 7.0))
    return builder.path()


def begun_at(path: Path, by: int) -> Path:
    """A closed outline begun some segments later."""
    order = [(i + by) % path.segment_count for i in range(path.segment_count)]
    return Path(path.ctrl[order], path.kind[order], path.bulge[order], path.start, path.closed)


def document(*paths: Path, treatment: Treatment = Treatment.CUT, **looks) -> Document:
    """One piece for each path, on one layer, filled unless told otherwise, on a page of 200 x 100 mm. What is not
    filled is a thin line."""
    looks = {"fill": Fill("#1b2a4e"), **looks}
    if looks["fill"] is None:
        looks = {"stroke": Stroke("#1b2a4e", 0.1), **looks}
    pieces = tuple(Piece(f"t:/{i}", path, "layer", **looks) for i, path in enumerate(paths))
    return Document(Page(200, 100), (Layer("layer", "Layer", "#1b2a4e", treatment),), pieces)
