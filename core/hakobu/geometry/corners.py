"""Corners of outlines rounded by arcs that touch both sides, or cut off straight."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .measure import segment_lengths
from .nodes import end_directions
from .path import ARC, LINE, Path, line_controls
from .proximity.chord_grid import curve_table
from .proximity.places import along

#: Where lines turn by less, in radians (10 degrees), they are no corner.
LEAST_TURN = np.radians(10)
#: A figure that does not fit is halved so often to find the largest that does; below the least one, in mm, a corner
#: stays.
HALVINGS, LEAST_MM = 12, 0.02
#: Newton's steps for a circle between two curves, and how near it comes to both, in mm.
STEPS, NEAR_MM = 12, 1e-7
#: A side that has corners at both ends gives each of them up to so much of its length.
HALF = 0.4999


@dataclass(frozen=True)
class Corners:
    """before, after (N,): the segments that come to each corner and leave it; turn (N,): in radians, more than 0 where
    an outline that runs clockwise on the screen turns outwards; points (N, 2)."""

    before: np.ndarray
    after: np.ndarray
    turn: np.ndarray
    points: np.ndarray

    def take(self, which: np.ndarray) -> Corners:
        return Corners(self.before[which], self.after[which], self.turn[which], self.points[which])


def corners_of(path: Path) -> Corners:
    """All corners of a path; ends of open outlines are none."""
    following = np.arange(path.segment_count) + 1
    last = path.start[1:] - 1
    following[last] = np.where(path.closed, path.start[:-1], -1)
    leaving, arriving = end_directions(path)
    rows = np.flatnonzero(following >= 0)
    into, out = arriving[rows], leaving[following[rows]]
    turn = np.arctan2(into[:, 0] * out[:, 1] - into[:, 1] * out[:, 0], (into * out).sum(axis=1))
    kept = np.abs(turn) > LEAST_TURN
    rows = rows[kept]
    return Corners(rows, following[rows], turn[kept], path.ctrl[following[rows], 0])


@dataclass(frozen=True)
class Rounded:
    """path: the outlines; done, smaller, left: how many corners were rounded, of these with a smaller figure since it
    did not fit, and stayed as they are."""

    path: Path
    done: int
    smaller: int
    left: int


def with_corners(path: Path, corners: Corners, size_mm: float, cut: bool = False) -> Rounded:
    """Outlines with corners rounded by a radius; or cut, with a straight line from so far before each to so far behind
    it. Neighbours share the side between them."""
    room = _rooms(path, corners)
    find = _cut_ends if cut else _touching
    size = np.full(len(corners.turn), float(size_mm))
    ends = find(path, corners, size, room)
    # Bisection for the largest size that fits.
    low, high = np.zeros(len(size)), size.copy()
    tight = np.flatnonzero(np.isnan(ends[:, 0]))
    for _ in range(HALVINGS if len(tight) else 0):
        middle = (low[tight] + high[tight]) / 2
        found = find(path, corners.take(tight), middle, room[tight])
        fits = ~np.isnan(found[:, 0]) & (middle >= LEAST_MM)
        low[tight[fits]], high[tight[~fits]] = middle[fits], middle[~fits]
        ends[tight[fits]] = found[fits]
    size[tight] = low[tight]
    done = ~np.isnan(ends[:, 0])
    made = _assembled(path, corners.take(done), ends[done], cut)
    smaller = int((size[done] < size_mm).sum())
    return Rounded(made, int(done.sum()), smaller, int((~done).sum()))


def _rooms(path: Path, corners: Corners) -> np.ndarray:
    """How much of the segments before and behind corners they may take (N, 2), in mm."""
    long = segment_lengths(path)
    used = np.bincount(corners.before, minlength=len(long)) + np.bincount(corners.after, minlength=len(long))
    free = long * np.where(used > 1, HALF, 1.0)
    return np.column_stack([free[corners.before], free[corners.after]])


def _cut_ends(path: Path, corners: Corners, size: np.ndarray, room: np.ndarray) -> np.ndarray:
    """Parameters (N, 2) so far before and behind corners; none where there is no room."""
    fits = (room >= size[:, None]).all(axis=1)
    ends = np.full((len(size), 2), np.nan)
    for k in np.flatnonzero(fits).tolist():
        ends[k] = _at(path, int(corners.before[k]), size[k], True), _at(path, int(corners.after[k]), size[k], False)
    return ends


def _at(path: Path, segment: int, far_mm: float, from_end: bool) -> float:
    """The parameter of a segment so far from its start or its end."""
    own = [segment]
    one = Path(path.ctrl[own], path.kind[own], path.bulge[own], [0, 1], [False])
    whole = float(segment_lengths(one)[0])
    return float(along(one, 0, np.array([whole - far_mm if from_end else far_mm])).parameter[0])


def _touching(path: Path, corners: Corners, radius: np.ndarray, room: np.ndarray) -> np.ndarray:
    """Parameters (N, 2) at which a circle of a radius touches both sides of corners; none where it does not within the
    room that there is. Of straight sides in closed form, else by Newton's method from there."""
    from .kernels.curves import curves_at

    kinds, geometry = curve_table(path)
    long = np.maximum(segment_lengths(path), 1e-12)
    side = np.sign(corners.turn)
    reach = radius * np.tan(np.abs(corners.turn) / 2)
    at = np.column_stack([1 - reach / long[corners.before], reach / long[corners.after]])
    straight = (path.kind[corners.before] == LINE) & (path.kind[corners.after] == LINE)
    if straight.all():
        bad = (reach[:, None] > room).any(axis=1)
        return np.where(bad[:, None], np.nan, at)  # pyright: ignore[reportIndexIssue]
    at = np.clip(at, 0.0, 1.0)
    curved = np.flatnonzero(~straight)
    if len(curved) < len(straight):
        made = np.full_like(at, np.nan)
        for rows in (np.flatnonzero(straight), curved):
            made[rows] = _touching(path, corners.take(rows), radius[rows], room[rows])
        return made

    def centres(which: int, t: np.ndarray) -> np.ndarray:
        segment = np.ascontiguousarray((corners.before, corners.after)[which])
        made = curves_at(segment, np.ascontiguousarray(t), kinds, geometry)
        size = np.maximum(np.hypot(made[:, 2], made[:, 3]), 1e-12)
        normal = np.column_stack([-made[:, 3], made[:, 2]]) / size[:, None]
        return made[:, :2] + normal * (side * radius)[:, None]

    step = 1e-6
    for _ in range(STEPS):
        gap = centres(0, at[:, 0]) - centres(1, at[:, 1])
        if np.abs(gap).max(initial=0.0) < NEAR_MM:
            break
        one = (centres(0, at[:, 0] + step) - centres(0, at[:, 0] - step)) / (2 * step)
        other = -(centres(1, at[:, 1] + step) - centres(1, at[:, 1] - step)) / (2 * step)
        det = one[:, 0] * other[:, 1] - one[:, 1] * other[:, 0]
        det = np.where(np.abs(det) < 1e-12, np.inf, det)
        move = np.column_stack(
            [gap[:, 0] * other[:, 1] - gap[:, 1] * other[:, 0], one[:, 0] * gap[:, 1] - one[:, 1] * gap[:, 0]]
        )
        at = np.clip(at - np.clip(move / det[:, None], -0.5, 0.5), 0.0, 1.0)
    gap = np.hypot(*(centres(0, at[:, 0]) - centres(1, at[:, 1])).T)
    taken = np.column_stack([(1 - at[:, 0]) * long[corners.before], at[:, 1] * long[corners.after]])
    # Parameters of curves do not run evenly: that is near enough to tell who gets which part of a side.
    bad = (gap > 1e-5) | (taken > room).any(axis=1) | (at[:, 0] <= 0) | (at[:, 1] >= 1)
    return np.where(bad[:, None], np.nan, at)


