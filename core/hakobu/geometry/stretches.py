"""Stretches of outlines by their length along them: of lines and arcs, exactly."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .arcs import centre_and_radius
from .measure import segment_lengths
from .path import ARC, LINE, Path, line_controls
from .tolerances import STRAIGHT_BULGE

#: Shorter pieces of a segment, in mm, are none.
NOTHING_MM = 1e-7


@dataclass(frozen=True)
class Run:
    """Segments end to end: ends (N, 2, 2), where each begins and ends, and bulge (N,)."""

    ends: np.ndarray
    bulge: np.ndarray

    def __len__(self) -> int:
        return len(self.bulge)

    @staticmethod
    def joined(parts: list[Run]) -> Run:
        ends = np.concatenate([part.ends for part in parts])
        # Joints are met to the bit.
        ends[1:, 0] = ends[:-1, 1]
        return Run(ends, np.concatenate([part.bulge for part in parts]))

    @staticmethod
    def line(first: np.ndarray, last: np.ndarray) -> Run:
        return Run(np.array([[first, last]], float), np.zeros(1))


class Measured:
    """A path of lines and arcs whose outlines can be cut into stretches. Raises ValueError where there are
    other curves."""

    def __init__(self, path: Path) -> None:
        if len(path.kind) and not ((path.kind == LINE) | (path.kind == ARC)).all():
            raise ValueError("only lines and arcs are cut into stretches: other curves are made arcs first")
        self.path = path
        self.ends = path.ctrl[:, [0, 3]]
        self.long = segment_lengths(path)
        #: How far along its outline each segment ends.
        self.along = np.cumsum(self.long)
        self._before = np.concatenate([[0.0], self.along])[path.start[:-1]] if len(path) else np.zeros(0)

    def length(self, outline: int) -> float:
        last = self.path.start[outline + 1] - 1
        return float(self.along[last] - self._before[outline])

    def whole(self, outline: int) -> Run:
        a, b = self.path.start[outline], self.path.start[outline + 1]
        return Run(self.ends[a:b].copy(), self.path.bulge[a:b].copy())

    def stretch(self, outline: int, first: float, last: float) -> Run:
        """From so far along an outline to so far; past the end of a closed one it goes on from its start."""
        whole = self.length(outline)
        if last > whole + NOTHING_MM:
            if not self.path.closed[outline]:
                last = whole
            elif first >= whole:
                return self.stretch(outline, first - whole, last - whole)
            else:
                parts = [self.stretch(outline, first, whole)] if whole - first > NOTHING_MM else []
                return Run.joined([*parts, self.stretch(outline, 0.0, last - whole)])
        a, b = int(self.path.start[outline]), int(self.path.start[outline + 1])
        along, before = self.along[a:b], self._before[outline]
        first, last = first + before, last + before
        i = min(int(np.searchsorted(along, first + NOTHING_MM)), b - a - 1)
        j = min(int(np.searchsorted(along, last - NOTHING_MM)), b - a - 1)
        ends, bulge = self.ends[a + i : a + j + 1].copy(), self.path.bulge[a + i : a + j + 1].copy()
        behind = (along[j] - last) / max(self.long[a + j], 1e-300)
        ahead = (first - (along[i] - self.long[a + i])) / max(self.long[a + i], 1e-300)
        low, high = np.zeros(len(bulge)), np.ones(len(bulge))
        low[0], high[-1] = max(ahead, 0.0), min(1.0 - behind, 1.0)
        for k in {0, len(bulge) - 1}:
            if low[k] > 0 or high[k] < 1:
                ends[k], bulge[k] = part_of(ends[k], bulge[k], low[k], high[k])
        return Run(ends, bulge)


def part_of(ends: np.ndarray, bulge: float, low: float, high: float) -> tuple[np.ndarray, float]:
    """The part of a line or an arc between two shares of its length: its ends (2, 2) and its bulge."""
    a, b = ends
    if abs(bulge) < STRAIGHT_BULGE:
        return np.array([a + (b - a) * low, a + (b - a) * high]), 0.0
    centre, _ = centre_and_radius(a[None], b[None], np.array([bulge]))
    turn, arm = 4 * np.arctan(bulge), a - centre[0]
    made = []
    for share, exact in ((low, a), (high, b)):
        cos, sin = np.cos(turn * share), np.sin(turn * share)
        turned = centre[0] + np.array([arm[0] * cos - arm[1] * sin, arm[0] * sin + arm[1] * cos])
        made.append(exact if share in (0.0, 1.0) and (share == 0.0) == (exact is a) else turned)
    return np.array(made), float(np.tan(turn * (high - low) / 4))


def path_from(runs: list[Run], closed: np.ndarray) -> Path:
    """A path of runs, an outline each. closed (K,): those end where they begin."""
    if not runs:
        return Path.concatenate([])
    ends = np.concatenate([run.ends for run in runs])
    bulge = np.clip(np.concatenate([run.bulge for run in runs]), -1.0, 1.0)
    start = np.concatenate([[0], np.cumsum([len(run) for run in runs])])
    inner = np.ones(len(ends), bool)
    inner[start[:-1]] = False
    ends[inner, 0] = ends[np.flatnonzero(inner) - 1, 1]
    shut = np.flatnonzero(closed)
    ends[start[shut + 1] - 1, 1] = ends[start[shut], 0]
    kind = np.where(np.abs(bulge) < STRAIGHT_BULGE, LINE, ARC)
    return Path(line_controls(ends[:, 0], ends[:, 1]), kind, np.where(kind == ARC, bulge, 0.0), start, closed)
