"""Quantiles against numpy's own."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hakobu.tracing.order_statistics import quantile

NUMBERS = st.floats(-1e6, 1e6, allow_nan=False)


class Quantiles(unittest.TestCase):
    @given(st.lists(NUMBERS, min_size=1, max_size=60), st.floats(0, 1))
    def test_are_numpys(self, values, share):
        expected = float(np.quantile(np.array(values), share))
        self.assertAlmostEqual(quantile(np.array(values), share), expected, delta=1e-9 * max(map(abs, values)) + 1e-12)

    @given(st.lists(NUMBERS, min_size=1, max_size=60))
    def test_half_is_the_median(self, values):
        expected = float(np.median(values))
        self.assertAlmostEqual(quantile(np.array(values), 0.5), expected, delta=1e-9 * max(map(abs, values)) + 1e-12)

    def test_none_and_all_are_the_ends(self):
        values = np.array([3.0, -1.0, 7.0, 2.0])
        self.assertEqual((quantile(values, 0.0), quantile(values, 1.0)), (-1.0, 7.0))

    def test_what_is_asked_stays_as_it_was(self):
        values = np.array([3.0, -1.0, 7.0, 2.0], np.float32)
        quantile(values, 0.3)
        self.assertEqual(values.tolist(), [3.0, -1.0, 7.0, 2.0])