def _assembled(path: Path, corners: Corners, ends: np.ndarray, cut: bool) -> Path:
    """The outlines with their segments shortened at corners, and an arc or a line in each."""
    first, last = np.zeros(path.segment_count), np.ones(path.segment_count)
    last[corners.before], first[corners.after] = ends[:, 0], ends[:, 1]
    last = np.maximum(last, first)
    ctrl, bulge = spans(path, first, last)
    order, kinds, controls, bulges = np.arange(path.segment_count) * 2, path.kind, ctrl, bulge
    start, stop = ctrl[corners.before, 3], ctrl[corners.after, 0]
    added = line_controls(start, stop)
    turn = np.zeros(len(start)) if cut else np.tan(corners.turn / 4)
    order = np.concatenate([order, corners.before * 2 + 1])
    sort = np.argsort(order, kind="stable")
    counts = np.diff(path.start) + np.bincount(path.outline_of[corners.before], minlength=len(path))
    return Path(
        np.concatenate([controls, added])[sort],
        np.concatenate([kinds, np.full(len(start), LINE if cut else ARC, np.uint8)])[sort],
        np.concatenate([bulges, turn])[sort],
        np.concatenate([[0], np.cumsum(counts)]),
        path.closed,
    )


def spans(path: Path, first: np.ndarray, last: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Control points (M, 4, 2) and bulges (M,) of what lies between two parameters (M,) of each segment."""
    from .flatten import points_at

    rows = np.arange(path.segment_count)
    whole = (first == 0) & (last == 1)
    begin, end = points_at(path, rows, first), points_at(path, rows, last)
    # De Casteljau, for both parameters at once: blossoms of the cubic.
    a, b = first[:, None], last[:, None]
    p0, p1, p2, p3 = (path.ctrl[:, k] for k in range(4))

    def blossom(r, s, t):
        def mix(u, x, y):
            return x * (1 - u) + y * u

        q0, q1, q2 = mix(r, p0, p1), mix(r, p1, p2), mix(r, p2, p3)
        return mix(t, mix(s, q0, q1), mix(s, q1, q2))

    cubic = np.stack([begin, blossom(a, a, b), blossom(a, b, b), end], axis=1)
    ctrl = np.where((path.kind == 1)[:, None, None], cubic, line_controls(begin, end))
    bulge = np.tan(np.arctan(path.bulge) * (last - first))
    return np.where(whole[:, None, None], path.ctrl, ctrl), np.where(whole, path.bulge, bulge)
