"""Loose lines chained into outlines, whatever their order and direction."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .neighbours import ends_near, ends_of
from .nodes import end_directions
from .path import ARC, CUBIC, Path, line_controls


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
    parts = [_joined(path, run, partner) for run in sources]
    return Chained(Path.concatenate(parts), sources, gap)


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


def _joined(path: Path, run: list[tuple[int, bool]], partner: np.ndarray) -> Path:
    parts = [path.outline(k).reversed() if back else path.outline(k) for k, back in run]
    if len(run) == 1 and path.closed[run[0][0]]:
        return parts[0]
    ctrl = np.concatenate([part.ctrl for part in parts])
    kind, bulge = (np.concatenate([getattr(part, name) for part in parts]) for name in ("kind", "bulge"))
    ends = np.cumsum([part.segment_count for part in parts])
    (first, first_back), (last, last_back) = run[0], run[-1]
    closes = partner[2 * last + (0 if last_back else 1)] == 2 * first + (1 if first_back else 0)
    for n, end in enumerate(ends.tolist()):
        if n + 1 < len(ends) or closes:
            _meet(ctrl, kind, end - 1, end % len(ctrl))
    return Path(ctrl, kind, bulge, [0, len(ctrl)], [closes])


def _meet(ctrl: np.ndarray, kind: np.ndarray, before: int, after: int) -> None:
    """Two segments that follow each other end and begin in one place."""
    middle = (ctrl[before, 3] + ctrl[after, 0]) / 2
    if (ctrl[before, 3] == ctrl[after, 0]).all():
        middle = ctrl[before, 3].copy()
    for row, node, handle in ((before, 3, 2), (after, 0, 1)):
        step = middle - ctrl[row, node]
        ctrl[row, node] = middle
        if kind[row] == CUBIC:
            ctrl[row, handle] += step
        elif kind[row] == ARC or step.any():
            ctrl[row] = line_controls(ctrl[row, :1], ctrl[row, 3:])[0]
