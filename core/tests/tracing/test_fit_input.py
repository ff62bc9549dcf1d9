"""Outlines made ready to be fitted: straight runs are their ends, with their direction, corners stay."""

import unittest
from unittest import mock

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import parallel
from hakobu.tracing.outlines.fit_input import made_ready

NOISE = 0.01


def polygon(corners: list[tuple[float, float]], step: float = 1.0) -> tuple[np.ndarray, np.ndarray]:
    """Points about a step apart along a closed polygon's sides, and which are its corners."""
    points, corner = [], []
    for a, b in zip(corners, corners[1:] + corners[:1], strict=True):
        count = max(round(np.hypot(b[0] - a[0], b[1] - a[1]) / step), 1)
        t = np.arange(count)[:, None] / count
        points.append(np.array(a) + t * (np.array(b) - a))
        corner += [True] + [False] * (count - 1)
    return np.concatenate(points), np.array(corner)


def ready(outlines: list[tuple[np.ndarray, np.ndarray]], closed: list[bool], noise: float = NOISE):
    start = np.cumsum([0] + [len(points) for points, _ in outlines])
    points, corner = (np.concatenate([own[k] for own in outlines]) for k in range(2))
    return made_ready(points, start, corner, np.array(closed), np.full(len(closed), noise), 1.0)


class Sections(unittest.TestCase):
    def test_a_polygon_is_its_corners(self):
        corners = [(0.0, 0.0), (40.0, 0.0), (60.0, 30.0), (0.0, 50.0)]
        points, start, corner, direction = ready([polygon(corners)], [True])
        self.assertEqual(start.tolist(), [0, 4])
        np.testing.assert_allclose(points, corners, atol=1e-9)
        self.assertTrue(corner.all())
        np.testing.assert_array_equal(direction, 0)

    def test_a_straight_side_that_goes_over_into_a_bend_has_a_direction_there(self):
        angle = np.linspace(-np.pi / 2, np.pi / 2, 64)
        bend = np.stack([80 + 20 * np.cos(angle), 20 + 20 * np.sin(angle)], axis=1)
        way = np.arange(80.0)
        lower = np.stack([way, np.zeros(80)], axis=1)
        upper = np.stack([way[::-1], np.full(80, 40.0)], axis=1)
        points = np.concatenate([lower, bend, upper])
        corner = np.zeros(len(points), bool)
        corner[[0, -1]] = True
        made, _, mark, direction = ready([(points, corner)], [True])
        self.assertEqual(np.count_nonzero(mark), 2)
        given_ways = direction[(direction != 0).any(axis=1)]
        self.assertGreaterEqual(len(given_ways), 2)
        np.testing.assert_allclose(np.abs(given_ways), np.tile([1.0, 0.0], (len(given_ways), 1)), atol=0.02)
        on_bend = made[(made[:, 0] > 82)]
        np.testing.assert_allclose(np.hypot(on_bend[:, 0] - 80, on_bend[:, 1] - 20), 20, atol=0.02)

    def test_an_open_outline_keeps_both_ends(self):
        line = np.stack([np.arange(50.0), np.full(50, 7.0)], axis=1)
        points, start, corner, _ = ready([(line, np.arange(50) == 0)], [False])
        np.testing.assert_allclose(points[[0, -1]], line[[0, -1]], atol=1e-9)
        self.assertTrue(corner[-1])
        self.assertEqual(start[-1], len(points))

    def test_what_is_too_small_for_sides_is_as_it_was(self):
        """A slim lens of two straight sides would be two points: no outline."""
        slim = polygon([(0.0, 0.0), (40.0, 0.0)])
        square = polygon([(0.0, 0.0), (30.0, 0.0), (30.0, 30.0), (0.0, 30.0)])
        points, start, corner, direction = ready([square, slim, square], [True] * 3)
        self.assertEqual(np.diff(start).tolist(), [4, len(slim[0]), 4])
        np.testing.assert_array_equal(points[4:-4], slim[0])
        np.testing.assert_array_equal(corner[4:-4], slim[1])
        np.testing.assert_array_equal(direction[4:-4], 0)

    def test_without_corners_it_begins_where_it_bends_most(self):
        angle = np.linspace(0, 2 * np.pi, 200, endpoint=False)
        oval = np.stack([60 * np.cos(angle), 15 * np.sin(angle)], axis=1)
        points, _, corner, _ = ready([(np.roll(oval, 70, axis=0), np.zeros(200, bool))], [True])
        self.assertFalse(corner.any())
        self.assertGreater(abs(points[0, 0]), 55)

    def test_nothing_of_nothing(self):
        points, start, corner, direction = made_ready(
            np.zeros((0, 2)), np.zeros(1, np.int64), np.zeros(0, bool), np.zeros(0, bool), np.zeros(0), 1.0
        )
        self.assertEqual((len(points), start.tolist(), len(corner), direction.shape), (0, [0], 0, (0, 2)))

    @given(st.integers(0, 10_000), st.integers(1, 12))
    @settings(max_examples=40, deadline=None)
    def test_shared_out_they_are_as_by_one(self, seed, count):
        random = np.random.default_rng(seed)
        outlines = []
        for _ in range(count):
            points, corner = polygon([tuple(at) for at in random.uniform(0, 90, (random.integers(2, 7), 2))])
            outlines.append((points + random.normal(0, 0.03, points.shape), corner & (random.random() < 0.8)))
        closed = (random.random(count) < 0.8).tolist()
        found = ready(outlines, closed, 0.03)
        with mock.patch.object(parallel, "processors", lambda: 1):
            alone = ready(outlines, closed, 0.03)
        for one, other in zip(found, alone, strict=True):
            np.testing.assert_array_equal(one, other)
