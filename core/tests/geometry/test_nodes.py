import unittest

from hakobu.geometry import PathBuilder, rotation, transform
from hakobu.geometry.nodes import nodes_of

from ..shapes import blob, circle, square


class Kinds(unittest.TestCase):
    def test_corners_of_a_square_and_none_of_a_circle(self):
        self.assertTrue(nodes_of(square()).corner.all())
        self.assertFalse(nodes_of(transform(circle(), rotation(0.4))).corner.any())

    def test_ends_of_an_open_line_are_corners_a_straight_run_is_smooth(self):
        builder = PathBuilder()
        builder.move_to((0.0, 0.0))
        builder.line_to((5.0, 0.0))
        builder.line_to((9.0, 0.0))
        self.assertEqual(nodes_of(builder.path()).corner.tolist(), [True, False, True])

    def test_a_line_into_its_arc(self):
        builder = PathBuilder()
        builder.move_to((0.0, 0.0))
        builder.line_to((10.0, 0.0))
        builder.elliptical_arc_to(5, 5, 0, False, True, (15.0, 5.0))
        builder.line_to((20.0, 5.0))
        self.assertEqual(nodes_of(builder.path()).corner.tolist(), [True, False, True, True])

    def test_a_handle_on_its_node_hands_its_direction_on(self):
        builder = PathBuilder()
        builder.move_to((0.0, 0.0))
        builder.line_to((10.0, 0.0))
        builder.cubic_to((10.0, 0.0), (15.0, 0.0), (20.0, 5.0))
        self.assertFalse(nodes_of(builder.path()).corner[1])

    def test_every_outline_has_its_nodes(self):
        path = blob()
        nodes = nodes_of(path)
        self.assertEqual([int((nodes.outline == k).sum()) for k in range(3)], [2, 3, 2])
