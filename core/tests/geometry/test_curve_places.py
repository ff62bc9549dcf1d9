"""Lengths along curves and where they turn, against scipy's integrals and many places looked at."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad

from hakobu.geometry.kernels.arc_length import length_between, parameters_at
from hakobu.geometry.kernels.curves import curve_at
from hakobu.geometry.kernels.extremes import bound_along, farthest_along, passes_level, turns_along

LINE, CUBIC, ARC = 0, 1, 2
SEEDS = st.integers(0, 100_000)
KINDS = st.sampled_from((LINE, CUBIC, ARC))


def curve(kind: int, seed: int) -> np.ndarray:
    """A line or cubic by its control points, an arc by centre, radius, first angle and sweep."""
    random = np.random.default_rng(seed)
    if kind == ARC:
        sweep = random.uniform(0.1, 6.2) * random.choice([-1, 1])
        return np.array([*random.uniform(-20, 20, 2), random.uniform(1, 30), random.uniform(-3, 3), sweep, 0, 0, 0])
    ctrl = random.uniform(-30, 30, (4, 2))
    if kind == LINE:
        ctrl[1:3] = ctrl[0] + np.array([[1 / 3], [2 / 3]]) * (ctrl[3] - ctrl[0])
    return ctrl.ravel()


def places(kind: int, g: np.ndarray, t: np.ndarray) -> np.ndarray:
    return np.array([curve_at(kind, g, at)[:2] for at in t])


class Lengths(unittest.TestCase):
    @given(KINDS, SEEDS, st.floats(0, 0.5), st.floats(0.5, 1))
    @settings(max_examples=60, deadline=None)
    def test_are_scipys_integrals_of_the_speed(self, kind, seed, first, last):
        g = curve(kind, seed)
        expected, _ = quad(lambda t: np.hypot(*curve_at(kind, g, t)[2:]), first, last, epsabs=1e-12, limit=400)
        self.assertAlmostEqual(length_between(kind, g, first, last), expected, delta=1e-6 * max(expected, 1.0))

    def test_a_cubic_that_turns_back_on_itself_has_both_ways(self):
        g = np.array([0.0, 0, 40, 0, -30, 0, 10, 0])
        x = places(CUBIC, g, np.linspace(0, 1, 200_001))[:, 0]
        self.assertAlmostEqual(length_between(CUBIC, g, 0.0, 1.0), float(np.abs(np.diff(x)).sum()), delta=1e-5)

    @given(KINDS, SEEDS, st.floats(0, 1))
    @settings(max_examples=60, deadline=None)
    def test_a_place_so_far_along_is_so_far_along(self, kind, seed, share):
        g = curve(kind, seed)
        whole = length_between(kind, g, 0.0, 1.0)
        asked = np.array([share * whole])
        t = parameters_at(np.zeros(1, np.int64), asked, np.array([kind]), g[None])[0]
        self.assertAlmostEqual(length_between(kind, g, 0.0, t), share * whole, delta=1e-7 * whole)

    def test_beyond_its_ends_are_its_ends(self):
        g = curve(CUBIC, 5)
        both = parameters_at(np.zeros(2, np.int64), np.array([-1.0, 1e6]), np.array([CUBIC]), g[None])
        self.assertEqual(both.tolist(), [0.0, 1.0])


class Turns(unittest.TestCase):
    @given(KINDS, SEEDS, st.floats(0, 6.28))
    @settings(max_examples=80, deadline=None)
    def test_the_farthest_of_many_places_is_no_farther(self, kind, seed, way):
        g, nx, ny = curve(kind, seed), np.cos(way), np.sin(way)
        t, far = farthest_along(kind, g, 0.0, 1.0, nx, ny, np.empty(4))
        x, y, _, _ = curve_at(kind, g, t)
        self.assertAlmostEqual(far, nx * x + ny * y, places=9)
        many = places(kind, g, np.linspace(0, 1, 3001)) @ (nx, ny)
        self.assertGreaterEqual(far, many.max() - 1e-9)
        self.assertLess(far, many.max() + 1e-3)
        self.assertGreaterEqual(bound_along(kind, g, nx, ny), far - 1e-9)

    @given(KINDS, SEEDS, st.floats(0, 6.28))
    @settings(max_examples=80, deadline=None)
    def test_it_goes_neither_way_where_it_turns(self, kind, seed, way):
        g, nx, ny = curve(kind, seed), np.cos(way), np.sin(way)
        found = np.empty(2)
        for k in range(turns_along(kind, g, nx, ny, found)):
            _, _, dx, dy = curve_at(kind, g, found[k])
            self.assertLess(abs(nx * dx + ny * dy), 1e-6 * max(np.hypot(dx, dy), 1.0))

    @given(KINDS, SEEDS, st.floats(0, 6.28), st.floats(-20, 20))
    @settings(max_examples=120, deadline=None)
    def test_a_level_is_passed_where_sides_change(self, kind, seed, way, level):
        g, nx, ny = curve(kind, seed), np.cos(way), np.sin(way)
        found = np.empty(3)
        count = passes_level(kind, g, 0.0, 1.0, nx, ny, level, found, np.empty(6))
        t = np.linspace(0, 1, 3001)
        off = places(kind, g, t) @ (nx, ny) - level
        changes = np.flatnonzero((off[1:] <= 0) != (off[:-1] <= 0))
        # What just touches a level between two of the places may be passed twice there.
        self.assertIn(count - len(changes), (0, 2))
        for k in changes:
            self.assertTrue(((found[:count] >= t[k] - 1e-9) & (found[:count] <= t[k + 1] + 1e-9)).any())
        for k in range(count):
            x, y, _, _ = curve_at(kind, g, found[k])
            self.assertAlmostEqual(nx * x + ny * y, level, delta=1e-6)
