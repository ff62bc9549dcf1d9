import unittest

import numpy as np

from hakobu.geometry import Path, SegmentIndex, flatten
from hakobu.geometry.proximity.chord_distance import distance_to_chords

from ..shapes import blob, circle


class Nearest(unittest.TestCase):
    def test_distances_to_a_circle(self):
        index = SegmentIndex(flatten(circle(0, 0, 10), 1e-4), 0.2)
        points = np.array([[0.0, 0], [20, 0], [10, 0], [0, -13]])
        np.testing.assert_allclose(index.nearest(points)[0], [10, 10, 0, 3], atol=2e-4)

    def test_it_finds_what_trying_every_chord_finds(self):
        chords = flatten(blob(), 0.01)
        first, last, _ = chords.edges()
        points = np.random.default_rng(7).uniform(-20, 90, (400, 2))
        truth = distance_to_chords(points[:, None], first, last).min(axis=1)
        np.testing.assert_allclose(SegmentIndex(chords, 0.2).nearest(points)[0], truth, atol=1e-9)

    def test_many_lines_in_one_place_do_not_hide_the_nearest(self):
        # Forty copies a little to the left, and one line just at the point.
        paths = [Path.from_points([[-0.03, -5.0], [-0.03, 5.0]], False)] * 40
        chords = flatten(Path.concatenate([*paths, Path.from_points([[0.001, -9.0], [0.001, 9.0]], False)]), 0.01)
        distance, _ = SegmentIndex(chords, 0.2).nearest(np.array([[0.0, 0.0], [0.0, 3.333]]))
        np.testing.assert_allclose(distance, 0.001, atol=1e-12)

    def test_the_nearest_of_nothing_is_infinitely_far(self):
        chords = flatten(blob().take([]), 0.01)
        distance, number = SegmentIndex(chords, 0.2).nearest(np.zeros((2, 2)))
        self.assertEqual((distance.tolist(), number.tolist()), ([np.inf] * 2, [-1] * 2))
