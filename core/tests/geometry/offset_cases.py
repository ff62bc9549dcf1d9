"""Shapes and lines that offsets find hard, by name: the shape or the line, and the distances in mm."""

from __future__ import annotations

import math

import numpy as np

from hakobu.geometry import Path, PathBuilder, rotation, scaling, transform, translation
from hakobu.geometry.boolean import difference, union, xor

from ..fonts import glyph
from ..shapes import circle
from .curves import flower, four_cubic_circle, polygon, regular
from .degenerate import CUSP, LOOP, box, half_disc, star


def line(*points) -> Path:
    return Path.from_points(np.array(points, float), closed=False)


def together(*paths: Path) -> Path:
    return Path.concatenate(paths)


def through(points: np.ndarray) -> Path:
    """A smooth closed line of cubics through points."""
    count = len(points)
    along = (np.roll(points, -1, axis=0) - np.roll(points, 1, axis=0)) / 6
    last = np.roll(points, -1, axis=0)
    ctrl = np.stack([points, points + along, last - np.roll(along, -1, axis=0), last], axis=1)
    return Path(ctrl, np.ones(count), np.zeros(count), [0, count], [True])


def round_points(count: int, radius: float, noise: float = 0.0, wave: float = 0.0) -> np.ndarray:
    angle = np.arange(count) * 2 * np.pi / count
    reach = (
        radius + wave * np.sin(7 * angle) + np.random.default_rng(3).normal(0, max(noise, 1e-300), count) * (noise > 0)
    )
    return reach[:, None] * np.column_stack([np.cos(angle), np.sin(angle)])


def rounded(width: float, height: float, radius: float) -> Path:
    w, h, r, k = width / 2, height / 2, radius, math.tan(math.pi / 8)
    builder = PathBuilder()
    builder.move_to((-w + r, -h))
    builder.line_to((w - r, -h))
    builder.bulge_to(k, (w, -h + r))
    builder.line_to((w, h - r))
    builder.bulge_to(k, (w - r, h))
    builder.line_to((-w + r, h))
    builder.bulge_to(k, (-w, h - r))
    builder.line_to((-w, -h + r))
    builder.bulge_to(k, (-w + r, -h))
    builder.close()
    return builder.path()


def spiral(turns: float = 4.0, pitch: float = 2.5) -> np.ndarray:
    angle = np.linspace(0, turns * 2 * np.pi, 400)
    return (1 + pitch * angle / (2 * np.pi))[:, None] * np.column_stack([np.cos(angle), np.sin(angle)])


def spiral_band() -> Path:
    """A band of even width 1 along a spiral with 1.5 between its turns."""
    inner, outer = spiral(), spiral()
    size = np.hypot(*outer.T)[:, None]
    return Path.from_points(np.vstack([inner, (outer * (1 + 1 / size))[::-1]]), closed=True)


def comb(teeth: int = 8, width: float = 1.0, gap: float = 1.0, long: float = 8.0) -> Path:
    pitch = width + gap
    points = [(0.0, 0.0)]
    for k in range(teeth):
        x = k * pitch
        points += [(x, long), (x + width, long), (x + width, 0.0), (x + pitch, 0.0)]
    points[-1:] = [((teeth - 1) * pitch + width, -3.0), (0.0, -3.0)]
    return polygon(*points)


def spiked(count: int, inner: float, outer: float) -> Path:
    angle = np.arange(2 * count) * np.pi / count
    reach = np.where(np.arange(2 * count) % 2 == 0, outer, inner)
    return Path.from_points(reach[:, None] * np.column_stack([np.cos(angle), np.sin(angle)]), closed=True)


def dumbbell(neck: float) -> Path:
    """Two squares joined by a neck of a width."""
    return union(box(0, 0, 8, 8), box(14, 0, 8, 8), box(7, 4 - neck / 2, 8, neck)).path


def letter(face: str, name: str) -> Path:
    return transform(glyph(face, name), scaling(0.02))


