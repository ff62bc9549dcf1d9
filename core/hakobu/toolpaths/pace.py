"""Slow at sharp corners: segments parted before and behind them, with a share of the speed there."""

from __future__ import annotations

import numpy as np

from ..geometry.nodes import turns_after
from ..geometry.stretches import Measured, Run, path_from
from .program import Program


def with_slow_corners(program: Program) -> Program:
    """The program with corners above an angle run at a share of the speed, so far before and behind them, where
    machines want that."""
    share = program.value("corner_percent", 100.0) / 100
    if (share >= 1).all():
        return program
    path, measured = program.path, Measured(program.path)
    following = np.arange(path.segment_count) + 1
    following[path.start[1:] - 1] = np.where(path.closed, path.start[:-1], -1)
    sharp = np.degrees(np.abs(turns_after(path, following))) > program.value("corner_angle_deg", 45.0)[path.outline_of]
    reach = program.value("corner_mm", 1.0)
    runs: list[Run] = []
    pace: list[np.ndarray] = []
    for run in range(len(program)):
        a, b = int(path.start[run]), int(path.start[run + 1])
        at = np.cumsum(measured.long[a:b])[sharp[a:b]]
        if share[run] >= 1 or not len(at):
            runs.append(measured.whole(run))
            pace.append(np.ones(b - a))
            continue
        whole = measured.length(run)
        if path.closed[run]:
            at = np.unique(np.concatenate([at, at - whole, at + whole]))
        slow = _joined(at - reach[run], at + reach[run], whole)
        cuts = np.unique(np.clip(np.concatenate([[0.0, whole], slow.ravel()]), 0.0, whole))
        cuts = cuts[np.concatenate([[True], np.diff(cuts) > 1e-6])]
        cuts[-1] = whole
        for first, last in zip(cuts[:-1].tolist(), cuts[1:].tolist(), strict=True):
            middle = (first + last) / 2
            part = measured.stretch(run, first, last)
            within = bool(((slow[:, 0] < middle) & (middle < slow[:, 1])).any())
            runs.append(part)
            pace.append(np.full(len(part), share[run] if within else 1.0))
        count = len(cuts) - 1
        runs[-count:] = [Run.joined(runs[-count:])]
    return program.with_paths(path_from(runs, path.closed), pace=np.concatenate(pace))


def _joined(first: np.ndarray, last: np.ndarray, whole: float) -> np.ndarray:
    """Stretches (N, 2), those that meet as one, within an outline's length."""
    made: list[list[float]] = []
    for a, b in zip(first.tolist(), last.tolist(), strict=True):
        if b <= 0 or a >= whole:
            continue
        if made and a <= made[-1][1]:
            made[-1][1] = max(made[-1][1], b)
        else:
            made.append([a, b])
    return np.array(made).reshape(-1, 2)
