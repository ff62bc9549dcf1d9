"""Borders that go round one colour within another, in a picture of colours: they are as if that colour were ink on the
other, and found as ink is, with all its corners and slim tips."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..outlines.outlines import placed_outlines
from .labels import Labelled

#: A pair of colours is looked at by itself: of pictures with more pairs that have such borders, those with most.
MOST_PAIRS = 8
#: Colours nearer to each other than this, of 255, tell nothing between them.
LEAST_APART = 2.0
#: The area that a border goes round may change by so much when it is found so: by its tips.
OTHER_SHARE, OTHER_PX2 = 0.08, 12.0


@dataclass(frozen=True)
class Lone:
    """Borders made ready to be fitted, by their numbers: points, corners and directions of each."""

    points: dict[int, tuple[np.ndarray, np.ndarray, np.ndarray]]

    def put_into(self, ready: np.ndarray, at: np.ndarray, corner: np.ndarray, direction: np.ndarray) -> tuple:
        """All borders (points, start, corner, direction) with these in the place of theirs."""
        if not self.points:
            return ready, at, corner, direction
        parts = []
        for k in range(len(at) - 1):
            plain = tuple(each[at[k] : at[k + 1]] for each in (ready, corner, direction))
            own = self.points.get(k)
            parts.append(own if own and _is_same(own[0], plain[0]) else plain)
        start = np.concatenate([[0], np.cumsum([len(part[0]) for part in parts])])
        points, corners, directions = (np.concatenate([part[i] for part in parts]) for i in range(3))
        return points, start, corners, directions


def _is_same(one: np.ndarray, other: np.ndarray) -> bool:
    """Whether two closed outlines go round the same: where a bit was taken into what is about it, the picture does not
    change at its border."""
    if len(one) < 3 or not np.isfinite(one).all():
        return False
    return abs(_area(one) - _area(other)) <= OTHER_SHARE * abs(_area(other)) + OTHER_PX2


def _area(points: np.ndarray) -> float:
    x, y = points.T
    return float(x @ np.roll(y, -1) - y @ np.roll(x, -1)) / 2


def lone_borders(seen: Labelled, chains: tuple, about: np.ndarray) -> Lone:
    """chains: rows, columns, ways and start (C+1,); about (C, 6): of each its right and left label, and -1 as its
    third where it goes round, as `borders` gives them."""
    rows, columns, ways, start = chains
    round_ = np.flatnonzero((about[:, 2] < 0) & (about[:, 1] >= 0))
    pairs, which, count = np.unique(about[round_, :2], axis=0, return_inverse=True, return_counts=True)
    found: dict[int, tuple[np.ndarray, np.ndarray, np.ndarray]] = {}
    for pair in np.argsort(-count, kind="stable")[:MOST_PAIRS].tolist():
        own = round_[which.ravel() == pair]
        if np.linalg.norm(np.subtract(*seen.colours[pairs[pair]])) < LEAST_APART:
            continue
        grey = _as_ink(seen, *pairs[pair].tolist())
        length = np.diff(start)[own]
        begin = np.concatenate([[0], np.cumsum(length)])
        index = np.arange(begin[-1]) + np.repeat(start[own] - begin[:-1], length)
        points, at, corner, direction, *_ = placed_outlines(
            grey, (rows[index], columns[index], ways[index], begin), 0.5
        )
        for n, k in enumerate(own.tolist()):
            part = slice(at[n], at[n + 1])
            found[k] = points[part], corner[part], direction[part]
    return Lone(found)


def _as_ink(seen: Labelled, ink: int, ground: int) -> np.ndarray:
    """How far each pixel is from one colour, 0, to another, 1, (H, W) float32."""
    one, other = seen.colours[ink], seen.colours[ground]
    way = (other - one).astype(np.float32)
    share = (seen.picture - one.astype(np.float32)) @ (way / np.float32(way @ way))
    return np.ascontiguousarray(np.clip(share, 0.0, 1.0, dtype=np.float32))
