"""Crossings, against shapely testing every pair."""

import unittest
from itertools import combinations
from unittest import mock

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import Path, PathBuilder
from hakobu.geometry.crossings import crossing_segments, crossings

from ..shapes import circle, square


def lines(seed: int, count: int, spread: float) -> Path:
    random = np.random.default_rng(seed)
    at = random.uniform(0, 100, (count, 1, 2))
    ends = at + random.normal(0, spread, (count, 2, 2))
    return Path.concatenate(Path.from_points(points, closed=False) for points in ends)


def mixed(seed: int, outlines: int, parts: int, wild: float) -> Path:
    """Outlines, open and closed, of lines, cubics and arcs along rings, so much off them."""
    random = np.random.default_rng(seed)
    build = PathBuilder()
    for k in range(outlines):
        angle = 2 * np.pi * np.arange(parts) / parts
        nodes = (5.0 * k + 10) * np.stack([np.cos(angle), np.sin(angle)], axis=1) + random.normal(0, wild, (parts, 2))
        build.move_to(nodes[0])
        closed = random.random() < 0.7
        for i in range(1, parts + closed):
            end, way = nodes[i % parts], nodes[i % parts] - nodes[i - 1]
            kind = random.integers(3)
            if kind == 0:
                build.line_to(end)
            elif kind == 1:
                build.bulge_to(random.uniform(-1, 1), end)
            else:
                off = random.normal(0, 0.4, (2, 2)) * np.hypot(*way)
                build.cubic_to(nodes[i - 1] + way / 3 + off[0], end - way / 3 + off[1], end)
        if closed:
            build.close()
    return build.path()


class Circles(unittest.TestCase):
    CURVE = (0, 0), (0, 30), (10, 40), (40, 40)

    def beside_a_curve(self, x: float, y: float) -> Path:
        curve = PathBuilder()
        curve.move_to(self.CURVE[0])
        curve.cubic_to(*self.CURVE[1:])
        return Path.concatenate([curve.path(), circle(x, y, 6.0)])

    def test_within_the_hull_of_a_curve_are_told_apart_at_once(self):
        with mock.patch("hakobu.geometry.crossings.crossings") as whole:
            self.assertEqual(crossing_segments(self.beside_a_curve(22, 22)).tolist(), [])
        whole.assert_not_called()

    def test_on_a_curve_cross_it(self):
        # Its middle: an eighth of the sum of its control points, the inner ones three times.
        self.assertIn(0, crossing_segments(self.beside_a_curve(8.75, 31.25)).tolist())

    @given(st.integers(0, 10_000))
    @settings(max_examples=80, deadline=None)
    def test_cross_curves_where_shapely_says_so(self, seed):
        random = np.random.default_rng(seed)
        x, y = random.uniform(0, 40, 2)
        path = self.beside_a_curve(x, y)
        t = np.linspace(0, 1, 4001)[:, None]
        a, b, c, d = np.array(self.CURVE, float)
        along = a * (1 - t) ** 3 + 3 * b * t * (1 - t) ** 2 + 3 * c * t**2 * (1 - t) + d * t**3
        off = np.hypot(*(along - (x, y)).T) - 6.0
        if np.abs(off).min() > 1e-3:
            self.assertEqual(0 in crossing_segments(path).tolist(), bool((off < 0).any() and (off > 0).any()))


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


class Segments(unittest.TestCase):
    """Told from boxes first: the same segments as where every one is looked at."""

    @given(st.integers(0, 10_000), st.integers(1, 5), st.integers(2, 12), st.sampled_from((0.0, 0.3, 2.0, 8.0)))
    @settings(max_examples=300, deadline=None)
    def test_are_those_of_all_crossings(self, seed, outlines, parts, wild):
        path = mixed(seed, outlines, parts, wild)
        every = np.unique(crossings(path, np.zeros(len(path), np.int64)).segments)
        self.assertEqual(crossing_segments(path).tolist(), every.tolist())

    def test_a_crossing_where_an_outline_closes(self):
        ring = Path.from_points(np.array([(0.0, 0), (10, 10), (-10, 10)]), closed=True)
        across = Path.from_points(np.array([(-10.0, 2), (5, -0.5), (10, -20), (-10, -20)]), closed=True)
        through = Path.from_points(np.array([(-5.0, 1), (0, 0), (5, 1), (0, 30)]), closed=True)
        self.assertEqual(crossing_segments(Path.concatenate([ring, across])).tolist(), [0, 2, 3])
        path = Path.concatenate([ring, through])
        every = np.unique(crossings(path, np.zeros(2, np.int64)).segments)
        self.assertEqual(crossing_segments(path).tolist(), every.tolist())

    def test_a_loop_of_one_curve(self):
        build = PathBuilder()
        build.move_to((0.0, 0.0))
        build.cubic_to((40.0, 30.0), (-30.0, 30.0), (10.0, 0.0))
        build.line_to((10.0, -5.0))
        self.assertEqual(crossing_segments(build.path()).tolist(), [0])

    def test_clear_crossings_are_told_without_looking_in_full(self):
        build = PathBuilder()
        build.move_to((0.0, 0.0))
        build.cubic_to((10.0, 20.0), (20.0, -20.0), (30.0, 1.0))
        build.line_to((40.0, 0.0))
        build.move_to((15.0, -10.0))
        build.cubic_to((14.0, 0.0), (16.0, 5.0), (15.0, 10.0))
        loop = PathBuilder()
        loop.move_to((0.0, 0.0))
        loop.cubic_to((40.0, 30.0), (-30.0, 30.0), (10.0, 0.0))
        for path, expected in ((build.path(), [0, 2]), (loop.path(), [0]), (circle(), [])):
            every = np.unique(crossings(path, np.zeros(len(path), np.int64)).segments)
            self.assertEqual(every.tolist(), expected)
            with mock.patch(f"{crossings.__module__}.crossings", side_effect=AssertionError("looked in full")):
                self.assertEqual(crossing_segments(path).tolist(), expected)

    def test_touches_are_looked_at_in_full_and_do_not_cross(self):
        build = PathBuilder()
        build.move_to((0.0, 0.0))
        build.cubic_to((10.0, 10.0), (20.0, 10.0), (30.0, 0.0))
        build.move_to((0.0, 7.5))
        build.line_to((30.0, 7.5))
        path = build.path()
        with mock.patch(f"{crossings.__module__}.crossings", wraps=crossings) as full:
            self.assertEqual(crossing_segments(path).tolist(), [])
        self.assertEqual(full.call_count, 1)

    def test_nothing_in_nothing(self):
        self.assertEqual(crossing_segments(Path.concatenate([])).tolist(), [])
