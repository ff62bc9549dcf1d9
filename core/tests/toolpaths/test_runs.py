"""How runs begin, end, part and slow down: leads, overcut, tabs, perforation, passes, starts, directions, order."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np
from shapely import LineString, Polygon

from hakobu.errors import BadRequest
from hakobu.geometry import Path, flatten, length, lengths, signed_areas
from hakobu.model import Document, Treatment
from hakobu.toolpaths import Plan, make, program_of
from tests.shapes import begun_at, blob, circle, square

from .worked import KNIFE, LASER, PLAIN, design, made


def line(points) -> Path:
    return Path.from_points(np.array(points, float), closed=False)


class Overcut(unittest.TestCase):
    def test_closed_cuts_run_on_past_their_start(self):
        for path in (square(20, 20, 10), circle(30, 30, 5), blob().take([0])):
            plain = float(lengths(made(design(path), KNIFE).program.path)[0])
            found = made(design(path), KNIFE, overcut_mm=1.5).program
            self.assertAlmostEqual(float(lengths(found.path)[0]), plain + 1.5, delta=0.01)
            self.assertFalse(found.path.closed[0])

    def test_open_and_drawn_lines_do_not(self):
        for document in (design(line([(10, 10), (30, 10)])), design(square(10, 10, 9), treatment=Treatment.DRAW)):
            before = made(document, KNIFE).program.path
            self.assertAlmostEqual(length(made(document, KNIFE, overcut_mm=2.0).program.path), length(before), places=9)


class Leads(unittest.TestCase):
    def test_they_lie_in_the_waste_and_are_as_long_as_asked(self):
        ring = Polygon([(30, 130), (70, 130), (70, 170), (30, 170)], [[(40, 145), (55, 145), (55, 160), (40, 160)]])
        disc = Polygon(flatten(circle(120, 140, 20), 1e-4).points)
        for shape in ("line", "arc"):
            found = made(PLAIN, LASER, lead_in_mm=3.0, lead_out_mm=2.0, lead=shape, overcut_mm=0.5).program
            plain = made(PLAIN, LASER).program
            self.assertAlmostEqual(length(found.path) - length(plain.path), 3 * (3 + 2 + 0.5), delta=0.01)
            for k in range(len(found)):
                run = LineString(flatten(found.path.take([k]), 1e-4).points)
                for begin, end in ((0.0, 3.0), (run.length - 2.0, run.length)):
                    part = LineString([run.interpolate(v) for v in np.linspace(begin + 0.02, end - 0.02, 40)])
                    self.assertLess(part.intersection(ring).length + part.intersection(disc).length, 0.02, (shape, k))
                self.assertEqual((found.lead[k], found.tail[k]), (3.0, 2.0))

    def test_they_cross_no_other_line(self):
        # Rows of squares 2 mm apart: a lead of 3 mm has room at the rim only, or not at all.
        squares = [square(20 + 12 * x, 20 + 12 * y, 10) for x in range(3) for y in range(3)]
        found = made(design(*squares), LASER, lead_in_mm=3.0)
        solid = [Polygon([(x, 200 - y) for x, y in flatten(each, 0.1).points]) for each in squares]
        for k in range(len(found.program)):
            run = LineString(flatten(found.program.path.take([k]), 0.001).points)
            lead = found.program.lead[k]
            part = LineString([run.interpolate(v) for v in np.linspace(0.0, max(lead - 0.02, 0.0), 30)])
            inside = sum(part.intersection(each).length for each in solid) if lead else 0.0
            self.assertLess(inside, 0.02)
        short = made(design(circle(50, 50, 10), circle(50, 50, 9.9)), LASER, lead_in_mm=3.0)
        self.assertEqual({f.rule for f in short.findings}, set())
        # In a hole of its own size there is none, and that is told.
        tight = Path.concatenate([square(20, 20, 30), square(34, 34, 1).reversed()])
        self.assertEqual([f.rule for f in made(design(tight), LASER, lead_in_mm=3.0).findings], ["no-lead"])


class Parted(unittest.TestCase):
    def test_tabs_are_as_many_and_as_long_as_asked_with_the_kerf(self):
        for path in (square(20, 20, 30), circle(60, 60, 15), blob().take([0])):
            document = design(path)
            whole = length(made(document, LASER, kerf_mm=0.2).program.path)
            found = made(document, LASER, kerf_mm=0.2, tabs=4, tab_mm=0.6).program
            self.assertEqual(len(found), 4)
            self.assertAlmostEqual(whole - length(found.path), 4 * (0.6 + 0.2), delta=0.02)

    def test_tabs_are_not_at_corners_nor_in_holes(self):
        found = made(PLAIN, LASER, tabs=4, tab_mm=2.0)
        self.assertEqual(found.findings, ())
        ends = np.vstack(found.program.ends)[np.tile(found.program.piece == 0, 2)]
        corners = np.array([(30, 130), (70, 130), (70, 170), (30, 170)])
        apart = np.hypot(*(ends[:, None] - corners).transpose(2, 0, 1)).min(axis=1)
        of_rim = (np.abs(ends - 50) == 20).any(axis=1) | (np.abs(ends - (50, 150)) > 19).any(axis=1)
        self.assertGreater(apart[of_rim].min(), 1.0)
        closed = found.program.path.closed
        self.assertEqual([found.program.side[k] for k in np.flatnonzero(closed)], [-1])

    def test_one_tab_leaves_one_open_run(self):
        found = made(design(square(20, 20, 30)), LASER, tabs=1, tab_mm=2.0).program
        self.assertEqual((len(found), bool(found.path.closed[0])), (1, False))
        self.assertAlmostEqual(length(found.path), 118.0, places=6)

    def test_outlines_too_short_for_tabs_are_cut_whole_and_told(self):
        found = made(design(circle(50, 50, 1)), LASER, tabs=5, tab_mm=1.0)
        self.assertEqual([f.rule for f in found.findings], ["no-tab"])
        self.assertIn("6.3 mm", found.findings[0].message)
        self.assertTrue(found.program.path.closed[0])

    def test_scored_lines_are_perforated_from_end_to_end(self):
        document = design(line([(10, 10), (60, 10)]), treatment=Treatment.SCORE)
        found = made(document, KNIFE, perforate_mm=3.0, perforate_gap_mm=2.0).program
        self.assertEqual(len(found), 10)
        begin, end = found.ends
        self.assertTrue(np.allclose(begin[1:, 0] - end[:-1, 0], 2.0))
        self.assertAlmostEqual(float(begin[0, 0]), 10.0)
        self.assertAlmostEqual(float(end[-1, 0]), 60.0)
        # What is cut is not.
        self.assertEqual(len(made(design(line([(10, 10), (60, 10)])), KNIFE, perforate_mm=3.0).program), 1)

    def test_passes_follow_each_other(self):
        found = made(PLAIN, LASER, passes=3).program
        self.assertEqual(found.nth_pass.tolist(), [1, 2, 3] * 3)
        self.assertEqual(found.outline.tolist()[:3], [found.outline[0]] * 3)


class Ways(unittest.TestCase):
    def test_climb_keeps_what_is_kept_to_the_left(self):
        for direction, sign in (("climb", 1), ("conventional", -1)):
            found = made(PLAIN, LASER, direction=direction).program
            self.assertEqual((np.sign(signed_areas(found.path)) * found.side).tolist(), [sign] * 3)

    def test_starts_away_from_corners_and_near(self):
        found = made(design(square(20, 20, 30)), LASER, start="smooth").program
        self.assertAlmostEqual(abs(float((found.ends[0][0] - np.array([35.0, 165.0])).max())), 15.0, places=6)
        self.assertIn(0.0, np.abs(found.ends[0][0] - (35.0, 165.0)).round(9).tolist())
        self.assertEqual(length(found.path), 120.0)
        apart = design(square(20, 20, 10), begun_at(square(60, 20, 10), 2))
        found = made(apart, LASER, start="near").program
        drawn = made(apart, LASER).program
        self.assertLess(*(np.hypot(*(p.ends[0][1] - p.ends[1][0])) for p in (found, drawn)))

    def test_what_is_hot_is_left_to_cool(self):
        document = design(*[square(10 + 15 * k, 30, 8) for k in range(12)])
        apart = {}
        for order in ("short", "cool"):
            begin, _ = made(document, LASER, order=order).program.ends
            apart[order] = np.hypot(*np.diff(begin, axis=0).T)
        self.assertLess(apart["short"].max(), 20)
        self.assertGreater(np.sort(apart["cool"])[2], 25)

    def test_the_order_of_the_person_holds_and_the_rest_is_left(self):
        document = design(*[square(10 + 15 * k, 30, 8) for k in range(5)])
        plan = Plan(LASER, first=("p3", "p1"))
        program = make(document, plan).program
        self.assertEqual([program.pieces[k] for k in program.piece[:2]], ["p3", "p1"])
        left = make(document, replace(plan, left_out=frozenset({"p3"}), from_run=2)).program
        self.assertEqual(len(left), 3)
        self.assertNotIn("p1", [left.pieces[k] for k in left.piece])

    def test_an_outside_that_comes_first_is_told(self):
        document = design(square(20, 20, 60), circle(50, 50, 10), circle(50, 50, 5))
        (told,) = [f for f in make(document, Plan(LASER, first=("p0", "p2"))).findings if f.rule == "outside-first"]
        self.assertEqual(told.pieces, ("p2", "p1"))
        self.assertIn("2 lines are cut after the outlines that they lie in", told.message)
        for first in ((), ("p2", "p1"), ("p2", "p1", "p0")):
            self.assertEqual(make(document, Plan(LASER, first=first)).findings, (), first)

    def test_as_drawn_keeps_the_order_of_the_design(self):
        document = design(*[square(10 + 15 * k, 30, 8) for k in (3, 0, 4, 1)])
        program = make(document, Plan(LASER, order="as-drawn")).program
        self.assertEqual(program.piece.tolist(), [0, 1, 2, 3])

    def test_corners_are_slow_so_far(self):
        found = made(design(square(20, 20, 30)), KNIFE, corner_percent=40.0, corner_mm=2.0).program
        long = np.hypot(*(found.path.ctrl[:, 3] - found.path.ctrl[:, 0]).T)
        self.assertAlmostEqual(float(long[found.pace < 1].sum()), 16.0, places=6)
        self.assertEqual(set(found.pace.tolist()), {0.4, 1.0})
        self.assertAlmostEqual(length(found.path), 120.0, places=6)


class Refused(unittest.TestCase):
    def test_values_that_contradict_each_other_are_named(self):
        table = [
            ({"z_up_mm": -1.0}, "height, up"),
            ({"speed_mm_s": 5.0, "least_speed_mm_s": 10.0}, "speed, 5 mm/s"),
            ({"least_speed_mm_s": 20.0, "most_speed_mm_s": 10.0}, "slowest speed"),
        ]
        for values, words in table:
            with self.assertRaisesRegex(BadRequest, words):
                made(PLAIN, KNIFE, **values)

    def test_what_is_beyond_the_reach_is_told(self):
        found = made(PLAIN, KNIFE, reach_width_mm=100.0)
        self.assertEqual([f.rule for f in found.findings], ["beyond-reach"])
        self.assertIn("40.0 mm beyond", found.findings[0].message)

    def test_nothing_is_altered_as_designed(self):
        machine = replace(LASER, kerf_mm=0.3, tabs=3, passes=2, overcut_mm=1.0, lead_in_mm=2.0)
        plan = Plan(machine, compensated=False, order="as-drawn")
        self.assertEqual(make(PLAIN, plan).program.path, program_of(PLAIN).path)

    def test_of_nothing_there_is_nothing(self):
        self.assertEqual(len(made(Document(), KNIFE, blade_offset_mm=0.3, tabs=2).program), 0)

    def test_a_lone_node_is_no_run(self):
        found = made(design(square(20, 20, 9), blob().take([2])), KNIFE, overcut_mm=0.5)
        self.assertEqual((len(found.program), [f.rule for f in found.findings]), (1, ["no-line"]))
