"""Pictures with more pixels than they show: discs and edges of known place, blurred by known Gaussians."""

import unittest

import numpy as np
from scipy.special import ndtr

from hakobu.geometry import flatten
from hakobu.tracing.edges.downsampling import LARGE_PX, steepest_step, without_excess
from hakobu.tracing.edges.greyscale import from_levels, halved, to_levels
from hakobu.tracing.edges.regions import find_regions
from hakobu.tracing.outlines import thresholding

PIXELS = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
MIDDLE, RADIUS = np.array([1100.2, 901.7]), 700.3


def disc(blur: float, width: int = 2301, height: int = 1801) -> np.ndarray:
    """Dark on light; across an edge, what a Gaussian and the pixel itself leave of it."""
    y, x = np.mgrid[:height, :width] + 0.5
    away = np.hypot(x - MIDDLE[0], y - MIDDLE[1]) - RADIUS
    return (0.1 + 0.8 * ndtr(away / np.hypot(blur, 12**-0.5))).astype(np.float32)


class Excess(unittest.TestCase):
    def test_blurred_edges_need_half_the_pixels_and_sharp_ones_all(self):
        for blur, factor in ((0.4, 1), (0.8, 1), (1.4, 2), (2.0, 2)):
            with self.subTest(blur=blur):
                small, found, _ = without_excess(disc(blur), 0.5)
                self.assertEqual(found, factor)
                self.assertEqual(small.shape, (-(-1801 // factor), -(-2301 // factor)))

    def test_enlarged_four_times_it_is_halved_twice(self):
        grey = disc(3.2, 5000, 3400)
        self.assertGreater(grey.size, 4 * LARGE_PX)
        self.assertEqual(without_excess(grey, 0.5)[1], 4)

    def test_levels_are_told_as_their_grey_is(self):
        for blur in (0.8, 1.4):
            with self.subTest(blur=blur):
                levels = to_levels(disc(blur))
                small, factor, runs = without_excess(levels, 0.5)
                expected, found, _ = without_excess(from_levels(levels), 0.5)
                self.assertEqual((factor, small.dtype), (found, np.float32))
                np.testing.assert_allclose(small, expected, atol=1e-6)
                one, other = find_regions(small, 0.5), find_regions(small, 0.5, runs)
                for told in ("begin", "left", "right", "region", "area", "seed"):
                    np.testing.assert_array_equal(getattr(one, told), getattr(other, told))
                self.assertAlmostEqual(steepest_step(levels, 0.5), steepest_step(from_levels(levels), 0.5), 6)
        for width, height in ((2301, 1801), (2300, 1800)):
            levels = to_levels(disc(1.4, width, height))
            np.testing.assert_allclose(halved(levels), halved(from_levels(levels)), atol=1e-6)

    def test_small_pictures_stay(self):
        small = np.ascontiguousarray(disc(2.0)[200:1200, 300:1300])
        self.assertIs(without_excess(small, 0.5)[0], small)

    def test_sharp_lines_in_a_blurred_picture_keep_their_pixels(self):
        for lines in ((slice(None), slice(5, None, 90)), (slice(5, None, 90), slice(None))):
            grey = disc(2.0)
            grey[lines] = 0.1
            self.assertEqual(without_excess(grey, 0.5)[1], 1)

    def test_without_edges_nothing_is_told(self):
        self.assertEqual(steepest_step(np.full((3000, 2000), 0.9, np.float32), 0.5), 1.0)
        self.assertEqual(steepest_step(np.full((5_000_000, 1), 0.9, np.float32), 0.5), 1.0)


class Traced(unittest.TestCase):
    def test_a_disc_is_where_it_was(self):
        for grey in (disc(1.6), to_levels(disc(1.6)), to_levels(disc(0.6))):
            made = thresholding.trace(grey, PIXELS, 0.5, 0.1, 12.0)
            self.assertEqual(len(made.regions), 1)
            off = np.hypot(*(flatten(made.regions[0].path, 0.001, 0.5).points - MIDDLE).T) - RADIUS
            self.assertLess(np.abs(off).max(), 0.05)

    def test_what_goes_on_beyond_an_odd_rim_ends_on_it(self):
        """The lower right of a picture, dark from a slanting edge on."""
        height, width = 1901, 2301
        y, x = np.mgrid[:height, :width] + 0.5
        grey = (0.9 - 0.8 * ndtr((x + 0.2 * y - 1500.0) / 1.98**0.5 / 1.6)).astype(np.float32)
        self.assertEqual(without_excess(grey, 0.5)[1], 2)
        points = flatten(thresholding.trace(grey, PIXELS, 0.5, 0.2, 12.0).regions[0].path, 0.01).points
        np.testing.assert_allclose(points.max(axis=0), [width, height], atol=0.02)
        self.assertLess(np.abs(points[:, 1].min()), 0.02)
        on = points[np.abs(points @ (1, 0.2) - 1500) < 1]
        self.assertGreater(len(on), 1)

    def test_a_speck_is_kept_by_the_pixel_that_was_clicked(self):
        grey = disc(1.6)
        y, x = np.mgrid[:1801, :2301] + 0.5
        grey -= (0.7 * np.exp(-((x - 2101) ** 2 + (y - 301) ** 2) / 2 / 2.2**2)).astype(np.float32)
        self.assertEqual(without_excess(grey, 0.5)[1], 2)
        self.assertEqual(len(thresholding.trace(grey, PIXELS, 0.5, 0.2, 100.0).regions), 1)
        made = thresholding.trace(grey, PIXELS, 0.5, 0.2, 100.0, ((2101, 301),))
        self.assertEqual(len(made.regions), 2)
        for region in made.regions:
            x, y = region.seed
            self.assertLess(grey[y, x], 0.5)
        again = thresholding.trace(grey, PIXELS, 0.5, 0.2, 100.0, (made.regions[1].seed,))
        self.assertEqual(len(again.regions), 2)
