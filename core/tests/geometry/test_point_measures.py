"""What is measured on points, against shapes that are known and numpy's polynomials."""

import unittest

import numpy as np
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from hakobu.geometry.kernels.point_measures import (
    circle_through,
    off_chord,
    parabola_at,
    tangent_at,
    tangent_where_closed,
    ways_to,
)

SEEDS = st.integers(0, 100_000)


def on_circle(radius: float, begin: float, turn: float, count: int, middle=(3.0, -7.0)) -> np.ndarray:
    angle = np.linspace(begin, begin + turn, count)
    return np.array(middle) + radius * np.stack([np.cos(angle), np.sin(angle)], axis=1)


def ways(points: np.ndarray) -> np.ndarray:
    run = np.empty(len(points))
    ways_to(points, run)
    return run


class Ways(unittest.TestCase):
    @given(SEEDS, st.integers(1, 30))
    @settings(max_examples=30)
    def test_are_the_lengths_up_to_each(self, seed, count):
        points = np.random.default_rng(seed).normal(0, 5, (count, 2))
        expected = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
        np.testing.assert_allclose(ways(points), expected, atol=1e-9)


class Chords(unittest.TestCase):
    @given(SEEDS, st.integers(3, 20))
    @settings(max_examples=60)
    def test_the_farthest_off_is_shapelys(self, seed, count):
        points = np.random.default_rng(seed).normal(0, 5, (count, 2))
        chord = shapely.LineString(points[[0, -1]])
        expected = max(chord.distance(shapely.Point(point)) for point in points[1:-1])
        self.assertAlmostEqual(off_chord(points, 0, count - 1), expected, places=9)

    def test_of_a_chord_without_length_it_is_the_way_from_it(self):
        points = np.array([[1.0, 1.0], [4.0, 5.0], [1.0, 1.0]])
        self.assertAlmostEqual(off_chord(points, 0, 2), 5.0)


class Parabolas(unittest.TestCase):
    @given(SEEDS, st.integers(6, 25), st.sampled_from((0.0, 0.1)))
    @settings(max_examples=60)
    def test_are_numpys_polynomials_over_the_way(self, seed, count, noise):
        random = np.random.default_rng(seed)
        points = on_circle(random.uniform(20, 80), random.uniform(0, 6), random.uniform(0.2, 1), count)
        points = np.ascontiguousarray(points + random.normal(0, noise, points.shape))
        run, i = ways(points), int(random.integers(1, count - 1))
        fits, x, y, ux, uy = parabola_at(points, run, i, 0, count - 1, 1e6)
        self.assertTrue(fits)
        for axis, (place, slope) in enumerate(((x, ux), (y, uy))):
            expected = np.polynomial.polynomial.polyfit(run - run[i], points[:, axis], 2)
            self.assertAlmostEqual(place, expected[0], places=7)
            self.assertAlmostEqual(slope, expected[1], places=7)

    @given(SEEDS, st.floats(0.01, 0.4))
    @settings(max_examples=60)
    def test_fit_where_all_points_lie_within_the_tolerance(self, seed, tolerance):
        random = np.random.default_rng(seed)
        points = on_circle(40, 0, 0.6, 15) + random.normal(0, 0.1, (15, 2))
        run = ways(points)
        fitted = [np.polynomial.polynomial.polyfit(run - run[7], points[:, axis], 2) for axis in (0, 1)]
        off = np.hypot(*(np.polynomial.polynomial.polyval(run - run[7], np.array(fitted).T) - points.T))
        assume(abs(off.max() - tolerance) > 1e-6)
        self.assertEqual(parabola_at(points, run, 7, 0, 14, tolerance)[0], bool(off.max() < tolerance))

    def test_few_points_tell_nothing(self):
        points = on_circle(40, 0, 0.6, 4)
        self.assertFalse(parabola_at(points, ways(points), 2, 0, 3, 1e6)[0])


class Tangents(unittest.TestCase):
    @given(st.floats(20, 200), st.floats(0, 6), st.integers(30, 90))
    @settings(max_examples=40)
    def test_of_a_circle_are_square_to_its_radius(self, radius, begin, count):
        points = on_circle(radius, begin, 1.5, count, (0.0, 0.0))
        i, tangent = count // 2, np.zeros(2)
        before = points[i].copy()
        tangent_at(points, ways(points), i, 0.05, tangent)
        self.assertAlmostEqual(float(np.hypot(*tangent)), 1.0, places=9)
        self.assertLess(abs(float(tangent @ before)) / radius, 1e-3)
        self.assertLess(np.hypot(*(points[i] - before)), 0.05)

    def test_noise_in_one_point_is_no_bend(self):
        points = np.stack([np.arange(60.0), np.zeros(60)], axis=1)
        points[30, 1] = 0.04
        tangent = np.zeros(2)
        tangent_at(points, ways(points), 30, 0.05, tangent)
        self.assertLess(abs(tangent[1]), 0.005)
        # Of a parabola through seven points a third of what one of them is off shows in their middle.
        self.assertAlmostEqual(points[30, 1], 0.04 / 3, places=5)

    def test_at_a_corner_the_neighbours_tell(self):
        points = np.array([[0.0, 0], [5, 0], [10, 0], [10, 5], [10, 10]])
        tangent = np.zeros(2)
        tangent_at(points, ways(points), 2, 0.01, tangent)
        np.testing.assert_allclose(tangent, np.array([1, 1]) / np.sqrt(2), atol=1e-9)

    @given(st.floats(0, 6), st.integers(24, 80))
    @settings(max_examples=30)
    def test_where_a_row_closes_both_ends_are_one_and_have_one_direction(self, begin, count):
        points = on_circle(50, begin, 2 * np.pi, count, (0.0, 0.0))
        tangent = np.zeros(2)
        tangent_where_closed(points, 0.3, tangent)
        np.testing.assert_array_equal(points[0], points[-1])
        expected = np.array([-np.sin(begin), np.cos(begin)])
        self.assertLess(np.hypot(*(tangent - expected)), 0.02)


class Circles(unittest.TestCase):
    @given(SEEDS, st.floats(0.5, 300), st.floats(1.0, 6.28), st.integers(5, 80))
    @settings(max_examples=60)
    def test_points_of_one_give_it_back(self, seed, radius, turn, count):
        middle = np.random.default_rng(seed).uniform(-100, 100, 2)
        x, y, found, off = circle_through(on_circle(radius, 0.3, turn, count, middle))
        np.testing.assert_allclose([x, y, found], [*middle, radius], rtol=1e-5, atol=1e-5 * radius)
        self.assertLess(off, 1e-5 * radius)

    def test_the_largest_distance_is_that_of_the_point_that_is_off(self):
        points = on_circle(20, 0, 2 * np.pi - 0.05, 200, (0.0, 0.0))
        points[50] *= 1.1
        x, y, radius, off = circle_through(points)
        self.assertAlmostEqual(off, float(np.abs(np.hypot(*(points - (x, y)).T) - radius).max()), places=9)
        self.assertAlmostEqual(off, 2.0, delta=0.05)

    def test_points_in_a_line_are_on_none(self):
        self.assertEqual(circle_through(np.stack([np.arange(9.0), 2 * np.arange(9.0)], axis=1))[3], np.inf)
