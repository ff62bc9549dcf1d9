"""Holes that are only painted: what is one, and that it is one hole after the mend."""

import unittest

from hakobu.checks import check
from hakobu.checks.applier import mend_where
from hakobu.checks.verdict import verdict
from hakobu.geometry import area
from hakobu.model import Conditions, Document, Fill, Layer, Page, Piece, Treatment
from hakobu.model.paint import Stroke

from ..planted.host import box, ring

INK, WHITE, RED = Fill("#000000"), Fill("#ffffff"), Fill("#c2361f")
LAYERS = (Layer("black", "Black", "#000000"), Layer("white", "White", "#ffffff"))


def design(*pieces: Piece, layers=LAYERS) -> Document:
    return Document(Page(100, 100), layers, pieces)


def found(document: Document) -> list:
    return [f for f in check(document) if f.rule == "painted-hole"]


def mended(document: Document) -> Document:
    return mend_where(document, lambda f: f.safe, Conditions()).document


SHEET = Piece("sheet", box(80, 60, 50, 50), "black", fill=INK)


class PaintedHoles(unittest.TestCase):
    def test_all_on_one_shape_are_one_finding_and_one_mend(self):
        dots = [Piece(f"dot{x}", ring(5, x, 50), "white", fill=WHITE) for x in (30, 50, 70)]
        document = design(SHEET, *dots)
        (finding,) = found(document)
        self.assertEqual((finding.measure["holes"], finding.safe), (3, True))
        self.assertIn("3 holes that are only painted", verdict(document, Conditions(), check(document)).sentence)
        after = mended(document)
        self.assertEqual([len(p.path) for p in after.pieces], [4])
        self.assertAlmostEqual(area(after.pieces[0].path), 80 * 60 - 3 * 25 * 3.14159265, 2)
        self.assertTrue(verdict(after, Conditions(), check(after)).holds)

    def test_what_lies_on_the_hole_stays_a_piece_in_it(self):
        eye = Piece("eye", ring(10, 50, 50), "white", fill=WHITE)
        after = mended(design(SHEET, eye, Piece("pupil", ring(3, 50, 50), "black", fill=INK)))
        self.assertEqual({p.id: len(p.path) for p in after.pieces}, {"sheet": 2, "pupil": 1})
        self.assertEqual({f.rule for f in check(after)} & {"loose-hole", "painted-hole"}, set())

    def test_it_goes_through_one_piece_of_each_layer(self):
        heart, dot = ring(20, 50, 50), Piece("dot", ring(5, 50, 50), "white", fill=WHITE)
        layers = (*LAYERS, Layer("red", "Red", "#c2361f"))
        after = mended(design(SHEET, Piece("heart", heart, "red", fill=RED), dot, layers=layers))
        self.assertEqual({p.id: len(p.path) for p in after.pieces}, {"sheet": 2, "heart": 2})
        on_one = design(SHEET, Piece("heart", heart, "black", fill=RED), dot)
        self.assertEqual([f.safe for f in found(on_one)], [False], "the sheet would show in the heart")
        after = mend_where(on_one, lambda f: f.rule == "painted-hole", Conditions()).document
        self.assertEqual({p.id: len(p.path) for p in after.pieces}, {"sheet": 1, "heart": 2})

    def test_those_that_overlap_make_one_hole(self):
        dots = [Piece(f"dot{x}", ring(6, x, 50), "white", fill=WHITE) for x in (45, 52)]
        self.assertEqual([len(p.path) for p in mended(design(SHEET, *dots)).pieces], [2])

    def test_what_is_no_painted_hole(self):
        across = Piece("across", ring(10, 90, 50), "white", fill=WHITE)
        beside = Piece("beside", ring(3, 95, 95), "white", fill=WHITE)
        under = Piece("under", ring(10, 50, 50), "white", fill=WHITE)
        lined = Piece("lined", ring(10, 50, 50), "white", fill=WHITE, stroke=Stroke("#000000", 1.0))
        red = Piece("red", ring(10, 50, 50), "black", fill=RED)
        for pieces in ((SHEET, across), (SHEET, beside), (under, SHEET), (SHEET, lined), (SHEET, red)):
            with self.subTest(pieces[-1].id):
                self.assertEqual(found(design(*pieces)), [])
        dot = Piece("dot", ring(10, 50, 50), "white", fill=WHITE)
        for layer in (
            Layer("white", "White", "#ffffff", material="white-card"),
            Layer("white", "White", "#ffffff", Treatment.PRINT),
        ):
            self.assertEqual(found(design(SHEET, dot, layers=(LAYERS[0], layer))), [])

    def test_white_elsewhere_is_white_on_white(self):
        beside = Piece("beside", ring(3, 95, 95), "white", fill=WHITE)
        page = Piece("page", box(100, 100, 50, 50), "white", fill=WHITE)
        rules = {f.rule: f.pieces for f in check(design(SHEET, beside))}
        self.assertEqual(rules, {"invisible-object": ("beside",)})
        self.assertEqual([f.rule for f in check(design(page, SHEET))], ["background-rectangle"])
