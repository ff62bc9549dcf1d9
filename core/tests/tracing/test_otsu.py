"""Otsu's value. Source: Otsu 1979; compared with scikit-image's."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from skimage.filters import threshold_otsu

from hakobu.tracing.edges.greyscale import halved, levels, luma_over_white
from hakobu.tracing.edges.otsu import otsu_level, otsu_threshold


def apart(counts: np.ndarray, level: int) -> float:
    """The variance between what is at most at a level and what is above it."""
    value = np.arange(256.0)
    low = value <= level
    share = counts[low].sum() / counts.sum()
    means = [np.average(value[part], weights=counts[part]) for part in (low, ~low)]
    return float(share * (1 - share) * (means[1] - means[0]) ** 2)


class Otsu(unittest.TestCase):
    @given(st.integers(0, 2**32 - 1), st.integers(2, 6))
    @settings(max_examples=60, deadline=None)
    def test_equals_scikit_images(self, seed, hills):
        random = np.random.default_rng(seed)
        centres, widths = random.uniform(0, 255, hills), random.uniform(1, 40, hills)
        picture = np.clip(random.normal(centres, widths, (400, hills)), 0, 255).round().astype(np.uint8)
        self.assertEqual(otsu_level(np.bincount(picture.ravel(), minlength=256)), threshold_otsu(picture))

    def test_parts_as_well_as_opencvs(self):
        import cv2

        random = np.random.default_rng(4)
        for hills in (2, 3, 5):
            with self.subTest(hills):
                centres, widths = random.uniform(0, 255, hills), random.uniform(3, 30, hills)
                picture = np.clip(random.normal(centres, widths, (900, hills)), 0, 255).round().astype(np.uint8)
                counts = np.bincount(picture.ravel(), minlength=256)
                theirs = int(cv2.threshold(picture, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)[0])
                # Where several levels part alike, each takes another one.
                self.assertAlmostEqual(apart(counts, otsu_level(counts)) / apart(counts, theirs), 1.0, places=9)

    def test_the_threshold_parts_the_level_from_the_next(self):
        counts = np.zeros(256, int)
        counts[[40, 200]] = 50
        level = otsu_level(counts)
        self.assertTrue(40 <= level < 200)
        self.assertTrue(level / 255 < otsu_threshold(counts) < (level + 1) / 255)

    def test_one_level_has_none(self):
        with self.assertRaises(ValueError):
            otsu_level(np.bincount([7, 7, 7], minlength=256))


class Grey(unittest.TestCase):
    def test_luma_is_that_of_the_standard_and_paper_is_white(self):
        picture = np.array(
            [[(255, 0, 0, 255), (0, 255, 0, 255), (0, 0, 255, 255), (0, 0, 0, 0), (0, 0, 0, 128)]], np.uint8
        )
        expected = [0.2126, 0.7152, 0.0722, 1.0, 1 - 128 / 255]
        np.testing.assert_allclose(luma_over_white(picture)[0], expected, atol=1e-6)

    def test_levels_count_every_pixel_once(self):
        grey = np.array([[0.0, 0.5, 1.0, 1.0]], np.float32)
        counts = levels(grey)
        self.assertEqual((counts[0], counts[128], counts[255], counts.sum()), (1, 1, 2, 4))

    def test_halved_is_the_mean_of_four(self):
        grey = np.arange(30, dtype=np.float32).reshape(5, 6)
        self.assertEqual(halved(grey).shape, (3, 3))
        self.assertEqual(halved(grey)[0, 0], grey[:2, :2].mean())
        self.assertEqual(halved(grey)[2, 0], grey[4, :2].mean())
        self.assertEqual(halved(grey.T.copy())[2, 2], grey[4, 4:].mean())
        self.assertEqual(halved(grey, 2).shape, (2, 2))
