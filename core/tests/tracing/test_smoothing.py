"""Points moved to parabolas through their neighbours, against numpy's least squares on the same points."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.tracing.edges.kernels.smoothing import QUIET, WINDOWS, smoothed


def made(points: np.ndarray, noise: float) -> np.ndarray:
    out = np.empty_like(points)
    smoothed(np.ascontiguousarray(points), noise, out)
    return out


def by_numpy(points: np.ndarray, noise: float) -> np.ndarray:
    """Each point by itself: the longest parabola about which its neighbours lie within the noise, across its own
    direction."""
    n, out = len(points), points.copy()
    for i in range(1, n - 1):
        for window in WINDOWS:
            back, fore = min(window, i), min(window, n - 1 - i)
            if back + fore < 5:
                continue
            t = np.arange(-back, fore + 1.0)
            own = points[i - back : i + fore + 1] - points[i]
            ux, uy = (np.polynomial.polynomial.polyfit(t, own[:, axis], 2)[1] for axis in (0, 1))
            size = np.hypot(ux, uy)
            across = (ux * own[:, 1] - uy * own[:, 0]) / size
            way = np.polynomial.polynomial.polyfit(t, across, 2)
            off = ((across - np.polynomial.polynomial.polyval(t, way)) ** 2).sum() / (len(t) - 3)
            if off <= (1.25 * noise) ** 2 or window == WINDOWS[-1]:
                out[i] += way[0] * np.array([-uy, ux]) / size
                break
    return out


def wavy(seed: int, count: int, noise: float, bend: float) -> np.ndarray:
    """Points a pixel apart along a line that bends more and more, off it by the noise."""
    t = np.arange(count, dtype=float)
    angle = np.cumsum(np.minimum(bend * t / count, 0.3))
    line = np.cumsum(np.stack([np.cos(angle), np.sin(angle)], axis=1), axis=0)
    return line + np.random.default_rng(seed).normal(0, noise, (count, 2))


class Smoothing(unittest.TestCase):
    @given(
        st.integers(0, 10_000), st.integers(8, 130), st.sampled_from((0.02, 0.05, 0.2)), st.sampled_from((0, 0.02, 0.4))
    )
    @settings(max_examples=80, deadline=None)
    def test_is_what_least_squares_say_of_each_point(self, seed, count, noise, bend):
        points = wavy(seed, count, noise, bend)
        expected, found = by_numpy(points, noise), made(points, noise)
        # Where a parabola is as far off as is just allowed, rounding tells which window it is.
        unlike = np.hypot(*(found - expected).T) > 1e-7
        self.assertLessEqual(np.count_nonzero(unlike), 1)

    def test_noise_about_a_bend_becomes_less_and_the_bend_stays(self):
        angle = np.linspace(0, np.pi, 120)
        circle = 40 * np.stack([np.cos(angle), np.sin(angle)], axis=1)
        noisy = circle + np.random.default_rng(3).normal(0, 0.06, circle.shape)
        before, after = (np.hypot(*points.T)[15:-15] - 40 for points in (noisy, made(noisy, 0.06)))
        self.assertLess(after.std(), before.std() / 2)
        self.assertLess(abs(after.mean()), 0.03)

    def test_ends_stay_and_so_do_quiet_points(self):
        points = wavy(1, 40, 0.05, 0.1)
        found = made(points, 0.05)
        np.testing.assert_array_equal(found[[0, -1]], points[[0, -1]])
        np.testing.assert_array_equal(made(points, QUIET * 0.9), points)

    def test_few_points_stay(self):
        for count in range(2, 6):
            points = wavy(2, count, 0.1, 0.1)
            np.testing.assert_array_equal(made(points, 0.1), points)

    def test_points_of_a_parabola_stay_on_it(self):
        t = np.arange(60.0)
        points = np.stack([t, 0.01 * (t - 20) ** 2], axis=1)
        found = made(points, 0.5)
        np.testing.assert_allclose(found[:, 1], 0.01 * (found[:, 0] - 20) ** 2, atol=0.02)
