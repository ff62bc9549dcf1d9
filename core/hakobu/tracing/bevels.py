"""Corners that a compressed picture shows cut off: a bevel too short to be seen takes a little ink away, or fills in a
little, where the sides would meet, and the blocks keep how much that is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ..geometry import Path
from ..geometry.nodes import end_directions
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
#: A side is not cut shorter than by this share.
LONGEST_SHARE = 0.8


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
    leaving, arriving = end_directions(path)
    tells = (path.kind != ARC) & (np.hypot(*(path.ctrl[:, 3] - path.ctrl[:, 0]).T) >= SHORTEST_SIDE_PX)
    before = np.flatnonzero((following >= 0) & tells & tells[following])
    after = following[before]
    into, out = arriving[before], leaving[after]
    turn = np.arctan2(into[:, 0] * out[:, 1] - into[:, 1] * out[:, 0], (into * out).sum(axis=1))
    low, high = np.radians(TURNS_DEGREES)
    sharp = (np.abs(turn) > low) & (np.abs(turn) < high)
    before, after, turn, inward = before[sharp], after[sharp], turn[sharp], (out - into)[sharp]
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
    ctrl, cut = path.ctrl.copy(), np.zeros(path.segment_count, bool)
    for k in np.flatnonzero(deep > 0):
        before, after = corners.segment[k], corners.following[k]
        long = deep[k] / np.cos(corners.half[k])
        arms = ctrl[before, 2] - ctrl[before, 3], ctrl[after, 1] - ctrl[after, 0]
        shares = [long / max(3 * np.hypot(*arm), 1e-12) for arm in arms]
        if max(shares) > LONGEST_SHARE:
            continue
        ctrl[before] = _first_part(ctrl[before], 1 - shares[0])
        ctrl[after] = _first_part(ctrl[after, ::-1], 1 - shares[1])[::-1]
        cut[before] = True
    if not cut.any():
        return path
    rows = np.repeat(np.arange(len(cut)), 1 + cut)
    new = np.flatnonzero(np.diff(rows, prepend=-1) == 0)
    every, kind, bulge = ctrl[rows], path.kind[rows], path.bulge[rows]
    own = rows[new]
    every[new] = line_controls(ctrl[own, 3], ctrl[following_of(path)[own], 0])
    kind[new] = LINE
    return Path(every, kind, bulge, np.concatenate([[0], np.cumsum(1 + cut)])[path.start], path.closed)


def _first_part(ctrl: np.ndarray, share: float) -> np.ndarray:
    """A cubic (4, 2) up to a parameter (de Casteljau)."""
    made = [ctrl[0]]
    while len(ctrl) > 1:
        ctrl = ctrl[:-1] + share * np.diff(ctrl, axis=0)
        made.append(ctrl[0])
    return np.array(made)
