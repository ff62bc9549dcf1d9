import json
import unittest
from pathlib import Path

from hakobu.errors import BadRequest
from hakobu.model.units import _COMPARE as THINGS
from hakobu.model.units import as_mm, in_words, parse_length, size_text

TABLE = json.loads((Path(__file__).parents[1] / "lengths.json").read_text())


class Lengths(unittest.TestCase):
    def test_what_people_type(self):
        for text, value in TABLE["right"]:
            with self.subTest(text):
                self.assertAlmostEqual(parse_length(text), value, 9)

    def test_what_is_no_length(self):
        for text in TABLE["wrong"]:
            with self.subTest(text), self.assertRaises(BadRequest):
                parse_length(text)

    def test_the_unit_meant_where_none_stands(self):
        self.assertEqual(parse_length("2", unit="in"), 50.8)

    def test_lengths_for_people(self):
        self.assertEqual(
            [as_mm(v) for v in (0, 0.084, 12.5, 128.04, -0.001)], ["0 mm", "0.08 mm", "12.5 mm", "128 mm", "0 mm"]
        )
        self.assertEqual(size_text(10, 20.5), "10 × 20.5 mm")

    def test_sizes_in_words(self):
        self.assertEqual(in_words(148, 105), "about as wide as a postcard")
        self.assertEqual(in_words(200, 290), "about as tall as an A4 sheet")
        self.assertIn("4.0 m", in_words(4000, 10))
        self.assertEqual([in_words(0, 0), in_words(0.5, 0.1)], ["", "smaller than a sesame seed"])

    def test_what_a_size_is_compared_with_is_that_size_within_15_per_cent(self):
        sizes = {f"about as wide as {thing}": size for size, thing in THINGS}
        length = 3.0
        while length < 2300:
            self.assertLess(abs(sizes[in_words(length, 1)] / length - 1), 0.151, length)
            length *= 1.01
