"""Times by trapezoidal speeds, against worked examples."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from hakobu.geometry import Path
from hakobu.model import Treatment
from hakobu.toolpaths import estimate, lines_of
from hakobu.toolpaths.estimate import run_clock
from hakobu.toolpaths.kernels.motion import trapezoid
from tests.shapes import circle, square

from .worked import KNIFE, design, made

PLAIN = replace(KNIFE, speed_mm_s=50.0, travel_speed_mm_s=200.0, acceleration_mm_s2=500.0, lift_s=0.1, change_s=7.0)


class Trapezoid(unittest.TestCase):
    def test_worked_examples(self):
        """h = 10, v_max = 10, a = 10: 2 s, with a top of one instant; h = 30: 1 s up, 2 s level, 1 s down (examples in
        the manner of Biagiotti and Melchiorri 2008, section 3.2.1)."""
        self.assertAlmostEqual(trapezoid(10.0, 0.0, 0.0, 10.0, 10.0), 2.0)
        self.assertAlmostEqual(trapezoid(30.0, 0.0, 0.0, 10.0, 10.0), 4.0)
        # A triangle: half way up to sqrt(a h), and down.
        self.assertAlmostEqual(trapezoid(2.5, 0.0, 0.0, 10.0, 10.0), 2 * np.sqrt(2.5 / 10.0))
        # From 5 to 5 over 7.5: up 0.5 s and 3.75 mm, down alike.
        self.assertAlmostEqual(trapezoid(7.5, 5.0, 5.0, 10.0, 10.0), 1.0)


class Programs(unittest.TestCase):
    def test_a_straight_line(self):
        line = Path.from_points(np.array([(0.0, 200.0), (100.0, 200.0)]), closed=False)
        found = estimate(made(design(line), PLAIN).program)
        # 0.1 s and 2.5 mm up to speed and down, 95 mm at 50 mm/s; a fall and a lift.
        self.assertAlmostEqual(found.seconds, 0.1 + 95 / 50 + 0.1 + 0.2, places=6)
        self.assertEqual((found.line_mm, found.travel_mm, found.lifts), (100.0, 0.0, 1))

    def test_travel_is_at_its_own_speed(self):
        line = Path.from_points(np.array([(200.0, 200.0), (210.0, 200.0)]), closed=False)
        found = estimate(made(design(line), PLAIN).program)
        # 200 mm: 0.4 s and 40 mm up to 200 mm/s, and down.
        self.assertAlmostEqual(float(found.travel[0]), 0.4 + 120 / 200 + 0.4, places=6)

    def test_a_circle_is_run_as_fast_as_its_pull_allows(self):
        radius = 2.0
        found = estimate(made(design(circle(50, 50, radius)), replace(PLAIN, format="gcode")).program)
        speed = np.sqrt(500.0 * radius)
        expected = 2 * speed / 500 + (2 * np.pi * radius - speed**2 / 500) / speed
        self.assertAlmostEqual(float(found.run[0]) - 0.2, expected, places=6)

    def test_corners_cost_time_and_slow_corners_more(self):
        times = [
            estimate(made(design(path), PLAIN, **values).program).seconds
            for path, values in (
                (circle(50, 50, 120 / 2 / np.pi), {}),
                (square(35, 35, 30), {}),
                (square(35, 35, 30), {"corner_percent": 20.0, "corner_mm": 3.0}),
                (square(35, 35, 30), {"passes": 2}),
            )
        ]
        self.assertEqual(sorted(times), times)

    def test_smooth_joints_cost_nothing(self):
        """A line in one piece and in many takes the same time."""
        one = Path.from_points(np.array([(0.0, 200.0), (100.0, 200.0)]), closed=False)
        many = Path.from_points(np.column_stack([np.linspace(0, 100, 501), np.full(501, 200.0)]), closed=False)
        times = [estimate(made(design(path), PLAIN).program).seconds for path in (one, many)]
        self.assertAlmostEqual(*times, places=6)

    def test_changes_of_tools(self):
        both = replace(design(square(20, 20, 10), square(60, 20, 10)))
        layers = (replace(both.layers[0]), replace(both.layers[0], id="d", treatment=Treatment.DRAW))
        pieces = (both.pieces[0], replace(both.pieces[1], layer="d"))
        document = replace(both, layers=layers, pieces=pieces)
        self.assertEqual(estimate(made(document, PLAIN).program).changes, 1)
        one = estimate(made(document, replace(PLAIN, pens=1)).program)
        self.assertEqual(one.changes, 0)
        self.assertAlmostEqual(estimate(made(document, PLAIN).program).seconds - one.seconds, 7.0, places=6)

    def test_the_clock_runs_through_every_run(self):
        program = made(design(square(20, 20, 30), circle(90, 60, 12)), PLAIN, overcut_mm=1.0).program
        found = estimate(program)
        path = lines_of(program)
        clock = run_clock(program, path, found, 0.01)
        from hakobu.geometry import flatten

        start = flatten(path, 0.01).start
        for k in range(len(program)):
            own = clock[start[k] : start[k + 1]]
            self.assertTrue((np.diff(own) >= -1e-9).all())
            self.assertAlmostEqual(own[-1] + 0.1, float(found.run[k]), places=5)
