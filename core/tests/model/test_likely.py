"""What a size may have been meant to be. CSS Values 3: 1 in is 25.4 mm, 96 px or 72 pt."""

import unittest

from hakobu.model.likely import doubt, likely_sizes
from hakobu.model.units import FileUnit

PX = FileUnit("px", 25.4 / 96, False)
MM, IN = FileUnit("mm", 1.0, True), FileUnit("in", 25.4, True)


def sizes(width, height, unit):
    return {
        size.reading: (round(size.width_mm, 3), round(size.height_mm, 3)) for size in likely_sizes(width, height, unit)
    }


class Sizes(unittest.TestCase):
    def test_a_drawing_without_a_unit(self):
        # 288 numbers across: 3 inches at 96, 4 at 72.
        found = sizes(76.2, 25.4, PX)
        self.assertEqual(found["72 units an inch"], (101.6, 33.867))
        self.assertEqual(found["a unit is a millimetre"], (288.0, 96.0))
        self.assertNotIn("96 units an inch", found)
        self.assertNotIn("a unit is an inch", found)

    def test_inches_taken_for_millimetres_and_the_other_way(self):
        self.assertEqual(sizes(4.0, 2.0, FileUnit("mm", 1.0, False))["a unit is an inch"], (101.6, 50.8))
        self.assertEqual(sizes(2540.0, 1270.0, IN)["a unit is a millimetre"], (100.0, 50.0))

    def test_a_picture_by_its_resolution(self):
        found = sizes(600 * 25.4 / 96, 400 * 25.4 / 96, FileUnit("pixel", 25.4 / 96, False))
        self.assertEqual(found["300 pixels an inch"], (50.8, 33.867))
        self.assertNotIn("96 pixels an inch", found)

    def test_what_cannot_be_meant_is_not_offered(self):
        for width, height, unit in ((4000.0, 10.0, MM), (0.5, 0.5, MM), (100.0, 50.0, PX)):
            for size in likely_sizes(width, height, unit):
                self.assertTrue(4 <= max(size.width_mm, size.height_mm) <= 3000, size)
                self.assertAlmostEqual(size.width_mm, width * size.factor)


class Doubt(unittest.TestCase):
    def test_only_where_there_is_reason(self):
        for width, unit, words in (
            (80.0, MM, ""),
            (80.0, PX, "no unit"),
            (80.0, FileUnit("mm", 1.0, False), "as a millimetre"),
            (80.0, FileUnit("pixel", 25.4 / 96, False), "no resolution"),
            (2500.0, MM, "2.5 m"),
            (1.5, IN, "grain of rice"),
            (0.0, MM, ""),
            (1000.0, FileUnit("pixel", 25.4 / 72, True), "72 pixels an inch"),
            (1000.0, FileUnit("pixel", 25.4 / 300, True), ""),
            (100.0, FileUnit("pixel", 25.4 / 72, True), ""),
        ):
            with self.subTest(width=width, unit=unit):
                said = doubt(width, width / 2, unit)
                self.assertIn(words, said)
                self.assertEqual(bool(words), bool(said))
