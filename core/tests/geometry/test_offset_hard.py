"""Hard cases by name: everywhere at the distance, nothing missing, as polygons have it where they are right."""

import numpy as np
import pyclipr

from hakobu.geometry import Path, flatten
from hakobu.geometry.boolean import union
from hakobu.geometry.measure import lengths, signed_areas
from hakobu.geometry.offset import around, offset

from .at_distance import DistanceCase
from .offset_cases import LINES, SHAPES

#: Chords for the polygons, in mm.
FINE_MM = 1e-4


def polygon_area(path: Path, distance_mm: float) -> float:
    """The area by polygons (pyclipr) of an offset with round joins."""
    work = pyclipr.ClipperOffset()
    work.scaleFactor = 10_000_000
    work.arcTolerance = FINE_MM * work.scaleFactor
    chords = flatten(path, FINE_MM)
    middle = path.ctrl.reshape(-1, 2).mean(axis=0)
    outlines = [chords.outline(k)[:-1] - middle for k in range(len(chords))]
    # All in one go: holes belong to what they are in.
    work.addPaths(outlines, pyclipr.JoinType.Round, pyclipr.EndType.Polygon)
    rings = [np.asarray(ring)[:, :2] for ring in work.execute(distance_mm)]
    return sum(float((r[:, 0] * np.roll(r[:, 1], -1) - np.roll(r[:, 0], -1) * r[:, 1]).sum()) / 2 for r in rings)


class Shapes(DistanceCase):
    def test_there_are_at_least_fifty(self):
        self.assertGreaterEqual(len(SHAPES) + len(LINES), 50)


class Lines(DistanceCase):
    pass


def _shape(path: Path, distance_mm: float):
    def test(self: Shapes) -> None:
        source = union(path).path
        made = offset(path, distance_mm=distance_mm)
        self.lies_at(made.path, source, abs(distance_mm), "out" if distance_mm > 0 else "in")
        # Within what a step of 0.003 mm along all of it is worth.
        allowed = 0.003 * float(lengths(made.path).sum()) + 1e-5
        self.assertAlmostEqual(float(signed_areas(made.path).sum()), polygon_area(source, distance_mm), delta=allowed)

    return test


def _line(path: Path, distance_mm: float):
    def test(self: Lines) -> None:
        made = around(path, distance_mm)
        self.lies_at(made.path, path, distance_mm, "both")
        self.assertGreater(float(signed_areas(made.path).sum()), 0)

    return test


for _cases, _case, _make in ((SHAPES, Shapes, _shape), (LINES, Lines, _line)):
    for _name, (_path, _distances) in _cases.items():
        for _distance in _distances:
            setattr(_case, f"test_{_name.replace(' ', '_')}_by_{_distance:g}", _make(_path, _distance))
