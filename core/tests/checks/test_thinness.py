"""What a trace is told before it is kept is what its check finds afterwards."""

import unittest

import numpy as np

from hakobu.checks import check
from hakobu.checks.tables.thinness import thinness
from hakobu.geometry import Path
from hakobu.model import Conditions, Document, Treatment
from hakobu.model.materials import MATERIALS, material_of

from ..shapes import circle, document


def box(x: float, y: float, width: float, height: float) -> Path:
    corners = np.array([[x, y], [x + width, y], [x + width, y + height], [x, y + height]])
    return Path.from_points(corners, closed=True)


RING = Path.concatenate([circle(150, 50, 20), circle(150, 50, 19.5).reversed()])
DESIGN = document(
    box(0, 0, 20, 20), box(20.3, 0, 20, 20), box(60, 0, 20, 0.7), box(60, 0, 10, 20), RING, box(100, 0, 30, 0.4)
)


class Thinness(unittest.TestCase):
    def test_is_what_the_check_finds(self):
        for material in MATERIALS:
            conditions = Conditions(material=material)
            told, rules = thinness(DESIGN, conditions), [f.rule for f in check(DESIGN, conditions)]
            strips = rules.count("thin-strip") + rules.count("double-outline")
            counts = (told.strip_count, told.gap_count, len(told.slivers))
            with self.subTest(material.id):
                self.assertEqual(counts, (strips, rules.count("thin-gap"), rules.count("sliver")))

    def test_places_and_widths_the_narrowest_first(self):
        told = thinness(DESIGN, Conditions(material=material_of("black-card")))
        self.assertEqual([round(strip.width_mm, 3) for strip in told.strips], [0.5, 0.7])
        self.assertAlmostEqual(told.gaps[0].width_mm, 0.3, 6)
        self.assertAlmostEqual(float(told.gaps[0].ends[:, 0].mean()), 20.15, 6)
        self.assertEqual(told.slivers, ("t:/5",))

    def test_single_lines_have_no_width(self):
        drawn = document(box(0, 0, 20, 0.1), treatment=Treatment.DRAW)
        self.assertEqual(thinness(drawn, Conditions()), thinness(Document(), Conditions()))
