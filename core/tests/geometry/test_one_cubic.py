"""One cubic through points, against numpy's least squares over all unknowns."""

import unittest

import numpy as np
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from hakobu.geometry.kernels.one_cubic import (
    farthest,
    handle_lengths,
    least_squares,
    nearer,
    normal_sums,
    solve,
    turns_back,
)

SEEDS = st.integers(0, 100_000)


def at(ctrl: np.ndarray, t: np.ndarray) -> np.ndarray:
    s = 1 - t
    basis = np.stack([s**3, 3 * s * s * t, 3 * s * t * t, t**3], axis=1)
    return basis @ ctrl


def cubic(random: np.random.Generator) -> np.ndarray:
    """One that goes on from end to end, without a turn back."""
    inner = np.array([[10.0, 0.0], [20.0, 0.0]]) + random.uniform(-4, 4, (2, 2))
    return np.array([[0.0, 0.0], *inner, [30.0, 0.0]])


def points_on(seed: int, noise: float = 0.0, count: int = 25):
    """A cubic, points on it, off by the noise but for the first and the last, and their parameters."""
    random = np.random.default_rng(seed)
    ctrl, t = cubic(random), np.sort(random.uniform(0.02, 0.98, count))
    t[0], t[-1] = 0.0, 1.0
    points = at(ctrl, t)
    points[1:-1] += random.normal(0, noise, (count - 2, 2))
    return ctrl, np.ascontiguousarray(points), t


class Equations(unittest.TestCase):
    @given(SEEDS, st.integers(1, 8))
    @settings(max_examples=60)
    def test_are_solved_as_numpy_does(self, seed, n):
        random = np.random.default_rng(seed)
        a, b = random.normal(0, 1, (n, n)), random.normal(0, 1, n)
        assume(np.linalg.cond(a) < 1e6)
        expected = np.linalg.solve(a, b)
        own, right = np.zeros((8, 8)), np.zeros(8)
        own[:n, :n], right[:n] = a, b
        self.assertTrue(solve(own, right, n))
        np.testing.assert_allclose(right[:n], expected, rtol=1e-7, atol=1e-9)

    def test_without_an_answer_are_told(self):
        self.assertFalse(solve(np.array([[1.0, 2.0], [2.0, 4.0]]), np.array([1.0, 3.0]), 2))


