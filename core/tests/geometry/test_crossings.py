"""Crossings, against shapely testing every pair."""

import unittest
from itertools import combinations

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import Path
from hakobu.geometry.crossings import crossings

from ..shapes import circle, square


def lines(seed: int, count: int, spread: float) -> Path:
    random = np.random.default_rng(seed)
    at = random.uniform(0, 100, (count, 1, 2))
    ends = at + random.normal(0, spread, (count, 2, 2))
    return Path.concatenate(Path.from_points(points, closed=False) for points in ends)


class Crossings(unittest.TestCase):
    @given(st.integers(0, 10_000), st.integers(2, 60), st.sampled_from((2.0, 15.0, 200.0)))
    @settings(max_examples=60, deadline=None)
    def test_are_those_that_shapely_finds(self, seed, count, spread):
        path = lines(seed, count, spread)
        found = crossings(path, np.zeros(count, np.int64))
        strings = [shapely.LineString(path.ctrl[k, [0, 3]]) for k in range(count)]
        expected = {pair for pair in combinations(range(count), 2) if strings[pair[0]].crosses(strings[pair[1]])}
        self.assertEqual({tuple(p) for p in found.outlines.tolist()}, expected)
        for (a, b), place in zip(found.outlines.tolist(), found.places, strict=True):
            self.assertLess(strings[a].intersection(strings[b]).distance(shapely.Point(place)), 1e-6)

    def test_only_outlines_of_one_group_are_compared(self):
        path = Path.concatenate([square(0, 0, 10), square(5, 5, 10), square(7, 7, 10)])
        self.assertEqual(len(crossings(path, np.array([0, 1, 2])).outlines), 0)
        self.assertEqual(set(map(tuple, crossings(path, np.array([0, 1, 0])).outlines)), {(0, 2)})

    def test_what_touches_does_not_cross(self):
        touching = Path.concatenate([square(0, 0, 10), square(10, 0, 10), circle(5, -5, 5)])
        self.assertEqual(len(crossings(touching, np.zeros(3, np.int64)).outlines), 0)

    def test_an_outline_crosses_itself_but_not_at_its_own_joints(self):
        bow = Path.from_points(np.array([[0, 0], [10, 10], [10, 0], [0, 10]]), closed=True)
        found = crossings(bow, np.zeros(1, np.int64))
        self.assertEqual(found.outlines.tolist(), [[0, 0]])
        np.testing.assert_allclose(found.places, [(5, 5)])
        self.assertEqual(len(crossings(circle(), np.zeros(1, np.int64)).outlines), 0)

    def test_copies_lie_on_each_other_and_do_not_cross(self):
        bow = Path.from_points(np.array([[0, 0], [10, 10], [10, 0], [0, 10]]), closed=True)
        for copy in (bow, bow.reversed()):
            found = crossings(Path.concatenate([bow, copy]), np.zeros(2, np.int64))
            self.assertEqual(found.outlines.tolist(), [[0, 0], [1, 1]])
            self.assertEqual((found.segments // 4).tolist(), found.outlines.tolist())
        pulled = Path.from_points(np.array([[0, 0], [10, 10], [10, 0], [-3, 12]]), closed=True)
        found = crossings(Path.concatenate([bow, pulled]), np.zeros(2, np.int64)).outlines.tolist()
        self.assertIn([0, 1], found)

    def test_a_long_line_over_many_short_ones(self):
        comb = [Path.from_points(np.array([[x, -1], [x, 1.0]]), closed=False) for x in range(1, 500)]
        path = Path.concatenate([Path.from_points(np.array([[0.5, -0.5], [499.5, 0.5]]), closed=False), *comb])
        self.assertEqual(len(crossings(path, np.zeros(500, np.int64)).outlines), 499)

    def test_nothing_in_nothing(self):
        self.assertEqual(len(crossings(Path.concatenate([]), np.zeros(0, np.int64)).outlines), 0)
