"""The drawing protocol; elliptical arcs against the parametric ellipse of SVG 2, appendix B.2."""

import math
import unittest

import numpy as np

from hakobu.geometry import ARC, CUBIC, LINE, PathBuilder, SegmentIndex, flatten


class Outlines(unittest.TestCase):
    def test_closing_adds_the_missing_line_only_where_one_is_missing(self):
        for last, segments in (((0.0, 5.0), 3), ((0.0, 0.0), 2)):
            builder = PathBuilder()
            builder.move_to((0.0, 0.0))
            builder.line_to((5.0, 0.0))
            builder.line_to(last)
            builder.close()
            self.assertEqual((builder.path().segment_count, builder.path().closed.tolist()), (segments, [True]))

    def test_many_lines_at_once_are_the_same_to_the_bit(self):
        points = np.random.default_rng(2).normal(size=(50, 2)) * 1e3
        one, many = PathBuilder(), PathBuilder()
        for builder in (one, many):
            builder.move_to((0.1, 0.2))
        for x, y in points.tolist():
            one.line_to((x, y))
        many.lines_to(points[:1])
        many.lines_to(points[1:])
        many.lines_to(points[:0])
        self.assertEqual(many.position, one.position)
        for name in ("ctrl", "kind", "bulge", "start", "closed"):
            np.testing.assert_array_equal(getattr(many.path(), name), getattr(one.path(), name))

    def test_a_hair_off_the_start_is_the_start(self):
        builder = PathBuilder()
        builder.move_to((0.0, 0.0))
        builder.line_to((5.0, 0.0))
        builder.line_to((1e-10, -1e-10))
        builder.close()
        self.assertEqual(builder.path().segment_count, 2)

    def test_what_follows_a_close_starts_where_that_outline_did(self):
        builder = PathBuilder()
        builder.move_to((1.0, 1.0))
        builder.line_to((5.0, 0.0))
        builder.close()
        builder.line_to((9.0, 9.0))
        path = builder.path()
        self.assertEqual((len(path), path.ctrl[path.start[1], 0].tolist()), (2, [1, 1]))

    def test_moves_without_lines_are_lone_nodes_and_a_close_leaves_none(self):
        builder = PathBuilder()
        builder.move_to((1.0, 1.0))
        builder.move_to((2.0, 2.0))
        builder.line_to((3.0, 2.0))
        builder.close()
        path = builder.path()
        self.assertEqual((len(path), path.closed.tolist()), (2, [False, True]))


class EllipticalArcs(unittest.TestCase):
    def test_all_four_ways_round_lie_on_their_ellipse(self):
        first, last, rx, ry, turn = np.array([10.0, 20.0]), np.array([25.0, 12.0]), 14.0, 9.0, 0.5
        spans = []
        for large in (False, True):
            for sweep in (False, True):
                builder = PathBuilder()
                builder.move_to(tuple(first))
                builder.elliptical_arc_to(rx, ry, turn, large, sweep, tuple(last))
                path = builder.path()
                self.assertEqual(path.ctrl[-1, 3].tolist(), last.tolist())
                points = flatten(path, 1e-5).points
                # In the ellipse's own axes all points lie on one circle about one centre.
                cos, sin = math.cos(turn), math.sin(turn)
                own = points @ np.array([[cos, -sin], [sin, cos]]) / (rx, ry)
                centre = np.linalg.lstsq(
                    2 * (own[1:] - own[0]), (own[1:] ** 2).sum(axis=1) - (own[0] ** 2).sum(), rcond=None
                )[0]
                np.testing.assert_allclose(np.hypot(*(own - centre).T), 1, atol=2e-5)
                angle = np.unwrap(np.arctan2(*(own - centre).T[::-1]))
                spans.append(float(angle[-1] - angle[0]))
        short, short_positive, long, long_positive = spans
        self.assertTrue(-math.pi < short < 0 < short_positive < math.pi)
        self.assertTrue(long < -math.pi and long_positive > math.pi)

    def test_circular_ones_stay_arcs_of_at_most_half_a_circle(self):
        builder = PathBuilder()
        builder.move_to((0.0, 0.0))
        builder.elliptical_arc_to(5, 5, 0.3, True, True, (5.0, 5.0))
        path = builder.path()
        self.assertEqual(path.kind.tolist(), [ARC, ARC])
        distance = SegmentIndex(flatten(path, 1e-4), 0.1).nearest(np.array([[5.0, 0.0]]))[0]
        self.assertAlmostEqual(float(distance[0]), 5.0, 3)

    def test_radii_that_cannot_reach_grow(self):
        builder = PathBuilder()
        builder.move_to((0.0, 0.0))
        builder.elliptical_arc_to(1, 1, 0, False, True, (10.0, 0.0))
        self.assertAlmostEqual(abs(float(builder.path().bulge[0])), 1.0, 9)

    def test_no_radius_is_a_line_and_no_way_is_nothing(self):
        builder = PathBuilder()
        builder.move_to((0.0, 0.0))
        builder.elliptical_arc_to(0, 5, 0, False, True, (3.0, 0.0))
        builder.elliptical_arc_to(2, 5, 0, False, True, (3.0, 0.0))
        self.assertEqual(builder.path().kind.tolist(), [LINE])

    def test_ellipses_become_cubics(self):
        builder = PathBuilder()
        builder.move_to((5.0, 0.0))
        builder.elliptical_arc_to(5, 3, 0, False, True, (-5.0, 0.0))
        self.assertEqual(set(builder.path().kind.tolist()), {CUBIC})
