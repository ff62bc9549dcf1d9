"""Regions and their outlines, against scipy's labels and areas that are known."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import ndimage

from hakobu.errors import CannotDo
from hakobu.tracing.edges.regions import find_regions
from hakobu.tracing.outlines import outlines
from hakobu.tracing.outlines.outlines import find_outlines


def seeded(seed: int, height: int, width: int, soft: float) -> np.ndarray:
    noise = np.random.default_rng(seed).random((height, width))
    return np.ascontiguousarray(ndimage.gaussian_filter(noise, soft), np.float32)


class Regions(unittest.TestCase):
    @given(st.integers(0, 10_000), st.integers(1, 40), st.integers(1, 200), st.sampled_from((0.0, 0.8, 2.0, 12.0)))
    @settings(max_examples=100, deadline=None)
    def test_are_scipys_with_areas_and_darkest_pixels(self, seed, height, width, soft):
        grey = seeded(seed, height, width, soft)
        limit = float(np.median(grey))
        found = find_regions(grey, limit)
        expected, count = ndimage.label(grey < limit, np.ones((3, 3)))
        self.assertEqual(len(found.area), count)
        labels = np.zeros(grey.shape, int)
        for r in range(height):
            for run in range(found.begin[r], found.begin[r + 1]):
                labels[r, found.left[run] : found.right[run]] = found.region[run] + 1
        pairs = np.unique(np.stack([labels.ravel(), expected.ravel()]), axis=1)
        self.assertEqual(pairs.shape[1], len(np.unique(labels)))
        for k in range(count):
            x, y = found.seed[k]
            self.assertEqual(found.area[k], np.count_nonzero(labels == k + 1))
            self.assertEqual(grey[y, x], grey[labels == k + 1].min())
            self.assertEqual(labels[y, x], k + 1)

    @given(st.integers(0, 10_000), st.integers(2, 30), st.integers(2, 30))
    @settings(max_examples=60, deadline=None)
    def test_every_crack_is_walked_once_and_holes_run_the_other_way(self, seed, height, width):
        from hakobu.tracing.edges.kernels.cracks import follow

        grey = seeded(seed, height, width, 0.7)
        found = find_regions(grey, 0.5)
        kept = np.ones(len(found.area), bool)
        rows, columns, ways, start, owner, area = follow(found.begin, found.left, found.right, found.region, kept)
        padded = np.pad(grey < 0.5, 1)
        sides = np.count_nonzero(padded[1:] != padded[:-1]) + np.count_nonzero(padded[:, 1:] != padded[:, :-1])
        self.assertEqual(len(rows), sides)
        self.assertEqual(len(set(zip(rows.tolist(), columns.tolist(), ways.tolist(), strict=True))), sides)
        # Each region has one outer outline; with 8-joined ink, a hole is a piece of 4-joined ground inside.
        self.assertEqual(sorted(owner[area > 0]), list(range(len(found.area))))
        _, count = ndimage.label(np.pad(grey >= 0.5, 1, constant_values=True))
        self.assertEqual(np.count_nonzero(area < 0), count - 1)
        # With some regions left out, what is walked is what is walked of the rest.
        kept = np.arange(len(kept)) % 2 == 0
        some = follow(found.begin, found.left, found.right, found.region, kept)
        walked, alone = (
            set(zip(*(of.tolist() for of in part), strict=True))
            for part in ([of[np.repeat(kept[owner], np.diff(start))] for of in (rows, columns, ways)], some[:3])
        )
        self.assertEqual(walked, alone)


class Outlines(unittest.TestCase):
    def test_a_square_of_pixels_has_its_area_below_the_pixel(self):
        # A row that is a quarter ink puts the line a quarter of a pixel out.
        grey = np.ones((20, 20), np.float32)
        grey[5:15, 5:15] = 0.0
        grey[4, 5:15] = 0.75
        found = find_outlines(grey, 0.5, 1.0)
        y = found.points[:, 1]
        self.assertAlmostEqual(float(y.min()), 4.75, 6)
        self.assertAlmostEqual(float(y.max()), 15.0, 6)

    def test_seeds_stay_while_the_threshold_moves(self):
        grey = seeded(5, 120, 160, 4.0)
        spread = np.quantile(grey, [0.2, 0.25, 0.3, 0.35])
        kept = [{tuple(s) for s in find_outlines(grey, float(t), 0.0).seed} for t in spread]
        for before, after in zip(kept, kept[1:], strict=False):
            # A region that grows keeps its seed, or joins one that is darker and keeps its own; none is renamed.
            labels = ndimage.label(grey < spread[kept.index(after)], np.ones((3, 3)))[0]
            darker = {labels[y, x]: (x, y) for x, y in after}
            for x, y in before:
                sx, sy = darker[labels[y, x]]
                self.assertLessEqual(grey[sy, sx], grey[y, x])
                if grey[sy, sx] == grey[y, x]:
                    self.assertEqual((sx, sy), (x, y))

    def test_what_is_smaller_than_asked_is_left_out_and_counted(self):
        grey = np.ones((40, 40), np.float32)
        grey[2:4, 2:4] = grey[8, 30] = 0
        grey[10:30, 10:30] = 0
        grey[15:17, 15:17] = 1
        found = find_outlines(grey, 0.5, 9.0)
        self.assertEqual((len(found.region), found.specks), (1, 3))
        self.assertEqual(len(find_outlines(grey, 0.5, 3.0).region), 3)

    def test_noise_from_edge_to_edge_is_refused_with_what_to_do(self):
        noise = np.random.default_rng(1).random((1200, 1200)).astype(np.float32)
        with self.assertRaisesRegex(CannotDo, "Raise the smallest bit kept"):
            find_outlines(noise, 0.3, 0.0)
        self.assertLess(outlines.MOST_OUTLINES, 100_000)

    def test_ink_that_meets_the_pictures_edge_ends_there(self):
        grey = np.zeros((12, 12), np.float32)
        found = find_outlines(grey, 0.5, 1.0)
        self.assertAlmostEqual(float(found.points.min()), 0.0, 12)
        self.assertAlmostEqual(float(found.points.max()), 12.0, 12)
