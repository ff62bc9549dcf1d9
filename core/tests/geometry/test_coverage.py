"""What resvg paints of shapes one over the other and of the same shapes combined: the same picture."""

import unittest

import numpy as np

from hakobu.geometry import Path, scaling, transform, translation
from hakobu.geometry.boolean import difference, union
from hakobu.geometry.path_text import path_data

from ..fonts import glyph, glyph_names
from ..pictures import rendered
from ..shapes import circle
from .curves import flower

SIZE = 120


def painted(*paths: Path, colour: str = "black") -> str:
    return "".join(f'<path d="{path_data(path, 5)}" fill="{colour}" fill-rule="nonzero"/>' for path in paths)


class Coverage(unittest.TestCase):
    def same(self, ours: str, theirs: str) -> None:
        a, b = rendered(ours, SIZE), rendered(theirs, SIZE)
        self.assertGreater(float(a.std()), 0.1)
        # Where two rims cross within a pixel, layers painted one over the other leave a little light between them.
        self.assertLess(float(np.abs(a - b).mean()), 2e-4)
        self.assertLess(float(np.abs(a - b).max()), 0.05)

    def test_letters_over_each_other_and_united(self):
        names = [name for name in glyph_names("serif")[20:400:12] if glyph("serif", name).segment_count]
        shapes = []
        for k, name in enumerate(names):
            small = transform(glyph("serif", name), scaling(0.03))
            shapes.append(transform(small, translation(8 + k % 8 * 13.0, 30 + k // 8 * 22.0)))
        self.same(painted(union(*shapes).path), painted(*shapes))

    def test_flowers_with_a_hole(self):
        shapes = [transform(flower(k, k % 3 * 12.0, k // 3 * 12.0), translation(40, 40)) for k in range(9)]
        hole = circle(55, 55, 14)
        made = difference(union(*shapes).path, hole)
        self.same(painted(made.path), painted(*shapes) + painted(hole, colour="white"))
