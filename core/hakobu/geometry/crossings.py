"""Where lines cross each other: run from one side of another one to the other side."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from .flatten import points_at
from .intersect import Meetings, meetings
from .parallel import parallel_map
from .path import ARC, Path
from .proximity.chord_grid import NEAR_MM, Search, following_of

#: Sides are looked at this far from where lines meet, in mm: what crosses and comes back within it is a touch.
LOOK_MM = 0.01
#: Curves that meet this near to a node meet in it, in mm.
NODE_MM = 2e-6
#: Segments whose boxes are worth a thread of their own.
WORTH_SEGMENTS = 500
#: As parameters: an end of a segment; ends of contacts that are one.
AT_END, ONE = 1e-9, 1e-7


@dataclass(frozen=True)
class Crossings:
    """outlines (N, 2): the numbers of the outlines that cross, the lower first, equal where one crosses itself; places
    (N, 2) in mm; segments (N, 2), those that cross there, of the path."""

    outlines: np.ndarray
    places: np.ndarray
    segments: np.ndarray


@dataclass(frozen=True)
class Contacts:
    """Stretches along which two outlines are together, most of them points: outlines (N, 2); first and last (N, 2), the
    places at both ends as the number of a segment and the parameter on it, in the direction of the first outline;
    against (N,), whether the second one runs the other way; point (N, 2), where it begins."""

    outlines: np.ndarray
    first: np.ndarray
    last: np.ndarray
    against: np.ndarray
    point: np.ndarray

    def __getitem__(self, rows) -> Contacts:
        return Contacts(self.outlines[rows], self.first[rows], self.last[rows], self.against[rows], self.point[rows])


def crossings(path: Path, group: np.ndarray, search: Search | None = None) -> Crossings:
    """All places where outlines of the same group cross, themselves or each other; group (K,) int; search: one of the
    path and its groups, where it was made. Lines that only touch do not cross, nor do those that end on another; those
    that run along each other for a stretch do where they come from one side and leave to the other."""
    found = meetings(path, group, found=search)
    if not len(found.segment) and not len(found.run_segment):
        return _none()
    contact = _contacts(path, _without_copies(path, found))
    if not len(contact.point):
        return _none()
    begins, ends = _sides(path, contact)
    crosses = (begins != 0) & (ends != 0) & (begins != ends)
    outlines, places = np.sort(contact.outlines[crosses], axis=1), contact.point[crosses]
    segments = np.minimum(contact.first[crosses].astype(np.int64), path.segment_count - 1)
    order = np.lexsort((places[:, 0], places[:, 1], outlines[:, 1], outlines[:, 0]))
    return Crossings(outlines[order], places[order], segments[order])


def crossing_segments(path: Path, drawn: np.ndarray | None = None) -> np.ndarray:
    """The segments that cross others, or themselves, in order. drawn (M,): those that were drawn since the others were
    seen to cross nowhere; all where it is not given. Only what comes near others with no clear crossing is looked at in
    full, with what it may meet."""
    from .proximity.kernels.boxtree import packed
    from .proximity.kernels.candidate_pairs import APART, CROSS, NEAR, coming_near, hulls

    if drawn is None:
        drawn = np.ones(path.segment_count, bool)
    hull, box = hulls(path.ctrl.reshape(-1, 8), path.bulge, NEAR_MM)
    node, level = packed(box, np.arange(len(box)))
    seen = np.full(len(box), APART)
    asked = (hull, path.bulge != 0, following_of(path), drawn, box, node, level, NEAR_MM, LOOK_MM, seen)
    parallel_map(partial(coming_near, *asked), drawn.astype(float), WORTH_SEGMENTS)
    if not (seen == NEAR).any():
        return np.flatnonzero(seen == CROSS)
    near = seen != APART
    # Of an outline that is looked at on either side of where it closes, that joint is to be seen.
    whole = path.closed & near[path.start[:-1]] & near[path.start[1:] - 1]
    near |= whole[path.outline_of]
    rows = np.flatnonzero(near)
    outline = path.outline_of[rows]
    start = np.flatnonzero((np.diff(rows, prepend=-2) != 1) | (np.diff(outline, prepend=-1) != 0))
    part = Path(path.ctrl[rows], path.kind[rows], path.bulge[rows], np.append(start, len(rows)), whole[outline[start]])
    return rows[np.unique(crossings(part, np.zeros(len(part), np.int64)).segments)]


def _none() -> Crossings:
    none = np.zeros((0, 2), np.int64)
    return Crossings(none, np.zeros((0, 2)), none)


def _without_copies(path: Path, found: Meetings) -> Meetings:
    """What is found but between outlines that are one, segment by segment: they lie on each other and do not cross."""
    pair = path.outline_of[found.run_segment]
    whole = (np.abs(found.run[:, 1] - found.run[:, 0]) > 1 - ONE).all(axis=1) & (pair[:, 0] != pair[:, 1])
    if not whole.any():
        return found
    count = np.diff(path.start)
    keys, shared = np.unique(np.sort(pair[whole], axis=1) @ [len(path), 1], return_counts=True)
    copies = keys[(shared == count[keys // len(path)]) & (shared == count[keys % len(path)])]  # pyright: ignore[reportArgumentType, reportCallIssue]
    single, run = (
        ~np.isin(np.sort(path.outline_of[segment], axis=1) @ [len(path), 1], copies)
        for segment in (found.segment, found.run_segment)
    )
    return Meetings(
        found.segment[single],
        found.parameter[single],
        found.point[single],
        found.touch[single],
        found.run_segment[run],
        found.run[run],
    )


def _contacts(path: Path, found: Meetings) -> Contacts:
    """Meetings and runs of pairs of outlines, those that go on from each other made one."""
    at, apart = _at_nodes(path, found)
    found = replace(found, segment=found.segment[apart], parameter=found.parameter[apart])
    at = at[apart]
    runs = found.run_segment[:, None, :] + found.run
    pair = path.outline_of[np.concatenate([found.segment, found.run_segment])]
    first = np.concatenate([at, runs[:, 0]])
    last = np.concatenate([at, runs[:, 1]])
    # A whole number is the end of a segment as well as the start of the next: the one after is meant.
    begin, end = path.start[pair], path.start[pair + 1]
    first, last = (_from_start(path, value, pair, begin, end) for value in (first, last))
    backwards = first[:, 0] > last[:, 0]
    first[backwards], last[backwards] = last[backwards], first[backwards].copy()
    against = last[:, 1] < first[:, 1]
    order = np.lexsort((last[:, 0], first[:, 1], first[:, 0], pair[:, 1], pair[:, 0]))
    pair, first, last, against = pair[order], first[order], last[order], against[order]
    if len(found.run_segment):
        pair, first, last, against = _joined(path, pair, first, last, against)
    elif len(pair):
        same = (pair[1:] == pair[:-1]).all(axis=1) & (np.abs(first[1:] - first[:-1]) < ONE).all(axis=1)
        keep = np.concatenate([[True], ~same])
        pair, first, last, against = pair[keep], first[keep], last[keep], against[keep]
    segment = np.minimum(first[:, 0].astype(np.int64), path.segment_count - 1)
    point = points_at(path, segment, first[:, 0] - segment)
    return Contacts(pair, first, last, against, point)


def _at_nodes(path: Path, found: Meetings) -> tuple[np.ndarray, np.ndarray]:
    """Where both curves meet, as segment and parameter in one (N, 2), at a node where they meet no farther from one
    than places are told apart; and which of these are no mere joint between a segment and the next (N,). Where a line
    turns back on itself at a cusp, Newton's method ends a little before it."""
    at = found.segment + found.parameter
    near = np.round(at)
    ends = np.where((near > found.segment)[..., None], path.ctrl[found.segment, 3], path.ctrl[found.segment, 0])
    place = points_at(path, found.segment.ravel(), found.parameter.ravel()).reshape(-1, 2, 2)
    at = np.where(np.hypot(*np.moveaxis(place - ends, -1, 0)) < NODE_MM, near, at)
    outline = path.outline_of[found.segment]
    begin, end = path.start[outline], path.start[outline + 1]
    round_ = np.where((at == end) & path.closed[outline], begin, at)
    joint = (outline[:, 0] == outline[:, 1]) & (round_[:, 0] == round_[:, 1])
    return at, ~joint


