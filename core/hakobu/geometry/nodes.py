"""Nodes of outlines: where they are, and whether the line turns there."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .path import ARC, CUBIC, Path

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
    ctrl = path.ctrl
    leaving, arriving = ctrl[:, 1] - ctrl[:, 0], ctrl[:, 3] - ctrl[:, 2]
    for i in (2, 3):
        still = (leaving == 0).all(axis=1)
        leaving[still] = ctrl[still, i] - ctrl[still, 0]
    for i in (1, 0):
        still = (arriving == 0).all(axis=1)
        arriving[still] = ctrl[still, 3] - ctrl[still, i]
    arc = path.kind == ARC
    half = 2 * np.arctan(path.bulge[arc])
    leaving[arc] = _turned(leaving[arc], -half)
    arriving[arc] = _turned(arriving[arc], half)
    return leaving, arriving


def _turned(vectors: np.ndarray, angle: np.ndarray) -> np.ndarray:
    cos, sin = np.cos(angle), np.sin(angle)
    return np.stack([vectors[:, 0] * cos - vectors[:, 1] * sin, vectors[:, 0] * sin + vectors[:, 1] * cos], axis=1)


def _angle(a: np.ndarray, b: np.ndarray) -> np.ndarray:
    return np.arctan2(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0], (a * b).sum(axis=1))
