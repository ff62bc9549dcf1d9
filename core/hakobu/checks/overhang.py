"""Ends of loose lines that run on beyond where they cross."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry import Path
from ..geometry.boolean.combining import span_path
from ..geometry.neighbours import ends_of
from ..geometry.places import Places
from .outline_table import OutlineTable


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
    rows, kept = [], []
    for (a, b), place in zip(pairs.tolist(), places, strict=True):
        near_a, near_b = (_near_end(ends, k, place, within_mm) for k in (a, b))
        if a == b:
            near_a, near_b = (2 * a, 2 * a + 1) if len(_both_ends(ends, a, place, within_mm)) == 2 else (-1, -1)
        if near_a >= 0 and near_b >= 0:
            rows.append((min(near_a, near_b), max(near_a, near_b)))
            kept.append(place)
    return Overhangs(np.array(rows, np.int64).reshape(-1, 2), np.array(kept).reshape(-1, 2))


def _near_end(ends: np.ndarray, outline: int, place: np.ndarray, within_mm: float) -> int:
    """The end of an outline that is so near a place; -1 where neither is."""
    near = _both_ends(ends, outline, place, within_mm)
    return near[0] if near else -1


def _both_ends(ends: np.ndarray, outline: int, place: np.ndarray, within_mm: float) -> list[int]:
    away = np.hypot(*(ends[2 * outline : 2 * outline + 2] - place).T)
    return [2 * outline + int(n) for n in np.argsort(away, kind="stable") if away[n] <= within_mm]


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
