"""Pictures judged: what they are, what follows, and which ways on are proposed, on pictures of known kinds.

The photos are scikit-image's own samples (scikit-image.org, data module).
"""

import unittest

import numpy as np
import skimage.data
from scipy.ndimage import gaussian_filter

from hakobu.tracing import View
from hakobu.tracing.judge.assessment import judge
from hakobu.tracing.judge.measurements import looks_of

from ..pictures import rendered

PIXEL_MM = 25.4 / 300


def of(picture: np.ndarray, pixel_mm: float = PIXEL_MM) -> View:
    """Grey (H, W) from 0 to 1, or colours (H, W, 3) of 255."""
    if picture.ndim == 2:
        picture = np.repeat((np.clip(picture, 0, 1) * 255 + 0.5).astype(np.uint8)[..., None], 3, axis=2)
    rgba = np.dstack([picture, np.full(picture.shape[:2], 255, np.uint8)])
    return View(np.ascontiguousarray(rgba), (pixel_mm, 0, 0, pixel_mm, 0, 0))


DISCS = rendered('<circle cx="120" cy="150" r="70"/><circle cx="290" cy="250" r="60"/>')


class Kinds(unittest.TestCase):
    def test_photos_are_told_with_three_ways_on(self):
        for name in ("coffee", "chelsea", "astronaut"):
            with self.subTest(name):
                made = judge(of(getattr(skimage.data, name)()))
                self.assertEqual(made.kind, "photo")
                self.assertIn("rough", made.sentence)
                self.assertEqual(len(made.ways), 3)

    def test_a_page_in_a_shadow_is_evened(self):
        made = judge(of(skimage.data.page() / 255.0))
        self.assertTrue(made.ways[0].told["even_light"])
        self.assertIn("unevenly lit", made.sentence)

    def test_one_even_colour_has_no_way_on(self):
        made = judge(of(np.full((40, 40), 0.5)))
        self.assertEqual((made.kind, made.ways), ("even", ()))
        self.assertIn("no line", made.warning)

    def test_noise_from_edge_to_edge_is_told_as_such(self):
        noise = np.random.default_rng(1).integers(0, 256, (1200, 1600)).astype(np.uint8)
        made = judge(of(np.repeat(noise[..., None], 3, axis=2)))
        self.assertIn("noise from edge to edge", made.sentence)
        self.assertIn("cannot be cut", made.warning)

    def test_light_on_dark_is_inverted(self):
        made = judge(of(1 - 0.9 * DISCS))
        self.assertEqual((made.ways[0].mode, made.ways[0].told), ("dark", {"inverted": True}))

    def test_coarse_and_blurred_pictures_are_warned_of(self):
        self.assertIn("smaller details are not in it", judge(of(DISCS, 0.5)).warning)
        self.assertIn("blurred", judge(of(gaussian_filter(DISCS, 2.5))).warning)
        self.assertEqual(judge(of(DISCS)).warning, "")


class Looks(unittest.TestCase):
    def test_blur_is_measured(self):
        for sigma in (1.0, 2.0, 3.0):
            with self.subTest(sigma):
                self.assertAlmostEqual(looks_of(of(gaussian_filter(DISCS, sigma))).blur_px, sigma, delta=0.3)

    def test_noise_is_measured(self):
        noise = np.random.default_rng(1).normal(0, 6 / 255, DISCS.shape)
        quiet, noisy = looks_of(of(0.1 + 0.8 * DISCS)), looks_of(of(0.1 + 0.8 * DISCS + noise))
        self.assertLess(quiet.noise, 0.5)
        self.assertGreater(noisy.noise, 3.0)

    def test_lines_are_known_by_their_one_width(self):
        strokes = "".join(f'<path d="M{40 + 40 * k} 30V370"/>' for k in range(9))
        drawn = looks_of(of(rendered(f'<g stroke="#000" stroke-width="6">{strokes}</g>')))
        self.assertAlmostEqual(drawn.line_width_mm / PIXEL_MM, 6.0, delta=1.5)
        self.assertGreater(drawn.lines_even, 0.9)
        self.assertGreater(drawn.lines_long, 300)


if __name__ == "__main__":
    unittest.main()
