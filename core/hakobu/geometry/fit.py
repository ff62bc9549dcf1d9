"""Lines and curves through many points."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .parallel import parallel_map, processors
from .path import Path

#: Points that are worth a thread of their own.
WORTH_POINTS = 1_200


@dataclass(frozen=True)
class Fitted:
    """The path, and how far the points lie from it: on average and at most, in mm."""

    path: Path
    mean_mm: float
    max_mm: float


def fit(
    points: np.ndarray,
    start: np.ndarray,
    closed: np.ndarray,
    corner: np.ndarray,
    tolerance_mm: float,
    direction: np.ndarray | None = None,
) -> Fitted:
    """Outlines through points, none of which lies farther from its line than the tolerance.

    points (N, 2) in mm; start (K+1,): outline k holds the points start[k] to start[k+1], at least three where it is
    closed and two where it is open; closed (K,); corner (N,): where the line may turn, everywhere else it is smooth. A
    closed outline begins at its first corner. direction (N, 2): where it is not zeros there is a node, passed in this
    direction of length 1. Sections between corners that can be straight are lines, closed outlines
    without corners that can be circles are circles (K and N may be 0).
    Source: Schneider, "An algorithm for automatically fitting digitized curves", Graphics Gems, 1990.
    Raises ValueError where a number is not finite or an outline is too short.
    """
    points = np.ascontiguousarray(points, np.float64).reshape(-1, 2)
    start = np.ascontiguousarray(start, np.int64)
    closed = np.ascontiguousarray(closed, np.bool_)
    corner = np.ascontiguousarray(corner, np.bool_)
    direction = np.zeros_like(points) if direction is None else np.ascontiguousarray(direction, np.float64)
    if not np.isfinite(points).all():
        raise ValueError("points to fit must be finite numbers")
    short = np.flatnonzero(np.diff(start) < np.where(closed, 3, 2))
    if len(short):
        raise ValueError(f"outline {short[0]} has too few points to fit")
    from .kernels.cubic_fit import fit_outlines

    parts = _parts(points, start, closed, corner, direction)

    def work(a: int, b: int) -> list:
        return [fit_outlines(*part.outlines, tolerance_mm) for part in parts[a:b]]

    made = [own for some in parallel_map(work, np.ones(len(parts)), 1) for own in some]
    ctrl, kind, bulge = (np.concatenate([own[k] for own in made]) for k in range(3))
    begin = _begins([own[3] for own in made], [part.goes_on for part in parts])
    weights = np.array([len(part.outlines[0]) for part in parts], float)
    mean = float(np.dot([own[4] for own in made], weights) / max(weights.sum(), 1))
    worst = max(float(own[5]) for own in made)
    return Fitted(Path.taking(ctrl, kind, bulge, begin, closed.copy()), mean, worst)


@dataclass(frozen=True)
class _Part:
    """Some of the outlines to fit: points, start, closed, corner and direction; goes_on: the first of them is the rest
    of the last one of the part before."""

    outlines: tuple[np.ndarray, ...]
    goes_on: bool


def _parts(points, start, closed, corner, direction) -> list[_Part]:
    """Parts of about as many points, one for each processor: between outlines, or where an outline has a node."""
    total = len(points)
    wanted = min(processors(), max(total // WORTH_POINTS, 1))
    if wanted == 1:
        return [_Part((points, start, closed, corner, direction), False)]
    node = corner | (direction[:, 0] != 0) | (direction[:, 1] != 0)
    # Of a closed outline that begins at no node, it is not known where it may be cut.
    node[np.repeat(closed & ~node[start[:-1]], np.diff(start))] = False
    node[start[1:] - 1] &= closed
    node[start[:-1]] = True
    places = np.flatnonzero(node)
    ends = total * np.arange(1, wanted) / wanted
    after = np.minimum(np.searchsorted(places, ends), len(places) - 1)
    before = np.maximum(after - 1, 0)
    nearer = np.where(ends - places[before] < places[after] - ends, places[before], places[after])
    bounds = [0, *np.unique(nearer[nearer > 0]).tolist(), total]
    return [_part(points, start, closed, corner, direction, a, b) for a, b in zip(bounds[:-1], bounds[1:], strict=True)]


def _part(points, start, closed, corner, direction, a: int, b: int) -> _Part:
    """The points from one, which is a node or the first of an outline, to another, which is such or the end of all."""
    first = int(np.searchsorted(start, a, side="right")) - 1
    last = int(np.searchsorted(start, b, side="left"))
    goes_on, cut = a > start[first], b < start[last]
    begin = np.clip(start[first : last + 1], a, b) - a
    own_closed = closed[first:last].copy()
    # Up to the node, which the next part begins at.
    end = b + 1 if cut else b
    rows = [slice(a, end)]
    if cut:
        begin[-1] += 1
        own_closed[-1] = False
    if goes_on:
        if closed[first] and not (cut and last == first + 1):
            # Round to where it began.
            once, again = a + int(begin[1]), int(start[first])
            rows = [slice(a, once), slice(again, again + 1), slice(once, end)]
            begin[1:] += 1
        own_closed[0] = False
    ways = (points, corner, direction)
    own, own_corner, way = (of[rows[0]] if len(rows) == 1 else np.concatenate([of[row] for row in rows]) for of in ways)
    return _Part((own, begin, own_closed, own_corner, way), bool(goes_on))


def _begins(begins: list[np.ndarray], goes_on: list[bool]) -> np.ndarray:
    """Where each outline's segments begin, from where they do in each part."""
    made = [0]
    for own, on in zip(begins, goes_on, strict=True):
        before = made.pop() if on else made[-1]
        made += (before + own[1:]).tolist()
    return np.array(made, np.int64)
