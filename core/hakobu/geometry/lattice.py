"""Lattices that fill a box: parallel bands, waves, and figures that stand in rows."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .affine import compose, rotation, transform, translation
from .build import PathBuilder
from .measure import Box
from .path import Path
from .primitives import circle, polygon

#: Rows of hexagons, and of dots set between each other, are so far apart, in the distance in a row.
ROW = np.sqrt(3) / 2
#: How long the handles of half a swing are, as a share of it: the cubic then leaves a cosine by 0.05 % of the swing.
SWING = 0.3642


@dataclass(frozen=True)
class Lattice:
    """spacing_mm: from one to the next; angle: of the rows, in radians clockwise; shift: of all of it, in mm, along the
    rows and across them; jitter: how far figures stand off their places, as a share of the spacing, by a seed."""

    spacing_mm: float
    angle: float = 0.0
    shift: tuple[float, float] = (0.0, 0.0)
    jitter: float = 0.0
    seed: int = 1

    def matrix(self, box: Box) -> np.ndarray:
        """From the lattice's own axes to the page: it turns about the middle of what it fills."""
        left, top, right, bottom = box
        to_middle = translation((left + right) / 2, (top + bottom) / 2)
        return compose(to_middle, compose(rotation(self.angle), translation(*self.shift)))

    def reach(self, box: Box) -> float:
        """How far the box reaches from its middle, in the lattice's own axes and with its shift."""
        left, top, right, bottom = box
        return float(np.hypot(right - left, bottom - top)) / 2 + float(np.hypot(*self.shift)) + self.spacing_mm

    def places(self, box: Box, row: float = 1.0, staggered: bool = False) -> np.ndarray:
        """Where figures stand (N, 2), on the page. row: from row to row, in the spacing; staggered: every second row is
        shifted by half of it."""
        reach, s = self.reach(box), self.spacing_mm
        across = np.arange(-np.ceil(reach / s) - 1, np.ceil(reach / s) + 2)
        down = np.arange(-np.ceil(reach / (s * row)), np.ceil(reach / (s * row)) + 1)
        x, y = np.meshgrid(across, down)
        x = x + (0.5 * (np.abs(y) % 2) if staggered else 0.0)
        points = np.column_stack([x.ravel(), y.ravel() * row]) * s
        if self.jitter:
            random = np.random.default_rng(self.seed)
            points = points + random.uniform(-1.0, 1.0, points.shape) * self.jitter * s / 2
        matrix = self.matrix(box)
        return points @ matrix[:, :2].T + matrix[:, 2]

    def count(self, box: Box, row: float = 1.0) -> float:
        """About how many figures that are in the box."""
        left, top, right, bottom = box
        return (right - left) * (bottom - top) / (self.spacing_mm**2 * row)


def middle_line(lattice: Lattice, box: Box, wave_mm: float = 0.0) -> Path:
    """A line in the lattice's own axes, from end to end of a box and beyond. wave_mm: how far it swings to both sides,
    one swing to and fro in two spacings; each half is a cubic that leaves and arrives level, as a cosine does."""
    reach, s = lattice.reach(box), lattice.spacing_mm
    builder = PathBuilder()
    if not wave_mm:
        builder.move_to((-reach, 0.0))
        builder.line_to((reach, 0.0))
        return builder.path()
    half = int(np.ceil(reach / s))
    builder.move_to((-half * s, wave_mm * (-1) ** half))
    for n in range(-half, half):
        x, y, end = n * s, wave_mm * (-1) ** n, wave_mm * (-1) ** (n + 1)
        builder.cubic_to((x + SWING * s, y), (x + s - SWING * s, end), (x + s, end))
    return builder.path()


def in_rows(figure: Path, lattice: Lattice, box: Box) -> Path:
    """What runs along the rows of a lattice, in its own axes, once in each row about a box."""
    rows = int(np.ceil(lattice.reach(box) / lattice.spacing_mm))
    down = np.arange(-rows, rows + 1) * lattice.spacing_mm
    return transform(repeated(figure, np.column_stack([np.zeros(len(down)), down])), lattice.matrix(box))


def dot(diameter_mm: float) -> Path:
    return circle(0.0, 0.0, diameter_mm / 2)


def hexagon(across_mm: float, angle: float) -> Path:
    """A regular hexagon so wide from side to side, two of its sides across the rows."""
    return transform(polygon(0.0, 0.0, across_mm, None, 6), rotation(angle))


def repeated(figure: Path, places: np.ndarray) -> Path:
    """A figure at every place (N, 2), in their order."""
    count, size = len(places), figure.segment_count
    if not count or not size:
        return Path.concatenate([])
    ctrl = (figure.ctrl[None] + places[:, None, None, :]).reshape(-1, 4, 2)
    starts = (figure.start[None, :-1] + np.arange(count)[:, None] * size).ravel()
    return Path.taking(
        ctrl,
        np.tile(figure.kind, count),
        np.tile(figure.bulge, count),
        np.concatenate([starts, [count * size]]).astype(np.int64),
        np.tile(figure.closed, count),
    )
