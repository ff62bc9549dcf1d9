"""Places and paths: the nearest place on one, whether a point lies inside, the place so far along."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..flatten import points_at
from ..measure import segment_lengths
from ..path import Path
from .chord_grid import SEARCH_SHARE, curve_table


@dataclass(frozen=True)
class Nearest:
    """segment (N,), parameter (N,) and point (N, 2) of the nearest place on a path; distance (N,) in mm; outline (N,).
    -1, infinity and not a number where the path has no curve of any length."""

    segment: np.ndarray
    parameter: np.ndarray
    point: np.ndarray
    distance: np.ndarray
    outline: np.ndarray


class Places:
    """A path made ready for many questions: its curves in a packed tree of boxes."""

    def __init__(self, path: Path) -> None:
        self.path = path

    @cached_property
    def _tree(self) -> tuple:
        from ..kernels.chords import chords_of
        from .kernels.boxtree import packed, z_order
        from .kernels.grid import boxes_of

        kinds, geometry = curve_table(self.path)
        table, owner, _ = chords_of(kinds, geometry, self.path.ctrl, SEARCH_SHARE)
        box = boxes_of(table, 1e-9)
        order = np.argsort(z_order(box), kind="stable") if len(box) else np.zeros(0, np.int64)
        node, level = packed(box, order)
        return node, level, order, table, owner, kinds, geometry

    def nearest(self, points: np.ndarray) -> Nearest:
        """The nearest place on the path to each point (N, 2); the first curve of equals."""
        from .kernels.boxtree import nearest_places

        points = _points(points)
        tree = self._tree
        if not len(tree[2]):
            none = np.full(len(points), -1)
            return Nearest(
                none, np.zeros(len(points)), np.full((len(points), 2), np.nan), np.full(len(points), np.inf), none
            )
        segment, parameter, distance = nearest_places(points, *tree)
        point = points_at(self.path, segment, parameter)
        return Nearest(segment, parameter, point, distance, self.path.outline_of[segment])

    def windings(self, points: np.ndarray) -> np.ndarray:
        """How often the outlines wind round each point (N, 2): positive from +x towards +y, open outlines as they are.
        On a line itself it is that of one of its sides."""
        from .kernels.boxtree import windings_at

        points = _points(points)
        tree = self._tree
        return windings_at(points, *tree) if len(tree[2]) else np.zeros(len(points), np.int64)

    def contains(self, points: np.ndarray, rule: str = "nonzero") -> np.ndarray:
        """Which points (N, 2) lie inside, by the fill rule "nonzero" or "evenodd"."""
        winding = self.windings(points)
        return winding % 2 != 0 if rule == "evenodd" else winding != 0


def places_of(path: Path) -> Places:
    """The same for all who ask about one path, kept with it."""
    found = path.__dict__.get("_places")
    if found is None:
        found = path.__dict__["_places"] = Places(path)
    return found


def _points(points: np.ndarray) -> np.ndarray:
    points = np.array(points, np.float64, order="C").reshape(-1, 2)
    if not np.isfinite(points).all():
        raise ValueError("a point holds a number that is not finite")
    return points


@dataclass(frozen=True)
class Along:
    """Places along an outline: segment (N,), parameter (N,), point (N, 2) and tangent (N, 2), of length 1."""

    segment: np.ndarray
    parameter: np.ndarray
    point: np.ndarray
    tangent: np.ndarray


def along(path: Path, outline: int, lengths_mm: np.ndarray) -> Along:
    """The places so far along an outline, (N,) in mm from its start; before it and beyond its end, the ends. Where the
    line has a corner the tangent is that of the segment that comes to it."""
    from ..kernels.arc_length import parameters_at
    from ..kernels.curves import curves_at

    wanted = np.atleast_1d(np.asarray(lengths_mm, np.float64))
    first, last = int(path.start[outline]), int(path.start[outline + 1])
    until = np.cumsum(segment_lengths(path)[first:last])
    index = np.minimum(np.searchsorted(until, wanted), last - first - 1)
    ahead = np.maximum(wanted - np.concatenate([[0.0], until])[index], 0.0)
    segment = np.ascontiguousarray(first + index)
    kinds, geometry = curve_table(path)
    parameter = parameters_at(segment, ahead, kinds, geometry)
    tangent = curves_at(segment, parameter, kinds, geometry)[:, 2:]
    size = np.hypot(*tangent.T)[:, None]
    tangent = np.divide(tangent, size, out=np.zeros_like(tangent), where=size > 0)
    return Along(segment, parameter, points_at(path, segment, parameter), tangent)
