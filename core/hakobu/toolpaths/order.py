"""The order of runs: inside before outside, and short ways between them.

Nesting is a precedence constraint: inner runs first, since what is cut loose may move. Within it, and within each tool,
a nearest-neighbour tour is improved by Or-opt (Or 1976) until no move helps. Deterministic: the same design gives the
same file.
"""

from __future__ import annotations

import numpy as np

from ..geometry import Path, flatten
from ..geometry.nesting import parents_of
from .program import Program

#: Flattening tolerance of open runs for the nesting test, in mm.
CHORD_MM = 0.05
#: Largest number of runs for the nearest-neighbour search, which is quadratic; more are ordered in rows.
MOST_NEAREST = 6000
#: Or-opt: largest number of runs, longest chain, neighbours tried for each chain, most passes.
MOST_MOVED, CHAIN, NEAR, ROUNDS = 1500, 3, 8, 12
#: Heat: what lies within so many mm of the last so many runs is hot (common practice for thin sheets on a laser).
HOT_MM, HOT = 30.0, 3


def shortened(program: Program, at: tuple[float, float] = (0.0, 0.0)) -> Program:
    """The same runs in an order in which each comes after all that lie in it, tools one after the other, and ways are
    short. Open runs begin at their nearer end. at: where the tools begin."""
    begin, end = program.ends if len(program) else (np.zeros((0, 2)), np.zeros((0, 2)))
    place, order, turned = np.array(at, float), [], np.zeros(len(program), bool)
    for tool in range(len(program.tools)):
        rows = np.flatnonzero(program.tool == tool)
        if not len(rows):
            continue
        parent = holders_of(program.path.take(rows))
        if len(rows) <= MOST_NEAREST:
            found, back = _nearest(begin[rows], end[rows], parent, place, ~program.path.closed[rows])
            turned[rows] = back
            begin[rows[back]], end[rows[back]] = end[rows[back]], begin[rows[back]]
        else:
            found = _by_rows(begin[rows], parent)
        if len(rows) <= MOST_MOVED:
            found = _with_chains_moved(found, begin[rows], end[rows], parent, place)
        order.append(rows[found])
        place = end[rows[found[-1]]]
    return program.with_turned(turned).taken(np.concatenate(order)) if order else program


def cooled(program: Program) -> Program:
    """The same runs in an order in which each begins far from where it is hot: from the last HOT runs by HOT_MM, or as
    far as can be, the nearest of those that are. Inside comes before outside as before."""
    order: list[np.ndarray] = []
    begin = program.ends[0] if len(program) else np.zeros((0, 2))
    for tool in range(len(program.tools)):
        rows = np.flatnonzero(program.tool == tool)
        if not 2 < len(rows) <= MOST_NEAREST:
            order.append(rows)
            continue
        parent = holders_of(program.path.take(rows))
        waits = _waiting(parent)
        open_, hot, found = np.ones(len(rows), bool), np.zeros((0, 2)), []
        for _ in range(len(rows)):
            ready = np.flatnonzero(open_ & (waits == 0))
            far = np.hypot(*(begin[rows[ready], None] - hot[None]).T).min(axis=0) if len(hot) else np.zeros(len(ready))
            cool = np.flatnonzero(far >= HOT_MM)
            k = int(ready[cool[far[cool].argmin()]] if len(cool) and len(hot) else ready[far.argmax()])
            open_[k] = False
            hot = np.vstack([hot, begin[rows[k]]])[-HOT:]
            found.append(k)
            if parent[k] >= 0:
                waits[parent[k]] -= 1
        order.append(rows[found])
    return program.taken(np.concatenate(order)) if order else program


def holders_of(path: Path) -> np.ndarray:
    """For each outline (N,) the smallest closed one that it lies in, -1 for none; open ones by their chords."""
    if path.closed.all():
        return parents_of(path)
    parts = [
        each if each.closed[0] else Path.from_points(flatten(each, CHORD_MM).points, closed=True)
        for each in path.outlines()
    ]
    parent = parents_of(Path.concatenate(parts))
    # What lies in the chords of an open line does not lie in anything that is cut.
    while (open_ := (parent >= 0) & ~path.closed[parent]).any():
        parent[open_] = parent[parent[open_]]
    return parent


def _waiting(parent: np.ndarray) -> np.ndarray:
    """Number of direct predecessors of each run, (N,)."""
    return np.bincount(parent[parent >= 0], minlength=len(parent))


