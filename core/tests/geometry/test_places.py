"""Nearest places, windings, places by length and the centre of area, against closed forms and shapely."""

import math
import unittest

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import Path, flatten, rotation, scaling, transform, translation
from hakobu.geometry.measure import centre_of_area, lengths
from hakobu.geometry.proximity.places import Places, along

from ..shapes import blob, circle, square
from .curves import chord_winding, flower, painted, total_area

MANY = Path.concatenate([*(flower(s, 4 * s, -3 * s) for s in range(4)), circle(2, 2, 3), square(0, 0, 5), blob()])


class Nearest(unittest.TestCase):
    @given(st.integers(0, 10_000))
    @settings(max_examples=15)
    def test_as_near_as_shapely_says_of_fine_chords(self, seed):
        points = np.random.default_rng(seed).uniform(-30, 90, (40, 2))
        found = Places(MANY).nearest(points)
        chords = flatten(MANY, 2e-6)
        lines = shapely.MultiLineString([chords.outline(k) for k in range(len(chords)) if len(chords.outline(k)) > 2])
        np.testing.assert_allclose(found.distance, shapely.distance(shapely.points(points), lines), atol=2e-6)
        np.testing.assert_allclose(np.hypot(*(found.point - points).T), found.distance, atol=1e-9)
        np.testing.assert_array_equal(found.outline, MANY.outline_of[found.segment])

    def test_a_circle_from_its_centre_and_from_outside(self):
        found = Places(circle(0, 0, 10)).nearest(np.array([[0.0, 0.0], [13.0, 0.0], [0.0, -7.0]]))
        np.testing.assert_allclose(found.distance, (10, 3, 3))
        np.testing.assert_allclose(found.point[1:], [(10, 0), (0, -10)], atol=1e-12)

    def test_a_curve_that_turns_back_sharply_has_its_near_side_found(self):
        hook = Path(np.array([[(-1.2, -4.2), (-2.3, -7.9), (-3.8, -12.1), (-1.9, -7.5)]]), [1], [0], [0, 1], [False])
        t = np.linspace(0, 1, 101)
        p = flatten(hook, 1e-9)
        on = np.column_stack([np.interp(t, p.parameter, p.points[:, k]) for k in (0, 1)])
        self.assertLess(float(Places(hook).nearest(on).distance.max()), 1e-8)

    def test_nothing_is_near_nothing(self):
        found = Places(Path.concatenate([])).nearest(np.zeros((1, 2)))
        self.assertEqual((found.distance[0], found.segment[0]), (np.inf, -1))

    def test_a_point_that_is_no_number_is_refused(self):
        with self.assertRaisesRegex(ValueError, "not finite"):
            Places(MANY).nearest(np.array([[np.nan, 0]]))


class Windings(unittest.TestCase):
    @given(st.integers(0, 10_000))
    @settings(max_examples=15)
    def test_are_those_of_fine_chords(self, seed):
        shape = Path.concatenate([flower(seed), flower(seed + 1, 2, 1), circle(0, 0, 6), circle(1, 0, 3).reversed()])
        points = np.random.default_rng(seed).uniform(-14, 14, (80, 2))
        points = points[Places(shape).nearest(points).distance > 1e-3]
        chords = flatten(shape, 1e-4)
        expected = [chord_winding(chords, point) for point in points]
        np.testing.assert_array_equal(Places(shape).windings(points), expected)

    def test_on_a_level_with_nodes(self):
        # Rays through corners, along sides and through the ends of arcs.
        shape = Path.concatenate([square(0, 0, 10), circle(5, 5, 3)])
        points = np.array([[-1, 0], [-1, 10], [-1, 5], [5, 5], [2.5, 5], [1, 5], [9, 5], [11, 5.0]])
        np.testing.assert_array_equal(Places(shape).windings(points), [0, 0, 0, 2, 2, 1, 1, 0])

    def test_the_rules_differ_where_outlines_run_twice(self):
        twice = Path.concatenate([square(0, 0, 10), square(3, 3, 4)])
        points = np.array([[5.0, 5], [1, 1], [20, 5]])
        self.assertEqual(Places(twice).contains(points).tolist(), [True, True, False])
        self.assertEqual(Places(twice).contains(points, "evenodd").tolist(), [False, True, False])


