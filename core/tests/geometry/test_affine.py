import math
import unittest

import numpy as np

from hakobu.geometry import (
    ARC,
    CUBIC,
    IDENTITY,
    SegmentIndex,
    area,
    compose,
    flatten,
    rotation,
    scaling,
    transform,
    translation,
)

from ..shapes import blob, circle

SHEAR = np.array([[1.0, 0.4, 0.0], [0.1, 1.0, 0.0]])


class Arcs(unittest.TestCase):
    def test_a_similarity_keeps_them_a_mirror_turns_them(self):
        arcs = blob().kind == ARC
        for matrix, sign in ((rotation(1.1), 1), (scaling(3), 1), (scaling(-1, 1), -1), (translation(5, 6), 1)):
            moved = transform(blob(), matrix)
            np.testing.assert_array_equal(moved.kind, blob().kind)
            np.testing.assert_allclose(moved.bulge[arcs], blob().bulge[arcs] * sign)

    def test_any_other_map_makes_cubics_within_a_ten_thousandth(self):
        for radius in (0.5, 10.0, 400.0):
            moved = transform(circle(0, 0, radius), SHEAR)
            self.assertEqual(set(moved.kind.tolist()), {CUBIC})
            angle = np.linspace(0, 2 * math.pi, 5000)
            truth = radius * np.stack([np.cos(angle), np.sin(angle)], axis=1) @ SHEAR[:, :2].T
            apart, _ = SegmentIndex(flatten(moved, 1e-5), radius / 50).nearest(truth)
            self.assertLessEqual(apart.max(), 1.2e-4)


class Composition(unittest.TestCase):
    def test_one_after_the_other_is_the_product(self):
        outer, inner = compose(rotation(0.7), translation(3, 4)), scaling(2, 0.5)
        twice = transform(transform(blob(), inner), outer)
        once = transform(blob(), compose(outer, inner))
        # Arcs became cubics at different stages; the places are the same.
        a, b = flatten(twice, 0.001), flatten(once, 0.001)
        self.assertLess(SegmentIndex(a, 0.1).nearest(b.points)[0].max(), 0.0015)

    def test_the_identity_changes_nothing(self):
        self.assertEqual(transform(blob(), IDENTITY), blob())

    def test_area_grows_by_the_determinant(self):
        path = blob().outline(0)
        self.assertAlmostEqual(area(transform(path, SHEAR)), area(path) * np.linalg.det(SHEAR[:, :2]), 9)
