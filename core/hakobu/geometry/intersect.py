"""Where segments meet each other: crossings, touches, ends on lines, and stretches that two of them share."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .arcs import centre_and_radius
from .flatten import flatten, points_at
from .path import ARC, CUBIC, LINE, Path
from .tolerances import STRAIGHT_BULGE

#: Curves are searched as chords within this; whatever meets lies within twice that between chords.
SEARCH_MM = 0.005
#: And within this share of their own size.
SEARCH_SHARE = 0.005
#: The sine of the angle between chords below which curves may meet twice along them.
NEARLY_ALIKE = 0.3
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


def meetings(path: Path, group: np.ndarray | None = None) -> Meetings:
    """All meetings of segments of a path, or of those of the same group; group (K,) int, for each outline.

    That one segment ends where the next of its outline begins is no meeting.
    """
    if not path.segment_count:
        return _none()
    from .kernels.meetings import MEET, PARALLEL, common_runs, refine

    kinds, geometry = curve_table(path)
    pairs, guess = _near(path, group)
    parameter, away, sine = refine(pairs, guess, kinds, geometry)
    good = away <= MEET
    touching = good & (sine <= PARALLEL)
    run_pairs, runs = _runs(path, pairs, parameter, touching, kinds, geometry, common_runs)
    own, own_parameter = _self_crossings(path)
    segment = np.concatenate([pairs[good], own])
    parameter = np.concatenate([parameter[good], own_parameter])
    touch = np.concatenate([sine[good] <= PARALLEL, np.zeros(len(own), bool)])
    point = points_at(path, segment[:, 0], parameter[:, 0])
    keep = ~(_at_joint(path, segment, parameter) | _in_run(segment, parameter, run_pairs, runs))
    segment, parameter, point, touch = segment[keep], parameter[keep], point[keep], touch[keep]
    order = np.lexsort((parameter[:, 1], parameter[:, 0], segment[:, 1], segment[:, 0]))
    segment, parameter, point, touch = segment[order], parameter[order], point[order], touch[order]
    single = _first_of_each(segment, parameter, point, touch, kinds, geometry)
    return Meetings(segment[single], parameter[single], point[single], touch[single], run_pairs, runs)


def curve_table(path: Path) -> tuple[np.ndarray, np.ndarray]:
    """Kinds (M,) and rows of eight numbers (M, 8) as the kernels take them: an arc that is straight is a line."""
    kinds = path.kind.astype(np.int64)
    straight = (path.kind == ARC) & (np.abs(path.bulge) < STRAIGHT_BULGE)
    kinds[straight] = LINE
    geometry = path.ctrl.reshape(-1, 8).copy()
    arc = kinds == ARC
    first, last, bulge = path.ctrl[arc, 0], path.ctrl[arc, 3], path.bulge[arc]
    centre, radius = centre_and_radius(first, last, bulge)
    geometry[arc] = 0.0
    geometry[arc, :2], geometry[arc, 2] = centre, radius
    geometry[arc, 3] = np.arctan2(first[:, 1] - centre[:, 1], first[:, 0] - centre[:, 0])
    geometry[arc, 4] = 4 * np.arctan(bulge)
    return kinds, geometry


def _near(path: Path, group: np.ndarray | None) -> tuple[np.ndarray, np.ndarray]:
    """Pairs of segments (N, 2) that come near each other, and the parameters (N, 2) where their chords do."""
    from .kernels.meetings import near_chords

    # However small a curve is, its bends are told apart.
    hull = np.abs(np.diff(path.ctrl, axis=1)).sum(axis=(1, 2))
    chords = flatten(path, np.clip(SEARCH_SHARE * hull, 1e-12, SEARCH_MM))
    inner = np.ones(len(chords.points), bool)
    inner[chords.start[1:] - 1] = False
    at = np.flatnonzero(inner)
    first, last, segment = chords.points[at], chords.points[at + 1], chords.segment[at]
    t0 = chords.parameter[at]
    t1 = np.where(chords.segment[at + 1] == segment, chords.parameter[at + 1], 1.0)
    moved = (first != last).any(axis=1)
    first, last, segment, t0, t1 = first[moved], last[moved], segment[moved], t0[moved], t1[moved]
    if len(first) < 2:
        return np.zeros((0, 2), np.int64), np.zeros((0, 2))
    groups = np.zeros(len(path), np.int64) if group is None else np.asarray(group, np.int64)
    reach = 2 * SEARCH_MM
    box = np.ptp(np.vstack([first, last]), axis=0) + 2 * reach
    mean = float(np.hypot(*(last - first).T).mean())
    cell = max((box[0] * box[1] / len(first)) ** 0.5, mean, float(box.max()) / 4000, 4 * reach)
    arguments = (
        np.ascontiguousarray(first),
        np.ascontiguousarray(last),
        np.ascontiguousarray(segment, np.int64),
        np.ascontiguousarray(groups[path.outline_of[segment]]),
        reach,
        cell,
    )
    most = 16 * len(first) + 1000
    pairs, shares, found = near_chords(*arguments, most)
    if found > most:
        pairs, shares, _ = near_chords(*arguments, found)
    pairs, shares = _with_ends(first, last, pairs, shares)
    guess = t0[pairs] + shares * (t1[pairs] - t0[pairs])
    return np.ascontiguousarray(segment[pairs]), np.ascontiguousarray(guess)


def _with_ends(first: np.ndarray, last: np.ndarray, pairs: np.ndarray, shares: np.ndarray):
    """Pairs of chords with a guess more for each of their ends where they run nearly alike: curves there may meet twice
    within one pair of chords, once towards either end."""
    along = last - first
    a, b = along[pairs[:, 0]], along[pairs[:, 1]]
    sine = np.abs(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]) / np.maximum(np.hypot(*a.T) * np.hypot(*b.T), 1e-300)
    alike = pairs[sine < NEARLY_ALIKE]
    more_pairs, more_shares = [pairs], [shares]
    for side in (0, 1):
        own, other = alike[:, side], alike[:, 1 - side]
        for end, point in ((0.0, first[own]), (1.0, last[own])):
            square = np.maximum((along[other] ** 2).sum(axis=1), 1e-300)
            foot = np.clip(((point - first[other]) * along[other]).sum(axis=1) / square, 0, 1)
            rows = (np.full(len(own), end), foot)
            more_pairs.append(alike)
            more_shares.append(np.column_stack(rows if side == 0 else rows[::-1]))
    return np.concatenate(more_pairs), np.concatenate(more_shares)


def _runs(path: Path, pairs, parameter, touching, kinds, geometry, common_runs) -> tuple[np.ndarray, np.ndarray]:
    candidates = np.unique(pairs[touching], axis=0)
    ends, there = common_runs(np.ascontiguousarray(candidates), kinds, geometry)
    return candidates[there], ends[there]


def _self_crossings(path: Path) -> tuple[np.ndarray, np.ndarray]:
    """The one place where a cubic can cross itself, in closed form.

    With P(t) = a t^3 + b t^2 + c t + d, P(t) = P(u) and t != u give a (s^2 - p) + b s + c = 0 for s = t + u, p = t u:
    two equations; crossed with a, they hold s alone.
    """
    rows = np.flatnonzero(path.kind == CUBIC)
    q = path.ctrl[rows]
    a = q[:, 3] - 3 * q[:, 2] + 3 * q[:, 1] - q[:, 0]
    b, c = 3 * (q[:, 2] - 2 * q[:, 1] + q[:, 0]), 3 * (q[:, 1] - q[:, 0])

    def cross(v, w):
        return v[:, 0] * w[:, 1] - v[:, 1] * w[:, 0]

    with np.errstate(divide="ignore", invalid="ignore"):
        s = -cross(a, c) / cross(a, b)
        p = s * s + (s * (a * b).sum(axis=1) + (a * c).sum(axis=1)) / (a * a).sum(axis=1)
        root = np.sqrt(s * s / 4 - p)
        t, u = s / 2 - root, s / 2 + root
    # A loop whose ends are the curve's own is a closed outline, not a crossing.
    inside = (t >= -1e-12) & (u <= 1 + 1e-12) & (root > 1e-9) & ~((t < 1e-9) & (u > 1 - 1e-9))
    parameter = np.clip(np.column_stack([t, u])[inside], 0, 1)
    return np.column_stack([rows[inside]] * 2), parameter


def _at_joint(path: Path, segment: np.ndarray, parameter: np.ndarray) -> np.ndarray:
    """Which meetings are the joint of two neighbours of an outline."""
    following = np.arange(path.segment_count) + 1
    following[path.start[1:] - 1] = np.where(path.closed, path.start[:-1], -1)
    low, high = segment.T
    near0, near1 = parameter < 1e-9, parameter > 1 - 1e-9
    onward = (following[low] == high) & near1[:, 0] & near0[:, 1]
    back = (following[high] == low) & near0[:, 0] & near1[:, 1]
    return onward | back


def _in_run(segment: np.ndarray, parameter: np.ndarray, run_pairs: np.ndarray, runs: np.ndarray) -> np.ndarray:
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
    return there & (parameter[:, 0] >= span[:, 0] - slack) & (parameter[:, 0] <= span[:, 1] + slack)


def _first_of_each(segment, parameter, point, touch, kinds, geometry) -> np.ndarray:
    """Of meetings found several times from neighbouring chords, the first. Where curves touch, they may be within the
    bound of each other along a stretch: meetings between which they stay so are one."""
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
