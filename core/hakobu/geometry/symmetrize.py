"""Shapes made symmetric: a half mirrored in a line, a sector turned about a centre; and which part is the smoothest."""

from __future__ import annotations

import numpy as np

from .affine import compose, rotation, transform, translation
from .boolean import Operand, intersection
from .flatten import flatten
from .measure import bounds, box_of
from .path import Path

#: Roughness is judged on places so far apart, as a share of the diagonal of the shape.
STEP_SHARE = 0.01
#: A sector reaches so many times farther than its shape.
REACH = 4.0


def sector_of(shape: Operand, centre: tuple[float, float], start: float, count: int) -> Path:
    """What of a shape lies in one of so many equal sectors."""
    corners = np.array(bounds(shape.path)).reshape(2, 2) - centre
    reach = REACH * (float(np.abs(corners).max()) + 1.0)
    # A sector of half a circle, or of a third, needs corners between.
    angle = start + np.linspace(0.0, 2 * np.pi / count, 5)
    rim = np.column_stack([np.cos(angle), np.sin(angle)]) * reach
    return intersection(shape, Path.from_points(np.vstack([[0.0, 0.0], rim]) + centre, closed=True)).path


def turned_copies(path: Path, centre: tuple[float, float], count: int) -> list[Path]:
    """A path turned about a centre so many times, itself the first."""
    back, forth = translation(-centre[0], -centre[1]), translation(*centre)
    turns = (compose(forth, compose(rotation(2 * np.pi * k / count), back)) for k in range(1, count))
    return [path, *(transform(path, matrix) for matrix in turns)]


def roughness(path: Path, step_mm: float) -> float:
    """How much outlines turn to and fro for each mm, in radians: the mean of the turns between chords of a step, of
    which those that go on turning the same way take each other's place."""
    chords, total, size = flatten(path, step_mm / 20, longest_mm=step_mm / 4), 0.0, 0.0
    for k in range(len(chords)):
        points = chords.outline(k)
        run = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
        count = int(run[-1] / step_mm)
        if count < 4:
            continue
        even = np.linspace(0.0, run[-1], count + 1)
        x, y = (np.interp(even, run, points[:, axis]) for axis in (0, 1))
        way = np.unwrap(np.arctan2(np.diff(y), np.diff(x)))
        # The second difference: what turns evenly, as a circle does, is smooth.
        total += float(np.abs(np.diff(way, 2)).sum())
        size += float(run[-1])
    return total / size if size else 0.0


def step_of(path: Path) -> float:
    """The step that roughness of a shape's parts is judged by."""
    left, top, right, bottom = box_of(path)
    return max(STEP_SHARE * float(np.hypot(right - left, bottom - top)), 1e-3)
