"""A dragged blade: its tip stays on the line, by a blade of the tests' own that follows its axis."""

from __future__ import annotations

import unittest

import numpy as np
from shapely import LineString, MultiLineString, points

from hakobu.geometry import Path, PathBuilder, flatten
from hakobu.geometry.nodes import end_directions
from hakobu.toolpaths.following import tips
from tests.shapes import blob, circle, square

from .worked import KNIFE, PLAIN, design, dragged, made


def lines(path: Path) -> MultiLineString:
    chords = flatten(path, 1e-4)
    return MultiLineString([LineString(chords.outline(k)) for k in range(len(path))])


class Tip(unittest.TestCase):
    def hold(self, document, offset: float, **values) -> None:
        found = made(document, KNIFE, blade_offset_mm=offset, **values)
        towards = end_directions(found.before.path)[0][0]
        ways = dragged(found.program.path, offset, towards)
        wanted = lines(found.before.path)
        for way in ways:
            self.assertLess(wanted.distance(points(way)).max(), 0.02)
        # And all of the line is cut.
        cut = MultiLineString([LineString(way) for way in ways])
        for k in range(len(found.before.path)):
            marks = flatten(found.before.path.take([k]), 0.01, 0.5).points
            self.assertLess(cut.distance(points(marks)).max(), 0.02)

    def test_it_stays_on_straight_lines_corners_arcs_and_curves(self):
        star = Path.from_points(np.array([(60, 20), (80, 90), (20, 45), (100, 45), (40, 90)], float), closed=True)
        for document, offset in (
            (PLAIN, 0.25),
            (design(blob().take([0, 1])), 0.75),
            (design(star), 0.25),
            (design(circle(50, 50, 3)), 0.75),
        ):
            with self.subTest(document.pieces[0].path, offset=offset):
                self.hold(document, offset, overcut_mm=0.5)

    def test_it_stays_there_from_run_to_run_and_with_leads(self):
        document = design(*[square(20 + 30 * k, 30 + 3 * k, 10 + k) for k in range(3)], circle(60, 120, 8))
        self.hold(document, 0.4, lead_in_mm=2.0, lead_out_mm=1.0, passes=2)

    def test_small_turns_have_no_arc(self):
        bent = Path.from_points(np.array([(20, 20), (60, 20), (99, 27)], float), closed=False)
        found = made(design(bent), KNIFE, blade_offset_mm=0.5)
        self.assertEqual(int((found.program.path.bulge != 0).sum()), 0)
        found = made(design(bent), KNIFE, blade_offset_mm=0.5, swivel_angle_deg=5.0)
        self.assertEqual(int((found.program.path.bulge != 0).sum()), 1)
        self.hold(design(bent), 0.5)


class Simulated(unittest.TestCase):
    def test_the_tip_runs_along_the_tractrix(self):
        """x = d (t - tanh t), y = d / cosh t, for an axis that runs along y = 0 (closed form, Huygens 1692)."""
        d, far = 2.0, 9.0
        axis = Path.from_points(np.array([(0.0, 0.0), (far, 0.0)]), closed=False)
        for share in (0.1, 0.4, 1.0):
            end = tips(axis, np.array([d]), np.array([0.0, -1.0])).ctrl[-1, 3]
            t = far / d
            self.assertTrue(np.allclose(end, (far - d * np.tanh(t), d / np.cosh(t)), atol=1e-9), share)

    def test_it_is_the_blade_of_the_tests(self):
        path = made(PLAIN, KNIFE, blade_offset_mm=0.5).program.path
        towards = np.array([1.0, 0.3])
        ours = tips(path, np.full(len(path), 0.5), towards)
        for k, way in enumerate(dragged(path, 0.5, towards)):
            self.assertLess(np.hypot(*(ours.ctrl[ours.start[k + 1] - 1, 3] - way[-1])), 1e-3)


class Told(unittest.TestCase):
    def test_bends_and_pieces_that_are_tighter_than_the_blade(self):
        found = made(design(circle(50, 50, 0.2)), KNIFE, blade_offset_mm=0.3)
        self.assertEqual([f.rule for f in found.findings], ["blade-tight"])
        self.assertIn("0.40 mm across", found.findings[0].message)
        builder = PathBuilder()
        builder.move_to((20.0, 20.0))
        builder.line_to((60.0, 20.0))
        builder.bulge_to(1.0, (60.0, 20.5))
        builder.line_to((20.0, 20.5))
        builder.bulge_to(1.0, (20.0, 20.0))
        builder.close()
        slot = builder.path()
        found = made(design(slot), KNIFE, blade_offset_mm=0.3)
        self.assertEqual([f.rule for f in found.findings], ["blade-tight"])
        self.assertIn("radius 0.25", found.findings[0].message)
        self.assertEqual(made(design(slot), KNIFE, blade_offset_mm=0.2).findings, ())
