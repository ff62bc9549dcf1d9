"""Sheets follow the design: what is proposed, where pieces lie, and what the tool sees."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np
import pypdfium2
import shapely

from hakobu import pipeline
from hakobu.checks import check
from hakobu.errors import CannotDo
from hakobu.geometry import Path, bounds, flatten, scaling, transform
from hakobu.geometry.nesting import shapes_of
from hakobu.handover import placing_page, print_page
from hakobu.machines import PROFILES
from hakobu.model import Conditions, Document, Fill, Group, Layer, Picture, Piece, Step, Treatment, codec
from hakobu.model.materials import material_of
from hakobu.model.sheet import Placement, Sheet
from hakobu.operations import operation_of
from hakobu.sheets.files import corner_words
from hakobu.sheets.items import items_of
from hakobu.sheets.marks import marks_of
from hakobu.sheets.placed import WEEDING, as_cut, finished
from hakobu.sheets.report import report_of
from tests.shapes import circle, square

DESK = next(machine for machine in PROFILES if machine.id == "desk-cutter")


def two_colours() -> Document:
    """A black and a copper square, and a line that is scored on the copper one."""
    layers = (
        Layer("black", "Black", "#26272b", material="black-card"),
        Layer("copper", "Copper", "#b4673e", material="adhesive-vinyl"),
        Layer("fold", "Fold", "#8899aa", Treatment.SCORE),
    )
    pieces = (
        Piece("a", square(10, 10, 30), "black", fill=Fill("#26272b")),
        Piece("b", square(60, 20, 30), "copper", fill=Fill("#b4673e")),
        Piece("c", square(65, 25, 10), "fold"),
    )
    return Document(layers=layers, pieces=pieces)


def laid(document: Document, conditions: Conditions = Conditions(), **values) -> Document:
    operation = operation_of("sheets")
    step = Step("s", "sheets", operation.version, values)
    return pipeline.run_step(document, step, conditions=conditions).done().document


class Proposed(unittest.TestCase):
    def test_one_sheet_for_each_material_as_it_is_sold(self):
        made = laid(two_colours())
        self.assertEqual([sheet.layers for sheet in made.sheets], [("black",), ("copper", "fold")])
        self.assertEqual([(s.width_mm, s.height_mm) for s in made.sheets], [(210.0, 297.0), (300.0, 300.0)])
        self.assertEqual([s.material for s in made.sheets], ["black-card", "adhesive-vinyl"])

    def test_pieces_stay_where_they_are_where_they_lie_on_the_stock(self):
        made = laid(two_colours())
        for sheet in made.sheets:
            for piece in finished(made, sheet).pieces:
                self.assertEqual(piece.path, made.by_id[piece.id].path)

    def test_what_does_not_lie_on_the_stock_comes_to_its_middle(self):
        made = laid(two_colours(), width_mm=50.0, height_mm=60.0)
        left, top, right, bottom = bounds(finished(made, made.sheets[1]).by_id["b"].path)
        self.assertEqual((left + right, top + bottom), (50.0, 60.0))

    def test_layers_of_one_material_and_colour_share_a_sheet(self):
        document = two_colours()
        layers = (document.layers[0], replace(document.layers[1], material="black-card", color="#26272b"))
        document = replace(document, layers=layers, pieces=document.pieces[:2])
        self.assertEqual([sheet.layers for sheet in laid(document).sheets], [("black", "copper")])

    def test_own_values_of_a_sheet_hold_for_it_alone(self):
        own = {"black": {"width_mm": 90.0, "height_mm": 80.0, "at": [25.4, 100.0], "margin_mm": 2.0}}
        first, second = laid(two_colours(), own=own).sheets
        self.assertEqual((first.width_mm, first.height_mm, first.at, first.margin_mm), (90, 80, (25.4, 100), 2))
        self.assertEqual((second.width_mm, second.margin_mm), (300, 5))

    def test_what_makes_no_sense_is_refused_by_name(self):
        for own, said in (
            ({"black": {"depth": 3}}, "depth"),
            ({"black": {"width_mm": "wide"}}, "width_mm"),
            ({"black": {"width_mm": -3}}, "wide and high"),
            ({"black": {"at": [1]}}, "carrier"),
            ({"black": {"outline": "M0 0L10 10"}}, "closed"),
            ({"black": 7}, "values"),
        ):
            result = pipeline.run_step(two_colours(), Step("s", "sheets", 1, {"own": own}))
            self.assertIn(said, result.stopped)
        self.assertIn("nothing to cut", pipeline.run_step(Document(), Step("s", "sheets", 1, {})).stopped)
        wide = pipeline.run_step(two_colours(), Step("s", "sheets", 1, {"margin_mm": 200.0}))
        self.assertIn("leaves nothing", wide.stopped)


class Following(unittest.TestCase):
    def test_a_sheet_follows_the_design_and_keeps_its_place(self):
        made = laid(two_colours())
        grown = replace(made, pieces=tuple(replace(p, path=transform(p.path, scaling(2.0))) for p in made.pieces))
        before, after = (bounds(finished(each, each.sheets[0]).by_id["a"].path) for each in (made, grown))
        self.assertEqual([(a + b) / 2 for a, b in zip(before[:2], before[2:], strict=True)],
                         [(a + b) / 2 for a, b in zip(after[:2], after[2:], strict=True)])  # fmt: skip
        self.assertEqual(after[2] - after[0], 60.0)

    def test_what_is_gone_from_the_design_is_gone_from_its_sheet(self):
        made = laid(two_colours(), arrange="packed")
        left = made.with_paths({"c": None})
        self.assertEqual([p.id for p in finished(left, left.sheets[1]).pieces], ["b"])
        self.assertEqual(report_of(left, left.sheets[1]).left, 0)

    def test_what_has_come_to_the_design_is_reported_as_left_out(self):
        made = laid(two_colours(), arrange="packed")
        more = replace(made, pieces=(*made.pieces, Piece("d", circle(0, 0, 3), "black")))
        report = report_of(more, more.sheets[0])
        self.assertEqual((report.left, [p.kind for p in report.problems]), (1, ["left"]))

    def test_groups_are_laid_as_they_are(self):
        document = replace(two_colours(), groups=(Group("g", "both", ("b", "c")),))
        made = laid(document, arrange="packed")
        self.assertEqual([p.item for p in made.sheets[1].placements], ["g"])
        inner, outer = (finished(made, made.sheets[1]).by_id[key].path.ctrl[0, 0] for key in ("c", "b"))
        self.assertTrue(np.allclose(abs(inner - outer), [5, 5]))

    def test_what_lies_within_a_piece_goes_with_it(self):
        """Holes that are pieces of their own, and a line that is scored across it, stay where they are on it."""
        layers = (Layer("cut", "Cut", "#26272b"), Layer("fold", "Fold", "#b5653c", Treatment.SCORE))
        line = Path.from_points(np.array([(20.0, 25.0), (48.0, 25.0)]), closed=False)
        pieces = (
            Piece("panel", square(10, 10, 40), "cut"),
            Piece("hole", circle(20, 20, 3), "cut"),
            Piece("crease", line, "fold"),
            Piece("beside", square(60, 10, 20), "cut"),
        )
        made = laid(Document(layers=layers, pieces=pieces), arrange="packed")
        (sheet,) = made.sheets
        self.assertEqual({p.item for p in sheet.placements}, {"panel", "beside"})
        front = finished(made, sheet).by_id
        self.assertEqual(set(front), {"panel", "hole", "crease", "beside"})
        shapes = {key: shapely.Polygon(flatten(front[key].path, 1e-3).points) for key in ("panel", "hole")}
        self.assertTrue(shapes["panel"].contains(shapes["hole"]))
        self.assertTrue(shapes["panel"].contains(shapely.LineString(front["crease"].path.ctrl[0, [0, 3]])))

    def test_sheets_are_kept_with_their_document(self):
        made = laid(two_colours(), arrange="packed", copies=2)
        self.assertEqual(codec.from_json(codec.to_json(made)).sheets, made.sheets)
        self.assertNotIn("sheets", codec.to_manifest(two_colours())[0])


class Laid(unittest.TestCase):
    def test_by_hand(self):
        made = laid(two_colours())
        sheet = made.sheets[0].id
        step = Step("l", "lay", 1, {"sheet": sheet, "moves": {"*1": [100.0, 50.0, 90.0]}})
        after = pipeline.run_step(made, step).done().document
        left, top, right, bottom = bounds(finished(after, after.sheets[0]).by_id["a"].path)
        self.assertTrue(np.allclose([left, top, right, bottom], [85, 35, 115, 65]))

    def test_what_cannot_be_laid_is_a_sentence(self):
        made = laid(two_colours())
        for moves, sheet, said in (
            ({"*1": [1, 2, 3]}, "x", "no longer there"),
            ({"zz*1": [1, 2, 3]}, made.sheets[0].id, "None of these"),
            ({"*1": [1, 2]}, made.sheets[0].id, "three numbers"),
        ):
            self.assertIn(said, pipeline.run_step(made, Step("l", "lay", 1, {"sheet": sheet, "moves": moves})).stopped)


class FromTheBack(unittest.TestCase):
    def setUp(self):
        layer = Layer("red", "Red", "#c8402a", material="heat-vinyl")
        self.document = laid(Document(layers=(layer,), pieces=(Piece("a", square(20, 10, 30), "red"),)))
        (self.sheet,) = self.document.sheets

    def test_the_tool_sees_it_mirrored_about_the_upright_middle(self):
        self.assertTrue(self.sheet.mirrored)
        front, cut = finished(self.document, self.sheet), as_cut(self.document, self.sheet)
        # As a matrix: x becomes the width less x.
        self.assertEqual(bounds(front.pieces[0].path), (20.0, 10.0, 50.0, 40.0))
        self.assertEqual(bounds(cut.pieces[0].path), (self.sheet.width_mm - 50, 10.0, self.sheet.width_mm - 20, 40.0))
        twice = transform(cut.pieces[0].path, np.array([[-1.0, 0.0, self.sheet.width_mm], [0.0, 1.0, 0.0]]))
        self.assertEqual(twice.reversed(), front.pieces[0].path)

    def test_the_file_is_mirrored_and_proven_on_its_sheet(self):
        cut = as_cut(self.document, self.sheet)
        file = pipeline.write(cut, "hpgl")
        proven = pipeline.prove("x.hpgl", file.data, cut)
        proof, back = proven.proof, proven.read
        self.assertTrue(proof.holds)
        self.assertTrue(np.allclose(bounds(back.document.whole_path), bounds(cut.whole_path), atol=0.03))
        self.assertFalse(pipeline.prove("x.hpgl", file.data, finished(self.document, self.sheet)).proof.holds)

    def test_a_layer_that_is_drawn_from_the_back_already_is_not_mirrored_again(self):
        layers = tuple(replace(layer, mirrored=True) for layer in self.document.layers)
        self.assertFalse(laid(replace(self.document, layers=layers, sheets=())).sheets[0].mirrored)


class Reach(unittest.TestCase):
    def test_what_lies_beyond_is_reported_with_the_distance(self):
        made = laid(two_colours(), Conditions(machine=DESK), own={"black": {"at": [285.0, 20.0]}})
        (problem,) = report_of(made, made.sheets[0], DESK).problems
        # The reach ends 315 mm from the left of the mat; the square ends at 285 + 40.
        self.assertEqual((problem.kind, problem.by_mm), ("reach", 10.0))
        self.assertIn("10 mm beyond", problem.sentence)
        self.assertEqual(report_of(made, made.sheets[1], DESK).problems, ())

    def test_where_a_scrap_lies_is_said_from_the_lower_left_corner(self):
        sheet = Sheet("s", "Scrap", (), 60.0, 40.0, at=(25.4, 549.2))
        self.assertIn("25.4 mm, 50.8 mm", corner_words(sheet, DESK.carrier_mm, DESK.carrier))


class Distances(unittest.TestCase):
    def test_are_those_of_a_general_geometry_library(self):
        """shapely on chords within 0.0005 mm."""
        one = Piece("a", circle(30, 30, 12), "l")
        other = Piece("b", square(60, 22, 20), "l")
        document = Document(layers=(Layer("l", "L", "#000000"),), pieces=(one, other))
        items = items_of(document, ["l"])
        placements = tuple(Placement(i.id, *i.centre, turn=t) for i, t in zip(items, (0.0, 30.0), strict=True))
        sheet = Sheet("s", "S", ("l",), 200.0, 100.0, placements=placements, spacing_mm=30.0)
        shapes = [
            shapely.Polygon(flatten(piece.path, 5e-4).points) for piece in finished(document, sheet).pieces
        ]  # fmt: skip
        self.assertAlmostEqual(report_of(document, sheet).nearest_mm, shapes[0].distance(shapes[1]), delta=0.01)

    def test_what_touches_or_lies_in_another_is_reported(self):
        pieces = (Piece("a", square(20, 20, 30), "l"), Piece("b", square(40, 40, 30), "l"))
        document = Document(layers=(Layer("l", "L", "#000000"),), pieces=pieces)
        items = items_of(document, ["l"])
        placements = tuple(Placement(i.id, *i.centre) for i in items)
        sheet = Sheet("s", "S", ("l",), 100.0, 100.0, placements=placements, spacing_mm=2.0)
        (problem,) = report_of(document, sheet).problems
        self.assertEqual(problem.kind, "near")
        self.assertIn("lie on each other", problem.sentence)

    def test_the_rim_is_kept_free(self):
        pieces = (Piece("a", square(2, 20, 30), "l"),)
        document = Document(layers=(Layer("l", "L", "#000000"),), pieces=pieces)
        sheet = Sheet("s", "S", ("l",), 100.0, 100.0, margin_mm=5.0, placements=(Placement("a", 17.0, 35.0),))
        (problem,) = report_of(document, sheet).problems
        self.assertEqual((problem.kind, round(problem.by_mm, 3)), ("rim", 3.0))
        off = replace(sheet, placements=(Placement("a", 10.0, 35.0),))
        self.assertIn("5 mm beyond the rim", report_of(document, off).problems[0].sentence)

    def test_materials_that_are_cut_from_the_back_are_known(self):
        self.assertTrue(material_of("heat-vinyl").cut_from_back)


class Checked(unittest.TestCase):
    def test_what_a_sheet_mirrors_is_not_found_unmirrored(self):
        layer = Layer("red", "Red", "#c8402a", material="heat-vinyl")
        document = Document(layers=(layer,), pieces=(Piece("a", square(20, 10, 30), "red", fill=Fill("#c8402a")),))
        found = [{f.rule for f in check(each, Conditions())} for each in (document, laid(document))]
        self.assertEqual(["not-mirrored" in rules for rules in found], [True, False])


class Weeding(unittest.TestCase):
    def setUp(self):
        self.made = laid(two_colours(), weed_box="all", weed_mm=4.0, weed_lines_mm=10.0)
        self.sheet = self.made.sheets[0]
        self.helps = finished(self.made, self.sheet).by_id[WEEDING].path

    def test_the_box_lies_round_the_work_and_is_cut_with_it(self):
        box = self.helps.take(np.flatnonzero(self.helps.closed))
        self.assertEqual(bounds(box), (6.0, 6.0, 44.0, 44.0))
        self.assertIn(WEEDING, as_cut(self.made, self.sheet).by_id)
        self.assertAlmostEqual(report_of(self.made, self.sheet).line_mm, 120 + 4 * 38 + self._level(), places=6)

    def _level(self) -> float:
        lines = self.helps.take(np.flatnonzero(~self.helps.closed))
        return float(np.abs(lines.ctrl[:, 3, 0] - lines.ctrl[:, 0, 0]).sum())

    def test_lines_never_run_through_a_piece(self):
        """shapely: no line comes nearer to the piece than the box is out."""
        wide = replace(self.sheet, weed_box="all", weed_mm=30.0, margin_mm=0.0, width_mm=300.0, height_mm=300.0)
        moved = replace(wide, placements=(Placement("", 150.0, 150.0),))
        helps = finished(self.made, moved).by_id[WEEDING].path
        lines = [each for each in helps.outlines() if not each.closed[0]]
        self.assertTrue(lines)
        piece = shapely.box(135, 135, 165, 165)
        for line in lines:
            self.assertGreaterEqual(shapely.LineString(line.ctrl[:, [0, 3]].reshape(-1, 2)).distance(piece), 29.99)

    def test_what_would_lie_beyond_the_margin_is_cut_off(self):
        made = laid(two_colours(), weed_box="each", weed_mm=40.0, margin_mm=5.0)
        left, top, *_ = bounds(finished(made, made.sheets[0]).by_id[WEEDING].path)
        self.assertTrue(np.allclose((left, top), 5.0, atol=1e-6))


class Printed(unittest.TestCase):
    """A picture that is printed, and the line that is cut round it, in one coordinate system."""

    def setUp(self):
        layers = (Layer("art", "Art", "#808080", Treatment.PRINT), Layer("line", "Line", "#26272b"))
        picture = Picture("p", "0" * 64, (200, 100), (0.2, 0.0, 0.0, 0.2, 12.0, 14.0), "art")
        piece = Piece("c", square(10, 10, 44), "line")
        self.document = laid(Document(layers=layers, pieces=(piece,), pictures=(picture,)), width_mm=200.0)
        (self.sheet,) = self.document.sheets

    def test_print_and_cut_lie_in_the_same_place(self):
        moved = replace(self.sheet, placements=(Placement("", 100.0, 80.0, 90.0),))
        self.assertEqual(moved.layers, ("line", "art"))
        printed = print_page(self.document, moved, DESK).pictures[0]
        cut = as_cut(self.document, moved)
        self.assertEqual(cut.pictures, ())
        # The picture's corner lies 2 and 4 mm within the line; a quarter turn brings it to the top right.
        left, top, right, _ = bounds(cut.by_id["c"].path)
        *_, e, f = printed.matrix
        self.assertTrue(np.allclose((e, f), (right - 4.0, top + 2.0)))
        self.assertLess(left, e)

    def test_marks_stand_in_corners_as_the_machine_wants_them(self):
        for kind, count in (("corners", 3), ("circles", 4), ("crosses", 3)):
            machine = replace(DESK, marks=kind, mark_mm=8.0, mark_inset_mm=12.0, mark_count=count)
            marks = marks_of(self.sheet, machine)
            outer = shapes_of(marks)
            self.assertEqual(len(outer), count)
            left, top, right, bottom = bounds(marks)
            room = 0.25 if kind == "corners" else 0.0
            self.assertTrue(np.allclose((left, top), 12.0 - room, atol=1e-3), kind)
            self.assertTrue(np.allclose(right, self.sheet.width_mm - 12.0 + room, atol=1e-3))
            self.assertTrue(np.allclose(bottom, self.sheet.height_mm - 12.0 + room, atol=1e-3))
        self.assertEqual(len(marks_of(self.sheet, replace(DESK, marks="none"))), 0)

    def test_the_page_of_the_print_is_as_large_as_the_sheet(self):
        """Read by pypdfium2: 72 points to the inch (ISO 32000)."""
        page = print_page(self.document, self.sheet, replace(DESK, marks="crosses"), marks_only=True)
        width, height = pypdfium2.PdfDocument(pipeline.write(page, "pdf").data)[0].get_size()
        self.assertAlmostEqual(width * 25.4 / 72, self.sheet.width_mm, delta=0.01)
        self.assertAlmostEqual(height * 25.4 / 72, self.sheet.height_mm, delta=0.01)

    def test_nothing_to_print_is_a_sentence(self):
        bare = replace(self.document, pictures=())
        with self.assertRaisesRegex(CannotDo, "Nothing is printed"):
            print_page(bare, self.sheet, None)


class PlacingPage(unittest.TestCase):
    def test_it_is_of_true_size_and_shows_the_corner_of_the_carrier(self):
        made = laid(two_colours(), Conditions(machine=DESK), own={"black": {"at": [40.0, 60.0]}})
        sheet = made.sheets[0]
        page = placing_page(made, sheet, DESK)
        found = [bounds(piece.path) for piece in page.pieces]
        # The rim as it is, and the pieces; the carrier's corner 40 mm left of the rim, and below it what is left there.
        rim = next(box for box in found if np.isclose(box[2] - box[0], 210.0) and np.isclose(box[3] - box[1], 297.0))
        self.assertTrue(any(np.isclose(box[2] - box[0], 30.0) for box in found))
        corner = rim[0] - 40.0, rim[3] + (640.0 - 60.0 - 297.0)
        self.assertTrue(any(box[0] <= corner[0] <= box[2] and box[1] <= corner[1] <= box[3] for box in found))
        width, height = pypdfium2.PdfDocument(pipeline.write(page, "pdf").data)[0].get_size()
        self.assertAlmostEqual(width * 25.4 / 72, page.page.width_mm, delta=0.01)
        self.assertAlmostEqual(height * 25.4 / 72, page.page.height_mm, delta=0.01)
