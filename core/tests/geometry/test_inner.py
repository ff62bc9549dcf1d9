"""The largest circle inside, an inner point, the middle line: closed forms and what trying finds."""

import math
import unittest

import numpy as np

from hakobu.geometry import Path, rotation, scaling, transform
from hakobu.geometry.boolean import difference, union
from hakobu.geometry.inner import inner_point, largest_circle, medial_axis
from hakobu.geometry.proximity.places import Places

from ..fonts import glyph
from ..shapes import circle
from .curves import flower, polygon, regular
from .degenerate import box


class LargestCircle(unittest.TestCase):
    def test_closed_forms(self):
        right = polygon((0, 0), (8, 0), (0, 6))
        for shape, radius in (
            (box(3, 4, 10, 10), 5),
            (circle(1, 2, 3), 3),
            (right, 2),
            (regular(7), 10 * math.cos(math.pi / 7)),
        ):
            made = largest_circle(transform(shape, rotation(0.4)))
            self.assertAlmostEqual(made.radius, radius, places=6)

    def test_an_l_has_it_in_its_corner(self):
        made = largest_circle(polygon((0, 0), (10, 0), (10, 4), (4, 4), (4, 10), (0, 10)))
        # Touching both outer sides and the inner corner at (4, 4): r = (4 - r) 2^(1/2) + ... = 8 - 4 * 2^(1/2).
        self.assertAlmostEqual(made.radius, 8 - 4 * 2**0.5, places=6)

    def test_an_island_is_in_the_way(self):
        made = largest_circle(difference(circle(0, 0, 10), circle(0, 0, 4)).path)
        self.assertAlmostEqual(made.radius, 3, places=5)

    def test_no_place_tried_has_more_room(self):
        random = np.random.default_rng(1)
        for seed in range(8):
            shape = union(flower(seed)).path
            made, places = largest_circle(shape), Places(shape)
            points = random.uniform(-15, 15, (20_000, 2))
            points = points[places.contains(points)]
            self.assertGreaterEqual(made.radius * 1.0011, float(places.nearest(points).distance.max()))
            self.assertAlmostEqual(float(places.nearest(made.centre[None]).distance[0]), made.radius, places=9)
            self.assertTrue(places.contains(made.centre[None])[0])

    def test_a_long_thin_strip(self):
        self.assertAlmostEqual(largest_circle(box(0, 0, 1000, 0.01)).radius, 0.005, places=6)

    def test_what_has_no_inside_has_none(self):
        self.assertIsNone(largest_circle(Path.concatenate([])))
        self.assertIsNone(largest_circle(polygon((0, 0), (5, 5))))

    def test_inner_points_of_letters_are_inside(self):
        for name in ("o", "g", "percent", "i"):
            shape = transform(glyph("serif", name), scaling(0.02))
            self.assertTrue(Places(shape).contains(inner_point(shape)[None])[0])


class MiddleLine(unittest.TestCase):
    def test_a_strip_has_its_middle(self):
        made = medial_axis(box(0, 0, 20, 2), 0.1)
        straight = (made.points[:, 0] > 1.1) & (made.points[:, 0] < 18.9)
        self.assertLess(float(np.abs(made.points[straight, 1] - 1).max()), 1e-6)
        self.assertAlmostEqual(float(made.radius.max()), 1.0, places=6)
        # From one end's to the other's, where it forks towards the corners.
        self.assertLess(float(made.points[:, 0].min()), 1.1)
        self.assertGreater(float(made.points[:, 0].max()), 18.9)

    def test_a_ring_has_one_closed_middle(self):
        made = medial_axis(difference(circle(0, 0, 10), circle(0, 0, 8)).path, 0.1)
        np.testing.assert_allclose(np.hypot(*made.points.T), 9, atol=0.003)
        self.assertEqual(len(made.edge), len(made.points))
        self.assertTrue((np.bincount(made.edge.ravel()) == 2).all())

    def test_an_l_turns_and_its_places_face_each_other(self):
        made = medial_axis(polygon((0, 0), (10, 0), (10, 4), (4, 4), (4, 10), (0, 10)), 0.1)
        self.assertAlmostEqual(float(made.radius.max()), 8 - 4 * 2**0.5, delta=0.01)
        middle = made.touch.mean(axis=1)
        self.assertLess(float(np.hypot(*(middle - made.points[made.edge[:, 0]]).T).max()), 3)

    def test_nothing_has_none(self):
        self.assertEqual(len(medial_axis(Path.concatenate([]), 0.1).points), 0)
