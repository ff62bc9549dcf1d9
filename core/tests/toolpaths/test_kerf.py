"""Kerf: half of it on the waste side, held against shapely's buffer; what cannot be had is told."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np
from shapely import Polygon, hausdorff_distance

from hakobu.geometry import Path, area, flatten, signed_areas
from hakobu.model import Document, Fill, Layer, Piece
from hakobu.toolpaths import lines_of, program_of
from hakobu.toolpaths.sides import sides_of
from tests.shapes import blob, circle, square

from .worked import KNIFE, LASER, PLAIN, design, made


def polygon(path: Path) -> Polygon:
    return Polygon(flatten(path, 0.0005).points)


class Compensated(unittest.TestCase):
    def test_outlines_grow_and_holes_shrink_as_shapely_buffers_them(self):
        kerf = 0.4
        found = lines_of(made(PLAIN, LASER, kerf_mm=kerf).program)
        expected = []
        for outline, side in ((square(30, 30, 40), 1), (square(40, 40, 15), -1), (circle(120, 60, 20), 1)):
            expected.append(polygon(outline).buffer(side * kerf / 2, quad_segs=64))
        got = [polygon(each) for each in found.outlines()]
        for one in expected:
            self.assertLess(min(hausdorff_distance(one.exterior, other.exterior) for other in got), 0.005)

    def test_curves_are_held_within_the_bound(self):
        shape = blob().take([0])
        program = made(design(shape), LASER, kerf_mm=0.3).program
        expected = polygon(shape).buffer(0.15, quad_segs=128)
        self.assertLess(hausdorff_distance(polygon(lines_of(program)).exterior, expected.exterior), 0.01)

    def test_it_begins_and_runs_as_the_outline_does(self):
        for path in (square(30, 30, 40), square(30, 30, 40).reversed(), circle(50, 50, 9), blob().take([0])):
            before, after = program_of(design(path)), made(design(path), LASER, kerf_mm=0.2, order="layers").program
            self.assertEqual(np.sign(signed_areas(before.path)), np.sign(signed_areas(after.path)))
            self.assertLess(np.hypot(*(before.ends[0] - after.ends[0])[0]), 0.2)

    def test_a_pen_takes_nothing_away_nor_does_a_knife_without_width(self):
        for machine in (replace(LASER, tool="pen", kerf_mm=0.5), KNIFE):
            self.assertEqual(lines_of(made(PLAIN, machine, order="layers").program), lines_of(program_of(PLAIN)))

    def test_each_material_has_its_own(self):
        layers = (Layer("a", "A", "#000000"), Layer("b", "B", "#111111"))
        document = Document(
            layers=layers, pieces=(Piece("x", square(10, 10, 20), "a"), Piece("y", square(50, 10, 20), "b"))
        )
        from hakobu.toolpaths import Plan, make

        own = {"b": replace(LASER, kerf_mm=1.0)}
        program = make(document, Plan(replace(LASER, kerf_mm=0.2), own)).program
        sides = sorted(np.sqrt(np.abs(signed_areas(program.path))).tolist())
        self.assertAlmostEqual(sides[0], 20.2, delta=0.01)
        self.assertAlmostEqual(sides[1], 21.0, delta=0.02)


class Sides(unittest.TestCase):
    def test_of_filled_pieces_by_their_rule_of_lines_in_turn(self):
        ring = Path.concatenate([square(0, 0, 30), square(5, 5, 20), square(10, 10, 5)])
        fill = Fill("#000000")
        for rule, expected in (("evenodd", [1, -1, 1]), ("nonzero", [1, 0, 0])):
            piece = Piece("p", ring, "a", fill=fill, fill_rule=rule)
            self.assertEqual(sides_of([piece]).tolist(), expected)
        hole = Path.concatenate([square(0, 0, 30), square(5, 5, 20).reversed()])
        self.assertEqual(sides_of([Piece("p", hole, "a", fill=fill, fill_rule="nonzero")]).tolist(), [1, -1])
        # Apart, as many drawings have them: the inner one is a hole of the outer, as far as lines tell.
        apart = [Piece("o", square(0, 0, 30), "a"), Piece("i", circle(15, 15, 4), "a")]
        self.assertEqual(sides_of(apart).tolist(), [1, -1])
        # Filled pieces are each a piece of its own.
        self.assertEqual(sides_of([replace(p, fill=fill) for p in apart]).tolist(), [1, 1])
        # A box for weeding is no piece, and makes none a hole.
        self.assertEqual(sides_of([Piece("sheet:weeding", square(-5, -5, 50), "a"), *apart]).tolist(), [0, 1, -1])

    def test_open_lines_have_none(self):
        line = Path.from_points(np.array([(0.0, 0.0), (9.0, 9.0)]), closed=False)
        self.assertEqual(sides_of([Piece("p", line, "a")]).tolist(), [0])


class Told(unittest.TestCase):
    def test_a_hole_that_the_kerf_eats(self):
        path = Path.concatenate([square(10, 10, 30), circle(25, 25, 0.08).reversed()])
        found = made(design(path), LASER, kerf_mm=0.2)
        self.assertEqual([f.rule for f in found.findings], ["kerf-eats"])
        self.assertEqual(found.findings[0].pieces, ("p0",))
        self.assertAlmostEqual(found.findings[0].place[0], 25.08, delta=0.2)
        # It is there still, as drawn.
        self.assertEqual(len(found.program), 2)
        self.assertAlmostEqual(float(np.abs(signed_areas(found.program.path)).min()), np.pi * 0.08**2, delta=1e-6)

    def test_a_slot_that_is_thinner_than_the_kerf(self):
        bar = np.array(
            [(10, 10), (20, 10), (20, 14.95), (30, 14.95), (30, 10), (40, 10), (40, 20), (30, 20), (30, 15.05)]
        )
        points = np.vstack([bar, [(20, 15.05), (20, 20), (10, 20)]])
        hole = Path.from_points(points, closed=True)
        path = Path.concatenate([square(5, 5, 60), hole])
        found = made(design(path), LASER, kerf_mm=0.3)
        self.assertIn("kerf-eats", [f.rule for f in found.findings])
        self.assertIn("parts it in 2", found.findings[0].message)

    def test_pieces_nearer_than_the_kerf(self):
        document = design(square(10, 10, 20), circle(30.05 + 10, 20, 10))
        self.assertIn("kerf-meets", [f.rule for f in made(document, LASER, kerf_mm=0.2).findings])
        self.assertEqual(made(document, LASER, kerf_mm=0.04).findings, ())

    def test_what_is_kept_has_its_size(self):
        from hakobu import pipeline
        from hakobu.machines import options_for

        for machine in (replace(LASER, kerf_mm=0.3), replace(LASER, kerf_mm=0.3, lead_in_mm=2.0, overcut_mm=0.4)):
            (layer,) = pipeline.weed(PLAIN, "gcode", options_for(machine))
            sizes = sorted(face.area_mm2 for face in layer.weeded.remaining)
            self.assertAlmostEqual(sizes[0], np.pi * 400, delta=0.3)
            self.assertAlmostEqual(sizes[1], 1600 - 225, delta=0.3)
            self.assertEqual(layer.weeded.open_lines, 0)
        self.assertAlmostEqual(area(circle(0, 0, 20)), np.pi * 400, delta=1e-6)
