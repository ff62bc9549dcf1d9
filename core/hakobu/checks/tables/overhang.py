"""Ends of loose lines that run on beyond where they cross."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...geometry import Path
from ...geometry.boolean.combining import span_path
from ...geometry.proximity.incidence import ends_of
from ...geometry.proximity.places import Places
from .outlines import OutlineTable


@dataclass(frozen=True)
class Overhangs:
    """ends (N, 2): pairs of ends, rows of `ends_of`, both of which run on beyond where their lines cross; place (N, 2),
    that place."""

    ends: np.ndarray
    place: np.ndarray

    def of(self, part: list[int]) -> list[np.ndarray]:
        """The places at which outlines of a part overshoot."""
        return list(self.place[np.isin(self.ends // 2, part).all(axis=1)])


def overhangs(table: OutlineTable, within_mm: float) -> Overhangs:
    """Those of open outlines that are cut, by no more than so much."""
    key = "overhangs", within_mm
    if key not in table.kept:
        table.kept[key] = _found(table, within_mm)
    return table.kept[key]


def _found(table: OutlineTable, within_mm: float) -> Overhangs:
    pairs, places = table.crossings.outlines, table.crossings.places
    loose = (~table.path.closed & table.cut)[pairs].all(axis=1)
    pairs, places = pairs[loose], places[loose]
    if not len(pairs):
        return Overhangs(np.zeros((0, 2), np.int64), np.zeros((0, 2)))
    ends = ends_of(table.path)
    away = np.hypot(*np.moveaxis(ends[2 * pairs[..., None] + [0, 1]] - places[:, None, None], -1, 0))  # pyright: ignore[reportArgumentType, reportCallIssue]
    end, near = 2 * pairs + away.argmin(axis=2), away.min(axis=2) <= within_mm
    # Where an outline crosses itself, both its ends are meant.
    own = pairs[:, 0] == pairs[:, 1]
    end[own], near[own] = 2 * pairs[own] + [0, 1], (away[own, 0] <= within_mm).all(axis=1)[:, None]
    found = near.all(axis=1)
    return Overhangs(np.sort(end[found], axis=1), places[found])


def cut_back(table: OutlineTable, part: list[int], over: Overhangs) -> Path:
    """The outlines of a part, each end that overshoots cut off where the lines cross."""
    made = {k: table.path.outline(k) for k in part}
    for (a, b), place in zip(over.ends.tolist(), over.place, strict=True):
        for end in (a, b):
            if end // 2 in made:
                made[end // 2] = _cut(made[end // 2], place, at_start=end % 2 == 0)
    return Path.concatenate(made[k] for k in part)


def _cut(path: Path, place: np.ndarray, at_start: bool) -> Path:
    """An outline from a place on it on, or up to it."""
    points, segment, parameter = _places_near_end(path, place, at_start)
    count = path.segment_count
    rows = np.arange(segment, count) if at_start else np.arange(segment + 1)
    span = np.column_stack([np.zeros(len(rows)), np.ones(len(rows))])
    ends = np.stack([path.ctrl[rows, 0], path.ctrl[rows, 3]], axis=1)
    at = (0, 0) if at_start else (-1, 1)
    span[at], ends[at] = parameter, points
    return span_path(path, rows, span, ends, np.array([0, len(rows)]), np.array([False]))


def _places_near_end(path: Path, place: np.ndarray, at_start: bool) -> tuple[np.ndarray, int, float]:
    """The place on an outline that is meant: where the outline crosses itself there are two."""
    half = max(path.segment_count // 2, 1)
    rows = np.arange(half) if at_start else np.arange(path.segment_count - half, path.segment_count)
    part = Path(path.ctrl[rows], path.kind[rows], path.bulge[rows], [0, len(rows)], [False])
    found = Places(part).nearest(place[None])
    return place, int(rows[0] + found.segment[0]), float(found.parameter[0])