def _nearest(
    begin: np.ndarray, end: np.ndarray, parent: np.ndarray, place: np.ndarray, open_: np.ndarray
) -> tuple[np.ndarray, np.ndarray]:
    """Nearest-neighbour tour under the precedence constraint, and which open runs are reversed."""
    waits = _waiting(parent)
    far = np.where(waits > 0, np.inf, 0.0)
    order, back = np.empty(len(begin), np.int64), np.zeros(len(begin), bool)
    shut = np.where(open_, 0.0, np.inf)
    for n in range(len(begin)):
        here = ((begin - place) ** 2).sum(axis=1)
        there = ((end - place) ** 2).sum(axis=1) + shut
        k = int((np.minimum(here, there) + far).argmin())
        back[k] = there[k] < here[k]
        order[n], far[k], place = k, np.inf, begin[k] if back[k] else end[k]
        if parent[k] >= 0:
            waits[parent[k]] -= 1
            if not waits[parent[k]]:
                far[parent[k]] = 0.0
    return order, back


def _by_rows(begin: np.ndarray, parent: np.ndarray) -> np.ndarray:
    """Boustrophedon order by rows, deepest nesting level first."""
    depth = np.zeros(len(begin), np.int64)
    above = parent.copy()
    while (above >= 0).any():
        depth += above >= 0
        above = np.where(above >= 0, parent[above], -1)
    low, high = begin.min(axis=0), begin.max(axis=0)
    size = max(float(np.sqrt(np.prod(high - low + 1e-9) / len(begin))), 1e-9) * 2
    row = ((begin[:, 1] - low[1]) // size).astype(np.int64)
    along = np.where(row % 2, -begin[:, 0], begin[:, 0])
    return np.lexsort((along, row, -depth))


def _with_chains_moved(
    order: np.ndarray, begin: np.ndarray, end: np.ndarray, parent: np.ndarray, place: np.ndarray
) -> np.ndarray:
    """Or-opt: the tour after all moves of chains of up to CHAIN runs that shorten it and keep the precedence."""
    from scipy.spatial import KDTree

    count = len(order)
    if count < 3:
        return order
    near = KDTree(end).query(begin, min(NEAR + 1, count))[1].reshape(count, -1)
    inner: list[list[int]] = [[] for _ in range(count)]
    for k in np.flatnonzero(parent >= 0).tolist():
        inner[parent[k]].append(k)
    tour = order.tolist()
    position = [0] * count
    _number(tour, position)
    b, e, first = begin.tolist(), end.tolist(), place.tolist()

    def way(one: int, other: int) -> float:
        """From the end of a run to the begin of another; -1: the place before the first; no way after the last."""
        if other < 0:
            return 0.0
        x, y = e[one] if one >= 0 else first
        return ((b[other][0] - x) ** 2 + (b[other][1] - y) ** 2) ** 0.5

    def before(i: int) -> int:
        return tour[i - 1] if i > 0 else -1

    def after(i: int) -> int:
        return tour[i + 1] if i + 1 < count else -1

    for _ in range(ROUNDS):
        better = False
        for run in order.tolist():
            for size in range(1, CHAIN + 1):
                i = position[run]
                j = i + size - 1
                if j >= count:
                    break
                head, tail = tour[i], tour[j]
                gain = way(before(i), head) + way(tail, after(j)) - way(before(i), after(j))
                if gain < 1e-9:
                    continue
                chain = tour[i : j + 1]
                best, at = 1e-9, None
                # Behind each run whose end is near to where the chain begins.
                for other in near[head].tolist():
                    p = position[other]
                    if i - 1 <= p <= j:
                        continue
                    saved = gain + way(other, after(p)) - way(other, head) - way(tail, after(p))
                    if saved > best and _allowed(chain, i, j, p, position, parent, inner):
                        best, at = saved, p
                if at is not None:
                    rest = tour[:i] + tour[j + 1 :]
                    to = at + 1 if at < i else at + 1 - size
                    tour = rest[:to] + chain + rest[to:]
                    _number(tour, position)
                    better = True
        if not better:
            break
    return np.array(tour)


def _number(tour: list[int], position: list[int]) -> None:
    for n, run in enumerate(tour):
        position[run] = n


def _allowed(
    chain: list[int], i: int, j: int, p: int, position: list[int], parent: np.ndarray, inner: list[list[int]]
) -> bool:
    """Whether a chain at i to j may stand behind position p: none of it passes what it lies in, or what lies in it."""
    if p > j:
        return all(parent[run] < 0 or not j < position[parent[run]] <= p for run in chain)
    return all(not p < position[other] < i for run in chain for other in inner[run])
