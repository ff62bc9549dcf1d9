"""Faults of downloaded designs, put in on purpose: lines run backwards, begun elsewhere, moved, left open."""

from __future__ import annotations

from hakobu.geometry import Path, PathBuilder, compose, scaling, transform, translation
from hakobu.geometry.path_data import draw
from hakobu.geometry.path_text import path_data


def outlines(data: str, x: float, y: float, scale: float) -> Path:
    """Path data, scaled and placed in mm."""
    builder = PathBuilder()
    wrong = draw(data, builder)
    assert wrong is None, wrong
    return transform(builder.path(), compose(translation(x, y), scaling(scale)))


def begun_elsewhere(path: Path, by: int) -> Path:
    """Closed outlines with their start moved on by some segments."""
    parts = []
    for one in path.outlines():
        order = [(i + by) % one.segment_count for i in range(one.segment_count)]
        parts.append(Path(one.ctrl[order], one.kind[order], one.bulge[order], one.start, one.closed))
    return Path.concatenate(parts)


def moved(path: Path, x: float, y: float) -> Path:
    return transform(path, translation(x, y))


def left_open(path: Path, gap_mm: float) -> str:
    """Path data of one outline of straight lines whose end stops short of its start by a gap."""
    points = path.ctrl[:, 0].tolist()
    (x0, y0), (x1, y1) = points[-1], points[0]
    far = ((x1 - x0) ** 2 + (y1 - y0) ** 2) ** 0.5
    share = (far - gap_mm) / far
    points.append([x0 + (x1 - x0) * share, y0 + (y1 - y0) * share])
    return "M" + "L".join(f"{round(x, 4):g} {round(y, 4):g}" for x, y in points)


def data(path: Path) -> str:
    return path_data(path)
