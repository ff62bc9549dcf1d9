"""Tabs where a person has set them."""

from __future__ import annotations

import unittest
from dataclasses import replace

import shapely

from hakobu.errors import BadRequest
from hakobu.formats import WriteOptions
from hakobu.geometry import flatten, length
from hakobu.model import OutlinePlace
from hakobu.operations import operation_of
from hakobu.operations.outline_places import places_there
from hakobu.pipeline import prove, weed, write_for
from hakobu.toolpaths import Plan, make
from tests.shapes import circle

from .worked import KNIFE, LASER, PLAIN, design

#: On the outline of the frame twice, and on the disc.
TABS = (OutlinePlace("p0", 0, 0.1), OutlinePlace("p0", 0, 0.6), OutlinePlace("p1", 0, 0.25))


class OwnTabs(unittest.TestCase):
    def test_they_hold_where_they_are_set_with_the_kerf_added(self):
        machine = replace(LASER, kerf_mm=0.2, tab_mm=0.8)
        whole, found = make(PLAIN, Plan(machine)).program, make(PLAIN, Plan(machine, tabs=TABS)).program
        self.assertAlmostEqual(length(whole.path) - length(found.path), 3 * (0.8 + 0.2), delta=0.01)
        cut = shapely.MultiLineString(
            [flatten(found.path.take([k]), 1e-3).points.tolist() for k in range(len(found.path))]
        )
        for tab in TABS:
            outline = shapely.LinearRing(
                flatten(next(p.path for p in PLAIN.pieces if p.id == tab.piece).take([tab.outline]), 1e-3).points
            )
            at = outline.interpolate(tab.share, normalized=True)
            place = shapely.Point(at.x, 200 - at.y)
            # The nearest line is half a tab away, and half the kerf off.
            self.assertAlmostEqual(cut.distance(place), 0.51, delta=0.02)
        # The hole of the frame has none.
        self.assertEqual(sorted(found.piece.tolist()).count(0), 3)

    def test_of_an_outline_with_some_the_machine_sets_none(self):
        machine = replace(LASER, tabs=4)
        found = make(design(circle(40, 40, 15), circle(100, 40, 15)), Plan(machine, tabs=(OutlinePlace("p0", 0, 0.5),)))
        self.assertEqual(sorted(found.program.piece.tolist()), [0, 1, 1, 1, 1])

    def test_two_at_one_place_are_one_and_without_a_machine_there_are_none(self):
        twice = (OutlinePlace("p1", 0, 0.25), OutlinePlace("p1", 0, 0.2501))
        found = make(PLAIN, Plan(LASER, tabs=twice)).program
        self.assertEqual(len(found), 3)
        self.assertAlmostEqual(length(make(PLAIN, Plan()).program.path) - length(found.path), 0.5, delta=0.01)
        self.assertEqual(length(make(PLAIN, Plan(tabs=TABS)).program.path), length(make(PLAIN, Plan()).program.path))

    def test_their_file_is_proven_and_they_are_broken_when_it_is_weeded(self):
        for machine in (replace(LASER, passes=2), replace(KNIFE, blade_offset_mm=0.25, overcut_mm=0.5)):
            plan = Plan(machine, tabs=TABS)
            options = WriteOptions(chord_mm=machine.chord_mm, plan=plan)
            data = write_for(PLAIN, machine.format, options).written.data
            self.assertTrue(prove(f"a.{machine.format}", data, PLAIN, plan).proof.holds)
            (layer,) = weed(PLAIN, machine.format, options)
            self.assertEqual(layer.weeded.open_lines, 0)


class Named(unittest.TestCase):
    def test_places_that_are_gone_are_passed_over_and_what_names_none_is_refused(self):
        there = places_there(PLAIN, {"p0": {"0": [0.1, 1.0], "9": 0.5}, "gone": {"0": 0.5}})
        self.assertEqual(there, (OutlinePlace("p0", 0, 0.1), OutlinePlace("p0", 0, 0.0)))
        for wrong in ({"p0": 0.5}, {"p0": {"x": 0.5}}, {"p0": {"0": 1.5}}, {"p0": {"0": ["a"]}}, {"p0": {"0": True}}):
            with self.assertRaisesRegex(BadRequest, "shares of its length"):
                places_there(PLAIN, wrong)

    def test_the_steps_say_how_many(self):
        for name, said in (("start-points", "1 start of your own"), ("tab-places", "2 tabs of your own")):
            operation = operation_of(name)
            shares = {"0": [0.1, 0.6][: 1 if "start" in name else 2]}
            outcome = operation.run(PLAIN, operation.parameters(places={"p0": shares}), None)
            self.assertEqual(outcome.title, said)
