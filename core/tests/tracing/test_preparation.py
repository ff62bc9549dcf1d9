"""Pictures made ready: what each preparation does to a picture whose truth is known, and where places are after it."""

import unittest
from collections import Counter
from dataclasses import replace

import numpy as np
import skimage
from skimage.draw import polygon
from skimage.filters import threshold_local
from skimage.measure import label, regionprops

from hakobu.errors import CannotDo
from hakobu.geometry import bounds, flatten, signed_areas
from hakobu.tracing import TraceOptions, View, find
from hakobu.tracing.colour.foreground import subject_share
from hakobu.tracing.prepare.illumination import flat_field_corrected, unevenness
from hakobu.tracing.prepare.preparation import Preparing, denoise, prepared
from hakobu.tracing.scale.levelling import level_degrees

from ..pictures import rendered

MM = 0.1
MATRIX = (MM, 0.0, 0.0, MM, 5.0, 7.0)
BODY = '<rect x="60" y="80" width="120" height="90"/><circle cx="300" cy="280" r="50"/>'


def of(grey: np.ndarray) -> View:
    eight = (np.clip(grey, 0, 1) * 255 + 0.5).astype(np.uint8)
    return View(np.dstack([eight, eight, eight, np.full_like(eight, 255)]), MATRIX)


GREY = rendered(BODY)
PLAIN = of(GREY)


def boxes(view: View, **asked) -> list[np.ndarray]:
    found = find(view, "dark", TraceOptions(**asked))
    return [np.array(bounds(piece.path)) for piece in found.pieces]


class Preparations(unittest.TestCase):
    def test_nothing_asked_is_nothing_done(self):
        self.assertIs(prepared(PLAIN, Preparing()), PLAIN)

    def test_a_part_lies_where_it_lay_and_keeps_its_names(self):
        part = prepared(PLAIN, Preparing(crop=((390, 390), (200, 180))))
        self.assertEqual((part.rgba.shape, part.origin), ((210, 190, 4), (200, 180)))
        whole, cut = find(PLAIN, "dark", TraceOptions()), find(part, "dark", TraceOptions())
        np.testing.assert_allclose(bounds(cut.pieces[0].path), bounds(whole.pieces[1].path), atol=1e-6)
        self.assertEqual(cut.pieces[0].key, whole.pieces[1].key)
        with self.assertRaisesRegex(CannotDo, "next to nothing"):
            prepared(PLAIN, Preparing(crop=((500, 500), (600, 600))))

    def test_a_turned_picture_is_turned_about_its_middle_to_the_last_digit(self):
        turned = prepared(PLAIN, Preparing(turned_degrees=90.0))
        middle = np.array([5.0, 7.0]) + MM * 200
        for before, after in zip(boxes(PLAIN), boxes(turned), strict=True):
            left, top, right, bottom = before - np.tile(middle, 2)
            np.testing.assert_allclose(after - np.tile(middle, 2), [-bottom, left, -top, right], atol=1e-6)

    def test_light_parts_become_the_ink(self):
        light = of(1 - GREY)
        np.testing.assert_allclose(boxes(prepared(light, Preparing(inverted=True))), boxes(PLAIN), atol=0.005)

    def test_uneven_light_is_measured_and_taken_out(self):
        rows, columns = np.mgrid[:400, :400] / 399
        shade = 1 - 0.7 * (0.6 * columns + 0.4 * rows**2)
        dim = of(GREY * 0.9 * shade + 0.05 * shade)
        self.assertGreater(unevenness(dim.grey), 0.55)
        self.assertLess(unevenness(of(0.1 + 0.8 * GREY).grey), 0.05)
        even = prepared(dim, Preparing(even_light=True))
        self.assertLess(unevenness(even.grey), 0.05)
        self.assertGreater(len(boxes(dim)), 2)
        np.testing.assert_allclose(boxes(even, threshold=0.5), boxes(PLAIN, threshold=0.5), atol=0.02)

    def test_a_page_in_a_shadow_comes_out_with_its_letters_apart(self):
        """scikit-image's `page`, a photo of print that a third lies in shadow, beside its local threshold."""
        grey = skimage.data.page()
        local = grey < threshold_local(grey, 35, offset=10)
        pixel = 25.4 / 96
        view = replace(of(grey / 255), matrix=(pixel, 0.0, 0.0, pixel, 0.0, 0.0))
        found = find(prepared(view, Preparing(even_light=True)), "dark", TraceOptions())
        dark = np.zeros(grey.shape, bool)
        for piece in found.pieces:
            chords = flatten(piece.path, 0.01)
            for part in np.split(chords.points / pixel - 0.5, chords.start[1:-1]):
                dark[polygon(part[:, 1], part[:, 0], dark.shape)] ^= True
        letters = [region for region in regionprops(label(local)) if region.area >= 15]
        there = [region for region in letters if dark[tuple(region.coords.T)].mean() > 0.4]
        self.assertGreater(len(there), 0.94 * len(letters))
        own = label(dark)
        several = Counter(np.bincount(own[tuple(region.coords.T)])[1:].argmax() + 1 for region in there)
        self.assertLess(sum(count - 1 for count in several.values()), 5, "letters that run into each other")

    def test_even_light_is_left_as_it_is(self):
        self.assertLessEqual(
            int(np.abs(flat_field_corrected(PLAIN.over_white).astype(int) - PLAIN.over_white).max()), 2
        )

    def test_noise_is_calmed_and_edges_stay(self):
        noise = np.random.default_rng(1).normal(0, 8, (*GREY.shape, 3))
        noisy = np.clip(PLAIN.over_white * 0.8 + 25 + noise, 0, 255).astype(np.uint8)
        calm = denoise(noisy).astype(float)
        flat = np.s_[100:150, 80:160]
        self.assertLess(calm[flat].std(), 0.5 * noisy[flat].astype(float).std())
        across = calm[100:150, 55:65].mean(axis=(0, 2))
        # The edge at 60 is as steep as it was: one pixel lies dark, the next one light.
        self.assertGreater(across[4] - across[5], 0.9 * (across[0] - across[-1]))


