"""Nodes of outlines: where they are, and whether the line turns there."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .path import CUBIC, Path

#: A node where the direction changes by less than this (about 1 degree) is smooth: a knife does not feel it.
SMOOTH_RADIANS = 0.0175
#: Between straight lines that stand for a curve, a node is a corner where they turn by more (common practice).
CORNER_RADIANS = 0.35


@dataclass(frozen=True)
class Nodes:
    """points (N, 2); corner (N,): whether the line turns there, ends of open lines count as corners; outline (N,)."""

    points: np.ndarray
    corner: np.ndarray
    outline: np.ndarray


def nodes_of(path: Path) -> Nodes:
    """One node at the start of each segment, and one at the end of each open outline."""
    if not len(path):
        return Nodes(np.zeros((0, 2)), np.zeros(0, bool), np.zeros(0, np.int64))
    leaving, arriving = end_directions(path)
    first, last = path.start[:-1], path.start[1:] - 1
    before = np.arange(path.segment_count) - 1
    before[first] = last
    turn = np.abs(_angle(arriving[before], leaving))
    corner = turn > SMOOTH_RADIANS
    corner[first[~path.closed]] = True
    open_ends = last[~path.closed]
    points = np.vstack([path.ctrl[:, 0], path.ctrl[open_ends, 3]])
    outline = np.concatenate([path.outline_of, path.outline_of[open_ends]])
    return Nodes(points, np.concatenate([corner, np.ones(len(open_ends), bool)]), outline)


def handles_of(path: Path) -> np.ndarray:
    """The handles of cubics (H, 2, 2): each from its node to its end. A handle that lies on its node is none."""
    ctrl = path.ctrl[path.kind == CUBIC]
    handles = np.concatenate([ctrl[:, :2], ctrl[:, :1:-1]])
    return handles[(handles[:, 0] != handles[:, 1]).any(axis=1)]


def end_directions(path: Path) -> tuple[np.ndarray, np.ndarray]:
    """Directions (M, 2) in which each segment leaves its first point and arrives at its last; nothing where it has no
    length. A handle that lies on its node hands the direction on to the next control point."""
    from .kernels.measures import directions_of

    return directions_of(path.ctrl, path.kind, path.bulge)


def turns_after(path: Path, following: np.ndarray) -> np.ndarray:
    """How much the line turns from each segment to the one that follows it (M,), in radians; 0 where none does."""
    leaving, arriving = end_directions(path)
    return np.where(following >= 0, _angle(arriving, leaving[np.maximum(following, 0)]), 0.0)


def _angle(a: np.ndarray, b: np.ndarray) -> np.ndarray:
    return np.arctan2(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0], a[:, 0] * b[:, 0] + a[:, 1] * b[:, 1])
