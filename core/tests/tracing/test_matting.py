"""Shares off a colour, against the same worked out plainly with scipy's filter."""

import unittest

import numpy as np
from scipy.ndimage import maximum_filter

from hakobu.tracing.colour.matting import distance, share_like, share_off


def plainly(rgb: np.ndarray, colour: np.ndarray, tolerance: float) -> np.ndarray:
    off = np.sqrt(((rgb[..., :3].astype(float) - colour) ** 2).sum(axis=2)) / (255 * 3**0.5)
    whole = maximum_filter(off, 5)
    return np.where(whole > tolerance, off / np.where(whole > tolerance, whole, 1.0), 0.0)


class Shares(unittest.TestCase):
    def test_agree_with_scipys_filter_whatever_the_size(self):
        random = np.random.default_rng(8)
        colour = np.array([200.0, 30.0, 90.0])
        for height, width, channels in ((1, 1, 3), (1, 40, 3), (37, 1, 4), (3, 4, 3), (640, 700, 4)):
            rgb = random.integers(0, 256, (height, width, channels), np.uint8)
            rgb[: height // 2] = np.resize(colour, channels).astype(np.uint8)
            # None of these is the distance of any two colours of whole numbers.
            for tolerance in (0.0, 0.1, 0.61):
                wanted = plainly(rgb, colour, tolerance)
                self.assertLess(np.abs(share_off(rgb, colour, tolerance) - wanted).max(), 1e-5)
                off, most = distance(rgb, colour)
                self.assertLess(np.abs(share_like(off, tolerance) - (1 - wanted)).max(), 1e-5)
                self.assertAlmostEqual(most, float(off.max()), 6)

    def test_black_is_one_from_white(self):
        off, most = distance(np.zeros((2, 2, 3), np.uint8), np.array([255.0, 255.0, 255.0]))
        self.assertTrue(np.allclose(off, 1.0))
        self.assertAlmostEqual(most, 1.0, 6)
