"""Shapes to measure geometry with, the same on every run."""

from __future__ import annotations

import sys
from pathlib import Path as File

import numpy as np
import shapely

sys.path.insert(0, str(File(__file__).resolve().parents[1] / "core"))

from tests.fonts import glyph, glyph_names
from tests.geometry.offset_cases import through

from hakobu.geometry import Path, PathBuilder, scaling, transform, translation
from hakobu.geometry.path import line_controls


def circles(count: int, side: float, radius: float, seed: int = 1) -> list[Path]:
    random = np.random.default_rng(seed)
    made = []
    for x, y in random.uniform(0, side, (count, 2)):
        builder = PathBuilder()
        builder.circle(x, y, radius)
        made.append(builder.path())
    return made


def letters(count: int, size: float = 20.0) -> list[Path]:
    """Glyphs of an open font set so tight that neighbours overlap, in rows of twenty, in mm."""
    shapes = [shape for name in glyph_names("sans")[:600] if (shape := glyph("sans", name)).segment_count >= 8]
    made = []
    for k, shape in enumerate(shapes[:count]):
        small = transform(shape, scaling(size / 1000))
        made.append(transform(small, translation(k % 20 * size * 0.45, k // 20 * size * 0.75)))
    return made


def blob(x: float, y: float, radius: float, cubics: int, random) -> Path:
    """A smooth closed outline of so many cubics round a centre."""
    angle = np.linspace(0, 2 * np.pi, cubics, endpoint=False)
    reach = (radius * random.uniform(0.8, 1.0, cubics))[:, None]
    point = np.array([x, y]) + reach * np.column_stack([np.cos(angle), np.sin(angle)])
    along = (np.roll(point, -1, axis=0) - np.roll(point, 1, axis=0)) / 6
    last = np.roll(point, -1, axis=0)
    ctrl = np.stack([point, point + along, last - np.roll(along, -1, axis=0), last], axis=1)
    return Path(ctrl, np.ones(cubics), np.zeros(cubics), [0, cubics], [True])


def blobs(count: int, cubics: int, pitch: float, seed: int = 3, touching: float = 0.0) -> Path:
    """Blobs on a square grid, none touching another but a share of them that are larger."""
    random = np.random.default_rng(seed)
    side = int(np.ceil(count**0.5))
    size = np.where(random.random(count) < touching, 0.6, 0.45) * pitch
    return Path.concatenate(blob(k % side * pitch, k // side * pitch, size[k], cubics, random) for k in range(count))


def holes(count: int, side: float, radius: float) -> Path:
    random = np.random.default_rng(5)
    return Path.concatenate(blob(*random.uniform(0, side, 2), radius, 4, random) for _ in range(count))


def stacked(count: int) -> list[Path]:
    """Copies of one outline, each begun at another segment; the third split elsewhere too."""
    shape = blob(0, 0, 10, 12, np.random.default_rng(8))
    made = []
    for k in range(count):
        rows = np.roll(np.arange(shape.segment_count), k)
        made.append(Path(shape.ctrl[rows], shape.kind[rows], shape.bulge[rows], shape.start, shape.closed))
    made[2] = _halved(made[2], 0.3)
    return made


def _halved(path: Path, share: float) -> Path:
    q, t = path.ctrl, share
    a, b, c = (q[:, k] + t * (q[:, k + 1] - q[:, k]) for k in range(3))
    d, e = a + t * (b - a), b + t * (c - b)
    middle = d + t * (e - d)
    ctrl = np.stack([np.stack([q[:, 0], a, d, middle], axis=1), np.stack([middle, e, c, q[:, 3]], axis=1)], axis=1)
    count = 2 * len(q)
    return Path(ctrl.reshape(-1, 4, 2), np.ones(count), np.zeros(count), [0, count], [True])


def crossing_strokes(count: int) -> tuple[Path, np.ndarray]:
    """Straight lines anywhere, the second half on those of the first: whole, in part, reversed; also for shapely."""
    random = np.random.default_rng(0)
    half, third = count // 2, count // 6
    at, step = random.uniform(0, 1000, (half, 2)), random.normal(0, 2, (half, 2))
    first = np.stack([at, at + step], axis=1)
    a, d = at[third : 2 * third], step[third : 2 * third]
    part = np.stack([a + 0.25 * d, a + 0.75 * d], axis=1)
    points = np.concatenate([first, first[:third], part, first[2 * third :, ::-1]])
    n = len(points)
    ctrl = line_controls(points[:, 0], points[:, 1])
    path = Path(ctrl, np.zeros(n), np.zeros(n), np.arange(n + 1), np.zeros(n, bool))
    return path, shapely.linestrings(points)


def noisy_outline(count: int, noise_mm: float) -> np.ndarray:
    """Points along a wavy closed line of about a metre, each off by so much."""
    random = np.random.default_rng(7)
    angle = np.linspace(0, 2 * np.pi, count, endpoint=False)
    reach = 100 + 12 * np.sin(5 * angle) + 6 * np.sin(13 * angle + 1) + 3 * np.sin(29 * angle)
    points = reach[:, None] * np.column_stack([np.cos(angle), np.sin(angle)])
    return points + random.normal(0, noise_mm, (count, 2))


def noisy_curves(count: int, noise_mm: float) -> Path:
    """An outline as a rough trace leaves it: one cubic for each point."""
    return through(noisy_outline(count, noise_mm))


def ring(count: int, radius: float, width: float) -> Path:
    """A ring of two circles of so many cubics each."""
    from hakobu.geometry.boolean import difference

    angle = np.arange(count) * 2 * np.pi / count
    circle = np.column_stack([np.cos(angle), np.sin(angle)])
    return difference(through(radius * circle), through((radius - width) * circle)).path


def apart_from(side: float, count: int) -> Path:
    """Lace: a square with many wavy holes cut away."""
    from hakobu.geometry.boolean import difference

    random = np.random.default_rng(11)
    places = random.uniform(2, side - 2, (count, 2))
    cut = Path.concatenate(blob(x, y, random.uniform(0.6, 1.6), 12, random) for x, y in places)
    square = Path.from_points(np.array([[0.0, 0.0], [side, 0.0], [side, side], [0.0, side]]), closed=True)
    return difference(square, cut).path
