"""Colours as they look, against published values, and the palettes of pictures whose colours are known."""

import unittest

import numpy as np

from hakobu.model.lab import to_lab, to_rgb
from hakobu.tracing.colour.palette import find_palette

#: L*, a*, b* of sRGB's corners with the white of D65, to three places: computed from IEC 61966-2-1 and CIE 15:2018 and
#: published in many tables (from memory).
KNOWN = {
    (255, 255, 255): (100.0, 0.0, 0.0),
    (0, 0, 0): (0.0, 0.0, 0.0),
    (255, 0, 0): (53.24, 80.09, 67.20),
    (0, 255, 0): (87.73, -86.18, 83.18),
    (0, 0, 255): (32.30, 79.19, -107.86),
    (255, 255, 0): (97.14, -21.55, 94.48),
    (128, 128, 128): (53.59, 0.0, 0.0),
}


class Lab(unittest.TestCase):
    def test_of_the_corners_of_srgb_is_as_published(self):
        for rgb, lab in KNOWN.items():
            with self.subTest(rgb):
                np.testing.assert_allclose(to_lab(np.array(rgb) / 255), lab, atol=0.03)

    def test_agrees_with_scikit_image_and_comes_back(self):
        from skimage.color import rgb2lab

        rgb = np.random.default_rng(1).random((500, 3))
        np.testing.assert_allclose(to_lab(rgb), rgb2lab(rgb), atol=0.02)
        np.testing.assert_allclose(to_rgb(to_lab(rgb)), rgb, atol=1e-6)


def mosaic(colours: np.ndarray, noise: float = 0.0) -> np.ndarray:
    """Squares of colours, (240, 240, 3) uint8."""
    cells = np.random.default_rng(3).permutation(np.arange(36) % len(colours)).reshape(6, 6)
    picture = np.repeat(np.repeat(colours[cells], 40, axis=0), 40, axis=1).astype(float)
    picture += np.random.default_rng(4).normal(0, noise, picture.shape)
    return picture.round().clip(0, 255).astype(np.uint8)


class Palettes(unittest.TestCase):
    COLOURS = np.array([[250, 248, 240], [30, 30, 34], [200, 60, 40], [50, 120, 190], [240, 190, 50], [60, 150, 80]])

    def test_as_many_colours_as_there_are(self):
        for count in range(2, 7):
            for noise in (0.0, 6.0):
                with self.subTest(count=count, noise=noise):
                    found = find_palette(mosaic(self.COLOURS[:count], noise))
                    self.assertEqual(len(found.rgb), count)
                    off = np.abs(found.rgb[:, None] * 255 - self.COLOURS[None, :count]).max(axis=2).min(axis=1)
                    self.assertLess(off.max(), 2.5)

    def test_fringes_are_no_colours(self):
        from scipy.ndimage import gaussian_filter

        soft = gaussian_filter(mosaic(self.COLOURS[:3]).astype(float), (1.2, 1.2, 0)).round().astype(np.uint8)
        self.assertEqual(len(find_palette(soft).rgb), 3)

    def test_as_many_as_asked(self):
        picture = mosaic(self.COLOURS)
        for count in (2, 3, 4, 5):
            self.assertEqual(len(find_palette(picture, count).rgb), count)
        slope = np.linspace(0, 255, 240).astype(np.uint8)
        grey = np.ascontiguousarray(np.broadcast_to(slope[None, :, None], (240, 240, 3)))
        self.assertEqual(len(find_palette(grey, 7).rgb), 7)

    def test_one_colour_is_one(self):
        self.assertEqual(len(find_palette(np.full((50, 50, 3), 120, np.uint8)).rgb), 1)

    def test_lines_too_thin_to_be_flat_have_a_colour_too(self):
        rgb = np.full((120, 160, 3), 240, np.uint8)
        rgb[20:100:20, 10:150] = rgb[20:100, 30:150:40] = (30, 60, 150)
        found = find_palette(rgb).rgb * 255
        self.assertEqual(len(found), 2)
        np.testing.assert_allclose(found[1], (30, 60, 150), atol=2)
