"""Start points set by a person: on the design, under compensation, on copies and mirrored sheets."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np
import shapely

from hakobu.errors import NotThere
from hakobu.formats import WriteOptions
from hakobu.geometry import flatten
from hakobu.model import OutlinePlace, Page
from hakobu.pipeline import prove, write_for
from hakobu.sheets.placed import from_other_end
from hakobu.toolpaths import Plan, make
from hakobu.toolpaths.own_places import place_near
from tests.shapes import blob, circle, square

from .worked import KNIFE, LASER, PLAIN, RING, design

#: On the upper side of the frame's outline, 10 mm from its corner at 30, 30; on its hole; on top of the disc.
PLACES = {("p0", 0): (40.0, 30.0), ("p0", 1): (55.0, 47.5), ("p1", 0): (120.0, 40.0)}


def on(document, piece: str, outline: int, at: tuple[float, float]) -> OutlinePlace:
    return place_near(document, piece, outline, at)[0]


def starts(document=PLAIN) -> tuple[OutlinePlace, ...]:
    return tuple(on(document, piece, outline, at) for (piece, outline), at in PLACES.items())


def begins(program) -> dict[tuple[str, int], np.ndarray]:
    """Where the first run of each outline begins, on the page of the design."""
    found = {}
    for k in range(len(program)):
        x, y = program.path.ctrl[program.path.start[k], 0]
        key = (program.pieces[program.piece[k]], int(program.outline[k]))
        found.setdefault(key, np.array([x, program.page_height_mm - y]))
    return found


class Starts(unittest.TestCase):
    def test_a_place_on_an_outline_is_a_share_of_its_length(self):
        for path in (square(10, 10, 20), circle(60, 60, 15), blob().take([0])):
            line = shapely.LinearRing(flatten(path, 1e-3).points)
            for share in (0.0, 0.13, 0.5, 0.99):
                at = line.interpolate(share, normalized=True)
                found = on(design(path), "p0", 0, (at.x, at.y))
                apart = abs(found.share - share) * line.length
                self.assertLess(min(apart, line.length - apart), 0.02)

    def test_runs_begin_there_in_every_direction_and_with_a_kerf(self):
        for values in ({}, {"direction": "climb"}, {"direction": "conventional"}, {"kerf_mm": 0.4}):
            found = begins(make(PLAIN, Plan(replace(LASER, **values), starts=starts())).program)
            for key, at in PLACES.items():
                self.assertLess(np.hypot(*(found[key] - at)), 0.011 + values.get("kerf_mm", 0.0) / 2, (values, key))

    def test_neither_the_machine_nor_a_lead_moves_them(self):
        plan = Plan(replace(LASER, start="smooth", lead_in_mm=2.0, overcut_mm=0.5), starts=starts())
        program = make(PLAIN, plan).program
        for k in range(len(program)):
            line = shapely.LineString(flatten(program.path.take([k]), 1e-4).points)
            at = line.interpolate(program.lead[k])
            key = (program.pieces[program.piece[k]], int(program.outline[k]))
            self.assertLess(np.hypot(at.x - PLACES[key][0], 200 - at.y - PLACES[key][1]), 0.02)
        # Where a lead has no room at its start, the line begins without, and that is told.
        tight = design(square(20, 20, 10), square(30.5, 20, 10))
        own = (on(tight, "p0", 0, (30.0, 25.0)),)
        found = make(tight, Plan(replace(LASER, lead_in_mm=2.0), starts=own))
        self.assertEqual([f.pieces for f in found.findings if f.rule == "no-lead"], [("p0",)])
        self.assertLess(np.hypot(*(begins(found.program)[("p0", 0)] - (30.0, 25.0))), 0.011)

    def test_the_lines_stay_what_they_are_and_the_file_is_proven(self):
        for machine in (LASER, replace(KNIFE, blade_offset_mm=0.25, overcut_mm=0.5), replace(LASER, format="svg")):
            plan = Plan(machine, starts=starts())
            options = WriteOptions(chord_mm=machine.chord_mm, plan=plan)
            written = write_for(PLAIN, machine.format, options).written.data
            self.assertTrue(prove(f"a.{machine.format}", written, PLAIN, plan).proof.holds, machine.format)
        plain, own = make(PLAIN, Plan()).program, make(PLAIN, Plan(starts=starts())).program
        for program in (plain, own):
            self.assertEqual(len(program), 3)
        areas = [sorted(abs(shapely.Polygon(flatten(p.path.take([k]), 1e-3).points).area) for k in range(3))
                 for p in (plain, own)]  # fmt: skip
        np.testing.assert_allclose(*areas, rtol=1e-5)

    def test_copies_begin_alike_and_lines_seen_from_the_back_at_the_same_place(self):
        document = replace(PLAIN, page=Page(300.0, 200.0))
        copy = replace(document.pieces[0], id="p0*2", path=RING)
        found = begins(make(replace(document, pieces=(*document.pieces, copy)), Plan(LASER, starts=starts())).program)
        np.testing.assert_allclose(found[("p0*2", 0)], found[("p0", 0)])
        turned = replace(document, pieces=(replace(document.pieces[0], path=RING.reversed()), document.pieces[1]))
        (first, *_) = starts()
        # Reversed as a whole, its outlines stand in their order.
        at = begins(make(turned, Plan(LASER, starts=(from_other_end(first),))).program)[("p0", 0)]
        self.assertLess(np.hypot(*(at - PLACES[("p0", 0)])), 0.011)

    def test_what_is_gone_or_open_has_no_start(self):
        for piece, outline in (("p9", 0), ("p0", 7)):
            with self.assertRaisesRegex(NotThere, "pick another"):
                place_near(PLAIN, piece, outline, (0.0, 0.0))