class AtHand(unittest.TestCase):
    def test_what_was_found_is_kept_and_of_one_kind_only_the_last_few(self):
        asked = []
        own = of(GREY)
        for k in (1, 2, 1, 3, 1):
            self.assertEqual(own.memoize(("kind", k), lambda k=k: asked.append(k) or k), k)
        self.assertEqual(asked, [1, 2, 3, 1])
        self.assertEqual(sum(isinstance(name, tuple) for name in own.cache), 2)


class Level(unittest.TestCase):
    def test_the_long_edges_tell_by_how_much(self):
        for degrees in (-6.0, 0.0, 2.5):
            with self.subTest(degrees):
                tilted = rendered(f'<g transform="rotate({degrees} 200 200)">{BODY}</g>')
                self.assertAlmostEqual(level_degrees(of(tilted)), -degrees, delta=0.05)

    def test_round_things_and_even_pictures_tell_nothing(self):
        self.assertIsNone(level_degrees(of(rendered('<circle cx="200" cy="200" r="90"/>'))))
        self.assertIsNone(level_degrees(of(np.full((50, 50), 0.7))))


class Subject(unittest.TestCase):
    def photo(self) -> tuple[np.ndarray, np.ndarray]:
        """A reddish disc on a greenish, uneven ground; and where it is."""
        rows, columns = np.mgrid[:300, :400]
        inside = (rows - 150) ** 2 + (columns - 220) ** 2 < 80**2
        ground = np.dstack([60 + columns * 0.1, 120 + rows * 0.1, 70 + 0 * rows])
        rgb = np.where(inside[..., None], (180.0, 70.0, 60.0), ground)
        noise = np.random.default_rng(2).normal(0, 9, rgb.shape)
        return np.clip(rgb + noise, 0, 255).astype(np.uint8), inside

    def test_is_found_by_a_few_marks(self):
        rgb, inside = self.photo()
        share = subject_share(rgb, ((200, 140), (250, 170)), ((30, 30), (370, 280)))
        found = share > 0.5
        self.assertGreater((found & inside).sum() / (found | inside).sum(), 0.98)

    def test_is_traced_round_and_marks_that_tell_nothing_are_refused(self):
        rgb, inside = self.photo()
        view = View(np.dstack([rgb, np.full(rgb.shape[:2], 255, np.uint8)]), MATRIX)
        found = find(view, "outside", TraceOptions(inside=((220, 150), (180, 150)), beyond=((20, 20), (380, 20))))
        self.assertEqual(len(found.pieces), 1)
        area = float(signed_areas(found.pieces[0].path).sum()) / MM**2
        self.assertAlmostEqual(area / inside.sum(), 1.0, delta=0.02)
        with self.assertRaisesRegex(CannotDo, "Mark the subject"):
            subject_share(rgb, (), ((3, 3),))
