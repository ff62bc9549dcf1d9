"""What lies at a distance: parallels with round joins and ends.

The parallel of a clean source is that part of all raw pieces, the parallels of its lines and arcs and an arc about
every corner, to which no other place of the source comes nearer. So each piece is trimmed by itself, with no
arrangement, no windings and no loops to be told from outlines; then ends are linked to beginnings.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..intersect import meetings
from ..parallel import parallel_map
from ..path import CUBIC, Path
from .parts import Parts

#: How long a line or an arc is that stays, in mm.
KEEP_MM = 0.2
#: Ends and beginnings are the same place within these, in mm, tried one after the other.
MEET_MM = (1e-6, 1e-4, 2e-3)
#: What goes on along a line or circle within this is one.
ALIKE_MM = 1e-8
#: So many pieces or rows keep a processor busy long enough that a second one is worth asking.
WORTH_SHARING = 3000
#: Outlines of more rows are fitted in parts of about so many.
LONG_ROWS = 2000
#: A crossing is one where both curves are farther from their ends than this share; then they are made again within this
#: share of what they were allowed, so many times.
AT_END, NEARER, TIMES_NEARER = 1e-4, 0.2, 3
#: Outlines shorter than this, in mm, are where a shape has just vanished.
NOTHING_MM = 1e-5


@dataclass(frozen=True)
class Traced:
    """Closed outlines of lines and arcs, all that is inside on their right: rows (N, 13) as `kernels.elements` has
    them, start (K+1,), and of each row the part of the source that it is at a distance from, and whether that was drawn
    as a line, arc or corner, plain (N,). loose: ends that met no beginning. off_mm: as of `Combined`."""

    rows: np.ndarray
    part: np.ndarray
    plain: np.ndarray
    start: np.ndarray
    loose: int = 0
    off_mm: float = 0.0


NOTHING = Traced(np.zeros((0, 13)), np.zeros(0, np.int64), np.zeros(0, bool), np.zeros(1, np.int64))


def trace(parts: Parts, distance_mm: float, side: str) -> Traced:
    """All that lies so far from outlines: "out", to their left; "in", to their right; or on "both" sides."""
    from ..kernels.linking import cut_out, rings_of, succeeded
    from ..kernels.parallels import CORNER, END, raw_pieces
    from ..kernels.trimming import trimmed

    left, right = side != "in", side != "out"
    pieces, what, following = raw_pieces(parts.table, parts.start, parts.closed, distance_mm, left, right)
    if not len(pieces):
        return NOTHING
    tree, inside = parts.tree, 1.0 if left else -1.0

    def work(first: int, last: int) -> tuple:
        return trimmed(pieces[first:last], what[first:last], parts.table, *tree, distance_mm, inside), first

    done = parallel_map(work, np.ones(len(pieces)), WORTH_SHARING)
    owner = np.concatenate([part[0] + first for part, first in done])
    shares, roomy = np.concatenate([part[1] for part, _ in done]), all(part[2] for part, _ in done)
    rows = cut_out(pieces, owner, shares)
    after = succeeded(rows, owner, shares, following)
    loose = link(rows, after) + (0 if roomy else 1)
    order, start = rings_of(after)
    is_, part = what[owner, 0], what[owner, 1]
    plain = parts.plain[part] | (is_ == END) | ((is_ == CORNER) & (np.abs(rows[:, 8]) > 0.1))
    return joined(rows, part, plain, order, start, loose)


def link(rows: np.ndarray, after: np.ndarray) -> int:
    """Links ends that are cut off to the nearest beginnings, in `after`; how many found none."""
    from scipy.spatial import KDTree

    from ..kernels.linking import matched

    taken = np.zeros(len(rows), bool)
    taken[after[after >= 0]] = True
    for reach in MEET_MM:
        ends, firsts = np.flatnonzero(after < 0), np.flatnonzero(~taken)
        if not len(ends) or not len(firsts):
            break
        tree, most = KDTree(rows[firsts, 0:2]), min(6, len(firsts))
        near, which = tree.query(rows[ends, 2:4], k=most, distance_upper_bound=reach)
        near, which = near.reshape(len(ends), -1), which.reshape(len(ends), -1)
        row, column = np.nonzero(np.isfinite(near))
        order = np.lexsort((row, near[row, column]))
        matched(ends[row[order]], firsts[which[row, column][order]], after, taken)
    return int((after < 0).sum())


def joined(rows, part, plain, order, start, loose: int, off_mm: float = 0.0) -> Traced:
    """Rows in the order of their outlines, made to meet, without outlines of no size."""
    from ..kernels.linking import joined_up, sizes_of

    rows, part, plain, start = joined_up(rows, part, plain, order, start, ALIKE_MM)
    if not len(rows):
        return NOTHING
    keep = np.add.reduceat(sizes_of(rows), start[:-1]) > NOTHING_MM
    if keep.all():
        return Traced(rows, part, plain, start, loose, off_mm)
    kept = np.repeat(keep, np.diff(start))
    start = np.concatenate([[0], np.cumsum(np.diff(start)[keep])])
    return Traced(rows[kept], part[kept], plain[kept], start, loose, off_mm)


def curves_of(traced: Traced, within_mm: np.ndarray) -> tuple[Path, np.ndarray]:
    """The outlines with few curves within so much of each row (N,), and the row that each segment begins in (M,).
    Where outlines nearly touch, curves that far off could cross: those are made again, nearer to the rows."""
    path, row = _fitted(traced, within_mm)
    outline = np.repeat(np.arange(len(traced.start) - 1), np.diff(traced.start))
    for _ in range(TIMES_NEARER):
        crossed = _crossed(path)
        if not len(crossed):
            break
        rows = np.flatnonzero(np.isin(outline, crossed))
        start = np.concatenate([[0], np.cumsum(np.diff(traced.start)[crossed])])
        within_mm = np.where(np.isin(outline, crossed), within_mm * NEARER, within_mm)
        part = replace(traced, rows=traced.rows[rows], part=traced.part[rows], plain=traced.plain[rows], start=start)
        again, again_row = _fitted(part, within_mm[rows])
        path, row = _put_in(path, row, again, rows[again_row], crossed)
    return path, row


def _crossed(path: Path) -> np.ndarray:
    """The outlines that cross themselves or another; lines and arcs are as they were."""
    if not (path.kind == CUBIC).any():
        return np.zeros(0, np.int64)
    met = meetings(path)
    inner = ((met.parameter > AT_END) & (met.parameter < 1 - AT_END)).all(axis=1) & ~met.touch
    return np.unique(path.outline_of[met.segment[inner]])


def _put_in(path: Path, row: np.ndarray, again: Path, again_row: np.ndarray, which: np.ndarray):
    """The path with others in the place of some outlines."""
    both, rows = Path.concatenate([path, again]), np.concatenate([row, again_row])
    order = np.arange(len(path))
    order[which] = len(path) + np.arange(len(which))
    made = both.take(order.tolist())
    segments = [np.arange(both.start[k], both.start[k + 1]) for k in order.tolist()]
    return made, rows[np.concatenate(segments)]


def _fitted(traced: Traced, within_mm: np.ndarray) -> tuple[Path, np.ndarray]:
    from ..kernels.refitting import refitted

    start, outline = _in_parts(traced.start)
    whole = np.bincount(outline, minlength=len(traced.start) - 1)[outline] == 1

    def work(first: int, last: int) -> tuple:
        a, b = start[first], start[last]
        rows, plain, within = traced.rows[a:b], traced.plain[a:b], within_mm[a:b]
        part = refitted(rows, plain, start[first : last + 1] - a, whole[first:last], within, KEEP_MM)
        return *part[:3], np.diff(part[3]), part[4] + a

    done = parallel_map(work, np.diff(start), WORTH_SHARING)
    ctrl, kind, bulge, count, source = (np.concatenate(each) for each in zip(*done, strict=True))
    ends = np.concatenate([[0], np.cumsum(count)])[np.searchsorted(outline, np.arange(len(traced.start)))]
    return Path(ctrl, kind, bulge, ends, np.ones(len(ends) - 1, bool)), source


def _in_parts(start: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """The first row of each part of outlines, long ones in several that are fitted each by itself, and the outline that
    each part is of."""
    count = np.diff(start)
    parts = np.maximum(count // LONG_ROWS, 1)
    outline = np.repeat(np.arange(len(count)), parts)
    number = np.arange(len(outline)) - np.repeat(np.cumsum(parts) - parts, parts)
    first = start[:-1][outline] + count[outline] * number // parts[outline]
    return np.append(first, start[-1]), outline
