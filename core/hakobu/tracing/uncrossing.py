"""Outlines that cross drawn plainer there: what is exact at clean edges may not go on in pictures of textures."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from ..geometry import Path, fit
from ..geometry.crossings import crossings
from .directions import turned
from .outlines import Outlines, plain_outlines

#: Segments on either side of one that crosses which are drawn anew with it, and how near to the plain points, as a
#: share of the smoothness, in one try after the other; at last through the points themselves.
TRIES = ((0, 0.5), (1, 0.5), (1, 0.0), (4, 0.0))
#: Of a stretch that is drawn anew, the way along the plain points may be so many times as long as before, and some
#: pixels: where it is longer the points are not those of the stretch.
LONGER, SOME_PX = 2.0, 8.0


@dataclass(frozen=True)
class Source:
    """What a path was made from: a picture's grey, its outlines at a threshold, the matrix (2, 2) and the shift (2,)
    from pixels to mm, and how far lines may leave the edge, in mm."""

    grey: np.ndarray
    outlines: Outlines
    threshold: float
    turn: np.ndarray
    shift: np.ndarray
    smoothness_mm: float

    @property
    def pixel_mm(self) -> float:
        return float(abs(np.linalg.det(self.turn)) ** 0.5)

    def plain(self, which: np.ndarray, corners: bool) -> tuple:
        """Some of the outlines, as `plain_outlines` has them, in mm."""
        grey = np.ascontiguousarray(self.grey)
        points, start, corner, direction = plain_outlines(grey, self.outlines, which, self.threshold, corners)
        return points @ self.turn + self.shift, start, corner, turned(direction, self.turn)


def uncrossed(path: Path, source: Source) -> Path:
    """The path, outlines of a picture in mm, with plainer lines where it crosses itself: first only there, at last the
    whole of the outlines that do."""
    plain: dict[int, np.ndarray] = {}
    for beside, share in TRIES:
        segments = crossings(path, np.zeros(len(path), np.int64)).segments
        if not len(segments):
            return path
        asked = [k for k in np.unique(path.outline_of[segments]).tolist() if k not in plain]
        if asked:
            points, start, *_ = source.plain(np.array(asked, np.int64), corners=False)
            plain |= dict(zip(asked, np.split(points, start[1:-1]), strict=True))
        within = share * source.smoothness_mm
        path = _redrawn(path, np.unique(segments), beside, plain, source.pixel_mm, within)
    return _whole(path, source)


def _redrawn(
    path: Path, segments: np.ndarray, beside: int, plain: dict[int, np.ndarray], pixel_mm: float, within_mm: float
) -> Path:
    """The path with segments, and some on either side, along the plain points of their outlines."""
    parts, kept = [], 0
    for k in np.unique(path.outline_of[segments]).tolist():
        first, count = int(path.start[k]), int(path.start[k + 1] - path.start[k])
        bad = np.zeros(count, bool)
        own = segments[path.outline_of[segments] == k] - first
        for step in range(-beside, beside + 1):
            bad[(own + step) % count] = True
        parts += [path.take(np.arange(kept, k)), _along(path.outline(k), bad, plain[k], pixel_mm, within_mm)]
        kept = k + 1
    return Path.concatenate([*parts, path.take(np.arange(kept, len(path)))])


def _along(outline: Path, bad: np.ndarray, points: np.ndarray, pixel_mm: float, within_mm: float) -> Path:
    """A closed outline with some of its segments (M,) drawn anew along the points between their ends: within so much of
    them, or as lines from each to the next."""
    if bad.all():
        return Path.from_points(points, closed=True)
    # From a segment that stays on, so that no stretch goes over the end.
    first = int(np.flatnonzero(~bad)[0])
    order = np.roll(np.arange(outline.segment_count), -first)
    ctrl, kind, bulge, bad = outline.ctrl[order], outline.kind[order], outline.bulge[order], bad[order]
    made_ctrl, made_kind, made_bulge = [], [], []
    for a, b, is_bad in _runs(bad):
        between = _between(ctrl[a:b], points, pixel_mm) if is_bad else None
        if between is None:
            made_ctrl.append(ctrl[a:b])
            made_kind.append(kind[a:b])
            made_bulge.append(bulge[a:b])
            continue
        stretch = _stretch(np.vstack([ctrl[a, :1], between, ctrl[b - 1, 3:]]), within_mm)
        made_ctrl.append(stretch.ctrl)
        made_kind.append(stretch.kind)
        made_bulge.append(stretch.bulge)
    made = np.concatenate(made_ctrl)
    return Path(made, np.concatenate(made_kind), np.concatenate(made_bulge), [0, len(made)], [True])


def _stretch(points: np.ndarray, within_mm: float) -> Path:
    if not within_mm or len(points) < 3:
        return Path.from_points(points, closed=False)
    return fit(points, np.array([0, len(points)]), np.array([False]), np.zeros(len(points), bool), within_mm).path


def _runs(flags: np.ndarray) -> Iterator[tuple[int, int, bool]]:
    """Stretches of equal flags: first, the one after the last, and the flag."""
    ends = np.concatenate([[0], np.flatnonzero(np.diff(flags)) + 1, [len(flags)]])
    for a, b in zip(ends[:-1].tolist(), ends[1:].tolist(), strict=True):
        yield a, b, bool(flags[a])


def _between(ctrl: np.ndarray, points: np.ndarray, pixel_mm: float) -> np.ndarray | None:
    """The points along an outline between both ends of a stretch of its segments (N, 4, 2); None where they cannot be
    told."""
    a, b = (int(np.hypot(*(points - end).T).argmin()) for end in (ctrl[0, 0], ctrl[-1, 3]))
    rows = np.arange(a + 1, b if b > a else b + len(points)) % len(points)
    between = points[rows]
    way = np.vstack([ctrl[0, :1], between, ctrl[-1, 3:]])
    long = np.hypot(*np.diff(way, axis=0).T).sum()
    before = np.hypot(*np.diff(ctrl, axis=1).reshape(-1, 2).T).sum()
    return between if long <= LONGER * before + SOME_PX * pixel_mm else None


def _whole(path: Path, source: Source) -> Path:
    """The path with plainer outlines in the place of those that cross themselves."""
    smooth = source.smoothness_mm
    for corners, tolerance_mm in ((True, smooth), (False, smooth), (False, smooth / 4), (False, 0.0)):
        bad = np.unique(crossings(path, np.arange(len(path))).outlines)
        if not len(bad):
            return path
        points, start, corner, direction = source.plain(bad, corners)
        if tolerance_mm:
            again = fit(points, start, np.ones(len(bad), bool), corner, tolerance_mm, direction).path
        else:
            ends = zip(start[:-1], start[1:], strict=True)
            again = Path.concatenate(Path.from_points(points[a:b], True) for a, b in ends)
        order = np.arange(len(path))
        order[bad] = len(path) + np.arange(len(bad))
        path = Path.concatenate([path, again]).take(order)
    return path
