"""Branches of a skeleton: those that are one joined, and cut where they bend."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

#: Fewer true points in a row than this tell nothing.
FEWEST = 4
#: A line that turns by more than this, in radians, over what is not true of it has a corner there; its directions are
#: taken over so many points.
TURN, ARM = 0.2, 12


@dataclass
class Branch:
    """Points (N, 2) along a line in pixels; the nodes at its ends, -1 for a free end and -2 twice where it goes round;
    its width, within what it is so wide and by how much that changes from one point to the next; and which points are
    true (N,)."""

    points: np.ndarray
    ends: list[int]
    width: float
    varies: tuple[float, float]
    true: np.ndarray


def joined(branches: list[Branch]) -> list[Branch]:
    """Two branches that alone meet at a node are one."""
    alive = dict(enumerate(branches))
    at: dict[int, list[int]] = {}
    for k, br in alive.items():
        for end in br.ends:
            if end >= 0:
                at.setdefault(end, []).append(k)
    for node in list(at):
        if len(at[node]) != 2:
            continue
        i, j = at[node]
        if i == j:
            br = alive[i]
            br.ends, br.points, br.true = [-2, -2], br.points[:-1], br.true[:-1]
            continue
        one, other = alive[i], alive.pop(j)
        first = slice(None) if one.ends[1] == node else slice(None, None, -1)
        second = slice(None) if other.ends[0] == node else slice(None, None, -1)
        begin = one.ends[0] if one.ends[1] == node else one.ends[1]
        finish = other.ends[1] if other.ends[0] == node else other.ends[0]
        alive[i] = Branch(
            np.vstack([one.points[first], other.points[second]]),
            [begin, finish],
            *((one.width, one.varies) if len(one.points) > len(other.points) else (other.width, other.varies)),
            np.concatenate([one.true[first], other.true[second]]),
        )
        if finish >= 0:
            at[finish] = [i if k == j else k for k in at[finish]]
    return list(alive.values())


def split_at_bends(branches: list[Branch], nodes: np.ndarray) -> tuple[list[Branch], np.ndarray]:
    """Branches cut in two where they have a corner, which becomes a node like any meeting; and all nodes."""
    made, places = [], list(nodes)
    for br, runs in zip(branches, _runs([br.true for br in branches]), strict=True):
        if not runs:
            n = len(br.points)
            br.true = np.zeros(n, bool)
            br.true[n // 3 : max(n - n // 3, n // 3 + 2)] = True
            made.append(br)
            continue
        br.true = np.zeros(len(br.points), bool)
        for a, b in runs:
            br.true[a:b] = True
        if br.ends[0] == -2:
            made.extend(_cut_round(br, runs, places))
            continue
        first, ends = 0, br.ends[0]
        for (a, b), (c, d) in zip(runs[:-1], runs[1:], strict=True):
            if _turn(br.points[a:b], br.points[c:d]) > TURN:
                middle = (b + c) // 2
                places.append(_crossing(br.points[a:b], br.points[c:d], br.points[middle]))
                pair, own = [ends, len(places) - 1], slice(first, middle)
                made.append(Branch(br.points[own], pair, br.width, br.varies, br.true[own]))
                first, ends = middle, len(places) - 1
        made.append(Branch(br.points[first:], [ends, br.ends[1]], br.width, br.varies, br.true[first:]))
    return made, np.array(places).reshape(-1, 2)


def _cut_round(br: Branch, runs: list[tuple[int, int]], places: list) -> list[Branch]:
    """The same of one that goes round: begun at its first corner, if it has one."""
    n = len(br.points)
    for k, (a, b) in enumerate(runs):
        c, d = runs[(k + 1) % len(runs)]
        broken = len(runs) > 1 or b - a < n
        if broken and _turn(br.points[a:b], br.points[c:d]) > TURN:
            gap = (c - b) % n
            shift = (b + gap // 2) % n
            places.append(_crossing(br.points[a:b], br.points[c:d], br.points[shift]))
            node = len(places) - 1
            points, true = np.roll(br.points, -shift, axis=0), np.roll(br.true, -shift)
            turned = Branch(points, [node, node], br.width, br.varies, true)
            cut, all_places = split_at_bends([turned], np.array(places).reshape(-1, 2))
            places[:] = list(all_places)
            return cut
    return [br]


def _runs(trues: list[np.ndarray]) -> list[list[tuple[int, int]]]:
    """For each branch from and to where its points are true in a row, of those that are enough."""
    apart = np.zeros(1, bool)
    flat = np.concatenate([apart, *(part for true in trues for part in (true, apart))])
    edge = np.flatnonzero(flat[1:] != flat[:-1]).reshape(-1, 2)
    edge = edge[edge[:, 1] - edge[:, 0] >= FEWEST]
    begin = np.cumsum([0] + [len(true) + 1 for true in trues])
    of = np.searchsorted(begin, edge[:, 0], side="right") - 1
    runs: list[list[tuple[int, int]]] = [[] for _ in trues]
    for k, (a, b) in zip(of.tolist(), (edge - begin[of][:, None]).tolist(), strict=True):
        runs[k].append((a, b))
    return runs


def _turn(before: np.ndarray, after: np.ndarray) -> float:
    """By how much a line turns from the end of some points to the beginning of others, in radians."""
    u, v = before[-1] - before[-min(ARM, len(before))], after[min(ARM, len(after)) - 1] - after[0]
    return float(abs(np.arctan2(u[0] * v[1] - u[1] * v[0], u @ v)))


def _crossing(before: np.ndarray, after: np.ndarray, else_: np.ndarray) -> np.ndarray:
    """About where a line that comes from some points and goes on to others turns."""
    p, q = before[-1], after[0]
    u, v = p - before[-min(ARM, len(before))], after[min(ARM, len(after)) - 1] - q
    cross = u[0] * v[1] - u[1] * v[0]
    if abs(cross) < 1e-6:
        return else_
    t = ((q - p)[0] * v[1] - (q - p)[1] * v[0]) / cross
    found = p + t * u
    return found if np.hypot(*(found - else_)) < 3 * np.hypot(*(q - p)) else else_
