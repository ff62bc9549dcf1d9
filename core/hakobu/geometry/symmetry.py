"""The axes about which a shape is nearly the same mirrored, and the turns after which it nearly is."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .measure import box_of, length, lengths
from .path import Path
from .proximity.chord_grid import curve_table
from .proximity.places import Places, along

#: Points along all outlines that a guess is held against.
POINTS = 2000
#: Directions that are tried, and the harmonics by which they are judged.
DIRECTIONS, HARMONICS = 720, 64
#: Guesses that are followed up, and the steps in which each comes to rest.
GUESSES, STEPS = 12, 12
#: Turned symmetry is looked for up to this order: beyond it a shape is round.
HIGHEST_ORDER = 36


@dataclass(frozen=True)
class Axis:
    """A line through a point (2,) along a direction (2,) of length 1. error_mm, mean_mm: how far the mirrored outlines
    are from the outlines, at most and on average."""

    point: np.ndarray
    direction: np.ndarray
    error_mm: float
    mean_mm: float


@dataclass(frozen=True)
class Turned:
    """A shape that is the same after each of `order` equal turns about a centre (2,), but for error_mm at most."""

    order: int
    centre: np.ndarray
    error_mm: float
    mean_mm: float


def mirror_axes(path: Path, within_mm: float = np.inf) -> list[Axis]:
    """The axes about which the outlines are mirrored within a distance, the best first; with no distance the best that
    there are, which says how far from symmetric the shape is. Axes less than a degree apart are one.

    Directions are found by the harmonics of the outlines about their centre: a mirrored shape's are the conjugates.
    Each is then brought to rest by least squares between the mirrored outlines and the nearest places on the outlines
    (iterated closest points, Besl and McKay 1992, with distances along normals as by Chen and Medioni 1991).
    """
    shape = _Sampled(path)
    found: list[Axis] = []
    for angle in shape.mirror_guesses():
        axis = shape.settled_axis(angle)
        same = any(
            abs(axis.direction @ np.array([-o.direction[1], o.direction[0]])) < np.sin(np.pi / 180) for o in found
        )
        if not same and axis.error_mm <= within_mm:
            found.append(axis)
    return sorted(found, key=lambda axis: axis.error_mm)


def turned_symmetries(path: Path, within_mm: float) -> list[Turned]:
    """All orders, up to 36, in which the outlines come back to themselves within a distance, the highest first."""
    shape = _Sampled(path)
    found = [shape.settled_turn(order) for order in range(HIGHEST_ORDER, 1, -1) if shape.may_turn(order, within_mm)]
    return [turned for turned in found if turned.error_mm <= within_mm]


class _Sampled:
    """A path's points (N, 2), evenly along all its outlines, about their mean, and the path to hold them against."""

    def __init__(self, path: Path) -> None:
        if not path.segment_count or not length(path) > 0:
            raise ValueError("a shape of no size has no symmetry")
        self.path, self.places = path, Places(path)
        step = length(path) / POINTS
        parts = []
        for k, long in enumerate(lengths(path).tolist()):
            count = max(int(np.ceil(long / step)), 3)
            parts.append(along(path, k, (np.arange(count) + 0.5) * (long / count)).point)
        self.points = np.concatenate(parts)
        self.weight = np.repeat(lengths(path) / [len(part) for part in parts], [len(part) for part in parts])
        self.weight = self.weight / self.weight.sum()
        self.centre = self.weight @ self.points
        self.tables = curve_table(path)
        left, top, right, bottom = box_of(path)
        self.size = float(np.hypot(right - left, bottom - top))
        z = (self.points - self.centre) @ (1, 1j) / self.size
        radius, turn = np.abs(z), np.where(np.abs(z) > 0, z / np.maximum(np.abs(z), 1e-300), 1.0)
        powers = turn[None, :] ** np.arange(1, HARMONICS + 1)[:, None]
        #: Harmonics of the outlines, with near and far places weighted differently.
        self.harmonics = np.stack([powers @ (self.weight * radius**k) for k in (1, 2, 4)])

    def mirror_guesses(self) -> np.ndarray:
        """Angles of axes, the likeliest first."""
        angle = np.arange(DIRECTIONS) * np.pi / DIRECTIONS
        m = np.arange(1, HARMONICS + 1)
        score = np.zeros(DIRECTIONS)
        for row in self.harmonics:
            score += (np.exp(-2j * np.outer(angle, m)) @ (row * row)).real / max((np.abs(row) ** 2).sum(), 1e-300)
        peak = (score >= np.roll(score, 1)) & (score >= np.roll(score, -1))
        rows = np.flatnonzero(peak)
        return angle[rows[np.argsort(-score[rows], kind="stable")][:GUESSES]]

    def normals_at(self, near) -> np.ndarray:
        """Unit normals of the outlines at their places nearest to points."""
        from .kernels.curves import curves_at

        tangent = curves_at(near.segment, near.parameter, *self.tables)[:, 2:]
        size = np.maximum(np.hypot(*tangent.T), 1e-300)
        return np.column_stack([-tangent[:, 1], tangent[:, 0]]) / size[:, None]

    def settled_axis(self, angle: float) -> Axis:
        shift = 0.0
        best: Axis | None = None
        for _ in range(STEPS):
            u = np.array([np.cos(angle), np.sin(angle)])
            n = np.array([-u[1], u[0]])
            arm = self.points - self.centre
            made = self.points - 2 * (arm @ n - shift)[:, None] * n
            near = self.places.nearest(made)
            error = float(near.distance.max())
            if best is None or error < best.error_mm:
                mean = float(self.weight @ near.distance)
                best = Axis(self.centre + shift * n, u, error, mean)
            normal = self.normals_at(near)
            # How each mirrored point moves with the angle, about the axis' own point, and with the shift.
            about = made - (self.centre + shift * n)
            by_angle = 2 * (normal * np.column_stack([-about[:, 1], about[:, 0]])).sum(axis=1)
            by_angle = by_angle - 2 * shift * (normal @ u)
            by_shift = 2 * normal @ n
            left = ((near.point - made) * normal).sum(axis=1)
            root = np.sqrt(self.weight)
            rows = np.column_stack([by_angle, by_shift]) * root[:, None]
            step, *_ = np.linalg.lstsq(rows, left * root, rcond=1e-12)
            angle, shift = angle + float(np.clip(step[0], -0.1, 0.1)), shift + float(step[1])
            if abs(step[0]) * self.size + abs(step[1]) < 1e-10 * self.size:
                break
        assert best is not None
        return best

    def may_turn(self, order: int, within_mm: float) -> bool:
        """Whether the harmonics allow an order: those that are no multiple of it come to nothing."""
        other = np.arange(1, HARMONICS + 1) % order != 0
        row = np.abs(self.harmonics[0])
        return bool(row[other].max(initial=0) <= HARMONICS * (within_mm / self.size) + 0.05 * row.max() + 1e-3)

    def settled_turn(self, order: int) -> Turned:
        angle = 2 * np.pi / order
        turn = np.array([[np.cos(angle), np.sin(angle)], [-np.sin(angle), np.cos(angle)]])
        centre = self.centre.copy()
        best = None
        for _ in range(STEPS):
            made = (self.points - centre) @ turn + centre
            near = self.places.nearest(made)
            error = float(near.distance.max())
            if best is None or error < best.error_mm:
                best = Turned(order, centre.copy(), error, float(self.weight @ near.distance))
            normal = self.normals_at(near)
            root = np.sqrt(self.weight)[:, None]
            rows = normal @ (np.eye(2) - turn.T)
            left = ((near.point - made) * normal).sum(axis=1)
            step, *_ = np.linalg.lstsq(rows * root, left * root[:, 0], rcond=1e-9)
            centre = centre + np.clip(step, -self.size / 10, self.size / 10)
            if np.abs(step).max() < 1e-10 * self.size:
                break
        assert best is not None
        back = self.places.nearest((self.points - best.centre) @ turn.T + best.centre).distance
        return Turned(order, best.centre, max(best.error_mm, float(back.max())), best.mean_mm)
