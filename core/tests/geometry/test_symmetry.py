"""Symmetry of shapes that have it, nearly have it, and have none."""

import unittest

import numpy as np

from hakobu.geometry import Path, compose, rotation, scaling, transform, translation
from hakobu.geometry.boolean import union
from hakobu.geometry.symmetry import mirror_axes, turned_symmetries

from ..fonts import glyph
from ..shapes import circle
from .curves import flower, polygon, regular
from .degenerate import box
from .offset_cases import spiked


class Mirrored(unittest.TestCase):
    def test_regular_polygons_have_as_many_axes_as_corners(self):
        for count in (3, 4, 5, 8):
            moved = transform(regular(count), compose(translation(30, -7), rotation(0.37)))
            axes = mirror_axes(moved, 1e-6)
            self.assertEqual(len(axes), count)
            for axis in axes:
                self.assertAlmostEqual(abs(np.linalg.det([axis.direction, axis.point - (30, -7)])), 0, places=6)

    def test_the_axis_of_a_shape_drawn_on_one_side_and_mirrored(self):
        for seed in (2, 5, 9):
            half = flower(seed, 6.0, 0.0)
            mirrored = transform(half, np.array([[-1.0, 0, 0], [0, 1.0, 0]]))
            both = transform(union(half, mirrored).path, compose(translation(3, 4), rotation(0.6)))
            axis = mirror_axes(both)[0]
            self.assertLess(axis.error_mm, 1e-6)
            self.assertAlmostEqual(abs(float(axis.direction @ (-np.sin(0.6), np.cos(0.6)))), 1, places=9)

    def test_the_error_is_how_far_a_part_is_off(self):
        # A tab on one side stands out by 0.2 mm more than the one opposite.
        shape = union(box(-5, 0, 10, 20), box(4, 8, 2.2, 1), box(-6, 8, 2, 1)).path
        axis = mirror_axes(shape)[0]
        self.assertGreater(axis.error_mm, 0.1)
        self.assertLess(axis.error_mm, 0.21)
        self.assertLess(axis.mean_mm, axis.error_mm / 2)
        self.assertEqual(mirror_axes(shape, 0.05), [])

    def test_letters(self):
        # The A of the sans face is mirrored but for 0.05 mm at 20 mm; an F is not.
        self.assertLess(mirror_axes(transform(glyph("sans", "A"), scaling(0.02)))[0].error_mm, 0.06)
        self.assertGreater(mirror_axes(transform(glyph("sans", "F"), scaling(0.02)))[0].error_mm, 1.0)

    def test_what_has_no_size_is_refused(self):
        for path in (Path.concatenate([]), Path.from_points(np.array([[1.0, 1.0]]), closed=False)):
            with self.assertRaises(ValueError):
                mirror_axes(path)


class Turns(unittest.TestCase):
    def test_regular_polygons_and_stars(self):
        for count in (3, 5, 6, 12):
            found = turned_symmetries(transform(spiked(count, 6, 10), translation(5, 9)), 1e-6)
            self.assertEqual(found[0].order, count)
            self.assertEqual([one.order for one in found], [n for n in range(count, 1, -1) if count % n == 0])
            np.testing.assert_allclose(found[0].centre, (5, 9), atol=1e-6)

    def test_a_circle_is_turned_by_any_order_and_an_l_by_none(self):
        self.assertEqual(turned_symmetries(circle(1, 2, 3), 1e-6)[0].order, 36)
        self.assertEqual(turned_symmetries(polygon((0, 0), (9, 0), (9, 2), (2, 2), (2, 9), (0, 9)), 0.1), [])

    def test_a_pinwheel_is_turned_but_not_mirrored(self):
        blade = polygon((0, 0), (8, 1), (8, 5), (1, 1.5))
        wheel = union(*(transform(blade, rotation(k * np.pi / 2)) for k in range(4))).path
        self.assertEqual(turned_symmetries(wheel, 1e-6)[0].order, 4)
        self.assertEqual(mirror_axes(wheel, 0.05), [])

    def test_nearly(self):
        shape = union(spiked(6, 6, 10), box(9, -0.3, 1.3, 0.6)).path
        self.assertEqual(turned_symmetries(shape, 0.02), [])
        self.assertEqual(turned_symmetries(shape, 0.6)[0].order, 6)
