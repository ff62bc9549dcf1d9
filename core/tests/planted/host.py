"""Sound shapes of a size, and designs made of them, into which faults are planted."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from hakobu.geometry import Path, PathBuilder, rotation, transform, translation
from hakobu.geometry.path import line_controls
from hakobu.model import Conditions, Document, Fill, Layer, Page, Piece, Stroke

INK = "#1b2a4e"
THIN = Stroke(INK, 0.1)


@dataclass(frozen=True)
class Planted:
    """A design with one fault in it. in_dxf: whether the fault can be told in DXF, which keeps lines and colours."""

    document: Document
    conditions: Conditions = field(default_factory=Conditions)
    in_dxf: bool = True


def design(paths, size: float, layers: tuple[Layer, ...] | None = None, margin: float = 0.25, **looks) -> Document:
    """One piece for each path, (path, looks) or a path alone, on a page about a shape of a size at its middle."""
    looks = {"fill": Fill(INK), **looks}
    layers = layers or (Layer("ink", "Ink", INK),)
    side = size * (1 + 2 * margin)
    move = translation(side / 2, side / 2)
    pieces = []
    for n, item in enumerate(paths):
        path, own = item if isinstance(item, tuple) else (item, {})
        values = {"layer": layers[0].id, **looks, **own}
        if values["fill"] is None and "stroke" not in values:
            values["stroke"] = THIN
        pieces.append(Piece(f"p:{n}", transform(path, move), **values))
    return Document(Page(side, side), layers, tuple(pieces))


def star(random, size: float, points: int = 7, depth: float = 0.3) -> Path:
    """A polygon about the middle with blunt points, turned at random."""
    angle = np.arange(2 * points) * np.pi / points + random.uniform(0, 2 * np.pi)
    reach = size / 2 * np.where(np.arange(2 * points) % 2, 1 - depth, 1) * random.uniform(0.95, 1.0, 2 * points)
    return Path.from_points(np.column_stack([np.cos(angle), np.sin(angle)]) * reach[:, None], closed=True)


def pebble(random, size: float, nodes: int = 8) -> Path:
    """A smooth closed outline of cubics about the middle."""
    angle = np.arange(nodes) * 2 * np.pi / nodes + random.uniform(0, 2 * np.pi)
    point = np.column_stack([np.cos(angle), np.sin(angle)]) * (size / 2 * random.uniform(0.8, 1.0, nodes))[:, None]
    along = (np.roll(point, -1, axis=0) - np.roll(point, 1, axis=0)) / 6
    last = np.roll(point, -1, axis=0)
    ctrl = np.stack([point, point + along, last - np.roll(along, -1, axis=0), last], axis=1)
    return Path(ctrl, np.ones(nodes), np.zeros(nodes), [0, nodes], [True])


def ring(radius: float, x: float = 0.0, y: float = 0.0) -> Path:
    builder = PathBuilder()
    builder.circle(x, y, radius)
    return builder.path()


def box(width: float, height: float, x: float = 0.0, y: float = 0.0, turn: float = 0.0) -> Path:
    """A rectangle about a middle."""
    corners = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * (width / 2, height / 2)
    return transform(transform(Path.from_points(corners, closed=True), rotation(turn)), translation(x, y))


def line(*points, closed: bool = False) -> Path:
    return Path.from_points(np.array(points, float), closed)


def moved(path: Path, x: float, y: float = 0.0) -> Path:
    return transform(path, translation(x, y))


def begun_at(path: Path, by: int) -> Path:
    rows = np.roll(np.arange(path.segment_count), -by)
    return Path(path.ctrl[rows], path.kind[rows], path.bulge[rows], path.start, path.closed)


def halved(path: Path) -> Path:
    """The same polygon with a node more in the middle of every side."""
    points = path.ctrl[:, 0]
    middle = (points + path.ctrl[:, 3]) / 2
    return Path.from_points(np.stack([points, middle], axis=1).reshape(-1, 2), closed=True)


def sides(path: Path) -> list[Path]:
    """Every segment as an open outline."""
    return [
        Path(path.ctrl[k : k + 1], path.kind[k : k + 1], path.bulge[k : k + 1], [0, 1], [False])
        for k in range(path.segment_count)
    ]


def opened(path: Path, gap: float) -> Path:
    """A polygon that stops short of its start by a gap."""
    ctrl = path.ctrl.copy()
    first, last = ctrl[-1, 0], ctrl[-1, 3]
    end = last + (first - last) * gap / np.hypot(*(first - last))
    ctrl[-1] = line_controls(first[None], end[None])[0]
    return Path(ctrl, path.kind, path.bulge, path.start, [False])


def with_conditions(document: Document, in_dxf: bool = True, **conditions) -> Planted:
    return Planted(document, replace(Conditions(), **conditions), in_dxf)


Looks = Mapping[str, object]
