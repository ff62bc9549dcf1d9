"""Fitting: within the tolerance, corners where they were, smooth elsewhere. Source: Schneider 1990."""

import unittest
from unittest.mock import patch

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import ARC, LINE, SegmentIndex, fit, flatten
from hakobu.geometry.crossings import crossings
from hakobu.geometry.nodes import end_directions


def fitted(points, closed=True, corners=(), tolerance=0.02):
    corner = np.zeros(len(points), bool)
    corner[list(corners)] = True
    return fit(points, [0, len(points)], [closed], corner, tolerance)


def off(path, points) -> float:
    """How far the farthest point lies from the path itself, by dense chords."""
    return float(SegmentIndex(flatten(path, 1e-4), 0.5).nearest(points)[0].max())


def wavy(seed: int, count: int, lobes: int) -> np.ndarray:
    random = np.random.default_rng(seed)
    angle = np.linspace(0, 2 * np.pi, count, endpoint=False)
    radius = 20 + sum(random.uniform(-1, 1) * np.cos(k * angle + random.uniform(0, 6)) for k in range(2, lobes + 2))
    return np.column_stack([radius * np.cos(angle), radius * np.sin(angle)])


class Fit(unittest.TestCase):
    @given(st.integers(0, 10_000), st.integers(60, 600), st.integers(1, 6), st.sampled_from((0.01, 0.05, 0.3)))
    @settings(max_examples=60, deadline=None)
    def test_no_point_lies_farther_than_the_tolerance(self, seed, count, lobes, tolerance):
        points = wavy(seed, count, lobes)
        made = fitted(points, tolerance=tolerance)
        self.assertTrue(made.path.closed.all())
        # Nodes may be moved within the tolerance, so a point near one may be off by that and the fit's own.
        self.assertLess(off(made.path, points), 2 * tolerance)
        self.assertLessEqual(made.max_mm, tolerance * 1.0001)
        self.assertLessEqual(made.mean_mm, made.max_mm)

    def test_joints_between_corners_are_smooth(self):
        path = fitted(wavy(3, 400, 5)).path
        leaving, arriving = end_directions(path)
        before = np.roll(arriving, 1, axis=0)
        across = before[:, 0] * leaving[:, 1] - before[:, 1] * leaving[:, 0]
        turn = np.arctan2(across, (before * leaving).sum(axis=1))
        self.assertGreater(path.segment_count, 4)
        self.assertLess(np.abs(turn).max(), 0.002)

    def test_corners_are_nodes_exactly_and_sides_lines(self):
        side = np.linspace(0, 10, 50, endpoint=False)
        zero, ten = np.zeros(50), np.full(50, 10.0)
        points = np.vstack(
            [np.column_stack(p) for p in ((side, zero), (ten, side), (10 - side, ten), (zero, 10 - side))]
        )
        path = fitted(points, corners=(0, 50, 100, 150)).path
        self.assertEqual((path.segment_count, set(path.kind)), (4, {LINE}))
        np.testing.assert_array_equal(path.ctrl[:, 0], [(0, 0), (10, 0), (10, 10), (0, 10)])

    def test_a_circle_is_found_whichever_way_it_runs(self):
        angle = np.linspace(0, 2 * np.pi, 90, endpoint=False)
        points = np.column_stack([5 + 3 * np.cos(angle), 7 + 3 * np.sin(angle)])
        for ordered, bulge in ((points, 1.0), (points[::-1], -1.0)):
            path = fitted(ordered).path
            self.assertTrue(path.is_circle.all() and (path.kind == ARC).all())
            self.assertEqual(path.bulge.tolist(), [bulge, bulge])
            np.testing.assert_allclose(sorted(path.ctrl[:, 0, 0]), (2.0, 8.0), atol=1e-9)

    def test_open_outlines_keep_their_ends(self):
        x = np.linspace(0, 30, 200)
        points = np.column_stack([x, 3 * np.sin(x / 3)])
        path = fitted(points, closed=False).path
        self.assertFalse(path.closed.any())
        np.testing.assert_array_equal((path.ctrl[0, 0], path.ctrl[-1, 3]), (points[0], points[-1]))
        self.assertLess(off(path, points), 0.04)
        self.assertLess(path.segment_count, 20)

    def test_noise_is_averaged_not_followed(self):
        random = np.random.default_rng(8)
        clean = wavy(2, 2000, 2)
        made = fitted(clean + random.normal(0, 0.01, clean.shape), tolerance=0.06)
        self.assertLess(off(made.path, clean), 0.05)
        self.assertLess(made.path.segment_count, 30)

    def test_what_is_nearly_as_rough_as_the_tolerance_is_drawn_without_loops(self):
        loops = segments = 0
        for seed in range(8):
            points = 3 * wavy(seed, 400, 1) + np.random.default_rng(seed).normal(0, 0.45, (400, 2))
            path = fitted(points, tolerance=0.25).path
            found = crossings(path, np.zeros(1, np.int64)).segments
            loops += np.count_nonzero(found[:, 0] == found[:, 1])
            segments += path.segment_count
        self.assertGreater(segments, 1000)
        self.assertLess(loops, 0.003 * segments)

    def test_many_outlines_at_once_and_none_at_all(self):
        rings = [wavy(s, 100, 3) + np.array([100 * s, 0]) for s in range(5)]
        made = fit(np.vstack(rings), np.arange(0, 600, 100), np.ones(5, bool), np.zeros(500, bool), 0.02)
        self.assertEqual(len(made.path), 5)
        for k, ring in enumerate(rings):
            self.assertLess(off(made.path.outline(k), ring), 0.04)
        self.assertEqual(len(fit(np.zeros((0, 2)), [0], [], [], 0.1).path), 0)

    def test_it_is_the_same_however_many_share_it(self):
        """Long outlines are cut at their nodes: at corners, and where a direction is given."""
        for seed in range(12):
            random = np.random.default_rng(seed)
            counts = random.integers(4, 3000, random.integers(1, 6))
            start = np.concatenate([[0], np.cumsum(counts)])
            points = np.vstack([wavy(seed + k, n, 4) for k, n in enumerate(counts)])
            closed, corner = random.random(len(counts)) < 0.7, random.random(len(points)) < 0.004
            corner[start[:-1]] = random.random(len(counts)) < 0.7
            corner[start[1:] - 1] |= random.random(len(counts)) < 0.5
            direction = np.zeros_like(points)
            direction[random.random(len(points)) < 0.002] = (0.6, 0.8)
            with patch("hakobu.geometry.fit.processors", return_value=1):
                alone = fit(points, start, closed, corner, 0.03, direction)
            for threads in (2, 3, 4):
                with patch("hakobu.geometry.fit.processors", return_value=threads):
                    shared = fit(points, start, closed, corner, 0.03, direction)
                np.testing.assert_array_equal(shared.path.start, alone.path.start)
                np.testing.assert_array_equal(shared.path.ctrl, alone.path.ctrl)
                np.testing.assert_array_equal(shared.path.kind, alone.path.kind)
                self.assertEqual(shared.max_mm, alone.max_mm)
                self.assertAlmostEqual(shared.mean_mm, alone.mean_mm, delta=0.01 * alone.mean_mm)

    def test_what_cannot_be_fitted_is_named(self):
        with self.assertRaisesRegex(ValueError, "finite"):
            fitted(np.full((4, 2), np.nan))
        with self.assertRaisesRegex(ValueError, "outline 0 has too few"):
            fitted(np.zeros((2, 2)))
