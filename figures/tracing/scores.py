"""How far traced lines lie from the truth: exact closest points on the curves themselves, both ways."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.sparse.csgraph import connected_components
from scipy.spatial import KDTree

from hakobu.geometry import CUBIC, LINE, Path, flatten
from hakobu.geometry.nodes import end_directions, nodes_of
from hakobu.geometry.proximity.places import Places

from .pictures import SAMPLES, clean

#: Points along a line, in pixels.
EVERY_PX = 0.25
#: A node turns like a corner from here on; one is looked for no farther off than this, in pixels.
CORNER_DEGREES, FOUND_PX = 26.0, 2.0
FALSE_DEGREES = 20.0


def apart(a: Path, b: Path) -> np.ndarray:
    """Distances of points all along each of two paths from the other."""
    one, other = flatten(a, 0.0005, EVERY_PX).points, flatten(b, 0.0005, EVERY_PX).points
    return np.concatenate([Places(b).nearest(one).distance, Places(a).nearest(other).distance])


def corners(path: Path, least_degrees: float) -> np.ndarray:
    """Where closed outlines turn by at least so much, (N, 2)."""
    leaving, arriving = end_directions(path)
    before = np.arange(path.segment_count) - 1
    before[path.start[:-1]] = path.start[1:] - 1
    a, b = arriving[before], leaving
    turn = np.abs(np.arctan2(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0], (a * b).sum(axis=1)))
    return nodes_of(path).points[: path.segment_count][np.degrees(turn) >= least_degrees]


@dataclass(frozen=True)
class Corners:
    """How far each that was found is off, (N,); how many were missed; how many are none; how many there are."""

    off: np.ndarray
    missed: int
    false: int
    known: int


def apart_enough(known: np.ndarray) -> np.ndarray:
    """Corners with those nearer together than they are looked for put into one."""
    if not len(known):
        return known
    tree = KDTree(known)
    _, label = connected_components(tree.sparse_distance_matrix(tree, FOUND_PX))
    return np.array([known[label == k].mean(axis=0) for k in range(label.max() + 1)])


def corner_scores(truth: Path, made: Path, soft_degrees: float = 8.0) -> Corners:
    """False are those that turn sharply where the truth does not turn at all. Corners of the truth too near together
    to be told apart are one, in their middle."""
    known, found = apart_enough(corners(truth, CORNER_DEGREES)), corners(made, FALSE_DEGREES)
    soft = corners(truth, soft_degrees)
    off = KDTree(found).query(known)[0] if len(found) and len(known) else np.full(len(known), np.inf)
    near = KDTree(soft).query(found)[0] if len(soft) and len(found) else np.full(len(found), np.inf)
    there = off <= FOUND_PX
    return Corners(off[there], int((~there).sum()), int((near > FOUND_PX).sum()), len(known))


def coverage_iou(truth: Path, made: Path, side: int) -> float:
    """Intersection over union of the area covered, both drawn alike."""
    a, b = 1 - clean(truth, side), 1 - clean(made, side)
    return float(np.minimum(a, b).sum() / np.maximum(a, b).sum())


def curve_count(path: Path) -> int:
    """Curves of a path; whole circles of two arcs are two."""
    return int((path.kind != LINE).sum())


__all__ = ["CUBIC", "SAMPLES", "Corners", "apart", "corner_scores", "corners", "coverage_iou", "curve_count"]