def plotter_steps() -> Path:
    """A wavy outline in steps of a thousandth of a millimetre, rounded to the grid as a plotter has it."""
    points = np.round(round_points(3000, 0.5, wave=0.05), 3)
    keep = (np.diff(np.vstack([points[-1:], points]), axis=0) != 0).any(axis=1)
    return union(Path.from_points(points[keep], closed=True)).path


def doubled_nodes() -> Path:
    return polygon((0, 0), (0, 0), (10, 0), (10, 0), (10, 10), (10, 10), (0, 10))


def away(path: Path, by: float) -> Path:
    return transform(path, translation(by, -by))


SHAPES: dict[str, tuple[Path, tuple[float, ...]]] = {
    "square": (box(0, 0, 10, 10), (1.0, -1.0)),
    "square shrunk to nothing": (box(0, 0, 10, 10), (-5.0,)),
    "wall of exactly twice the distance": (box(0, 0, 20, 2), (-1.0,)),
    "neck of exactly twice the distance": (dumbbell(2.0), (-1.0,)),
    "neck a little wider": (dumbbell(2.001), (-1.0,)),
    "neck a little narrower": (dumbbell(1.999), (-1.0,)),
    "gap of exactly twice the distance": (together(box(0, 0, 5, 5), box(7, 0, 5, 5)), (1.0,)),
    "gap a little wider": (together(box(0, 0, 5, 5), box(7.001, 0, 5, 5)), (1.0,)),
    "island closing up at exactly the distance": (xor(circle(0, 0, 10), circle(0, 0, 2)).path, (2.0, 1.999, 2.001)),
    "island in an island": (xor(circle(0, 0, 10), circle(0, 0, 6), circle(0, 0, 3)).path, (1.0, -1.0, 1.5, -1.5)),
    "circle shrunk to its centre": (circle(3, 4, 5), (-5.0, -4.999)),
    "circles that touch": (together(circle(0, 0, 5), circle(10, 0, 5)), (1.0, -1.0)),
    "circles that touch when grown": (together(circle(0, 0, 5), circle(12, 0, 5)), (1.0, 0.999, 1.001)),
    "holes that touch": (difference(box(-10, -6, 20, 12), circle(-3, 0, 3), circle(3, 0, 3)).path, (1.0, -1.0, -2.9)),
    "squares that touch at a corner": (together(box(0, 0, 5, 5), box(5, 5, 5, 5)), (0.5, -0.5)),
    "needle": (polygon((0, 0), (20, 0.05), (0, 0.1)), (0.5, 3.0, -0.02)),
    "hairline": (box(0, 0, 20, 1e-3), (0.5, -2e-4)),
    "tiny shape grown much": (box(0, 0, 0.01, 0.01), (5.0,)),
    "comb": (comb(), (0.3, 0.5, 2.0, -0.3, -0.49)),
    "spiral band": (spiral_band(), (0.3, 0.9, -0.3)),
    "star of 100 points": (spiked(100, 15, 20), (0.5, 3.0, -0.2, -1.0)),
    "star with 100 deep notches": (spiked(100, 3, 20), (0.2, 2.0, -0.05)),
    "star drawn in one go": (star(), (0.7, -0.7)),
    "zigzag": (polygon(*[(x, 3.0 * (x % 2)) for x in range(20)], (19, -4), (0, -4)), (0.6, 2.0, -0.6)),
    "gear": (xor(spiked(24, 8, 10), circle(0, 0, 3)).path, (0.4, -0.4, 1.5)),
    "plus": (union(box(-1, -6, 2, 12), box(-6, -1, 12, 2)).path, (1.0, -0.9, -0.999)),
    "rounded by exactly the distance": (rounded(12, 8, 2), (-2.0, 2.0)),
    "rounded by less": (rounded(12, 8, 1), (-2.0,)),
    "slot": (rounded(12, 4, 2 - 1e-9), (-1.0, -1.999, 1.0)),
    "half disc": (half_disc(0.4), (0.5, -0.5, -2.4)),
    "crescent": (difference(circle(0, 0, 10), circle(3, 0, 9.5)).path, (0.5, -0.5, 4.0)),
    "lens with sharp tips": (
        difference(circle(0, 0, 10), xor(circle(0, 0, 30), circle(12, 0, 10)).path).path,
        (0.5, -1.0),
    ),
    "keyhole": (union(circle(0, 0, 3), box(-0.5, 0, 1, 10)).path, (0.3, -0.3, -0.5)),
    "circle of four cubics": (four_cubic_circle(0, 0, 10, 0.3), (1.0, -1.0, -9.9)),
    "circle of 360 lines": (regular(360), (1.0, -1.0, -9.0)),
    "cusp": (CUSP, (0.4, -0.4)),
    "loop": (LOOP, (0.4, -0.4)),
    "noise of 4 micrometres": (through(round_points(600, 10, 0.004, 1.0)), (1.0, -1.0, 6.35)),
    "noise in straight lines": (Path.from_points(round_points(600, 10, 0.004, 1.0), closed=True), (1.0, -1.0)),
    "steps of a thousandth": (plotter_steps(), (0.3, -0.1)),
    "nodes twice in one place": (doubled_nodes(), (1.0, -1.0)),
    "nodes on straight lines": (polygon((0, 0), (3, 0), (5, 0), (10, 0), (10, 7), (10, 10), (0, 10)), (1.0, -1.0)),
    "node a hair off": (polygon((0, 0), (5, 1e-7), (10, 0), (10, 10), (0, 10)), (1.0, -1.0)),
    "far from the origin": (away(letter("serif", "g"), 5000.0), (0.5, -0.2)),
    "drawn backwards": (letter("sans", "R").reversed(), (0.4, -0.4)),
    "letter with serifs": (letter("serif", "m"), (0.3, 1.5, -0.25, -0.5)),
    "letter with islands": (letter("sans", "ampersand"), (0.3, 1.5, -0.4)),
    "same shape twice": (together(letter("sans", "e"), letter("sans", "e")), (0.5, -0.4)),
    "flower that crosses itself": (flower(4), (0.5, -0.5, 4.0)),
    "turned square": (transform(box(0, 0, 10, 10), rotation(0.7)), (3.0, -4.9999)),
}

