"""Lines that meet, put together to be drawn in one go."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import Path, length, signed_areas
from hakobu.tracing.skeleton.strokes import gathered

STRAIGHT_ON = 0.35


def lines(*points: list) -> Path:
    return Path.concatenate(Path.from_points(np.array(own, float), False) for own in points)


def made(path: Path, of: list) -> list[tuple[list[int], Path]]:
    return list(gathered(path, np.array(of).reshape(-1, 2), STRAIGHT_ON))


class Strokes(unittest.TestCase):
    def test_a_cross_is_two(self):
        arms = [[(0, 0), (-10, 0)], [(0, 0), (10, 0)], [(0, -10), (0, 0)], [(0, 10), (0, 0)]]
        ((own, path),) = made(lines(*arms), [(0, 1), (0, 2), (3, 0), (4, 0)])
        self.assertEqual(sorted(own), [0, 1, 2, 3])
        self.assertEqual((len(path), path.segment_count, path.closed.tolist()), (2, 4, [False, False]))
        ends = {tuple(sorted(map(tuple, (part.ctrl[0, 0], part.ctrl[-1, 3])))) for part in path.outlines()}
        self.assertEqual(ends, {((-10, 0), (10, 0)), ((0, -10), (0, 10))})

    def test_a_line_that_ends_on_another_stays_apart(self):
        arms = [[(0, 0), (-10, 0)], [(0, 0), (10, 0)], [(0, 0), (0, 10)]]
        ((_, path),) = made(lines(*arms), [(0, 1), (0, 2), (0, 3)])
        self.assertEqual(sorted(np.diff(path.start).tolist()), [1, 2])

    def test_two_that_are_alone_go_on_round_a_corner(self):
        ((_, path),) = made(lines([(0, 0), (9, 0)], [(9, 7), (9, 0)]), [(0, 1), (2, 1)])
        self.assertEqual(len(path), 1)
        self.assertEqual(path.ctrl[[0, -1], [0, 3]].tolist(), [[0, 0], [9, 7]])

    def test_what_comes_round_is_closed(self):
        sides = [[(0, 0), (9, 0)], [(9, 5), (9, 0)], [(9, 5), (0, 5)], [(0, 0), (0, 5)]]
        ((_, path),) = made(lines(*sides), [(0, 1), (2, 1), (2, 3), (0, 3)])
        self.assertEqual((len(path), path.closed.tolist()), (1, [True]))
        self.assertAlmostEqual(abs(float(signed_areas(path)[0])), 45.0)

    def test_a_ring_that_nothing_meets_stays_as_it_is(self):
        ring = Path.from_points(np.array([(0, 0), (4, 0), (4, 4)], float), True)
        both = Path.concatenate([ring, lines([(20, 0), (30, 0)])])
        groups = made(both, [(-1, -1), (0, 1)])
        self.assertEqual(groups, [([0], ring), ([1], lines([(20, 0), (30, 0)]))])

    def test_none_are_none(self):
        self.assertEqual(made(lines(), []), [])

    @given(st.integers(0, 10_000), st.integers(1, 25), st.integers(2, 9))
    @settings(max_examples=80, deadline=None)
    def test_every_line_is_drawn_once_and_nothing_else(self, seed, count, places):
        random = np.random.default_rng(seed)
        where = random.integers(0, 50, (places, 2)).astype(float)
        of = np.stack([random.permutation(places)[:2] for _ in range(count)])
        path = lines(*where[of].tolist())
        groups = made(path, of)
        self.assertEqual(sorted(k for own, _ in groups for k in own), list(range(count)))
        self.assertAlmostEqual(sum(length(part) for _, part in groups), length(path), 6)
        for own, part in groups:
            self.assertEqual(part.segment_count, len(own))
            for stroke in part.outlines():
                np.testing.assert_array_equal(stroke.ctrl[1:, 0], stroke.ctrl[:-1, 3])


class Chained(unittest.TestCase):
    def test_outlines_run_either_way(self):
        path = lines([(0, 0), (5, 0), (5, 5)], [(9, 9), (5, 5)])
        both = path.chained(np.array([1, -2, 2, -1]), np.array([0, 2, 4]), np.zeros(2, bool))
        self.assertEqual(both.outline(1), both.outline(0).reversed())
        self.assertEqual(both.outline(0).ctrl[:, 0].tolist(), [[0, 0], [5, 0], [5, 5]])

    def test_arcs_turn_the_other_way_when_they_are_run_back(self):
        from hakobu.geometry import ARC

        ctrl = np.array([[[0, 0], [0, 0], [4, 0], [4, 0]]], float)
        path = Path(ctrl, [ARC], [0.5], [0, 1], [False])
        back = path.chained(np.array([-1]), np.array([0, 1]), np.zeros(1, bool))
        self.assertEqual(back, path.reversed())
