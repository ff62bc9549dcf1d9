"""Baselines: what letters stand on. Each says where a place along it is, and which way it runs there."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, area, lengths
from ..geometry.proximity.places import along

Points = np.ndarray


class Baseline(Protocol):
    """A place s along it is in mm from where the text is set from: before it where s is negative."""

    def frames(self, s: np.ndarray, down: float) -> np.ndarray:
        """Matrices (N, 2, 3) that take a letter, its middle at 0, 0, to places s (N,), so far below the baseline."""
        ...


def frames_of(point: Points, tangent: Points, down: float) -> np.ndarray:
    """Matrices (N, 2, 3) from points and unit tangents (N, 2): a letter's x runs along the tangent."""
    (tx, ty), normal = tangent.T, tangent[:, ::-1] * (-1, 1)
    at = point + normal * down
    return np.stack([np.stack([tx, -ty, at[:, 0]], axis=1), np.stack([ty, tx, at[:, 1]], axis=1)], axis=1)


@dataclass(frozen=True)
class Straight:
    """Through a point, at an angle in radians, clockwise on the page."""

    at: tuple[float, float]
    angle: float = 0.0

    def frames(self, s: np.ndarray, down: float) -> np.ndarray:
        tangent = np.array([np.cos(self.angle), np.sin(self.angle)])
        return frames_of(np.array(self.at) + s[:, None] * tangent, np.tile(tangent, (len(s), 1)), down)


@dataclass(frozen=True)
class Round:
    """A circle. middle: where on it the text is set from, in radians clockwise from the top. inside: letters stand on
    its inner side, their heads towards its centre, so that they read the right way up at the bottom."""

    centre: tuple[float, float]
    radius: float
    middle: float = 0.0
    inside: bool = False

    def frames(self, s: np.ndarray, down: float) -> np.ndarray:
        way = -1 if self.inside else 1
        angle = self.middle - np.pi / 2 + way * s / self.radius
        out = np.column_stack([np.cos(angle), np.sin(angle)])
        tangent = way * np.column_stack([-out[:, 1], out[:, 0]])
        return frames_of(np.array(self.centre) + self.radius * out, tangent, down)


@dataclass(frozen=True)
class OnOutline:
    """The longest outline of a path, a distance out from it. start: where along it the text is set from, as a share of
    its length; backwards: the other way round, with the letters on the other side."""

    path: Path
    out: float = 0.0
    start: float = 0.0
    backwards: bool = False

    @cached_property
    def _line(self) -> tuple[Path, float, bool]:
        if not len(self.path):
            raise CannotDo("What the letters are to stand on has no outline: pick another piece.")
        sizes = lengths(self.path)
        at = int(np.argmax(sizes))
        line = self.path.take([at])
        closed = bool(line.closed[0])
        # Clockwise on the screen, so that letters stand outside.
        if (closed and area(line) < 0) != self.backwards:
            line = line.reversed()
        return line, float(sizes[at]), closed

    def frames(self, s: np.ndarray, down: float) -> np.ndarray:
        line, whole, closed = self._line
        share = 1 - self.start if self.backwards and not closed else self.start
        wanted = s + share * whole
        inside = np.mod(wanted, whole) if closed else np.clip(wanted, 0.0, whole)
        found = along(line, 0, inside)
        # Beyond the ends of a line it goes on straight.
        point = found.point + found.tangent * (0.0 if closed else (wanted - inside)[:, None])
        return frames_of(point, found.tangent, down - self.out)
