"""The least distance between what lies on a sheet, and to its rim: the proof of a packing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry import Path, bounds, flatten
from ..geometry.containment import clearance
from ..geometry.proximity.places import Places

#: Points at which outlines are compared: chords leave them by no more, and are no longer, in mm.
CHORD_MM, LONGEST_MM = 1e-3, 0.5


@dataclass(frozen=True)
class Near:
    """The least distance in mm, where it is, and the numbers of the two that are so near; -1 for the rim. mm is 0 where
    they touch or lie on each other."""

    mm: float
    ends: tuple[tuple[float, float], tuple[float, float]]
    pair: tuple[int, int]


def nearest_pairs(paths: Sequence[Path], within_mm: float) -> list[Near]:
    """Each two that are nearer than a distance, with the place."""
    boxes = np.array([bounds(path) or (np.inf, np.inf, -np.inf, -np.inf) for path in paths]).reshape(-1, 4)
    points = [flatten(path, CHORD_MM, longest_mm=LONGEST_MM).points for path in paths]
    places = [Places(path) for path in paths]
    found = []
    for one in range(len(paths)):
        apart = np.maximum(np.maximum(boxes[:, :2] - boxes[one, 2:], boxes[one, :2] - boxes[:, 2:]), 0.0)
        for other in (np.flatnonzero(np.hypot(*apart.T) < within_mm)).tolist():
            if other <= one:
                continue
            near = _between(points[one], places[one], points[other], places[other])
            if near[0] < within_mm:
                found.append(Near(near[0], near[1], (one, other)))
    return found


def nearest_to_rim(paths: Sequence[Path], rim: Path) -> list[Near]:
    """The distance of each to the rim of the stock; less than 0 where it lies beyond it."""
    found = []
    for n, path in enumerate(paths):
        near = clearance(path, rim)
        found.append(Near(near.mm, (_pair(near.ends[0]), _pair(near.ends[1])), (n, -1)))
    return found


def _between(
    one: np.ndarray, on_one: Places, other: np.ndarray, on_other: Places
) -> tuple[float, tuple[tuple[float, float], tuple[float, float]]]:
    there, back = on_other.nearest(one), on_one.nearest(other)
    if on_other.contains(one[:1])[0] or on_one.contains(other[:1])[0]:
        return 0.0, (_pair(one[0]), _pair(one[0]))
    a, b = int(there.distance.argmin()), int(back.distance.argmin())
    if there.distance[a] <= back.distance[b]:
        return float(there.distance[a]), (_pair(one[a]), _pair(there.point[a]))
    return float(back.distance[b]), (_pair(back.point[b]), _pair(other[b]))


def _pair(point: np.ndarray) -> tuple[float, float]:
    return float(point[0]), float(point[1])
