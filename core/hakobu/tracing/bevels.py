"""Corners that a compressed picture shows cut off: a bevel too short to be seen takes a little ink away, or fills in a
little, where the sides would meet, and the blocks keep how much that is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ..geometry import Path
from ..geometry.flatten import points_at
from ..geometry.nodes import end_directions, turns_after
from ..geometry.path import ARC, LINE, line_controls
from ..geometry.search import following_of
from .handles import Chords

if TYPE_CHECKING:
    from scipy.sparse import csc_array

#: Corners that turn by so much may be cut off, in degrees: gentler ones look alike, and sharper ones are tips.
TURNS_DEGREES = (60.0, 165.0)
#: Sides shorter than this, in pixels, do not tell where they would meet.
SHORTEST_SIDE_PX = 6.0
#: Pixels from a corner to the middle of what a bevel takes away.
INSIDE_PX = 0.4
#: A corner is cut off where what explains the blocks so is so many times as large as chance makes it; by no more than
#: so much, in pixels along its middle, since chance has its share in how much it seems.
SURE, DEEPEST_PX = 3.3, 0.4
#: It is looked at more closely from here on, as if nothing else could explain it.
CLEAR = 1.0
#: A side is not cut shorter than by this share, at either end.
LONGEST_SHARE = 0.45


@dataclass(frozen=True)
class Sharp:
    """Sharp corners of a path in pixels: border (K,), the outline; segment (K,), which ends there, and following (K,),
    which goes on; place (K, 2); inward (K, 2), the direction between the sides; side (K,), 1 where that is to the right
    of the path and -1 where it is to the left; half (K,), half the angle between the sides."""

    border: np.ndarray
    segment: np.ndarray
    following: np.ndarray
    place: np.ndarray
    inward: np.ndarray
    side: np.ndarray
    half: np.ndarray

    def chords(self) -> Chords:
        """What a bevel of one square pixel moves, as a short part of each corner's border, moved by its own number."""
        count = len(self.segment)
        mover, by = np.zeros((count, 8), np.int64), np.zeros((count, 8))
        mover[:, 0], by[:, 0] = np.arange(count), self.side
        return Chords(self.place + INSIDE_PX * self.inward, np.ones(count), self.border, mover, by)

    def deep(self, area: np.ndarray) -> np.ndarray:
        """How deep bevels of so many square pixels (K,) are."""
        return np.minimum(np.sqrt(area / np.tan(self.half)), DEEPEST_PX)


def sharp_corners(path: Path) -> Sharp:
    """The corners of a path in pixels between lines and curves that turn as those do which may be cut off."""
    following = following_of(path)
    turn = turns_after(path, following)
    tells = (path.kind != ARC) & (np.hypot(*(path.ctrl[:, 3] - path.ctrl[:, 0]).T) >= SHORTEST_SIDE_PX)
    low, high = np.radians(TURNS_DEGREES)
    sharp = (np.abs(turn) > low) & (np.abs(turn) < high)
    before = np.flatnonzero((following >= 0) & tells & tells[following] & sharp)
    after, turn = following[before], turn[before]
    leaving, arriving = end_directions(path)
    inward = leaving[after] - arriving[before]
    inward /= np.hypot(*inward.T)[:, None]
    # With y down, what lies to the right of a path is where its angle grows.
    return Sharp(
        path.outline_of[before], before, after, path.ctrl[before, 3], inward, np.sign(turn), (np.pi - np.abs(turn)) / 2
    )


@dataclass(frozen=True)
class Shown:
    """What blocks show of one corner's bevel: how much a square pixel of it explains of what they are off by, and of
    itself; unknown and by (M,), what of it each unknown explains as well."""

    explains: float
    whole: float
    unknown: np.ndarray
    by: np.ndarray


def areas_of(shown: list[Shown], together: csc_array, moving: int, level: float) -> tuple[np.ndarray, np.ndarray]:
    """How much is cut off each corner, in square pixels, zeros where it is not sure (K,); and what that changes in all
    unknowns (N,). together (N, N): the matrix of the normal equations that these are found by; so many of them, the
    first, move the path: those near a corner are found anew with its bevel, as if the rest stayed. level: what blocks
    stay off by, as a share of what they may."""
    area, change = np.zeros(len(shown)), np.zeros(together.shape[0])
    for k, corner in enumerate(shown):
        if corner.explains <= CLEAR * level * corner.whole**0.5:
            continue
        asked = np.bincount(corner.unknown, corner.by, together.shape[0])
        near = _beside(together, np.unique(corner.unknown[corner.unknown < moving]), moving)
        instead = np.linalg.solve(_part_of(together, near), asked[near])
        # What the unknowns cannot explain in its place.
        own = corner.whole - asked[near] @ instead
        if own > 0 and corner.explains > SURE * level * own**0.5:
            area[k] = corner.explains / own
            change[near] -= instead * area[k]
    return area, change


def _beside(together: csc_array, unknown: np.ndarray, moving: int) -> np.ndarray:
    """The unknowns that share a block with one of these, and move the path; and they."""
    rows = [together.indices[together.indptr[n] : together.indptr[n + 1]] for n in unknown]
    every = np.unique(np.concatenate(rows)) if rows else unknown
    return every[every < moving]


def _part_of(together: csc_array, near: np.ndarray) -> np.ndarray:
    """The rows and columns of some unknowns, which are in order, as a matrix of its own."""
    first, last = together.indptr[near], together.indptr[near + 1]
    of = np.repeat(np.arange(len(near)), last - first)
    at = np.arange(len(of)) + np.repeat(first - np.cumsum(last - first) + last - first, last - first)
    row = np.searchsorted(near, together.indices[at])
    there = near[np.minimum(row, len(near) - 1)] == together.indices[at]
    part = np.zeros((len(near), len(near)))
    part[row[there], of[there]] = together.data[at[there]]
    return part


def bevelled(path: Path, corners: Sharp, deep: np.ndarray) -> Path:
    """The path with corners cut off so deep (K,), in what the path is measured in; zeros for those that stay."""
    from ..geometry.kernels.spans import sub_controls

    arms = np.stack(
        [
            path.ctrl[corners.segment, 2] - path.ctrl[corners.segment, 3],
            path.ctrl[corners.following, 1] - path.ctrl[corners.following, 0],
        ]
    )
    # A cubic leaves its end three times as fast as its handle is long.
    shares = deep / np.cos(corners.half) / np.maximum(3 * np.hypot(arms[..., 0], arms[..., 1]), 1e-12)
    cut = (deep > 0) & (shares <= LONGEST_SHARE).all(axis=0)
    if not cut.any():
        return path
    before, after = corners.segment[cut], corners.following[cut]
    every = np.arange(path.segment_count)
    span = np.tile([0.0, 1.0], (len(every), 1))
    span[before, 1], span[after, 0] = 1 - shares[0, cut], shares[1, cut]
    ends = points_at(path, np.repeat(every, 2), span.ravel()).reshape(-1, 2, 2)
    ctrl = sub_controls(path.ctrl, path.kind, every, span, ends)
    # Each bevel goes on from the segment before its corner.
    count = 1 + np.isin(every, before)
    rows = np.repeat(every, count)
    new = np.flatnonzero(np.diff(rows, prepend=-1) == 0)
    made, kind, bulge = ctrl[rows], path.kind[rows], path.bulge[rows]
    made[new] = line_controls(ctrl[rows[new], 3], ctrl[following_of(path)[rows[new]], 0])
    kind[new] = LINE
    return Path(made, kind, bulge, np.concatenate([[0], np.cumsum(count)])[path.start], path.closed)
