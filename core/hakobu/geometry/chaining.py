"""Loose lines chained into outlines, whatever their order and direction."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .nodes import end_directions
from .path import CUBIC, Path, line_controls
from .proximity.incidence import ends_near, ends_of


@dataclass(frozen=True)
class Chained:
    """path: the outlines, those that were closed before as they were; sources: for each, the outlines that it is made
    of, in order, and whether each runs backwards; gap_mm: the widest gap that was closed."""

    path: Path
    sources: list[list[tuple[int, bool]]]
    gap_mm: float


def chain(path: Path, within_mm: float) -> Chained:
    """Open outlines joined end to end where their ends are within so much of each other, in any order and direction.

    Where more than two ends meet, those that go on most smoothly are joined first; of equals, the nearer ones. Across a
    gap both ends move to its middle, and a curve's handle moves with its end.
    """
    pairs = _ranked(path, within_mm)
    partner = np.full(2 * len(path), -1)
    for a, b in pairs.tolist():
        if partner[a] < 0 and partner[b] < 0:
            partner[a], partner[b] = b, a
    ends = ends_of(path)
    matched = np.flatnonzero(partner >= 0)
    gap = float(np.hypot(*(ends[matched] - ends[partner[matched]]).T).max(initial=0))
    sources = _followed(path, partner)
    return Chained(_joined(path, sources, partner), sources, gap)


def _ranked(path: Path, within_mm: float) -> np.ndarray:
    """Pairs of ends to be joined, the best first."""
    pairs = ends_near(path, within_mm)
    leaving, arriving = end_directions(path)
    # Outwards: where each line would go on beyond its end.
    out = np.stack([-leaving[path.start[:-1]], arriving[path.start[1:] - 1]], axis=1).reshape(-1, 2)
    angle = np.arctan2(out[:, 1], out[:, 0])
    turn = np.abs((angle[pairs[:, 0]] - angle[pairs[:, 1]]) % (2 * np.pi) - np.pi)
    gap = np.hypot(*(ends_of(path)[pairs[:, 0]] - ends_of(path)[pairs[:, 1]]).T)
    # A lone node has no direction, and a line of two equal ends would only be closed on itself.
    single = np.diff(path.start)[pairs[:, 0] // 2] == 1
    itself = (pairs[:, 0] // 2 == pairs[:, 1] // 2) & single & (path.kind[path.start[:-1]][pairs[:, 0] // 2] != CUBIC)
    pairs, turn, gap = pairs[~itself], turn[~itself], gap[~itself]
    return pairs[np.lexsort((pairs[:, 1], pairs[:, 0], np.round(gap / max(within_mm, 1e-12), 3), np.round(turn, 6)))]


def _followed(path: Path, partner: np.ndarray) -> list[list[tuple[int, bool]]]:
    """Outlines in the order and direction in which their joined ends lead from one to the next, each chain in the place
    and direction of its first outline where it closes, else begun at the loose end nearest before it."""
    used = np.zeros(len(path), bool)
    chains = []
    for k in range(len(path)):
        if used[k]:
            continue
        # Back to the loose end before, or round to here.
        at = 2 * k
        while partner[at] >= 0:
            at = partner[at] ^ 1
            if at == 2 * k:
                break
        run = []
        while True:
            used[at // 2] = True
            run.append((int(at // 2), bool(at % 2)))
            following = partner[at ^ 1]
            if following < 0 or used[following // 2]:
                break
            at = following
        chains.append(run)
    return chains


def _joined(path: Path, runs: list[list[tuple[int, bool]]], partner: np.ndarray) -> Path:
    """Each run as one outline, all at once."""
    if not len(path):
        return path
    order, back = np.array([entry for run in runs for entry in run], np.int64).T
    number = np.array([len(run) for run in runs])
    # Backwards ones stand behind those as they are.
    both = Path.concatenate([path, path.reversed()]).take((order + back * len(path)).tolist())
    ends = np.concatenate([[0], np.cumsum(number)])
    start, last = both.start[ends], ends[1:] - 1
    head, tail = 2 * order[ends[:-1]] + back[ends[:-1]], 2 * order[last] + 1 - back[last]
    closes = partner[tail] == head
    ctrl = both.ctrl.copy()
    # Within a run each end meets the next beginning; of one that closes, the last meets the first.
    inner = np.setdiff1d(both.start[1:-1], start)
    before = np.concatenate([inner - 1, start[1:][closes] - 1])
    after = np.concatenate([inner, start[:-1][closes]])
    _meet(ctrl, both.kind, before, after)
    closed = closes | ((number == 1) & both.closed[ends[:-1]])
    return Path(ctrl, both.kind, both.bulge, start, closed)


def _meet(ctrl: np.ndarray, kind: np.ndarray, before: np.ndarray, after: np.ndarray) -> None:
    """Segments that follow others end and begin in one place, (N,) each."""
    last, first = ctrl[before, 3], ctrl[after, 0]
    middle = np.where(last == first, last, (last + first) / 2)
    curve = kind == CUBIC
    for rows, node, handle in ((before, 3, 2), (after, 0, 1)):
        step = middle - ctrl[rows, node]
        ctrl[rows, node] = middle
        own = curve[rows]
        ctrl[rows[own], handle] += step[own]
    straight = np.concatenate([before[~curve[before]], after[~curve[after]]])
    ctrl[straight] = line_controls(ctrl[straight, 0], ctrl[straight, 3])
