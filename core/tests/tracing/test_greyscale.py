"""What is told of grey pictures in one pass, against whole arrays of numpy."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.tracing.edges.greyscale import LUMA, levels, luma_over_white

#: Around where what is looked at together ends.
SIZES = (st.integers(0, 10_000), st.integers(1, 9), st.sampled_from([1, 2, 3, 4, 5, 63, 64, 65, 67, 130]))


def drawn(seed: int, height: int, width: int) -> np.ndarray:
    """Areas with hard and soft edges, as float32 from 0 to 1."""
    random = np.random.default_rng(seed)
    steps = np.repeat(random.random((height, width // 5 + 1)), 5, axis=1)[:, :width]
    return np.clip(steps + random.normal(0, 0.05, steps.shape), 0, 1).astype(np.float32)


class Luma(unittest.TestCase):
    @given(*SIZES, st.booleans())
    @settings(max_examples=40, deadline=None)
    def test_is_that_of_the_standard_laid_over_white(self, seed, height, width, clear):
        picture = np.random.default_rng(seed).integers(0, 256, (height, width, 4)).astype(np.uint8)
        if not clear:
            picture[..., 3] = 255
        # ITU-R BT.709's weights of what is coded, then its share of what is seen.
        share = picture[..., 3] / 255
        expected = (picture[..., :3] / 255 @ LUMA.astype(float)) * share + 1 - share
        np.testing.assert_allclose(luma_over_white(picture), expected, atol=2e-6)

    def test_of_a_part_of_a_picture_is_that_part(self):
        picture = np.random.default_rng(1).integers(0, 256, (40, 50, 4)).astype(np.uint8)
        whole = luma_over_white(picture)
        np.testing.assert_array_equal(luma_over_white(picture[5:31, 7:40]), whole[5:31, 7:40])
        np.testing.assert_array_equal(luma_over_white(picture[::2, ::-3]), whole[::2, ::-3])


class Levels(unittest.TestCase):
    @given(*SIZES)
    @settings(max_examples=40, deadline=None)
    def test_hold_each_pixel_once(self, seed, height, width):
        grey = drawn(seed, height, width)
        expected = np.bincount((grey * np.float32(255) + np.float32(0.5)).astype(int).ravel(), minlength=256)
        np.testing.assert_array_equal(levels(grey), expected)

    def test_end_at_black_and_white(self):
        counts = levels(np.array([[-0.2, 0.0, 1.0, 1.3]], np.float32))
        self.assertEqual((counts[0], counts[255], counts.sum()), (2, 2, 4))


class Edges(unittest.TestCase):
    @given(*SIZES, st.floats(0.1, 0.9), st.floats(0.1, 0.9), st.floats(0.1, 0.9))
    @settings(max_examples=60, deadline=None)
    def test_are_counted_as_numpy_counts_them(self, seed, height, width, mark, one, other):
        from hakobu.tracing.edges.kernels.greyscale import at_edges

        grey = drawn(seed, height, width)
        mark, low, high = np.float32(mark), np.float32(min(one, other)), np.float32(max(one, other))
        dark = grey < mark
        sides = np.count_nonzero(dark[1:] != dark[:-1]) + np.count_nonzero(dark[:, 1:] != dark[:, :-1])
        between = np.count_nonzero((grey >= low) & (grey < high))
        self.assertEqual(at_edges(grey, mark, low, high), (between, sides))

    @given(*SIZES, st.floats(0.1, 0.9))
    @settings(max_examples=60, deadline=None)
    def test_jump_by_their_share_of_the_whole_change(self, seed, height, width, mark):
        from hakobu.tracing.edges.kernels.greyscale import jumps

        grey, mark = drawn(seed, height, width), np.float32(mark)
        expected = []
        for along in (grey, grey.T):
            before, one, other, after = (along[:, k : along.shape[1] - 3 + k] for k in range(4))
            if along.shape[1] < 4:
                continue
            whole = np.abs(after - before)
            there = ((one < mark) != (other < mark)) & (whole > np.float32(0.1))
            expected.append(np.abs(other - one)[there] / whole[there])
        expected = np.sort(np.concatenate([np.zeros(0), *expected]))
        np.testing.assert_allclose(np.sort(jumps(grey, mark, 0.1)), expected, rtol=1e-5)
