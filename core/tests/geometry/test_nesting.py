"""Which outlines lie in which, beside shapely's `contains_properly` (GEOS)."""

import unittest

import numpy as np
import shapely

from hakobu.geometry import Path, flatten
from hakobu.geometry.nesting import parents_of, shapes_of

from ..shapes import circle, square


class Nesting(unittest.TestCase):
    def test_an_island_in_a_hole_is_a_shape_of_its_own(self):
        path = Path.concatenate([square(20, 20, 10), square(0, 0, 100), square(10, 10, 40), circle(80, 80, 5)])
        self.assertEqual(parents_of(path).tolist(), [2, -1, 1, 1])
        self.assertEqual(shapes_of(path), [[0], [1, 2, 3]])

    def test_copies_crossings_and_open_lines_hold_nothing(self):
        open_line = Path.from_points(np.array([[1.0, 1.0], [5.0, 5.0]]), closed=False)
        path = Path.concatenate([square(0, 0, 10), square(0, 0, 10), square(20, 0, 10), open_line])
        self.assertEqual(parents_of(path).tolist(), [-1, -1, -1, -1])

    def test_many_random_circles_as_geos_has_them(self):
        random = np.random.default_rng(4)
        rings = [circle(*random.uniform(0, 100, 2), r) for r in random.lognormal(0.5, 1.0, 800)]
        path = Path.concatenate(rings)
        polygons = [shapely.Polygon(flatten(ring, 1e-4).outline(0)) for ring in rings]
        tree, area = shapely.STRtree(polygons), np.array([p.area for p in polygons])
        inner, outer = tree.query(polygons, predicate="within")
        expected = np.full(len(rings), -1)
        for k in range(len(rings)):
            around = outer[(inner == k) & (outer != k)]
            if len(around):
                expected[k] = around[area[around].argmin()]
        found = parents_of(path)
        crossing = {int(i) for pair in zip(*tree.query(polygons, predicate="overlaps"), strict=True) for i in pair}
        clear = np.array([k not in crossing for k in range(len(rings))])
        # Where circles cross, a place of one lies in the other or not; all others are as they are.
        np.testing.assert_array_equal(
            found[clear & ~np.isin(found, list(crossing))], expected[clear & ~np.isin(found, list(crossing))]
        )
        self.assertGreater(int((expected[clear] >= 0).sum()), 20)
