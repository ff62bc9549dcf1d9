"""Corners far beyond the last place that is known of their sides are right only where there is ink all the way."""

import unittest

import numpy as np

from hakobu.tracing.corners.far_corners import drawn_back, without_mistakes

from ..pictures import rendered

#: A tip of 4 pixels at its base and 30 long, on a square.
TIP = '<path d="M40 60H80V100H40Z M58 60L60 30L62 60Z"/>'
LEVELS = np.array([[0.5, 0.0, 1.0]])
START = np.array([0, 7])


def outline(tip_y: float) -> np.ndarray:
    return np.array([(40, 60), (58, 60), (60, tip_y), (62, 60), (80, 60), (80, 100), (40, 100)], float)


class FarCorners(unittest.TestCase):
    CORNER = np.array([False, False, True, False, False, False, False])

    def test_one_with_ink_all_along_stays(self):
        grey = rendered(TIP, 160)
        points = outline(30.0)
        np.testing.assert_array_equal(drawn_back(grey, points, START, self.CORNER, LEVELS), points)

    def test_one_into_nothing_is_drawn_back(self):
        grey = rendered(TIP.replace("L60 30", "L60 57"), 160)
        moved = drawn_back(grey, outline(20.0), START, self.CORNER, LEVELS)
        self.assertGreater(moved[2, 1], 50.0)
        self.assertEqual(np.flatnonzero((moved != outline(20.0)).any(axis=1)).tolist(), [2])

    def test_a_tip_of_the_ground_in_ink_is_told_by_the_ground(self):
        points = outline(30.0)
        grey = 1 - rendered(TIP, 160)
        np.testing.assert_array_equal(drawn_back(grey, points, START, self.CORNER, LEVELS), points)

    def test_corners_that_change_the_area_are_left_out(self):
        known = np.array([(0, 0), (10, 0), (10, 10), (0, 10)], float)
        begin = np.array([0, 4])
        right = np.array([(0, 0), (5, -0.3), (10, 0), (10, 10), (0, 10)], float)
        wrong = np.array([(0, 0), (5, 8), (10, 0), (10, 10), (0, 10)], float)
        mark = np.array([False, True, False, False, False])
        for points, count in ((right, 5), (wrong, 4)):
            made, start, corner = without_mistakes(known, begin, points, np.array([0, 5]), mark)
            self.assertEqual((len(made), start.tolist(), len(corner)), (count, [0, count], count))