def _from_start(path: Path, value: np.ndarray, pair: np.ndarray, begin: np.ndarray, end: np.ndarray) -> np.ndarray:
    near = np.round(value)
    value = np.where(np.abs(value - near) < AT_END, near, value)
    return np.where((value == end) & path.closed[pair], begin, value)


def _joined(path: Path, pair, first, last, against):
    """Contacts of one pair of outlines that go on from each other along both, as one. Most stand alone."""
    rows = []
    group = _linked(path, pair, first, last)
    order = np.argsort(group, kind="stable")
    breaks = np.flatnonzero(group[order][1:] != group[order][:-1]) + 1
    # Plain numbers: of each contact a handful of comparisons is made.
    alone, begins, finishes = pair.tolist(), map(tuple, first.tolist()), map(tuple, last.tolist())
    ends = list(zip(begins, finishes, against.tolist(), strict=True))
    size = np.where(path.closed, np.diff(path.start).astype(float), np.inf)[pair].tolist()
    for part in np.split(order, breaks):
        part = part.tolist()
        if len(part) == 1:
            rows.append((alone[part[0]], *ends[part[0]]))
            continue
        around = size[part[0]]
        kept: list[tuple] = []
        for k in part:
            here = ends[k]
            for n, other in enumerate(kept):
                merged = _one_contact(around, other, here)
                if merged is not None:
                    kept[n] = merged
                    break
            else:
                kept.append(here)
        again = len(kept) > 1
        while again:
            again = False
            for n in range(len(kept) - 1, 0, -1):
                for m in range(n):
                    merged = _one_contact(around, kept[m], kept[n])
                    if merged is not None:
                        kept[m] = merged
                        del kept[n]
                        again = True
                        break
        rows += [(alone[part[0]], *each) for each in kept]
    return tuple(np.array(column) for column in zip(*rows, strict=True))


