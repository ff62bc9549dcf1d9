"""Where segments meet each other: crossings, touches, ends on lines, and stretches that two of them share."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .path import Path
from .proximity.chord_grid import NEAR_MM, SEARCH_SHARE, Search, curve_table

#: The sine of the angle at a meeting below which the two curves may be one.
ALIKE = 0.05
#: Two meetings of the same segments closer than this are one.
ONE_MM = 1e-5


@dataclass(frozen=True)
class Meetings:
    """segment (N, 2): the two segments, the lower number first, equal where a curve crosses itself; parameter (N, 2):
    the place on each, from 0 to 1; point (N, 2) in mm, which both curves pass within 1e-6 mm; touch (N,): whether they
    have one direction there. In the order of the segments, then of the parameters.

    run_segment (V, 2) with run (V, 2, 2): stretches along which two segments are one within 2e-5 mm: the parameters on
    both at its first end and at its last. Single meetings within a stretch are not listed.
    """

    segment: np.ndarray
    parameter: np.ndarray
    point: np.ndarray
    touch: np.ndarray
    run_segment: np.ndarray
    run: np.ndarray


def meetings(
    path: Path, group: np.ndarray | None = None, search_share: float = SEARCH_SHARE, found: Search | None = None
) -> Meetings:
    """All meetings of segments of a path, or of those of the same group; group (K,) int, for each outline. found: a
    search of these, where one was made.

    That one segment ends where the next of its outline begins is no meeting. Curves are searched as chords: where no
    tangents along two near chords are parallel, their curves meet once at most, and Newton's method finds where; the
    others are split and tried from both ends of each part.
    """
    kinds, geometry = curve_table(path)
    made = meet(found or Search(path, group, search_share, kinds, geometry), kinds, geometry)
    order = np.lexsort((made.parameter[:, 1], made.parameter[:, 0], made.segment[:, 1], made.segment[:, 0]))
    return _of(made, order[_first_of_each(_of(made, order), kinds, geometry)])


def _of(made: Meetings, rows: np.ndarray) -> Meetings:
    single = (made.segment[rows], made.parameter[rows], made.point[rows], made.touch[rows])
    return Meetings(*single, made.run_segment, made.run)


def meet(found: Search, kinds: np.ndarray, geometry: np.ndarray) -> Meetings:
    """The meetings of the curves of a search, in no order, and crossings perhaps more than once; kinds, geometry: the
    table of the curves."""
    from .kernels.meetings import PARALLEL, loops

    if not len(found.table):
        return _none()
    pairs, made, run_pairs, runs = _refined(found, kinds, geometry)
    own, own_made = loops(kinds, geometry)
    segment, made = np.concatenate([pairs, own]), np.concatenate([made, own_made])
    keep = ~(_at_joint(found.following, segment, made[:, :2]) | _in_run(segment, made[:, 0], run_pairs, runs))
    touch = made[:, 3] <= PARALLEL
    touching = np.flatnonzero(keep & touch)
    if len(touching) > 1:
        order = touching[np.lexsort((made[touching, 1], made[touching, 0], segment[touching, 1], segment[touching, 0]))]
        listed = Meetings(segment[order], made[order, :2], made[order, 4:], touch[order], run_pairs, runs)
        keep[order[~_first_of_each(listed, kinds, geometry)]] = False
    return Meetings(segment[keep], made[keep, :2], made[keep, 4:], touch[keep], run_pairs, runs)


def _refined(found: Search, kinds: np.ndarray, geometry: np.ndarray):
    """Pairs of segments (N, 2) with what `refine` makes of them where they meet, and the runs they share."""
    from .kernels.chords import BEYOND
    from .kernels.exact import exactly
    from .kernels.meetings import MEET, PARALLEL, SAME, common_runs, refine
    from .kernels.seeking import seek

    chords, shares, once = found.near(NEAR_MM)
    done, exact_of, exact = exactly(found.table, found.owner, chords, kinds, geometry)
    chords, shares, once = chords[~done], shares[~done], once[~done]
    pairs = found.owner[chords]
    t0, t1 = found.table[:, 4][chords], found.table[:, 5][chords]
    made = refine(pairs, t0 + shares * (t1 - t0), kinds, geometry)
    at, good = made[:, :2], made[:, 2] <= MEET
    alike = ~once & (made[:, 2] <= SAME) & (made[:, 3] <= ALIKE)
    tried = each_pair(pairs[alike])
    ends, there = common_runs(tried, kinds, geometry, SAME)
    run_pairs, runs = tried[there], ends[there]
    # What was found along its own chords, or lies within a run, needs no more looking at.
    settled = once & good & ((at >= t0 - BEYOND) & (at <= t1 + BEYOND)).all(axis=1)
    settled |= _in_run(pairs, t0[:, 0], run_pairs, runs) & _in_run(pairs, t1[:, 0], run_pairs, runs)
    of, more = seek(found.table, found.owner, chords[~settled], kinds, geometry, NEAR_MM)
    extra = each_pair(of[more[:, 3] <= PARALLEL])
    extra = extra[~_listed(extra, tried)]
    ends, there = common_runs(extra, kinds, geometry, SAME)
    return (
        np.concatenate([exact_of, pairs[good], of]),
        np.concatenate([exact, made[good], more]),
        np.concatenate([run_pairs, extra[there]]),
        np.concatenate([runs, ends[there]]),
    )


def each_pair(pairs: np.ndarray) -> np.ndarray:
    """Each pair of a list once, in order."""
    if not len(pairs):
        return np.zeros((0, 2), np.int64)
    width = int(pairs[:, 1].max()) + 1
    keys = np.unique(pairs[:, 0] * width + pairs[:, 1])
    return np.ascontiguousarray(np.column_stack(np.divmod(keys, width)))


def _listed(pairs: np.ndarray, among: np.ndarray) -> np.ndarray:
    """Which pairs are among others."""
    if not len(pairs) or not len(among):
        return np.zeros(len(pairs), bool)
    width = int(max(pairs[:, 1].max(), among[:, 1].max())) + 1
    return np.isin(pairs[:, 0] * width + pairs[:, 1], among[:, 0] * width + among[:, 1])


def _at_joint(following: np.ndarray, segment: np.ndarray, parameter: np.ndarray) -> np.ndarray:
    """Which meetings are the joint of two neighbours of an outline."""
    low, high = segment.T
    near0, near1 = parameter < 1e-9, parameter > 1 - 1e-9
    onward = (following[low] == high) & near1[:, 0] & near0[:, 1]
    back = (following[high] == low) & near0[:, 0] & near1[:, 1]
    return onward | back


def _in_run(segment: np.ndarray, parameter: np.ndarray, run_pairs: np.ndarray, runs: np.ndarray) -> np.ndarray:
    """Which pairs of segments (N, 2) are one at a parameter (N,) on the first of them."""
    if not len(run_pairs):
        return np.zeros(len(segment), bool)
    width = int(max(segment.max(initial=0), run_pairs.max())) + 1
    keys = run_pairs[:, 0] * width + run_pairs[:, 1]
    order = np.argsort(keys)
    wanted = segment[:, 0] * width + segment[:, 1]
    at = np.minimum(np.searchsorted(keys[order], wanted), len(order) - 1)
    there = keys[order][at] == wanted
    span = runs[order][at][:, :, 0]
    slack = 1e-6
    return there & (parameter >= span[:, 0] - slack) & (parameter <= span[:, 1] + slack)


def _first_of_each(made: Meetings, kinds: np.ndarray, geometry: np.ndarray) -> np.ndarray:
    """Of meetings in order that were found several times from neighbouring chords, the first. Where curves touch, they
    may be within the bound of each other along a stretch: meetings between which they stay so are one."""
    segment, parameter, point, touch = made.segment, made.parameter, made.point, made.touch
    if len(segment) < 2:
        return np.ones(len(segment), bool)
    from .kernels.meetings import MEET, apart_at

    same = (segment[1:] == segment[:-1]).all(axis=1)
    near = same & (np.hypot(*(point[1:] - point[:-1]).T) < ONE_MM)
    # Far apart on the second curve they are two passes through one place.
    near &= np.abs(parameter[1:, 1] - parameter[:-1, 1]) < 0.1
    both = np.flatnonzero(same & touch[1:] & touch[:-1])
    middle = (parameter[both] + parameter[both + 1]) / 2
    near[both] |= apart_at(np.ascontiguousarray(segment[both]), middle, kinds, geometry) <= MEET
    return np.concatenate([[True], ~near])


def _none() -> Meetings:
    pairs = np.zeros((0, 2), np.int64)
    return Meetings(pairs, np.zeros((0, 2)), np.zeros((0, 2)), np.zeros(0, bool), pairs, np.zeros((0, 2, 2)))
