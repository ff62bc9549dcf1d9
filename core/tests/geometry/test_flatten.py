import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import Path, PathBuilder, flatten
from hakobu.geometry.flatten import points_at
from hakobu.geometry.proximity.chord_distance import distance_to_chords

from ..shapes import blob, circle

numbers = st.floats(-200, 200).map(lambda v: round(v, 3))
points = st.tuples(numbers, numbers)


def bound_holds(path: Path, tolerance: float) -> float:
    """How far the true curve leaves its chords, by a thousand points on each segment."""
    chords = flatten(path, tolerance)
    worst = 0.0
    t = np.linspace(0, 1, 1001)
    for segment in range(path.segment_count):
        own = np.flatnonzero(chords.segment == segment)
        ends = np.vstack([chords.points[own], path.ctrl[segment, 3]])
        curve = points_at(path, np.full(len(t), segment), t)
        apart = distance_to_chords(curve[:, None], ends[:-1], ends[1:]).min(axis=1)
        worst = max(worst, float(apart.max()))
    return worst


class Bound(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(points, points, points, points, st.sampled_from([0.5, 0.05, 0.007]))
    def test_no_cubic_leaves_its_chords_by_more_than_the_tolerance(self, a, b, c, d, tolerance):
        builder = PathBuilder()
        builder.move_to(a)
        builder.cubic_to(b, c, d)
        self.assertLessEqual(bound_holds(builder.path(), tolerance), tolerance * (1 + 1e-9))

    @settings(max_examples=60, deadline=None)
    @given(points, points, st.floats(-1, 1), st.sampled_from([0.5, 0.05, 0.007]))
    def test_no_arc_does(self, a, b, bulge, tolerance):
        builder = PathBuilder()
        builder.move_to(a)
        builder.bulge_to(bulge, b)
        self.assertLessEqual(bound_holds(builder.path(), tolerance), tolerance * (1 + 1e-6) + 1e-9)

    def test_few_chords_are_used_for_a_circle(self):
        # The sagitta gives the least number of chords: pi / acos(1 - t / r).
        radius, tolerance = 10.0, 0.01
        least = np.pi / np.arccos(1 - tolerance / radius)
        self.assertLessEqual(len(flatten(circle(0, 0, radius), tolerance).points) - 1, least + 2)


class Provenance(unittest.TestCase):
    def test_each_vertex_knows_its_curve_and_parameter(self):
        path = blob()
        chords = flatten(path, 0.01)
        np.testing.assert_array_equal(points_at(path, chords.segment, chords.parameter), chords.points)

    def test_outlines_begin_and_end_on_their_nodes_exactly(self):
        path = blob()
        chords = flatten(path, 0.1)
        for k in range(len(path)):
            own = chords.outline(k)
            self.assertEqual(own[0].tolist(), path.ctrl[path.start[k], 0].tolist())
            self.assertEqual(own[-1].tolist(), path.ctrl[path.start[k + 1] - 1, 3].tolist())

    def test_no_chord_is_longer_than_asked(self):
        first, last, _ = flatten(blob(), 1.0, longest_mm=0.5).edges()
        self.assertLessEqual(np.hypot(*(last - first).T).max(), 0.75)

    def test_edges_do_not_run_from_outline_to_outline(self):
        path = blob()
        first, last, owner = flatten(path, 0.01).edges()
        self.assertEqual(np.unique(owner).tolist(), [0, 1, 2])
        self.assertLess(np.hypot(*(last - first).T).max(), 11)
