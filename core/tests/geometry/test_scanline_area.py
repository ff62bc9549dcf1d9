"""Painted areas against closed forms, under both fill rules."""

import math
import unittest

from hakobu.geometry import Path
from hakobu.geometry.scanline_area import painted_area

from ..shapes import circle, square

BOX = (-10.0, -10.0, 30.0, 30.0)


def painted(*fills) -> float:
    return painted_area(fills, BOX, 1e-4)


class Rules(unittest.TestCase):
    def test_one_inside_the_other(self):
        same_way = Path.concatenate([square(0, 0, 20), square(5, 5, 10)])
        other_way = Path.concatenate([square(0, 0, 20), square(5, 5, 10).reversed()])
        self.assertAlmostEqual(painted((same_way, "nonzero")), 400, 0)
        self.assertAlmostEqual(painted((same_way, "evenodd")), 300, 0)
        self.assertAlmostEqual(painted((other_way, "nonzero")), 300, 0)

    def test_a_copy_that_lies_on_its_original_cancels_it_or_not(self):
        twice = Path.concatenate([square(), square()])
        self.assertAlmostEqual(painted((twice, "nonzero")), 100, 0)
        self.assertAlmostEqual(painted((twice, "evenodd")), 0, 6)

    def test_several_fills_cover_together(self):
        # The lens of two circles of radius r at distance d: 2 r^2 acos(d / 2r) - d/2 sqrt(4 r^2 - d^2).
        radius, apart = 8.0, 6.0
        lens = 2 * radius**2 * math.acos(apart / 2 / radius) - apart / 2 * math.sqrt(4 * radius**2 - apart**2)
        both = painted((circle(5, 5, radius), "nonzero"), (circle(5 + apart, 5, radius), "nonzero"))
        self.assertAlmostEqual(both, 2 * math.pi * radius**2 - lens, 1)

    def test_open_outlines_are_painted_closed(self):
        three = Path.from_points([[0.0, 0], [20, 0], [20, 20]], closed=False)
        self.assertAlmostEqual(painted((three, "nonzero")), 200, 0)
