"""Where pictures are flat, against scipy's filters of three by three."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import ndimage

from hakobu.tracing.colour.palette import BOXES, find_palette, noise_of

SIZES = (st.integers(0, 10_000), st.integers(3, 12), st.integers(3, 40), st.integers(1, 3))


def picture(seed: int, height: int, width: int) -> np.ndarray:
    return np.random.default_rng(seed).integers(0, 256, (height, width, 3)).astype(np.uint8)


class Nines(unittest.TestCase):
    @given(*SIZES)
    @settings(max_examples=60, deadline=None)
    def test_are_scipys_sums_and_extremes(self, seed, height, width, step):
        from hakobu.tracing.colour.kernels.flatness import flat_sums

        rgb = picture(seed, height, width)
        sums, spread = flat_sums(rgb.reshape(height, -1), step, 1, height)
        within = (slice(1, height - 1, step), slice(1, width - 1, step))
        whole = ndimage.convolve(rgb.astype(int), np.ones((3, 3, 1), int))[within].reshape(-1, 3)
        most = ndimage.maximum_filter(rgb, (3, 3, 1))[within].reshape(-1, 3).astype(int)
        least = ndimage.minimum_filter(rgb, (3, 3, 1))[within].reshape(-1, 3).astype(int)
        np.testing.assert_array_equal(sums, whole)
        np.testing.assert_array_equal(spread, np.maximum(9 * most - whole, whole - 9 * least).max(axis=1))

    @given(*SIZES, st.floats(0, 2000))
    @settings(max_examples=40, deadline=None)
    def test_are_gathered_in_numpys_boxes(self, seed, height, width, step, most):
        from hakobu.tracing.colour.kernels.flatness import flat_sums, gathered

        sums, spread = flat_sums(picture(seed, height, width).reshape(height, -1), step, 1, height)
        count, whole = gathered(sums, spread, most, BOXES)
        flat = sums[spread <= most].astype(float)
        edges = [np.linspace(0, 9 * 256, BOXES + 1)] * 3
        expected, _ = np.histogramdd(flat, edges)
        np.testing.assert_array_equal(count, expected.ravel())
        np.testing.assert_array_equal(whole.sum(axis=0), flat.sum(axis=0))


class Noise(unittest.TestCase):
    def test_of_an_even_picture_is_none(self):
        self.assertEqual(noise_of(np.full((60, 70, 3), 131, np.uint8)), 0.0)

    def test_grows_as_the_noise_that_was_put_in(self):
        random = np.random.default_rng(5)
        found = []
        for sigma in (2.0, 4.0, 8.0):
            noisy = 128 + random.normal(0, sigma, (300, 300, 3))
            found.append(noise_of(noisy.round().clip(0, 255).astype(np.uint8)))
        self.assertAlmostEqual(found[1] / found[0], 2.0, delta=0.12)
        self.assertAlmostEqual(found[2] / found[1], 2.0, delta=0.12)

    def test_pictures_too_small_to_be_flat_have_their_colours_still(self):
        tiny = np.array([[[200, 30, 30], [30, 30, 200]]], np.uint8)
        found = find_palette(tiny)
        self.assertEqual(sorted((found.rgb * 255).round().astype(int).tolist()), [[30, 30, 200], [200, 30, 30]])
