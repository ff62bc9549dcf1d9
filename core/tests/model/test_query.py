"""Queries: what each term means on a small design, how terms are joined, what is said of those that make no sense."""

import unittest

from hakobu.errors import BadRequest
from hakobu.model.query import parse_query
from hakobu.model.units import parse_angle, parse_area

from ..operations.building import DESIGN

RING, LEFT, RIGHT, LINE = "s:ring", "s:a", "s:b", "s:line"


class Queries(unittest.TestCase):
    def test_each_term_and_how_they_are_joined(self):
        for text, expected in (
            ("everything", [RING, LEFT, RIGHT, LINE]),
            ('layer "Card"', [LEFT, RIGHT]),
            ("layer front", [LEFT, RIGHT]),
            ("treatment score", [LINE]),
            ("colour #EEEEEE", [RING]),
            ("kind compound", [RING]),
            ("kind piece", [LEFT, RIGHT, LINE]),
            ("smaller 100.5mm2", [LINE]),
            ("larger 2cm", [RING]),
            ("smaller 2.01cm and larger 1.5cm", [LEFT, RIGHT]),
            ('named "r*"', [RING, RIGHT]),
            ("id s:a or id s:line", [LEFT, LINE]),
            ("made s and not layer front", [RING, LINE]),
            ("made t", []),
            ("not (layer front or treatment score)", [RING]),
            ("not not kind compound", [RING]),
            ("named Left or named Right and treatment score", [LEFT]),
            ("inside s:ring", []),
        ):
            with self.subTest(text):
                self.assertEqual(list(parse_query(text).pieces(DESIGN)), expected)

    def test_what_makes_no_sense_is_named(self):
        for text, words in (
            ("", "is empty"),
            ("purple", '"purple" is no term'),
            ("layer", 'a value after "layer"'),
            ("kind round", "piece, compound, line"),
            ("treatment burn", "cut, score"),
            ("colour red", "#rrggbb"),
            ("smaller much", "not a length"),
            ("everything everything", "goes on where it should end"),
            ("(everything", "closing bracket"),
            ('named "moon', "quotation mark"),
            ("not " * 60 + "everything", "nests deeper"),
            ("x" * 3000, "2,000 letters"),
        ):
            with self.subTest(text[:40]), self.assertRaisesRegex(BadRequest, words):
                parse_query(text)


class Typed(unittest.TestCase):
    def test_areas_and_angles_with_their_units(self):
        for text, expected in (("2mm2", 2), ("0.5 in2", 322.58), ("3", 3), ("1.5 cm\u00b2", 150), ("2 1/2 mm2", 2.5)):
            self.assertAlmostEqual(parse_area(text), expected, 9, text)
        for text, expected in (("30", 30), ("-12,5deg", -12.5), ("90\u00b0", 90)):
            self.assertEqual(parse_angle(text), expected)
        self.assertRaises(BadRequest, parse_area, "much")
        self.assertRaises(BadRequest, parse_angle, "left")
