"""Shapes of known geometry, rendered and traced back."""

import unittest

import numpy as np

from hakobu.errors import CannotDo
from hakobu.geometry import ARC, LINE, Path, flatten, signed_areas
from hakobu.tracing import MODES, check_mode
from hakobu.tracing.outlines.thresholding import has_stairs, propose, trace

from ..pictures import distances, nearest, rendered, sharp_corners, truth

PIXELS = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
#: A letter R: a counter, corners of many angles, curves that join lines smoothly.
LETTER_R = (
    '<path d="M60 340V60H190C250 60 290 95 290 148C290 192 262 222 220 232L310 340H240L164 240H118V340Z'
    'M118 192H184C212 192 230 176 230 150C230 124 212 108 184 108H118Z" fill-rule="evenodd"/>'
)
BODIES = {
    "circle": '<circle cx="203.3" cy="197.1" r="120.4"/>',
    "small circle": '<circle cx="203.3" cy="197.1" r="6.2"/>',
    "ring": '<path d="M200 60A140 140 0 1 1 199.9 60ZM200 140A60 60 0 1 0 200.1 140Z" fill-rule="evenodd"/>',
    "star": '<path d="M200 20L244 148L380 148L270 230L312 360L200 282L88 360L130 230L20 148L156 148Z"/>',
    "tilted square": '<rect x="100" y="120" width="180" height="140" transform="rotate(17 190 190)"/>',
    "rounded": '<rect x="60.3" y="80.6" width="260" height="200" rx="40"/>',
    "letter": LETTER_R,
    "leaf": '<path d="M60 300C80 120 220 60 340 80C330 220 240 320 60 300Z"/>',
}


#: Twice what was measured in pixels on 2026-12-01, mean and largest: a guard against losing what is there.
BOUNDS_PX = {
    "circle": (0.02, 0.035),
    "small circle": (0.075, 0.12),
    "ring": (0.02, 0.03),
    "star": (0.006, 0.085),
    "tilted square": (0.0005, 0.001),
    "rounded": (0.056, 0.35),
    "letter": (0.045, 0.38),
    "leaf": (0.12, 0.36),
}


def traced(grey: np.ndarray, threshold: float = 0.5, smallest: float = 12.0):
    return trace(grey, PIXELS, threshold, propose(grey, 1.0).smoothness_mm, smallest)


class KnownShapes(unittest.TestCase):
    def test_come_back_as_exactly_as_they_did(self):
        for name, body in BODIES.items():
            with self.subTest(name):
                made = Path.concatenate(r.path for r in traced(rendered(body)).regions)
                apart = distances(truth(body), made)
                mean, largest = BOUNDS_PX[name]
                self.assertLess(apart.mean(), mean)
                self.assertLess(apart.max(), largest)

    def test_every_corner_is_there_and_no_other(self):
        for name, body in BODIES.items():
            with self.subTest(name):
                known = sharp_corners(truth(body), 26)
                made = sharp_corners(Path.concatenate(r.path for r in traced(rendered(body)).regions), 20)
                self.assertEqual(len(made), len(known))
                if len(known):
                    self.assertLess(nearest(known, made).max(), 0.1)

    def test_circles_are_circles_and_straight_sides_lines(self):
        made = traced(rendered(BODIES["circle"])).regions[0].path
        self.assertTrue(made.is_circle.all() and (made.kind == ARC).all())
        self.assertAlmostEqual(float(np.ptp(made.ctrl[:, 0, 0])), 240.8, 1)
        self.assertTrue((traced(rendered(BODIES["star"])).regions[0].path.kind == LINE).all())

    def test_grain_leaves_corners_alone(self):
        for seed in range(3):
            grain = np.random.default_rng(seed).normal(0, 6 / 255, (400, 400)).astype(np.float32)
            made = traced(rendered(LETTER_R) + grain).regions[0].path
            self.assertLess(distances(truth(LETTER_R), made).mean(), 0.1)
            known = sharp_corners(truth(LETTER_R), 26)
            self.assertLess(nearest(known, sharp_corners(made, 20)).max(), 1.0)

    def test_smoothness_takes_nodes_away_and_does_not_fatten(self):
        grain = np.random.default_rng(4).normal(0, 0.1, (400, 400)).astype(np.float32)
        grey = rendered(BODIES["leaf"]) + grain
        fine, smooth = (trace(grey, PIXELS, 0.5, s, 12.0).regions[0].path for s in (0.2, 1.5))
        self.assertLess(smooth.segment_count, fine.segment_count / 2)
        area = [float(signed_areas(p).sum()) for p in (fine, smooth)]
        self.assertLess(abs(area[0] - area[1]) / area[0], 0.01)

    def test_a_hole_is_part_of_its_region_and_runs_the_other_way(self):
        regions = traced(rendered(BODIES["ring"])).regions
        self.assertEqual([len(r.path) for r in regions], [2])
        self.assertTrue(regions[0].path.is_circle.all())
        self.assertEqual(float(regions[0].path.bulge[0]), -float(regions[0].path.bulge[2]))

    def test_the_largest_region_comes_first(self):
        body = '<circle cx="60" cy="60" r="20"/><circle cx="260" cy="260" r="90"/>'
        seeds = [r.seed for r in traced(rendered(body)).regions]
        self.assertTrue(seeds[0][0] > 150 > seeds[1][0])


