"""Which colour pixels are of: what is told of many at once is what each tells by itself."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import ndimage

from hakobu.model.lab import to_lab
from hakobu.tracing.colour.components import components
from hakobu.tracing.colour.labels import labelled
from hakobu.tracing.outlines.edge_blur import SEEN

COLOURS = np.array([[250.0, 248, 240], [30, 30, 34], [200, 60, 40], [50, 120, 190]])


def areas(seed: int, height: int, width: int, noise: float) -> np.ndarray:
    """Blocks of the colours with soft sides in between, (H, W, 3) uint8."""
    random = np.random.default_rng(seed)
    cells = random.integers(0, len(COLOURS), (height // 6 + 1, width // 6 + 1))
    rgb = COLOURS[np.repeat(np.repeat(cells, 6, axis=0), 6, axis=1)[:height, :width]]
    rgb = ndimage.uniform_filter(rgb, (1, 2, 1)) + random.normal(0, noise, rgb.shape)
    return rgb.round().clip(0, 255).astype(np.uint8)


def is_sure(picture: np.ndarray, own: np.ndarray, tolerance: float, r: int, c: int) -> bool:
    """As it is said: near to its colour, and between no two neighbours that differ."""
    if np.abs(picture[r, c] - own).max() >= 2 * tolerance:
        return False
    height, width = picture.shape[:2]
    for (y0, x0), (y1, x1) in (((r - 1, c), (r + 1, c)), ((r, c - 1), (r, c + 1))):
        before, after = picture[max(y0, 0), max(x0, 0)], picture[min(y1, height - 1), min(x1, width - 1)]
        whole = np.abs(before - after).max()
        one, other = np.abs(picture[r, c] - before).max(), np.abs(picture[r, c] - after).max()
        between = min(one, other) > tolerance / 2 and max(one, other) < whole
        if whole > tolerance and (between or (max(one, other) > tolerance and min(one, other) > tolerance / 3)):
            return False
    return True


class Labels(unittest.TestCase):
    @given(st.integers(0, 10_000), st.sampled_from([4, 33, 64, 70, 101]), st.sampled_from([0.0, 3.0]))
    @settings(max_examples=15, deadline=None)
    def test_are_sure_where_each_pixel_by_itself_is(self, seed, width, noise):
        from hakobu.tracing.colour.kernels import pixel_labels
        from hakobu.tracing.colour.labels import _table

        rgb, tolerance = areas(seed, 14, width, noise), 12.0
        labels, sure = np.empty(rgb.shape[:2], np.uint8), np.empty(rgb.shape[:2], bool)
        picture, own = np.empty(rgb.shape, np.float32), COLOURS @ SEEN
        pixel_labels.nearest_labels(rgb, _table(COLOURS), 0, len(rgb), labels)
        pixel_labels.seen(rgb, 1.0, 0, len(rgb), picture)
        nearest = np.tile(COLOURS.astype(np.uint8), pixel_labels.TOGETHER)
        pixel_labels.label_pixels(
            rgb.reshape(len(rgb), -1), nearest, picture, own, tolerance, 0, len(rgb), labels, sure
        )
        np.testing.assert_allclose(picture, rgb @ SEEN, atol=1e-3)
        for r in range(len(rgb)):
            for c in range(width):
                self.assertEqual(sure[r, c], is_sure(picture, own[labels[r, c]], tolerance, r, c), (r, c))

    def test_are_of_the_nearest_colour_in_lab(self):
        from hakobu.tracing.colour.kernels import pixel_labels
        from hakobu.tracing.colour.labels import _table

        rgb = np.random.default_rng(2).integers(0, 256, (40, 50, 3)).astype(np.uint8)
        labels = np.empty(rgb.shape[:2], np.uint8)
        pixel_labels.nearest_labels(rgb, _table(COLOURS), 0, len(rgb), labels)
        # Of the middle of the box of eight by eight by eight that a pixel lies in.
        middle = to_lab(((rgb // 8) * 8 + 4) / 256.0)
        apart = np.linalg.norm(middle[:, :, None] - to_lab(COLOURS / 255.0), axis=3)
        np.testing.assert_array_equal(labels, apart.argmin(axis=2))

    def test_of_parts_are_those_of_the_whole(self):
        from hakobu.tracing.colour.kernels import pixel_labels

        rgb = areas(4, 40, 70, 2.0)
        whole, parts = (np.empty(rgb.shape, np.float32) for _ in range(2))
        pixel_labels.seen(rgb, 0.3, 0, 40, whole)
        for first, last in ((0, 13), (13, 14), (14, 40)):
            pixel_labels.seen(rgb, 0.3, first, last, parts)
        np.testing.assert_array_equal(whole, parts)


class Bits(unittest.TestCase):
    def test_that_are_too_small_go_to_what_is_about_them(self):
        rgb = np.full((60, 80, 3), COLOURS[0], np.uint8)
        rgb[20:50, 20:60] = COLOURS[2]
        rgb[25:27, 40:42] = COLOURS[1]
        rgb[5:9, 5:9] = COLOURS[3]
        seen = labelled(rgb, COLOURS, 0.0, 10.0)
        self.assertEqual(seen.gone, 1)
        self.assertTrue((seen.labels[20:50, 20:60] == 2).all())
        self.assertTrue((seen.labels[5:9, 5:9] == 3).all())
        self.assertEqual(labelled(rgb, COLOURS, 0.0, 3.0).gone, 0)

    def test_a_small_one_in_a_small_one_goes_with_it(self):
        rgb = np.full((40, 40, 3), COLOURS[0], np.uint8)
        rgb[10:14, 10:14] = COLOURS[2]
        rgb[11:13, 11:13] = COLOURS[1]
        seen = labelled(rgb, COLOURS, 0.0, 30.0)
        self.assertTrue((seen.labels == 0).all())
        self.assertEqual(seen.gone, 2)

    @given(st.integers(0, 10_000), st.integers(1, 12), st.integers(1, 40), st.integers(1, 4))
    @settings(max_examples=60, deadline=None)
    def test_pixels_of_some_are_scipys(self, seed, height, width, count):
        random = np.random.default_rng(seed)
        labels = random.integers(0, count, (height, width)).astype(np.uint8)
        found = components(labels)
        number = found.numbers()
        wanted = random.random(len(found)) < 0.5
        row, column, which = found.pixels(wanted)
        np.testing.assert_array_equal(np.stack([row, column]), np.nonzero(wanted[number]))
        np.testing.assert_array_equal(which, number[row, column])
        core = random.random(labels.shape) < 0.2
        some = np.bincount(number.ravel(), core.ravel(), len(found)) > 0
        np.testing.assert_array_equal(found.without(core), ~some)
        np.testing.assert_array_equal(found.first, [np.flatnonzero(number == k)[0] for k in range(len(found))])


class Steps(unittest.TestCase):
    @given(st.integers(0, 10_000), st.integers(1, 7), st.integers(1, 40), st.integers(1, 3))
    @settings(max_examples=60, deadline=None)
    def test_are_found_where_both_their_ends_are_of_one_colour(self, seed, height, width, every):
        from hakobu.tracing.edges.kernels.edge_blur import steps_across

        labels = np.repeat(np.random.default_rng(seed).integers(0, 3, (height, width)), 4, axis=1).astype(np.uint8)
        expected = []
        for r in range(0, height, every):
            for c in range(labels.shape[1] - 7):
                own = labels[r, c : c + 8].tolist()
                if own[0] != own[7] and own[:3] == own[:1] * 3 and own[5:] == own[7:] * 3:
                    expected.append([r, c])
        found = np.stack(steps_across(labels, every, 8, 3), axis=1)
        self.assertEqual(found.tolist(), expected)
