"""Nodes by hand, and lines that are drawn: each gesture beside what it says, and refused where it makes no sense."""

import math
import unittest

import numpy as np

from hakobu.geometry import ARC, CUBIC, LINE, Path, area, length, node_edit
from hakobu.geometry.primitives import rectangle
from hakobu.geometry.proximity.places import Places

from ..shapes import circle, square
from .building import take, took
from .test_build import covered
from .test_built import of

SQUARE = square(0, 0, 40)


def changed(path: Path, *edits: dict) -> Path:
    result = took("nodes", ("s:p0",), of(path), edits={"edits": [{"piece": "s:p0", **edit} for edit in edits]})
    return result.document.by_id["s:p0"].path if "s:p0" in result.document.by_id else Path.concatenate([])


class Gestures(unittest.TestCase):
    def test_a_moved_node_takes_its_handles_along(self):
        ring = node_edit.smooth(SQUARE, [0])
        made = node_edit.moved(ring, [0], (3.0, -2.0))
        before, after = node_edit.around_node(ring, 0)
        np.testing.assert_allclose(made.ctrl[after, :2] - ring.ctrl[after, :2], [[3, -2]] * 2)
        np.testing.assert_allclose(made.ctrl[before, 2:] - ring.ctrl[before, 2:], [[3, -2]] * 2)
        both = changed(SQUARE, {"do": "move", "nodes": [0, 1], "by": [0.0, -10.0]})
        self.assertAlmostEqual(area(both), 40 * 50)

    def test_an_added_node_changes_no_line_and_deleted_it_is_as_before(self):
        for path in (SQUARE, circle(20, 20, 10), node_edit.smooth(SQUARE, [0, 1, 2, 3])):
            more = changed(path, {"do": "add", "near": [21.0, 0.5]})
            self.assertEqual(more.segment_count, path.segment_count + 1)
            self.assertAlmostEqual(length(more), length(path), places=9)
            points = more.ctrl[:, 0]
            self.assertLess(Places(path).nearest(points).distance.max(), 1e-9)
        more = changed(SQUARE, {"do": "add", "near": [20.0, 0.0]}, {"do": "delete", "nodes": [1]})
        self.assertAlmostEqual(area(more), 1600.0)
        self.assertEqual(more.segment_count, 4)

    def test_outlines_with_too_few_nodes_left_are_gone(self):
        made = changed(Path.concatenate([SQUARE, square(5, 5, 4)]), {"do": "delete", "nodes": [4, 5, 6]})
        self.assertEqual(len(made), 1)
        self.assertEqual(len(changed(SQUARE, {"do": "delete", "nodes": [0, 1, 2]})), 0)

    def test_segments_become_straight_or_true_arcs(self):
        arcs = changed(
            SQUARE,
            {"do": "handle", "segment": 0, "end": 0, "to": [10.0, -10.0]},
            {"do": "handle", "segment": 0, "end": 1, "to": [30.0, -10.0]},
            {"do": "arc", "nodes": [0, 1]},
        )
        self.assertEqual(arcs.kind[0], ARC)
        # Through the middle of the curve, 7.5 above the chord of 40: its radius by the intersecting chords theorem.
        radius = (20**2 + 7.5**2) / (2 * 7.5)
        half = math.asin(20 / radius)
        self.assertAlmostEqual(area(arcs), 1600 + radius**2 * (half - math.sin(half) * math.cos(half)), places=6)
        straight = changed(arcs, {"do": "straight", "nodes": [0, 1]})
        self.assertEqual((straight.kind[0], round(area(straight), 6)), (LINE, 1600.0))

    def test_a_smooth_node_is_smooth_and_a_corner_points_to_its_neighbours(self):
        smooth = changed(SQUARE, {"do": "smooth", "nodes": [1]})
        before, after = node_edit.around_node(smooth, 1)
        into, out = smooth.ctrl[before, 3] - smooth.ctrl[before, 2], smooth.ctrl[after, 1] - smooth.ctrl[after, 0]
        self.assertAlmostEqual(float(into[0] * out[1] - into[1] * out[0]), 0.0, places=9)
        even = changed(smooth, {"do": "handle", "segment": int(after), "end": 0, "to": [45.0, 9.0], "even": True})
        into = even.ctrl[before, 3] - even.ctrl[before, 2]
        out = even.ctrl[after, 1] - even.ctrl[after, 0]
        self.assertAlmostEqual(float(into[0] * out[1] - into[1] * out[0]), 0.0, places=9)
        corner = changed(smooth, {"do": "corner", "nodes": [1]})
        self.assertEqual(corner.kind[before], CUBIC)
        np.testing.assert_allclose(corner.ctrl[before, 2], [40 - 40 / 3, 0.0])

    def test_outlines_are_opened_joined_turned_and_begun_elsewhere(self):
        opened = changed(SQUARE, {"do": "open", "nodes": [2]})
        self.assertEqual((opened.closed.tolist(), opened.ctrl[0, 0].tolist()), ([False], [40.0, 40.0]))
        self.assertTrue(changed(opened, {"do": "join", "nodes": [0, 4]}).closed.all())
        two = changed(opened, {"do": "open", "nodes": [2]})
        self.assertEqual(len(two), 2)
        one = changed(two, {"do": "join", "nodes": [4, 2]})
        self.assertEqual((len(one), one.segment_count), (1, 4))
        apart = Path.concatenate([opened, node_edit.moved(opened, range(5), (60.0, 0.0))])
        joined = changed(apart, {"do": "join", "nodes": [8, 4]})
        self.assertEqual((len(joined), joined.segment_count), (1, 9), "a line between")
        self.assertAlmostEqual(area(changed(SQUARE, {"do": "reverse", "nodes": [1]})), -1600.0)
        self.assertEqual(changed(SQUARE, {"do": "start", "nodes": [3]}).ctrl[0, 0].tolist(), [0.0, 40.0])

    def test_spots_are_where_nodes_and_handles_are(self):
        result = took("nodes", ("s:p0",), of(node_edit.smooth(SQUARE, [0])))
        nodes = [s.at for s in result.outcome.spots if " n" in s.id]
        self.assertEqual(nodes, [(0, 0), (40, 0), (40, 40), (0, 40)])
        names = {s.id.split()[1] for s in result.outcome.spots if " h" in s.id}
        self.assertEqual(names, {"h0.0.0", "h0.1.1", "h3.0.3", "h3.1.0"})

    def test_what_makes_no_sense_is_refused(self):
        for edit, words in (
            ({"do": "melt"}, "must be one of"),
            ({"do": ["move"]}, "must be one of"),
            ({"do": "move", "nodes": [9], "by": [1, 1]}, "not there"),
            ({"do": "move", "nodes": [float("inf")], "by": [1, 1]}, "not complete"),
            ({"do": "move", "nodes": [0], "by": [math.nan, 1]}, "not complete"),
            ({"do": "join", "nodes": [0, 1]}, "two loose ends"),
            ({"do": "handle", "segment": 7, "end": 0, "to": [0, 0]}, "not there"),
            ({"do": "move", "piece": "s:p9", "nodes": [0], "by": [1, 1]}, "not for"),
            ({"do": "move", "piece": ["s:p0"], "nodes": [0], "by": [1, 1]}, "not for"),
        ):
            with self.subTest(**edit):
                made = take("nodes", ("s:p0",), of(SQUARE), edits={"edits": [{"piece": "s:p0", **edit}]})
                self.assertRegex(made.stopped, words)
        self.assertRegex(take("nodes", ("s:p0",), of(SQUARE), edits={"edits": 3}).stopped, "must be a list")


