"""Curves as chords, within a stated distance, each vertex knowing where it came from."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .path import ARC, CUBIC, Path
from .tolerances import STRAIGHT_BULGE


@dataclass(frozen=True)
class Polylines:
    """Chords of a path: points (N, 2); start (K+1,) of each outline in them; closed (K,), where the first point is
    repeated at the end; segment (N,) and parameter (N,), the curve and the place on it that each point comes from."""

    points: np.ndarray
    start: np.ndarray
    closed: np.ndarray
    segment: np.ndarray
    parameter: np.ndarray

    def __len__(self) -> int:
        return len(self.closed)

    def outline(self, index: int) -> np.ndarray:
        return self.points[self.start[index] : self.start[index + 1]]

    def edges(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """First ends (E, 2), last ends (E, 2) and outline (E,) of all chords."""
        keep = np.ones(len(self.points), bool)
        keep[self.start[1:] - 1] = False
        at = np.flatnonzero(keep)
        owner = np.repeat(np.arange(len(self)), np.diff(self.start) - 1)
        return self.points[at], self.points[at + 1], owner


def chords_needed(path: Path, tolerance_mm: float | np.ndarray) -> np.ndarray:
    """The number of equal steps (M,) that keep each segment's chords within the tolerance, one for all or (M,).

    Cubics: the largest second difference of the control points bounds the second derivative, and n steps leave at
    most |B''| / (8 n^2) (the usual bound of linear interpolation). Arcs: the sagitta r (1 - cos(sweep / 2n)).
    """
    count = np.ones(path.segment_count, np.int64)
    tolerance = np.broadcast_to(tolerance_mm, path.segment_count)
    curve = path.kind == CUBIC
    second = np.diff(path.ctrl[curve], n=2, axis=1)
    bend = 6 * np.hypot(second[..., 0], second[..., 1]).max(axis=1, initial=0)
    count[curve] = np.maximum(np.ceil(np.sqrt(bend / (8 * tolerance[curve]))), 1)
    arc = (path.kind == ARC) & (np.abs(path.bulge) >= STRAIGHT_BULGE)
    bulge = np.abs(path.bulge[arc])
    chord = np.hypot(*(path.ctrl[arc, 3] - path.ctrl[arc, 0]).T)
    radius = chord * (1 + bulge**2) / (4 * bulge)
    widest = 2 * np.arccos(np.clip(1 - tolerance[arc] / np.maximum(radius, 1e-300), 0, 1))
    count[arc] = np.maximum(np.ceil(4 * np.arctan(bulge) / np.maximum(widest, 1e-9)), 1)
    return count


def flatten(path: Path, tolerance_mm: float | np.ndarray, longest_mm: float | None = None) -> Polylines:
    """Chords of the path within tolerance_mm, one for all or (M,); none spans more than about longest_mm if given."""
    count = chords_needed(path, tolerance_mm)
    if longest_mm is not None:
        hull = np.hypot(*np.moveaxis(np.diff(path.ctrl, axis=1), -1, 0)).sum(axis=1)
        hull = np.where(path.kind == ARC, hull * np.pi / 2, hull)
        count = np.maximum(count, np.ceil(hull / longest_mm).astype(np.int64))
    outlines = len(path)
    # One more vertex for each outline: the end of its last segment.
    rows = count.copy()
    rows[path.start[1:] - 1] += 1
    segment = np.repeat(np.arange(path.segment_count), rows)
    begin = np.concatenate([[0], np.cumsum(rows)])
    parameter = (np.arange(len(segment)) - begin[segment]) / count[segment]
    points = points_at(path, segment, parameter)
    start = begin[path.start] if outlines else np.zeros(1, np.int64)
    return Polylines(points, start, path.closed, segment, parameter)


def points_at(path: Path, segment: np.ndarray, parameter: np.ndarray) -> np.ndarray:
    """The points (N, 2) at the given parameters of the given segments; ends are met exactly."""
    from .kernels.curves import points_on

    segment, parameter = np.ascontiguousarray(segment, np.int64), np.ascontiguousarray(parameter, np.float64)
    return points_on(segment, parameter, path.kind, path.ctrl, path.bulge)
