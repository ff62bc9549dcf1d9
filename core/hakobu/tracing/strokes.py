"""Lines that meet put together: what goes straight on is drawn in one go."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..geometry import Path
from ..geometry.nodes import end_directions


def gathered(path: Path, of: np.ndarray, straight_on: float) -> Iterator[tuple[list[int], Path]]:
    """Of outlines whose ends lie at numbered places (K, 2), -1 for closed ones: for each group that hangs together, its
    outlines and a path of them, joined where two go straight on through a place within an angle in radians."""
    leaving, arriving = end_directions(path)
    out = np.stack([leaving[path.start[:-1]], -arriving[path.start[1:] - 1]], axis=1)
    at: dict[int, list[tuple[int, int]]] = {}
    for k, pair in enumerate(of.tolist()):
        for which, place in enumerate(pair):
            if place >= 0:
                at.setdefault(place, []).append((k, which))
    partner = {}
    for ends in at.values():
        for one, other in _pairs([(end, out[end]) for end in ends], straight_on):
            partner[one], partner[other] = other, one
    for own in _groups(len(of), at):
        yield own, Path.concatenate(_strokes(path, own, partner))


def _pairs(ends: list, straight_on: float) -> list[tuple]:
    """Ends that point opposite ways, the straightest first; two that are alone go on however they turn."""
    if len(ends) == 2 and ends[0][0][0] != ends[1][0][0]:
        return [(ends[0][0], ends[1][0])]
    found = []
    for i, (one, u) in enumerate(ends):
        for other, v in ends[i + 1 :]:
            turn = np.pi - abs(np.arctan2(u[0] * v[1] - u[1] * v[0], u @ v))
            if turn < straight_on and one[0] != other[0]:
                found.append((turn, one, other))
    used, pairs = set(), []
    for _, one, other in sorted(found):
        if one not in used and other not in used:
            used |= {one, other}
            pairs.append((one, other))
    return pairs


def _groups(count: int, at: dict[int, list[tuple[int, int]]]) -> list[list[int]]:
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    rows = [ends[0][0] for ends in at.values() for _ in ends]
    columns = [k for ends in at.values() for k, _ in ends]
    graph = coo_array((np.ones(len(rows)), (rows, columns)), shape=(count, count))
    number, label = connected_components(graph, directed=False)
    order = np.argsort(label, kind="stable")
    return (
        [part.tolist() for part in np.split(order, np.cumsum(np.bincount(label, minlength=number))[:-1])]
        if count
        else []
    )


def _strokes(path: Path, own: list[int], partner: dict) -> list[Path]:
    done, strokes = set(), []
    for k in sorted(own, key=lambda k: (k, 0) in partner and (k, 1) in partner):
        if k in done:
            continue
        which = 1 if (k, 0) not in partner else (0 if (k, 1) not in partner else 1)
        chain, end = [(k, which == 0)], (k, which)
        done.add(k)
        while end in partner and partner[end][0] not in done:
            following, begins = partner[end]
            chain.append((following, begins == 1))
            done.add(following)
            end = (following, 1 - begins)
        parts = [path.outline(j).reversed() if back else path.outline(j) for j, back in chain]
        strokes.append(_joined(parts) if len(parts) > 1 else parts[0])
    return strokes


def _joined(parts: list[Path]) -> Path:
    ctrl = np.concatenate([part.ctrl for part in parts])
    closed = bool((ctrl[0, 0] == ctrl[-1, 3]).all())
    kind = np.concatenate([part.kind for part in parts])
    return Path(ctrl, kind, np.concatenate([part.bulge for part in parts]), [0, len(ctrl)], [closed])