LINES: dict[str, tuple[Path, tuple[float, ...]]] = {
    "straight line": (line((0, 0), (10, 0)), (1.0,)),
    "line crossing itself": (line((0, 0), (10, 0), (10, 8), (5, -5)), (0.7, 2.5)),
    "line back on itself": (line((0, 0), (10, 0), (4, 0)), (1.0,)),
    "sharp turn": (line((0, 0), (20, 0), (0, 0.4)), (1.0,)),
    "loop smaller than the distance": (line((0, 0), (10, 0), (10.5, 0.5), (10, 1), (9.5, 0.5), (12, -6)), (2.0,)),
    "end on itself": (line((0, 0), (10, 0), (10, 8), (4, 8), (4, 0)), (0.5, 1.5)),
    "lines that cross": (together(line((-8, 0), (8, 0)), line((0, -8), (1, 8))), (0.5, 2.0)),
    "lines that are one": (together(line((0, 0), (10, 0)), line((12, 0), (4, 0))), (1.0,)),
    "both sides of a circle": (circle(0, 0, 5), (1.0, 5.0, 6.0)),
    "both sides of a square": (box(0, 0, 10, 10), (1.0, 5.0)),
    "spiral": (Path.from_points(spiral(), closed=False), (0.4, 1.3)),
    "half a circle": (
        Path(half_disc().ctrl[:1], half_disc().kind[:1], half_disc().bulge[:1], [0, 1], [False]),
        (1.0, 5.0, 7.0),
    ),
}
