"""What is truly at a distance, found by trying: points off the curves along their normals and about their corners, of
which those stay that nothing else comes nearer to."""

from __future__ import annotations

import unittest

import numpy as np

from hakobu.geometry import Path, flatten
from hakobu.geometry.intersect import meetings
from hakobu.geometry.kernels.curves import curves_at
from hakobu.geometry.nodes import end_directions
from hakobu.geometry.proximity.chord_grid import curve_table
from hakobu.geometry.proximity.places import Places

#: How far a result may be from the true parallel, in mm, and any of that from the result.
OFF_MM, MISSING_MM = 0.003, 0.004
#: A point is as near as the distance where it is nearer by less, in mm.
AS_NEAR_MM = 1e-5
#: So much farther there must be room as well, in mm: where walls are exactly twice the distance apart nothing is left.
ROOM_MM = 2e-4


def beside(path: Path, left_mm: float, apart_mm: float = 0.02) -> np.ndarray:
    """Points (N, 2) to the left of the outlines, to the right where that is negative: beside places along them, and
    about each corner and, of open outlines, each end."""
    chords = flatten(path, 1e-4, longest_mm=apart_mm)
    place = curves_at(np.ascontiguousarray(chords.segment), chords.parameter, *curve_table(path))
    size = np.hypot(*place[:, 2:].T)
    place, size = place[size > 0], size[size > 0]
    tangent = place[:, 2:] / size[:, None]
    made = [place[:, :2] + left_mm * np.column_stack([tangent[:, 1], -tangent[:, 0]])]
    leaving, arriving = (d / np.maximum(np.hypot(*d.T), 1e-300)[:, None] for d in end_directions(path))
    before = np.arange(path.segment_count) - 1
    first, last = path.start[:-1], path.start[1:] - 1
    before[first] = last
    turn = np.arctan2(
        arriving[before, 0] * leaving[:, 1] - arriving[before, 1] * leaving[:, 0],
        (arriving[before] * leaving).sum(axis=1),
    )
    turn[first[~path.closed]] = 0.0
    for k in np.flatnonzero(turn * np.sign(left_mm) > 1e-6):
        made.append(_round(path.ctrl[k, 0], arriving[before[k]], turn[k], left_mm, apart_mm))
    for k in np.flatnonzero(~path.closed):
        half = np.copysign(np.pi, left_mm)
        made.append(_round(path.ctrl[last[k], 3], arriving[last[k]], half, left_mm, apart_mm))
        made.append(_round(path.ctrl[first[k], 0], -leaving[first[k]], half, left_mm, apart_mm))
    return np.concatenate(made)


def _round(centre: np.ndarray, direction: np.ndarray, turn: float, left_mm: float, apart_mm: float) -> np.ndarray:
    angle = np.linspace(0, turn, max(int(abs(turn) * np.round(abs(left_mm), 3) / apart_mm), 2))
    x = direction[0] * np.cos(angle) - direction[1] * np.sin(angle)
    y = direction[1] * np.cos(angle) + direction[0] * np.sin(angle)
    return centre + left_mm * np.column_stack([y, -x])


def truly_at(path: Path, distance_mm: float, side: str) -> np.ndarray:
    """Points at the distance of clean outlines, "out" of them, "in" them, or of "both" sides of lines."""
    places = Places(path)
    lefts = {"out": (distance_mm,), "in": (-distance_mm,), "both": (distance_mm, -distance_mm)}[side]
    points = np.concatenate([beside(path, left) for left in lefts])
    farther = np.concatenate([beside(path, left * (1 + ROOM_MM / distance_mm)) for left in lefts])
    room = places.nearest(farther).distance >= distance_mm + ROOM_MM - AS_NEAR_MM
    points = points[room & (places.nearest(points).distance >= distance_mm - AS_NEAR_MM)]
    return points if side == "both" else points[places.contains(points) == (side == "in")]


class DistanceCase(unittest.TestCase):
    def lies_at(self, made: Path, source: Path, distance_mm: float, side: str) -> None:
        """Closed, clean, at the distance all along, and nothing of the true contour missing."""
        self.assertTrue(made.closed.all())
        if made.segment_count:
            points = flatten(made, 1e-4, longest_mm=0.05).points
            off = np.abs(Places(source).nearest(points).distance - distance_mm)
            self.assertLess(float(off.max()), OFF_MM)
            met = meetings(made)
            inner = ((met.parameter > 1e-4) & (met.parameter < 1 - 1e-4)).all(axis=1) & ~met.touch
            self.assertEqual(int(inner.sum()), 0)
        true = truly_at(source, distance_mm, side)
        if len(true):
            self.assertGreater(made.segment_count, 0, f"all is missing, as at {true[0]}")
            missing = Places(made).nearest(true).distance
            self.assertLess(float(missing.max()), MISSING_MM, f"missing at {true[int(missing.argmax())]}")