class Along(unittest.TestCase):
    def test_a_quarter_of_a_circle_is_a_quarter_round(self):
        found = along(circle(0, 0, 10), 0, np.array([0, 5 * math.pi, 10 * math.pi, 15 * math.pi]))
        np.testing.assert_allclose(np.hypot(*found.point.T), 10)
        np.testing.assert_allclose((found.point * found.tangent).sum(axis=1), 0, atol=1e-9)
        np.testing.assert_allclose((found.point[:2] * found.point[1:3]).sum(axis=1), 0, atol=1e-9)

    def test_curves_by_fine_chords(self):
        path = flower(3)
        whole = float(lengths(path)[0])
        chords = flatten(path, 1e-8).points
        run = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(chords, axis=0).T))])
        wanted = np.linspace(0, whole, 23)
        expected = np.column_stack([np.interp(wanted, run, chords[:, k]) for k in (0, 1)])
        found = along(path, 0, wanted)
        np.testing.assert_allclose(found.point, expected, atol=1e-5)
        np.testing.assert_allclose(np.hypot(*found.tangent.T), 1)

    def test_before_and_beyond_are_the_ends(self):
        line = Path.from_points(np.array([[0.0, 0], [3, 0], [3, 4]]), closed=False)
        found = along(line, 0, np.array([-1.0, 3.0, 5.0, 99.0]))
        np.testing.assert_allclose(found.point, [(0, 0), (3, 0), (3, 2), (3, 4)])
        np.testing.assert_allclose(found.tangent, [(1, 0), (1, 0), (0, 1), (0, 1)])


class LevelWithNodes(unittest.TestCase):
    def test_a_ray_through_the_nodes_of_circles_counts_each_once(self):
        for gap in (0.045, 0.1, 0.3):
            pair = Path.concatenate([circle(30 - 10 - gap / 2, 30, 10), circle(30 + 10 + gap / 2, 30, 10)])
            for y in (30.0, np.nextafter(30.0, 31), np.nextafter(30.0, 29)):
                points = np.array([[30.0, y], [20, y], [40, y], [5, y], [60, y]])
                self.assertEqual(Places(pair).windings(points).tolist(), [0, 1, 1, 0, 0])

    def test_points_close_to_an_end_on_the_ray_lie_inside(self):
        """Just inside of where two arcs meet at the level of the point: the end is behind it."""
        for x, y, radius in ((40.0, 40.0, 30.0), (0.0, 0.0, 50.0), (1e4 / 3, -7.7, 2.1)):
            across = x + radius * np.linspace(-1, 1, 2003)[1:-1]
            inside = Places(circle(x, y, radius)).windings(np.column_stack([across, np.full(2001, y)]))
            np.testing.assert_array_equal(inside, 1)


class CentreOfArea(unittest.TestCase):
    def test_closed_forms(self):
        np.testing.assert_allclose(centre_of_area(circle(3, 4, 2)), (3, 4))
        np.testing.assert_allclose(centre_of_area(square(1, 2, 10)), (6, 7))
        ring = Path.concatenate([circle(0, 0, 4), circle(1, 0, 2).reversed()])
        np.testing.assert_allclose(centre_of_area(ring), (-4 / 12, 0), atol=1e-12)
        half = Path(circle(0, 0, 3).ctrl[:1], [2], [circle(0, 0, 3).bulge[0]], [0, 1], [False])
        self.assertAlmostEqual(abs(centre_of_area(half)[1]), 4 * 3 / (3 * math.pi))

    def test_is_none_where_there_is_no_area(self):
        self.assertIsNone(centre_of_area(Path.concatenate([])))
        self.assertIsNone(centre_of_area(Path.concatenate([square(), square().reversed()])))

    def test_of_curves_as_shapely_has_it_and_moved_with_them(self):
        from hakobu.geometry.boolean import union

        shape = union(flower(11)).path
        exact = painted(shape, chord_mm=1e-6).centroid
        np.testing.assert_allclose(centre_of_area(shape), (exact.x, exact.y), atol=1e-5)
        moved = transform(transform(transform(shape, rotation(0.7)), scaling(3)), translation(1e4, -5e3))
        self.assertAlmostEqual(total_area(moved) / 9, total_area(shape), 6)
        x, y = centre_of_area(shape)
        cos, sin = math.cos(0.7), math.sin(0.7)
        expected = (3 * (x * cos - y * sin) + 1e4, 3 * (x * sin + y * cos) - 5e3)
        np.testing.assert_allclose(centre_of_area(moved), expected, atol=1e-7)