def _linked(path: Path, pair: np.ndarray, first: np.ndarray, last: np.ndarray) -> np.ndarray:
    """The same number for contacts of one pair that have an end in common along the first outline, and for those that
    hang together by such, (N,)."""
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    count = len(pair)
    begin = path.start[pair[:, 0]]
    length = path.start[pair[:, 0] + 1] - begin
    value = np.concatenate([first[:, 0], last[:, 0]]) - np.tile(begin, 2)
    # Round a closed outline its end is its beginning.
    value = np.where(value > np.tile(length, 2) - ONE, value - np.tile(length, 2), value)
    both = np.tile(pair, (2, 1))
    order = np.lexsort((value, both[:, 1], both[:, 0]))
    same = (both[order][1:] == both[order][:-1]).all(axis=1) & (np.diff(value[order]) <= 2 * ONE)
    at = np.flatnonzero(same)
    one, other = order[at] % count, order[at + 1] % count
    links = coo_array((np.ones(len(at)), (one, other)), shape=(count, count))
    return connected_components(links, directed=False)[1]


def _one_contact(around: list[float], a: tuple, b: tuple) -> tuple | None:
    """Two contacts as one where the second begins at an end of the first, or lies within it. around: how many segments
    there are round each of the two outlines, infinite where it is open."""
    for one, two in ((a, b), (b, a)):
        point = two[0] == two[1]
        if _same_place(around, one[1], two[0]) or (point and _same_place(around, one[0], two[0])):
            way = two[2] if one[0] == one[1] else one[2]
            return (one[0], one[1] if point else two[1], way)
    return None


def _same_place(around: list[float], a: tuple[float, float], b: tuple[float, float]) -> bool:
    one, other = abs(a[0] - b[0]), abs(a[1] - b[1])
    return min(one, around[0] - one) <= ONE and min(other, around[1] - other) <= ONE


def _sides(path: Path, contact: Contacts) -> tuple[np.ndarray, np.ndarray]:
    """On which side of the first outline the second one comes to a contact's first end, and on which it leaves its last
    (N,): 1, -1, or 0 where it ends there or cannot be told."""
    places = np.concatenate([contact.first, contact.last])
    at_first = np.arange(len(places)) < len(contact.first)
    # Along the second outline away from the contact.
    forward = np.tile(contact.against, 2) == at_first
    every, yes = np.concatenate([places.T.ravel(), places[:, 0]]), np.ones(len(places), bool)
    away = _direction(path, every, np.concatenate([yes, forward, ~yes]))
    ahead, branch, back = np.arctan2(away[:, 1], away[:, 0]).reshape(3, -1)
    to_back, to_branch = (back - ahead) % (2 * np.pi), (branch - ahead) % (2 * np.pi)
    clear = 1e-7
    side = np.where(to_branch < to_back, 1, -1)
    off = np.minimum(np.abs(to_branch - to_back), np.minimum(to_branch, 2 * np.pi - to_branch))
    side = np.where(np.isfinite(off) & (off > clear), side, 0)
    return side[at_first], side[~at_first]


def _direction(path: Path, place: np.ndarray, forward: np.ndarray) -> np.ndarray:
    """Where an outline goes from a place, seen a little way off, forward or back (N,); (N, 2), not a number where it
    ends there."""
    segment = np.minimum(place.astype(np.int64), path.segment_count - 1)
    at = place - segment
    outline = path.outline_of[segment]
    first, closed = path.start[outline], path.closed[outline]
    before = np.where(segment == first, path.start[outline + 1] - 1, segment - 1)
    after = following_of(path)[segment]
    begins, ends = ~forward & (at == 0), forward & (at == 1)
    none = (begins & (segment == first) & ~closed) | (ends & (after < 0))
    on = ends & ~none
    segment = np.where(begins, before, np.where(on, after, segment))
    at = np.where(begins, 1.0, np.where(on, 0.0, at))
    size = np.hypot(*np.moveaxis(np.diff(path.ctrl[segment], axis=1), -1, 0)).sum(axis=1)
    size = np.where(path.kind[segment] == ARC, size * np.pi / 2, size)
    step = np.minimum(LOOK_MM / np.maximum(size, 1e-12), 0.25) * np.where(forward, 1, -1)
    away = points_at(path, segment, np.clip(at + step, 0, 1)) - points_at(path, segment, at)
    return np.where(none[:, None], np.nan, away)