class Proposals(unittest.TestCase):
    def test_stairs_are_smoothed_more(self):
        soft = rendered(BODIES["leaf"])
        hard = (soft > 0.5).astype(np.float32)
        self.assertGreater(propose(hard, 1.0).smoothness_mm, propose(soft, 1.0).smoothness_mm)
        grained = hard * 0.8 + np.random.default_rng(1).normal(0.1, 0.01, hard.shape).astype(np.float32)
        third = np.where(np.indices(hard.shape)[0] < 20, np.float32(0.55), hard)
        for name, grey, stairs in (
            ("grey along the edges", soft, False),
            ("black and white", hard, True),
            ("with grain", grained, True),
            ("three levels", third, True),
        ):
            with self.subTest(name):
                self.assertEqual(has_stairs(grey, 0.5), stairs)
        made = trace(hard, PIXELS, 0.5, propose(hard, 1.0).smoothness_mm, 12.0).regions[0].path
        self.assertEqual(len(sharp_corners(made, 20)), 2)

    def test_they_follow_the_size_of_a_pixel(self):
        grey = rendered(BODIES["leaf"])
        self.assertAlmostEqual(propose(grey, 0.2).smoothness_mm * 5, propose(grey, 1.0).smoothness_mm)
        self.assertEqual(propose(np.tile(grey, (40, 40)), 0.01).smallest_mm2, 0.3)
        self.assertAlmostEqual(propose(grey, 0.01).smallest_mm2, grey.size * 1e-7, 6)


class BadPictures(unittest.TestCase):
    def test_each_says_what_to_change(self):
        even = np.full((50, 50), 0.5, np.float32)
        dots = np.ones((50, 50), np.float32)
        dots[::10, ::10] = 0
        for name, grey, threshold, words in (
            ("nothing so dark", even, 0.2, "Nothing in this picture is darker than 20 %"),
            ("only specks", dots, 0.5, "keep smaller bits"),
        ):
            with self.subTest(name), self.assertRaisesRegex(CannotDo, words):
                trace(grey, PIXELS, threshold, 0.3, 12.0)
        with self.assertRaisesRegex(CannotDo, "one even colour"):
            propose(even, 1.0)

    def test_one_pixel_high_is_traced(self):
        line = np.ones((1, 60), np.float32)
        line[0, 10:50] = 0
        self.assertEqual(len(trace(line, PIXELS, 0.5, 0.3, 1.0).regions), 1)

    def test_modes_are_named(self):
        self.assertEqual(check_mode("dark"), "dark")
        with self.assertRaisesRegex(Exception, ", ".join(mode for mode, _, _ in MODES)):
            check_mode("nonsense")


class Rendered(unittest.TestCase):
    def test_a_trace_drawn_again_is_the_picture_above_its_threshold(self):
        """scikit-image's own pictures with clear edges, traced and drawn by resvg, pixel by pixel. Where edges are soft
        a line lies half-way between what is beside it, not where the threshold is passed."""
        import io

        import resvg_py
        from PIL import Image
        from skimage import data

        from hakobu.geometry.path_text import path_data

        for name, most in (("horse", 0.002), ("clock", 0.004)):
            with self.subTest(name):
                grey = np.ascontiguousarray(getattr(data, name)().astype(np.float32))
                grey /= grey.max()
                mark = propose(grey, 1.0).threshold
                made = trace(grey, PIXELS, mark, 0.2, 0.0)
                path = Path.concatenate(region.path for region in made.regions)
                height, width = grey.shape
                svg = (
                    f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}"><rect width="{width}" '
                    f'height="{height}" fill="#fff"/><path fill-rule="evenodd" d="{path_data(path, 4)}"/></svg>'
                )
                drawn = np.asarray(Image.open(io.BytesIO(bytes(resvg_py.svg_to_bytes(svg_string=svg)))).convert("L"))
                other = (drawn < 128) != (grey < mark)
                self.assertLess(other.mean(), most)


class Soundness(unittest.TestCase):
    def test_no_outline_crosses_itself_whatever_the_picture(self):
        from scipy.ndimage import gaussian_filter
        from skimage import data

        from hakobu.geometry.crossings import crossings

        pictures = {name: getattr(data, name)() for name in ("coins", "text", "horse", "clock")}
        noise = np.random.default_rng(3).random((120, 160))
        pictures |= {f"noise {soft}": gaussian_filter(noise, soft) for soft in (0.8, 1.5, 3.0)}
        for name, picture in pictures.items():
            with self.subTest(name):
                grey = picture.astype(np.float32)
                grey = np.ascontiguousarray((grey - grey.min()) / (grey.max() - grey.min()))
                made = trace(grey, PIXELS, propose(grey, 1.0).threshold, 0.2, 6.0)
                path = Path.concatenate(region.path for region in made.regions)
                self.assertEqual(len(crossings(path, np.arange(len(path))).places), 0)

    def test_where_an_outline_would_cross_itself_only_that_is_drawn_plainer(self):
        from hakobu.geometry.crossings import crossings

        y, x = np.mgrid[0:700, 0:700] + 0.5
        patch = (np.abs(x - 350) < 60) & (y < 90)
        for seed in range(6):
            # A disc of 300 px, its edge torn by noise over a fifteenth of its round.
            grey = np.clip(np.hypot(x - 350, y - 350) - 299.5, 0, 1)
            grey[patch] += np.random.default_rng(seed).normal(0, 0.35, np.count_nonzero(patch))
            made = trace(np.clip(grey, 0, 1).astype(np.float32), PIXELS, 0.5, 0.2, 60.0)
            path = Path.concatenate(region.path for region in made.regions)
            self.assertEqual(len(crossings(path, np.zeros(len(path), np.int64)).places), 0)
            self.assertLess(path.segment_count, 160)
            points = flatten(path, 0.001, 0.5).points
            away = points[:, 1] > 100
            self.assertLess(np.abs(np.hypot(*(points[away] - 350).T) - 300).max(), 0.2)
