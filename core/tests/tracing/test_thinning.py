"""Skeletons, their pixels and how their lines hang together."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.tracing.skeleton import thinning
from hakobu.tracing.skeleton.branches import Branch, joined, split_at_bends

LINE = 1


def canvas(*lines: list) -> np.ndarray:
    """Ink (60, 60) along level, upright and diagonal lines from x, y to x, y."""
    ink = np.zeros((60, 60), np.uint8)
    for (x0, y0), (x1, y1) in lines:
        count = max(abs(x1 - x0), abs(y1 - y0)) + 1
        ink[np.linspace(y0, y1, count).astype(int), np.linspace(x0, x1, count).astype(int)] = LINE
    return ink


class Neighbours(unittest.TestCase):
    @given(st.integers(0, 255))
    @settings(max_examples=256, deadline=None)
    def test_are_bits_round_from_the_one_above(self, bits):
        from hakobu.tracing.skeleton.kernels.thinning import BEGINS, COUNT, ring

        ink = np.zeros((3, 3), np.uint8)
        around = [(0, 1), (0, 2), (1, 2), (2, 2), (2, 1), (2, 0), (1, 0), (0, 0)]
        for k, place in enumerate(around):
            # Ink that is in line to be looked at is ink.
            ink[place] = (bits >> k & 1) * (3 if k % 2 else 1)
        self.assertEqual(ring(ink.ravel(), np.uint64(4), np.uint64(3)), bits)
        values = [ink[place] > 0 for place in around]
        self.assertEqual(COUNT[bits], sum(values))
        self.assertEqual(BEGINS[bits], sum(now and not values[k - 1] for k, now in enumerate(values)))


class Lines(unittest.TestCase):
    def ends_of(self, ink: np.ndarray) -> tuple[list, int]:
        _, _, _, ends, nodes = thinning.branches(ink)
        return sorted(sorted(pair) for pair in ends.tolist()), nodes

    def test_of_one_line_have_two_free_ends(self):
        self.assertEqual(self.ends_of(canvas([(5, 20), (50, 20)])), ([[-1, -1]], 0))

    def test_of_a_cross_are_four_from_one_meeting(self):
        ink = canvas([(5, 30), (55, 30)], [(30, 5), (30, 55)])
        self.assertEqual(self.ends_of(ink), ([[-1, 0]] * 4, 1))

    def test_that_go_round_have_no_end(self):
        ring = canvas([(10, 10), (40, 10)], [(40, 10), (40, 40)], [(40, 40), (10, 40)], [(10, 40), (10, 10)])
        self.assertEqual(self.ends_of(ring), ([[-2, -2]], 0))

    def test_between_two_meetings_are_of_both(self):
        ladder = canvas([(10, 5), (10, 55)], [(40, 5), (40, 55)], [(10, 30), (40, 30)])
        ends, nodes = self.ends_of(ladder)
        self.assertEqual((ends, nodes), ([[-1, 0], [-1, 0], [-1, 1], [-1, 1], [0, 1]], 2))

    def test_of_wide_ones_lie_in_their_middle(self):
        ink = np.zeros((60, 60), np.uint8)
        ink[27:34, 8:52] = LINE
        rows, columns, start, _, _ = thinning.branches(ink)
        self.assertEqual(len(start), 2)
        inner = (columns > 12) & (columns < 48)
        self.assertLessEqual(np.abs(rows[inner] - 30).max(), 1)

    @given(st.integers(0, 10_000))
    @settings(max_examples=40, deadline=None)
    def test_have_every_pixel_of_a_skeleton_that_is_no_meetings(self, seed):
        from scipy.ndimage import gaussian_filter

        soft = gaussian_filter(np.random.default_rng(seed).random((50, 50)), 2)
        ink = (soft > np.median(soft)).astype(np.uint8)
        ink[[0, 1, -2, -1]] = ink[:, [0, 1, -2, -1]] = 0
        rows, columns, start, ends, _ = thinning.branches(ink)
        along = np.zeros_like(ink)
        along[rows, columns] = 1
        self.assertFalse((along & ~ink.astype(bool)).any())
        # What is left out are the pixels of meetings that no line begins at.
        around = sum(np.roll(np.roll(ink, r, 0), c, 1) for r in (-1, 0, 1) for c in (-1, 0, 1) if r or c)
        self.assertTrue((around[(ink > 0) & (along == 0)] != 2).all())
        for k in range(len(start) - 1):
            own = slice(start[k], start[k + 1])
            steps = np.maximum(np.abs(np.diff(rows[own])), np.abs(np.diff(columns[own])))
            self.assertTrue((steps == 1).all())
            self.assertEqual(ends[k, 0] == -2, ends[k, 1] == -2)


def branch(points: list, ends: list, true: list | None = None) -> Branch:
    own = np.array(points, float)
    return Branch(own, ends, 4.0, (0.2, 0.0), np.ones(len(own), bool) if true is None else np.array(true, bool))


class Branches(unittest.TestCase):
    def level(self, first: int, last: int) -> list:
        return [(x, 0) for x in np.linspace(first, last, abs(last - first) + 1)]

    def test_two_that_alone_meet_are_one_however_they_run(self):
        for one, pair in ((self.level(0, 9), [-1, 0]), (self.level(9, 0), [0, -1])):
            for other, second in ((self.level(10, 20), [0, -1]), (self.level(20, 10), [-1, 0])):
                (made,) = joined([branch(one, pair), branch(other, second)])
                self.assertEqual(made.ends, [-1, -1])
                x = made.points[:, 0]
                self.assertTrue((np.diff(x) > 0).all() or (np.diff(x) < 0).all())

    def test_three_that_meet_stay_three(self):
        arms = [
            branch(self.level(0, 9), [-1, 0]),
            branch(self.level(20, 10), [-1, 0]),
            branch([(9, 1), (9, 9)], [0, -1]),
        ]
        self.assertEqual(len(joined(arms)), 3)

    def test_one_that_meets_itself_goes_round(self):
        (made,) = joined([branch([(0, 0), (5, 0), (5, 5), (0, 5), (0, 0)], [0, 0])])
        self.assertEqual((made.ends, len(made.points)), ([-2, -2], 4))

    def test_is_cut_where_it_turns_over_what_is_not_true(self):
        points = self.level(0, 20) + [(20, y) for y in range(1, 21)]
        true = [not 17 <= k <= 23 for k in range(len(points))]
        made, nodes = split_at_bends([branch(points, [-1, -1], true)], np.zeros((0, 2)))
        self.assertEqual([br.ends for br in made], [[-1, 0], [0, -1]])
        np.testing.assert_allclose(nodes, [[20, 0]], atol=0.2)

    def test_is_one_where_it_goes_straight_on(self):
        true = [not 8 <= k <= 12 for k in range(21)]
        made, nodes = split_at_bends([branch(self.level(0, 20), [-1, -1], true)], np.zeros((0, 2)))
        self.assertEqual((len(made), len(nodes)), (1, 0))
        self.assertEqual(made[0].true.tolist(), true)

    def test_where_too_little_is_true_the_middle_third_is_taken(self):
        true = [k in (3, 11) for k in range(21)]
        made, _ = split_at_bends([branch(self.level(0, 20), [-1, -1], true)], np.zeros((0, 2)))
        self.assertEqual(np.flatnonzero(made[0].true).tolist(), list(range(7, 14)))