class LeastSquares(unittest.TestCase):
    def tangents(self, ctrl: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        first, last = ctrl[1] - ctrl[0], ctrl[2] - ctrl[3]
        return first / np.hypot(*first), last / np.hypot(*last)

    @given(SEEDS, st.sampled_from((0.0, 0.05, 0.5)))
    @settings(max_examples=60)
    def test_handles_along_tangents_are_numpys(self, seed, noise):
        ctrl, points, t = points_on(seed, noise)
        one, other = self.tangents(ctrl)
        s = 1 - t
        rest = points - at(ctrl[[0, 0, 3, 3]], t)
        columns = [np.outer(3 * s * s * t, one).ravel(), np.outer(3 * s * t * t, other).ravel()]
        expected = np.linalg.lstsq(np.stack(columns, axis=1), rest.ravel(), rcond=None)[0]
        there, *found = handle_lengths(normal_sums(points, 0, len(points) - 1, t), one, other)
        self.assertTrue(there)
        np.testing.assert_allclose(found, expected, rtol=1e-7, atol=1e-9)

    @given(SEEDS, st.sampled_from((0.0, 0.05)))
    @settings(max_examples=60)
    def test_free_ends_are_numpys(self, seed, noise):
        _, points, t = points_on(seed, noise)
        s = 1 - t
        basis = np.stack([3 * s * s * t, 3 * s * t * t], axis=1)
        fixed = np.outer(s**3, points[0]) + np.outer(t**3, points[-1])
        expected = np.linalg.lstsq(basis, points - fixed, rcond=None)[0]
        chord = points[-1] - points[0]
        first, last = expected[0] - points[0], expected[1] - points[-1]
        assume(not turns_back(*chord, *first, *last))
        found, none = np.zeros((4, 2)), np.zeros(2)
        least_squares(points, 0, len(points) - 1, t, none, none, found)
        np.testing.assert_allclose(found, [points[0], *expected, points[-1]], atol=1e-7)

    @given(SEEDS)
    @settings(max_examples=30)
    def test_points_of_a_cubic_give_it_back(self, seed):
        ctrl, points, t = points_on(seed)
        one, other = self.tangents(ctrl)
        for tangents in ((one, other), (np.zeros(2), other), (one, np.zeros(2)), (np.zeros(2), np.zeros(2))):
            found = np.zeros((4, 2))
            least_squares(points, 0, len(points) - 1, t, *tangents, found)
            np.testing.assert_allclose(found, ctrl, atol=1e-6)

    @given(SEEDS, st.sampled_from((0.02, 0.3)))
    @settings(max_examples=30)
    def test_a_part_of_the_points_is_fitted_by_itself(self, seed, noise):
        _, points, t = points_on(seed, noise, 40)
        a, b = 7, 31
        part = (t[a : b + 1] - t[a]) / (t[b] - t[a])
        u = np.zeros(len(points))
        u[a : b + 1] = part
        none, whole, alone = np.zeros(2), np.zeros((4, 2)), np.zeros((4, 2))
        least_squares(points, a, b, u, none, none, whole)
        least_squares(np.ascontiguousarray(points[a : b + 1]), 0, b - a, part, none, none, alone)
        np.testing.assert_allclose(whole, alone, atol=1e-9)


class Distances(unittest.TestCase):
    @given(SEEDS, st.sampled_from((0.0, 0.1, 1.0)))
    @settings(max_examples=40)
    def test_the_farthest_is_the_farthest(self, seed, noise):
        ctrl, points, t = points_on(seed, noise)
        off = np.hypot(*(points - at(ctrl, t)).T)[1:-1]
        most, total = farthest(points, 0, len(points) - 1, t, ctrl)
        self.assertAlmostEqual(most, off.max(), places=9)
        self.assertAlmostEqual(total, off.sum(), places=8)

    @given(SEEDS)
    @settings(max_examples=40)
    def test_nearer_parameters_are_nearer(self, seed):
        ctrl, points, t = points_on(seed, 0.2)
        moved = np.clip(t + np.random.default_rng(seed).normal(0, 0.01, len(t)), 0, 1)
        moved[[0, -1]] = 0.0, 1.0
        before = np.hypot(*(points - at(ctrl, moved)).T)
        for _ in range(4):
            nearer(points, 0, len(points) - 1, moved, ctrl)
        after = np.hypot(*(points - at(ctrl, moved)).T)
        self.assertTrue((after <= before + 1e-9).all())
        # As near as any of many places.
        many = at(ctrl, np.linspace(0, 1, 20_001))
        least = np.array([np.hypot(*(many - point).T).min() for point in points])
        np.testing.assert_allclose(after, least, atol=1e-3)


class TurningBack(unittest.TestCase):
    @given(SEEDS)
    @settings(max_examples=150)
    def test_is_where_the_way_along_the_chord_sinks(self, seed):
        random = np.random.default_rng(seed)
        first = np.array([random.uniform(1, 60), random.uniform(-9, 9)])
        last = np.array([random.uniform(-60, -1), random.uniform(-9, 9)])
        ctrl = np.array([[0.0, 0.0], first, np.array([30.0, 0.0]) + last, [30.0, 0.0]])
        along = np.diff(at(ctrl, np.linspace(0, 1, 40_001))[:, 0])
        assume(abs(along.min()) > 1e-6)
        self.assertEqual(turns_back(30.0, 0.0, *first, *last), bool(along.min() < 0))
