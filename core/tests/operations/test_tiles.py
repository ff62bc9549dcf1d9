"""A design larger than a sheet is cut into parts that fit, lose nothing, and are joined by their marks."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np
import shapely

from hakobu import pipeline
from hakobu.errors import CannotDo
from hakobu.geometry import Path, area, box_of, flatten, length
from hakobu.geometry.boolean import union
from hakobu.geometry.primitives import rectangle
from hakobu.machines import PROFILES
from hakobu.model import Conditions, Document, Fill, Group, Layer, Piece, Step, Treatment
from hakobu.model.shapes import has_inside, operand_of
from hakobu.operations import operation_of
from hakobu.sheets.items import items_of
from hakobu.sheets.report import report_of
from hakobu.sheets.tiling import cuts_along, joints_of
from tests.shapes import circle
from tests.sheets.test_placing import laid


def cut(document: Document, conditions: Conditions = Conditions(), **values) -> Document:
    step = Step("t", "tiles", operation_of("tiles").version, values)
    return pipeline.run_step(document, step, conditions=conditions).done().document


def sign() -> Document:
    """A ring 700 mm across with a disk in it, of one material, and a bar of another."""
    layers = (Layer("wood", "Wood", "#c79a63"), Layer("card", "Card", "#26272b"))
    ring = Path.concatenate([circle(350, 350, 350), circle(350, 350, 200).reversed()])
    pieces = (
        Piece("ring", ring, "wood", "ring", fill=Fill("#c79a63")),
        Piece("disk", circle(350, 350, 100), "wood", "disk", fill=Fill("#c79a63")),
        Piece("bar", rectangle(0, 720, 700, 30), "card", "bar", fill=Fill("#26272b")),
    )
    return Document(layers=layers, pieces=pieces, groups=(Group("g", "all", ("ring", "disk", "bar")),))


def shapes(document: Document) -> list[Piece]:
    return [piece for piece in document.pieces if has_inside(piece)]


class Parts(unittest.TestCase):
    def test_none_is_larger_than_asked_and_nothing_is_lost(self):
        made = cut(sign(), width_mm=290.0, height_mm=400.0)
        for piece in shapes(made):
            left, top, right, bottom = box_of(piece.path)
            self.assertLessEqual(right - left, 290.0 + 1e-6)
            self.assertLessEqual(bottom - top, 400.0 + 1e-6)
        for layer in ("wood", "card"):
            whole = union(*(operand_of(p) for p in sign().pieces if p.layer == layer)).path
            parts = [p for p in shapes(made) if p.layer == layer]
            self.assertAlmostEqual(sum(float(area(p.path)) for p in parts), float(area(whole)), delta=1e-3)

    def test_parts_that_overlap_share_a_strip_of_that_width(self):
        document = Document(
            layers=(Layer("card", "Card", "#26272b"),),
            pieces=(Piece("p", rectangle(0, 0, 500, 100), "card", fill=Fill("#26272b")),),
        )
        made = shapes(cut(document, width_mm=200.0, height_mm=200.0, joint="overlap", overlap_mm=12.0))
        boxes = sorted(box_of(piece.path) for piece in made)
        self.assertEqual(len(boxes), 3)
        for one, other in zip(boxes[:-1], boxes[1:], strict=True):
            self.assertAlmostEqual(one[2] - other[0], 12.0, places=6)
        self.assertLessEqual(max(box[2] - box[0] for box in boxes), 200.0 + 1e-6)
        self.assertEqual((boxes[0][0], boxes[-1][2]), (0.0, 500.0))

    def test_what_lies_in_one_part_whole_stays_as_it_is(self):
        small = Piece("small", circle(30, 30, 10), "wood", "small")
        document = replace(sign(), pieces=(*sign().pieces, small))
        made = cut(document, width_mm=290.0, height_mm=400.0)
        self.assertIn(small, made.pieces)

    def test_each_part_is_an_item_of_its_own_and_finds_its_sheet(self):
        made = cut(sign(), width_mm=290.0, height_mm=400.0)
        sheets = laid(made, arrange="packed", width_mm=300.0, height_mm=410.0, spacing_mm=2.0)
        self.assertEqual([p.kind for sheet in sheets.sheets for p in report_of(sheets, sheet).problems], [])
        wood = [sheet for sheet in sheets.sheets if "wood" in sheet.layers]
        self.assertEqual(sum(len(sheet.placements) for sheet in wood), len(items_of(made, wood[0].layers)))
        # The marks of a material go onto its sheets.
        names = {layer.id: layer.name for layer in made.layers}
        self.assertEqual({names[layer] for layer in wood[0].layers}, {"Wood", "Joints of Wood"})

    def test_by_the_sheet_of_the_material_and_the_reach_of_the_machine(self):
        desk = next(machine for machine in PROFILES if machine.id == "desk-cutter")
        document = replace(sign(), layers=tuple(replace(each, material="felt") for each in sign().layers))
        for conditions, most in ((Conditions(), 290.0), (Conditions(machine=replace(desk, reach_width_mm=200)), 190.0)):
            widths = [np.ptp(box_of(p.path)[::2]) for p in shapes(cut(document, conditions))]
            self.assertLessEqual(max(widths), most + 1e-6)

    def test_lines_are_cut_too(self):
        line = Piece("fold", Path.from_points(np.array([(0.0, 10.0), (700.0, 10.0)]), closed=False), "wood")
        made = cut(Document(layers=sign().layers, pieces=(line,)), width_mm=300.0, height_mm=300.0)
        self.assertEqual(len(made.pieces), 3)
        self.assertAlmostEqual(sum(float(length(p.path)) for p in made.pieces), 700.0, places=6)

    def test_what_makes_no_sense_is_a_sentence(self):
        for values, words in (
            ({"width_mm": 900.0, "height_mm": 900.0}, "goes into one part"),
            ({"width_mm": 11.0, "height_mm": 11.0}, "more than 400 parts"),
            ({"width_mm": 20.0, "height_mm": 20.0, "joint": "overlap", "overlap_mm": 18.0}, "too small for an overlap"),
        ):
            with self.assertRaisesRegex(CannotDo, words):
                cut(sign(), **values)


class Joints(unittest.TestCase):
    def test_a_cut_lies_where_it_crosses_least(self):
        # A dumbbell: its narrow middle from 180 to 220 is 10 mm high, its ends 100 mm.
        dumbbell = union(rectangle(0, 0, 180, 100), rectangle(180, 45, 40, 10), rectangle(220, 0, 180, 100)).path
        (place,) = cuts_along(dumbbell, box_of(dumbbell), 0, 230.0, 0.0, True)
        self.assertTrue(180 <= place <= 220, place)
        (even,) = cuts_along(dumbbell, box_of(dumbbell), 0, 230.0, 0.0, False)
        self.assertEqual(even, 200.0)
        (joint,) = joints_of(dumbbell, box_of(dumbbell), 0, [place])
        self.assertAlmostEqual(joint.length_mm, 10.0, places=6)
        self.assertAlmostEqual(joint.at[1], 50.0, places=6)

    def test_joints_are_those_of_a_general_geometry_library(self):
        whole = union(*(operand_of(piece) for piece in sign().pieces)).path
        box = box_of(whole)
        found = sum(joint.length_mm for joint in joints_of(whole, box, 0, [230.0, 470.0]))
        solid = shapely.Point(350, 350).buffer(350, quad_segs=2000) - shapely.Point(350, 350).buffer(
            200, quad_segs=2000
        )
        solid = solid | shapely.Point(350, 350).buffer(100, quad_segs=2000) | shapely.box(0, 720, 700, 750)
        lines = [shapely.LineString([(x, -1), (x, 800)]) for x in (230.0, 470.0)]
        self.assertAlmostEqual(found, sum(line.intersection(solid).length for line in lines), delta=0.01)

    def test_marks_lie_on_both_parts_of_a_joint_and_on_nothing_else(self):
        document = sign()
        made = cut(document, width_mm=290.0, height_mm=400.0)
        marks = [piece for piece in made.pieces if not has_inside(piece)]
        self.assertTrue(marks)
        treatments = {layer.id: layer.treatment for layer in made.layers}
        self.assertEqual({treatments[piece.layer] for piece in marks}, {Treatment.DRAW})
        for piece in marks:
            group = next(group for group in made.groups if piece.id in group.members)
            own = [p for p in shapes(made) if p.id in group.members]
            solid = shapely.unary_union([polygon(p) for p in own])
            points = flatten(piece.path, 1e-3).points
            outside = [p for p in points.tolist() if solid.distance(shapely.Point(p)) > 0.01]
            self.assertEqual(outside, [])
        # Half of each line lies on either side of the joint, and ends just before it.
        outlines = [outline for piece in marks for outline in piece.path.outlines()]
        ends = np.array([end for o in outlines for end in (o.ctrl[0, 0], o.ctrl[-1, 3])])
        joint = min(box_of(piece.path)[2] for piece in shapes(made) if piece.layer == "card")
        self.assertEqual(int((np.hypot(*(ends - (joint, 735.0)).T) < 0.2001).sum()), 2)

    def test_without_marks_there_is_no_layer_for_them(self):
        made = cut(sign(), width_mm=290.0, height_mm=400.0, marks=False)
        self.assertEqual([layer.id for layer in made.layers], ["wood", "card"])


def polygon(piece: Piece) -> shapely.Geometry:
    made = shapely.Polygon()
    for outline in union(operand_of(piece)).path.outlines():
        made = made.symmetric_difference(shapely.Polygon(flatten(outline, 1e-3).points))
    return made
