"""Measures against closed forms: circle, ellipse, parabola, polygons, Green's theorem."""

import math
import unittest

import numpy as np

from hakobu.geometry import Path, PathBuilder, area, bounds, length, scaling, signed_areas, transform, translation
from hakobu.geometry.arcs import QUARTER_ERROR, unit_arc_cubics
from hakobu.geometry.bezier import point_at
from hakobu.geometry.measure import outline_bounds

from ..shapes import blob, circle, square


def cubic(*points) -> Path:
    builder = PathBuilder()
    builder.move_to(points[0])
    builder.cubic_to(*points[1:])
    return builder.path()


class Circles(unittest.TestCase):
    def test_area_length_and_bounds(self):
        for radius in (1e-3, 1.0, 17.3, 1e5):
            path = circle(3, -2, radius)
            self.assertAlmostEqual(area(path) / (math.pi * radius**2), 1, 12)
            self.assertAlmostEqual(length(path) / (2 * math.pi * radius), 1, 12)
            np.testing.assert_allclose(bounds(path), (3 - radius, -2 - radius, 3 + radius, -2 + radius), rtol=1e-12)

    def test_arcs_are_bounded_by_what_they_pass(self):
        builder = PathBuilder()
        builder.move_to((1.0, 0.0))
        builder.bulge_to(math.tan(math.pi / 8), (0.0, 1.0))
        np.testing.assert_allclose(bounds(builder.path()), (0, 0, 1, 1), atol=1e-12)
        builder.bulge_to(math.tan(math.pi / 8), (-1.0, 0.0))
        np.testing.assert_allclose(bounds(builder.path()), (-1, 0, 1, 1), atol=1e-12)

    def test_the_cubic_of_a_quarter_circle_is_off_by_what_is_said(self):
        # Derived here: the largest radial error of the usual cubic, 0.0273 % (from memory: 2.7253e-4).
        quarter = unit_arc_cubics(0.0, math.pi / 2, 1)
        t = np.linspace(0, 1, 20001)
        radius = np.hypot(*point_at(np.repeat(quarter, len(t), axis=0), t).T)
        self.assertAlmostEqual(radius.max() - 1, QUARTER_ERROR, 8)
        self.assertGreaterEqual(radius.min(), 1 - 1e-12)


class Curves(unittest.TestCase):
    def test_length_of_a_parabola(self):
        # y = x^2 from 0 to 1 as a cubic; its length is (2 sqrt 5 + asinh 2) / 4.
        parabola = cubic((0.0, 0.0), (1 / 3, 0.0), (2 / 3, 1 / 3), (1.0, 1.0))
        self.assertAlmostEqual(length(parabola), (2 * math.sqrt(5) + math.asinh(2)) / 4, 9)

    def test_length_of_a_curve_that_turns_back_on_itself(self):
        # Along one line there and back: x(t) = 9 t (1-t)^2 - 9 t^2 (1-t) + ... measured by its extrema.
        cusp = cubic((0.0, 0.0), (3.0, 0.0), (-2.0, 0.0), (1.0, 0.0))
        t = np.linspace(0, 1, 2_000_001)
        x = point_at(np.repeat(cusp.ctrl, len(t), axis=0), t)[:, 0]
        self.assertAlmostEqual(length(cusp), float(np.abs(np.diff(x)).sum()), 6)

    def test_bounds_reach_the_extrema_not_the_handles(self):
        low, high = bounds(cubic((0.0, 0.0), (0.0, 4.0), (3.0, 4.0), (3.0, 0.0)))[1::2]
        self.assertEqual((low, round(high, 12)), (0.0, 3.0))

    def test_area_by_green_equals_the_polygon_of_many_chords(self):
        path = blob().outline(0)
        t = np.linspace(0, 1, 4001)
        points = np.vstack([point_at(np.repeat(path.ctrl[i : i + 1], len(t), axis=0), t) for i in range(2)])
        x, y = points.T
        shoelace = 0.5 * float((x[:-1] * y[1:] - x[1:] * y[:-1]).sum())
        self.assertAlmostEqual(area(path), shoelace, 4)

    def test_area_far_from_the_origin_keeps_its_digits(self):
        near, far = square(), transform(square(), translation(1e6, -1e6))
        self.assertAlmostEqual(area(near), area(far), 9)

    def test_direction_gives_the_sign(self):
        path = Path.concatenate([square(), square().reversed()])
        self.assertEqual(signed_areas(path).tolist(), [100, -100])

    def test_ellipse(self):
        path = transform(circle(0, 0, 1), scaling(30, 12))
        self.assertAlmostEqual(area(path), math.pi * 30 * 12, 2)
        np.testing.assert_allclose(bounds(path), (-30, -12, 30, 12), atol=1e-9)
        # Ramanujan's second formula for the perimeter, good to 1e-7 here.
        h = ((30 - 12) / (30 + 12)) ** 2
        perimeter = math.pi * 42 * (1 + 3 * h / (10 + math.sqrt(4 - 3 * h)))
        self.assertAlmostEqual(length(path), perimeter, 2)


class Outlines(unittest.TestCase):
    def test_bounds_of_each(self):
        path = Path.concatenate([square(), square(50, 60, 5)])
        self.assertEqual(outline_bounds(path).tolist(), [[0, 0, 10, 10], [50, 60, 55, 65]])

    def test_nothing_has_no_bounds(self):
        self.assertIsNone(bounds(Path.concatenate([])))
        self.assertEqual(length(Path.concatenate([])), 0)
