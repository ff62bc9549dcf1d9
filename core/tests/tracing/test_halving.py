"""Steps of edges in pictures, against a plain look at every pixel of the same rows."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import ndimage

from hakobu.tracing.edges.greyscale import half_of, quarter_of
from hakobu.tracing.edges.kernels.halving import change, halve, halve_and_find_runs, steps_in_rows
from hakobu.tracing.edges.kernels.runs import find_runs
from hakobu.tracing.edges.regions import find_regions

BESIDE, LEAST = 3, 0.1


def picture(seed: int, height: int, width: int, coarse: int) -> np.ndarray:
    """Blocks of random greys: even over so many pixels, with steps between."""
    random = np.random.default_rng(seed)
    small = random.random((height // coarse + 1, width // coarse + 1))
    return np.ascontiguousarray(np.kron(small, np.ones((coarse, coarse)))[:height, :width], np.float32)


def looked_at(grey: np.ndarray, limit: float, every: int) -> list[float]:
    """The steepest steps over the heights of the edges along the columns of an array, of every so many rows."""
    found = []
    for row in grey[::every]:
        for c in range(BESIDE - 1, len(row) - BESIDE):
            if (row[c] < limit) != (row[c + 1] < limit):
                own = row[c - BESIDE + 1 : c + BESIDE + 1]
                height = own.max() - own.min()
                if height > LEAST:
                    found.append(float(np.abs(np.diff(own)).max() / height))
    return found


class Steps(unittest.TestCase):
    @given(st.integers(0, 10_000), st.integers(8, 40), st.integers(8, 90), st.integers(1, 20), st.integers(1, 5))
    @settings(max_examples=80, deadline=None)
    def test_along_rows_are_those_of_every_pixel(self, seed, height, width, coarse, every):
        grey = picture(seed, height, width, coarse)
        room = np.empty(grey.size, np.float32)
        count = steps_in_rows(grey.reshape(-1), width, np.float32(0.5), every, 1, BESIDE, LEAST, room)
        np.testing.assert_allclose(room[:count], looked_at(grey, 0.5, every), atol=1e-6)

    @given(st.integers(0, 10_000), st.integers(8, 40), st.integers(8, 90), st.integers(1, 20), st.integers(1, 5))
    @settings(max_examples=80, deadline=None)
    def test_across_rows_are_those_between_a_row_and_the_next(self, seed, height, width, coarse, every):
        grey = picture(seed, height, width, coarse)
        room = np.empty(grey.size, np.float32)
        count = steps_in_rows(grey.reshape(-1), width, np.float32(0.5), every, width, BESIDE, LEAST, room)
        expected = []
        for r in range(0, height, every):
            if BESIDE - 1 <= r < height - BESIDE:
                part = np.ascontiguousarray(grey[r - BESIDE + 1 : r + BESIDE + 1].T)
                expected += looked_at(part, 0.5, 1)
        np.testing.assert_allclose(room[:count], expected, atol=1e-6)

    def test_no_more_than_there_is_room_for(self):
        grey = picture(1, 40, 90, 2)
        room = np.empty(5, np.float32)
        self.assertEqual(steps_in_rows(grey.reshape(-1), 90, np.float32(0.5), 1, 1, BESIDE, LEAST, room), 5)

    @given(st.lists(st.integers(0, 255), min_size=2, max_size=120), st.integers(1, 255), st.data())
    @settings(max_examples=80, deadline=None)
    def test_the_next_change_is_the_first(self, values, limit, data):
        flat = np.array(values, np.uint8)
        first = data.draw(st.integers(0, len(values) - 2))
        last = data.draw(st.integers(first, len(values) - 1))
        expected = next((i for i in range(first, last) if (values[i] < limit) != (values[i + 1] < limit)), last)
        self.assertEqual(change(flat, first, last, 1, np.uint8(limit)), expected)


class Halving(unittest.TestCase):
    @given(st.integers(0, 10_000), st.integers(1, 33), st.integers(1, 140), st.booleans())
    @settings(max_examples=80, deadline=None)
    def test_a_pixel_is_the_mean_of_four(self, seed, height, width, as_levels):
        grey = picture(seed, height, width, 1)
        grey = (255 * grey).astype(np.uint8) if as_levels else grey
        small = half_of(grey)
        halve(grey, small, quarter_of(grey), 0, len(small))
        even = np.pad(grey.astype(float), ((0, height % 2), (0, width % 2)), mode="edge")
        expected = even.reshape(len(even) // 2, 2, -1, 2).mean(axis=(1, 3)) / (255 if as_levels else 1)
        np.testing.assert_allclose(small, expected, atol=1e-6)

    @given(st.integers(0, 10_000), st.integers(2, 20), st.integers(2, 400), st.sampled_from((1, 7, 90)))
    @settings(max_examples=60, deadline=None)
    def test_runs_found_meanwhile_are_those_of_the_small_picture(self, seed, height, width, coarse):
        grey = picture(seed, height, width, coarse)
        small = half_of(grey)
        found = halve_and_find_runs(grey, small, quarter_of(grey), 0.5, 0, len(small))
        for one, other in zip(found, find_runs(small, 0.5, 0, len(small)), strict=True):
            np.testing.assert_array_equal(one, other)


class Runs(unittest.TestCase):
    @given(st.lists(st.tuples(st.integers(1, 150), st.booleans()), min_size=1, max_size=12))
    @settings(max_examples=150, deadline=None)
    def test_are_those_of_a_row_of_stretches(self, stretches):
        """Stretches longer and shorter than what is counted together, which change once in a block, or often."""
        row = np.concatenate([np.full(long, 0.2 if dark else 0.8, np.float32) for long, dark in stretches])
        padded = np.concatenate([[0], row < 0.5, [0]]).astype(int)
        ends = np.flatnonzero(np.diff(padded))
        counts, (left, right, _) = find_runs(row[None], 0.5, 0, 1)
        self.assertEqual((left.tolist(), right.tolist()), (ends[::2].tolist(), ends[1::2].tolist()))
        self.assertEqual(counts.tolist(), [len(left)])

    @given(st.integers(0, 10_000), st.integers(1, 6), st.integers(1, 200), st.sampled_from((0.0, 0.3)))
    @settings(max_examples=80, deadline=None)
    def test_tell_the_darkest_of_their_pixels(self, seed, height, width, below):
        """What is darker than black as well: a picture may be given with its noise."""
        grey = picture(seed, height, width, 3) + picture(seed + 1, height, width, 1) / 2 - np.float32(below)
        counts, (left, right, least) = find_runs(grey, 0.5, 0, height)
        rows = np.repeat(np.arange(height), counts)
        expected = [grey[r, a:b].min() for r, a, b in zip(rows, left, right, strict=True)]
        np.testing.assert_array_equal(least.view(np.float32), np.array(expected, np.float32))

    @given(st.integers(0, 10_000), st.integers(1, 12), st.integers(1, 80), st.sampled_from((0.0, 0.3)))
    @settings(max_examples=80, deadline=None)
    def test_of_regions_are_measured_as_scipy_does(self, seed, height, width, below):
        grey = picture(seed, height, width, 3) + picture(seed + 1, height, width, 1) / 2 - np.float32(below)
        found = find_regions(grey, 0.5)
        label, count = ndimage.label(grey < 0.5, np.ones((3, 3)))
        seeds = label[found.seed[:, 1], found.seed[:, 0]]
        self.assertEqual(sorted(seeds.tolist()), list(range(1, count + 1)))
        np.testing.assert_array_equal(found.area, np.bincount(label.ravel())[seeds])
        np.testing.assert_array_equal(found.darkest, ndimage.minimum(grey, label, seeds))
        places = [ndimage.minimum_position(grey, label, k)[::-1] for k in seeds.tolist()]
        self.assertEqual(found.seed.tolist(), [list(map(int, place)) for place in places])
