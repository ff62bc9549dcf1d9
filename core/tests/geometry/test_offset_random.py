"""Random shapes by a stated generator, grown and shrunk: flower k by six distances, or of a third its cubics as lines.

The usual run takes the first 60, the long one 1,000. Each result is everywhere at the distance, lacks nothing of what
truly is, and has every loop that the polygons of pyclipr have; where it has more, distances tell that they are real.
"""

import numpy as np
import pyclipr

from hakobu.geometry import Path, flatten
from hakobu.geometry.boolean import union
from hakobu.geometry.inner import largest_circle
from hakobu.geometry.measure import lengths, signed_areas
from hakobu.geometry.offset import offset
from hakobu.geometry.proximity.places import Places

from .. import LONG
from .at_distance import DistanceCase
from .curves import flower

PARTS = 10
SHAPES = 1000 if LONG else 60
DISTANCES = (0.3, 1.0, 2.5, -0.3, -1.0, -2.5)
CHORD_MM = 2e-4
#: Loops smaller than this in area, in mm2, come and go with the chords.
SPECK_MM2 = 1e-3


def shape_of(k: int) -> Path:
    path = flower(k)
    return Path.from_points(flatten(path, 0.05).points, closed=True) if k % 3 == 2 else path


def loops(path: Path, distance_mm: float) -> list[float]:
    """The areas of the loops that polygons give."""
    work = pyclipr.ClipperOffset()
    work.scaleFactor = 10_000_000
    work.arcTolerance = CHORD_MM * work.scaleFactor
    chords = flatten(path, CHORD_MM)
    outlines = [chords.outline(k)[:-1] for k in range(len(chords)) if len(chords.outline(k)) > 3]
    work.addPaths(outlines, pyclipr.JoinType.Round, pyclipr.EndType.Polygon)
    rings = [np.asarray(ring)[:, :2] for ring in work.execute(distance_mm)]
    return [float((r[:, 0] * np.roll(r[:, 1], -1) - np.roll(r[:, 0], -1) * r[:, 1]).sum()) / 2 for r in rings]


class Random(DistanceCase):
    def judge(self, part: int) -> None:
        for k in range(part, SHAPES, PARTS):
            source = union(shape_of(k)).path
            for d in DISTANCES:
                with self.subTest(shape=k, d=d):
                    made = offset(source, distance_mm=d).path
                    self.lies_at(made, source, abs(d), "out" if d > 0 else "in")
                    ours, theirs = signed_areas(made), np.array(loops(source, d))
                    # What is within the chords' and the fit's distance of all outlines.
                    room = 0.004 * float(lengths(made).sum()) + 0.01
                    self.assertAlmostEqual(float(ours.sum()), float(theirs.sum()), delta=room)
                    firm = [int((np.abs(areas) > SPECK_MM2).sum()) for areas in (ours, theirs)]
                    self.assertLessEqual(firm[1], firm[0])
                    if firm[0] > firm[1]:
                        self.are_real(made, source, d)

    def are_real(self, made: Path, source: Path, d: float) -> None:
        """Polygons now and then leave out a small hole: in the middle of each of ours the distance tells."""
        places = Places(source)
        for loop in made.outlines():
            area = float(signed_areas(loop)[0])
            if abs(area) > SPECK_MM2:
                circle = largest_circle(loop)
                away = float(places.nearest(circle.centre[None]).distance[0])
                away *= -1 if places.contains(circle.centre[None])[0] else 1
                self.assertEqual(away < d, area > 0)
                if area < 0:
                    # In a hole the distance grows as far as its rim is away.
                    self.assertGreater(away - d, circle.radius - 0.004)


def _part(part: int):
    def test(self: Random) -> None:
        self.judge(part)

    return test


for _part_number in range(PARTS):
    setattr(Random, f"test_part_{_part_number}_of_{PARTS}", _part(_part_number))
