"""Circles, arcs and lines recovered; curves as arcs; outlines simplified."""

import math
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import ARC, CUBIC, LINE, Path, flatten, rotation, transform
from hakobu.geometry.boolean import union
from hakobu.geometry.nodes import end_directions
from hakobu.geometry.recover import as_arcs, recover
from hakobu.geometry.simplify import distance_between, simplify

from ..shapes import blob, circle, square
from .curves import flower, four_cubic_circle, polygon, regular, total_area


def rounded(steps: int, radius: float = 3.0, width: float = 20.0, height: float = 12.0) -> Path:
    """A rectangle with round corners, as straight lines."""
    points = []
    corners = ((width - radius, radius, -90), (width - radius, height - radius, 0), (radius, height - radius, 90))
    for x, y, begin in (*corners, (radius, radius, 180)):
        angle = np.radians(np.linspace(begin, begin + 90, steps))
        points += list(zip(x + radius * np.cos(angle), y + radius * np.sin(angle), strict=True))
    return Path.from_points(np.array(points), closed=True)


def fine_lines(path: Path, chord_mm: float) -> Path:
    """The same outlines as many short lines."""
    chords = flatten(path, chord_mm)
    return Path.concatenate(Path.from_points(chords.outline(k)[:-1], closed=True) for k in range(len(chords)))


class Recover(unittest.TestCase):
    def test_four_cubics_are_a_circle_again(self):
        made = recover(four_cubic_circle(3, 4, 10, 0.3), 0.01)
        self.assertTrue(made.is_circle[0])
        self.assertLess(distance_between(made, circle(3, 4, 10)), 0.003)

    def test_a_polygon_of_two_hundred_sides_is_a_circle_again(self):
        for path in (regular(200, 10, 5, 5), regular(200, 10, 5, 5).reversed()):
            made = recover(path, 0.01)
            self.assertTrue(made.is_circle[0])
            self.assertEqual(np.sign(made.bulge).tolist(), [np.sign(total_area(path))] * 2)
            self.assertLess(distance_between(made, circle(5, 5, 10)), 0.01)

    def test_noise_within_the_distance_does_not_hide_a_circle(self):
        random = np.random.default_rng(2)
        points = regular(300, 10).ctrl[:, 0] + random.normal(0, 0.002, (300, 2))
        self.assertTrue(recover(Path.from_points(points, closed=True), 0.02).is_circle[0])

    def test_a_polygon_that_was_meant_stays(self):
        for sides in (3, 4, 6, 8, 24):
            made = recover(regular(sides, 10), 0.01)
            self.assertEqual(made.segment_count, sides)
            self.assertTrue((made.kind == LINE).all())

    def test_nodes_in_line_go_and_corners_stay(self):
        made = recover(polygon((0, 0), (3, 0), (3, 0), (5, 0), (10, 0), (10, 10), (4, 10), (0, 10)), 0.01)
        self.assertEqual(made.segment_count, 4)
        self.assertLess(distance_between(made, square(0, 0, 10)), 1e-12)

    def test_round_corners_are_arcs_between_lines(self):
        for turn in (0.0, 0.7):
            made = recover(transform(rounded(30), rotation(turn)), 0.005)
            self.assertEqual(sorted(made.kind.tolist()), [LINE] * 4 + [ARC] * 4)
            chord = np.hypot(*(made.ctrl[:, 3] - made.ctrl[:, 0]).T)[made.kind == ARC]
            bulge = np.abs(made.bulge[made.kind == ARC])
            np.testing.assert_allclose(chord * (1 + bulge**2) / (4 * bulge), 3, atol=0.02)

    def test_a_free_curve_stays_a_curve(self):
        made = recover(blob().outline(0), 0.01)
        self.assertTrue((made.kind == CUBIC).all())
        self.assertEqual(made.segment_count, 2)


class Arcs(unittest.TestCase):
    @given(st.integers(0, 10_000), st.sampled_from((0.1, 0.01, 0.001)))
    @settings(max_examples=15)
    def test_stay_within_the_distance_and_smooth(self, seed, within):
        path = flower(seed)
        made = as_arcs(path, within)
        self.assertFalse((made.kind == CUBIC).any())
        self.assertLess(distance_between(path, made), 1.05 * within)
        leaving, arriving = end_directions(made)
        inner = np.ones(made.segment_count, bool)
        nodes = {tuple(p) for p in path.ctrl[:, 0].tolist()}
        inner &= np.array([tuple(p) not in nodes for p in made.ctrl[:, 0].tolist()])
        before = np.roll(arriving, 1, axis=0)
        turn = np.arctan2(before[:, 0] * leaving[:, 1] - before[:, 1] * leaving[:, 0], (before * leaving).sum(axis=1))
        self.assertLess(float(np.abs(turn[inner]).max()), 2e-3)

    def test_lines_and_arcs_are_left_alone(self):
        for path in (circle(0, 0, 4), square()):
            self.assertEqual(as_arcs(path, 0.01), path)

    def test_fewer_where_more_is_allowed(self):
        counts = [as_arcs(flower(5), within).segment_count for within in (0.1, 0.01, 0.001)]
        self.assertEqual(counts, sorted(counts))
        # A biarc's error falls with the third power of its length.
        self.assertLess(counts[2], 6 * counts[0])


class Simplify(unittest.TestCase):
    @given(st.integers(0, 10_000))
    @settings(max_examples=10)
    def test_short_lines_become_few_curves_within_the_distance(self, seed):
        path = fine_lines(union(flower(seed)).path, 0.002)
        made = simplify(path, 0.02)
        self.assertLess(made.path.segment_count, path.segment_count / 4)
        self.assertLessEqual(distance_between(path, made.path), 0.02 * 1.001)
        # What is told is measured outline by outline, at points that are the denser the smaller each is.
        apart = max(map(distance_between, path.outlines(), made.path.outlines()))
        self.assertAlmostEqual(made.off_mm, apart, delta=2e-4)
        self.assertGreaterEqual(made.off_mm, distance_between(path, made.path) - 2e-4)
        self.assertEqual(made.path.closed.tolist(), path.closed.tolist())

    def test_what_is_as_plain_as_can_be_stays(self):
        for path in (square(), circle(), blob().outline(0)):
            made = simplify(path, 0.01)
            self.assertEqual(made.path.segment_count, path.segment_count)
            self.assertLess(made.off_mm, 1e-9)

    def test_corners_stay_where_they_are(self):
        made = simplify(rounded(30, radius=0.0001), 0.01).path
        corners = made.ctrl[:, 0]
        for corner in ((0, 0), (20, 0), (20, 12), (0, 12)):
            self.assertLess(float(np.hypot(*(corners - corner).T).min()), 0.01)

    def test_open_lines_stay_open(self):
        angle = np.linspace(0, math.pi, 90)
        line = Path.from_points(np.column_stack([10 * np.cos(angle), 10 * np.sin(angle)]), closed=False)
        made = simplify(line, 0.01)
        self.assertEqual((made.path.segment_count, made.path.kind[0]), (1, ARC))
        self.assertFalse(made.path.closed[0])