class Drawn(unittest.TestCase):
    def test_a_drawn_line_parts_shapes_and_lines(self):
        made = took("cut-along", ("s:p0",), of(SQUARE), line=[[-5.0, 10.0], [20.0, 10.0], [45.0, 30.0]]).document
        sizes = sorted(covered(piece) for piece in made.pieces)
        self.assertAlmostEqual(sum(sizes), 1600.0, places=9)
        # 400 above the first half, and above the slope 20 wide and from 10 to 26 mm.
        self.assertAlmostEqual(min(sizes), 200 + 20 * 18, places=9)
        flat = took("cut-along", ("s:p0",), of(SQUARE), line=[[10.0, 12.0], [30.0, 12.0]]).document
        self.assertAlmostEqual(min(covered(p) for p in flat.pieces), 480.0, places=9, msg="it goes on straight")

    def test_a_loop_takes_away_what_lies_in_it_or_outside(self):
        loop = rectangle(10, 10, 10, 10).ctrl[:, 0].tolist()
        inside = took("cut-along", ("s:p0",), of(SQUARE), line=loop, way="inside").document
        self.assertAlmostEqual(covered(inside.pieces[0]), 1500.0, places=9)
        outside = took("cut-along", ("s:p0", "s:p1"), of(SQUARE, square(90, 0, 5)), line=loop, way="outside").document
        self.assertEqual([round(covered(p), 6) for p in outside.pieces], [100.0])

    def test_a_line_that_misses_is_refused(self):
        for line in ([[90.0, 0.0], [90.0, 9.0]], [[1.0, 1.0], [1.0, 1.0]]):
            self.assertRegex(take("cut-along", ("s:p0",), of(SQUARE), line=line).stopped, "move them|set its places")
        self.assertRegex(take("cut-along", ("s:p0",), of(SQUARE), line=[[0.0, 0.0]]).stopped, "two places")
