import unittest

import numpy as np

from hakobu.geometry import ARC, LINE, Path
from hakobu.geometry.path import line_controls

from ..shapes import blob, circle, square


class Boundary(unittest.TestCase):
    """What is no path is refused, and the error names the outline."""

    def refuse(self, words: str, ctrl, kind, bulge, start, closed) -> None:
        with self.assertRaisesRegex(ValueError, words):
            Path(ctrl, kind, bulge, start, closed)

    def test_a_number_that_is_not_finite(self):
        for bad in (np.nan, np.inf):
            lines = line_controls(np.array([[0.0, 0], [1, 0], [9, 9]]), np.array([[1.0, 0], [2, 0], [9, bad]]))
            self.refuse("outline 1 .*not finite", lines, [0, 0, 0], [0, 0, 0], [0, 2, 3], [False, False])

    def test_segments_that_do_not_meet(self):
        lines = line_controls(np.array([[0.0, 0], [2, 0]]), np.array([[1.0, 0], [3, 0]]))
        self.refuse("outline 0 .*does not start where", lines, [0, 0], [0, 0], [0, 2], [False])
        # The same two lines are fine as two outlines.
        self.assertEqual(len(Path(lines, [0, 0], [0, 0], [0, 1, 2], [False, False])), 2)

    def test_closed_by_name_only(self):
        line = line_controls(np.array([[0.0, 0]]), np.array([[1.0, 0]]))
        self.refuse("outline 0 is called closed", line, [0], [0], [0, 1], [True])

    def test_an_empty_outline(self):
        line = line_controls(np.array([[0.0, 0]]), np.array([[1.0, 0]]))
        self.refuse("outline 1 is empty", line, [0], [0], [0, 1, 1], [False, False])

    def test_bulges_that_do_not_fit(self):
        line = line_controls(np.array([[0.0, 0]]), np.array([[1.0, 0]]))
        self.refuse("bulge", line, [ARC], [1.5], [0, 1], [False])
        self.refuse("bulge", line, [LINE], [0.5], [0, 1], [False])


class Value(unittest.TestCase):
    def test_it_cannot_be_changed(self):
        path = square()
        with self.assertRaises(ValueError):
            path.ctrl[0, 0, 0] = 5
        with self.assertRaises(AttributeError):
            path.closed = [False]

    def test_it_does_not_follow_the_array_it_was_made_from(self):
        points = np.array([[0.0, 0], [1, 0], [1, 1]])
        path = Path.from_points(points, closed=True)
        points[0] = 99
        self.assertEqual(path.ctrl[0, 0].tolist(), [0, 0])

    def test_equal_paths_are_one_key(self):
        self.assertEqual(square(), square())
        self.assertEqual(len({square(), square(), square(side=11)}), 2)
        self.assertNotEqual(square(), square().reversed())

    def test_nothing_below_zero_is_nothing(self):
        self.assertEqual(Path.from_points([[0.0, 1], [2, 0.0]], False), Path.from_points([[-0.0, 1], [2, -0.0]], False))


class Parts(unittest.TestCase):
    def test_taking_and_joining_outlines_gives_the_whole_back(self):
        path = blob()
        self.assertEqual(Path.concatenate(path.outlines()), path)
        self.assertEqual(path.take([2, 0]).closed.tolist(), [False, True])
        self.assertEqual(len(Path.concatenate([])), 0)

    def test_twice_reversed_is_the_same(self):
        path = blob()
        self.assertEqual(path.reversed().reversed(), path)
        self.assertEqual(path.reversed().bulge[path.reversed().kind == ARC].tolist(), [0.5])

    def test_a_full_circle_counts_as_one_node(self):
        self.assertEqual(circle().node_counts.tolist(), [1])
        self.assertEqual(blob().node_counts.tolist(), [2, 3, 2])
        self.assertEqual(Path.concatenate([circle(), square()]).is_circle.tolist(), [True, False])

    def test_a_single_point_is_a_lone_node(self):
        lone = Path.from_points([[3.0, 4.0]], closed=False)
        self.assertEqual((len(lone), lone.segment_count), (1, 1))
        self.assertEqual(lone.ctrl[0].tolist(), [[3, 4]] * 4)
