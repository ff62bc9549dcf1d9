"""Outlines that cross drawn plainer there: what is exact at clean edges may not go on in pictures of textures."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...geometry import Path, fit
from ...geometry.crossings import crossing_segments, crossings
from ..tangent_directions import turned
from .outlines import Outlines, plain_outlines

#: Segments on either side of one that crosses which are drawn anew with it, and how near to the plain points, as a
#: share of the smoothness, in one try after the other; at last through the points themselves.
TRIES = ((1, 0.5), (1, 0.0), (4, 0.0))
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
    drawn = np.ones(path.segment_count, bool)
    for beside, share in TRIES:
        segments = crossing_segments(path, drawn)
        if not len(segments):
            return path
        asked = [k for k in np.unique(path.outline_of[segments]).tolist() if k not in plain]
        if asked:
            points, start, *_ = source.plain(np.array(asked, np.int64), corners=False)
            plain |= dict(zip(asked, np.split(points, start[1:-1]), strict=True))
        within = share * source.smoothness_mm
        path, drawn = _redrawn(path, segments, beside, plain, source.pixel_mm, within)
    return _whole(path, source)


def _redrawn(
    path: Path, segments: np.ndarray, beside: int, plain: dict[int, np.ndarray], pixel_mm: float, within_mm: float
) -> tuple[Path, np.ndarray]:
    """The path with segments, and some on either side, along the plain points of their outlines: within so much of
    them, or as lines from each to the next; and which of its segments that is (M,), with those that stay because their
    points cannot be told."""
    bad, order = _beside(path, segments, beside)
    ctrl, kind, bulge, outline, bad = (of[order] for of in (path.ctrl, path.kind, path.bulge, path.outline_of, bad))
    # What is drawn anew, with both its ends among the rows of the rest.
    ends, stretches = _runs(bad, outline), []
    for a, b in ends:
        k = int(outline[a])
        if b - a == path.start[k + 1] - path.start[k]:
            stretches.append(np.vstack([plain[k], plain[k][:1]]))
        else:
            between = _between(ctrl[a:b], plain[k], pixel_mm)
            stretches.append(None if between is None else np.vstack([ctrl[a, :1], between, ctrl[b - 1, 3:]]))
    made = iter(_stretches([points for points in stretches if points is not None], within_mm))
    parts, drawn, count, last = [], [], np.diff(path.start), 0
    for (a, b), points in zip(ends, stretches, strict=True):
        parts.append((ctrl[last:a], kind[last:a], bulge[last:a]))
        if points is None:
            parts.append((ctrl[a:b], kind[a:b], bulge[a:b]))
        else:
            new = next(made)
            parts.append((new.ctrl, new.kind, new.bulge))
            count[outline[a]] += new.segment_count - (b - a)
        drawn += [np.zeros(a - last, bool), np.ones(len(parts[-1][0]), bool)]
        last = b
    parts.append((ctrl[last:], kind[last:], bulge[last:]))
    drawn.append(np.zeros(len(ctrl) - last, bool))
    ctrl, kind, bulge = (np.concatenate(of) for of in zip(*parts, strict=True))
    start = np.concatenate([[0], np.cumsum(count)])
    return Path.taking(ctrl, kind, bulge, start, path.closed.copy()), np.concatenate(drawn)


def _beside(path: Path, segments: np.ndarray, beside: int) -> tuple[np.ndarray, np.ndarray]:
    """Which segments (M,) are to be drawn anew; and an order of all in which no stretch of them goes over the end of
    its outline."""
    bad, order = np.zeros(path.segment_count, bool), np.arange(path.segment_count)
    of = path.outline_of[segments]
    first, count = path.start[of], np.diff(path.start)[of]
    for step in range(-beside, beside + 1):
        bad[first + (segments - first + step) % count] = True
    for k in np.unique(of).tolist():
        a, b = path.start[k], path.start[k + 1]
        if bad[a] and bad[b - 1] and not bad[a:b].all():
            order[a:b] = np.roll(order[a:b], -int(np.flatnonzero(~bad[a:b])[0]))
    return bad, order


def _runs(flags: np.ndarray, outline: np.ndarray) -> list[tuple[int, int]]:
    """Stretches of one outline where flags are set: first, and the one after the last."""
    changes = np.flatnonzero((np.diff(flags) != 0) | (np.diff(outline) != 0)) + 1
    ends = np.concatenate([[0], changes, [len(flags)]])
    return [(a, b) for a, b in zip(ends[:-1].tolist(), ends[1:].tolist(), strict=True) if flags[a]]


def _stretches(points: list[np.ndarray], within_mm: float) -> list[Path]:
    """A line through each of several rows of points, within so much of them; straight from each to the next where that
    is nothing, and where there are but two."""
    curved = [k for k, own in enumerate(points) if within_mm and len(own) > 2]
    made: dict[int, Path] = {}
    if curved:
        together = np.concatenate([points[k] for k in curved])
        start = np.cumsum([0] + [len(points[k]) for k in curved])
        closed, corner = np.zeros(len(curved), bool), np.zeros(len(together), bool)
        made = dict(zip(curved, fit(together, start, closed, corner, within_mm).path.outlines(), strict=True))
    return [made[k] if k in made else Path.from_points(own, closed=False) for k, own in enumerate(points)]


def _between(ctrl: np.ndarray, points: np.ndarray, pixel_mm: float) -> np.ndarray | None:
    """The points along an outline between both ends of a stretch of its segments (N, 4, 2); None where they cannot be
    told."""
    across, down = np.ascontiguousarray(points.T)
    a, b = (int(((across - x) ** 2 + (down - y) ** 2).argmin()) for x, y in (ctrl[0, 0], ctrl[-1, 3]))
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
