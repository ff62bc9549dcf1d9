"""Outlines of strokes: as resvg paints them, as closed forms have them, dashes counted."""

import math
import unittest

import numpy as np

from hakobu.geometry import Path, scaling, transform, translation
from hakobu.geometry.measure import lengths
from hakobu.geometry.offset import stroke_outline
from hakobu.geometry.offset.stroke import dashed
from hakobu.geometry.path_text import path_data

from ..fonts import glyph
from ..pictures import rendered
from ..shapes import circle
from .curves import flower, total_area
from .degenerate import box
from .offset_cases import line

SIZE = 100
#: Our words and SVG's.
JOINS = {"round": "round", "mitre": "miter", "bevel": "bevel"}
ENDS = {"round": "round", "flat": "butt", "square": "square"}


class Painted(unittest.TestCase):
    def same(self, path: Path, width: float, join: str, ends: str, limit: float = 4.0, dashes=(), shift=0.0) -> None:
        made = stroke_outline(path, width, join, ends, limit, dashes, shift).path
        pattern = f'stroke-dasharray="{" ".join(map(str, dashes))}" stroke-dashoffset="{shift}"' if dashes else ""
        theirs = (
            f'<path d="{path_data(path, 5)}" fill="none" stroke="black" stroke-width="{width}"'
            f' stroke-linejoin="{JOINS[join]}" stroke-linecap="{ENDS[ends]}" stroke-miterlimit="{limit}" {pattern}/>'
        )
        ours = f'<path d="{path_data(made, 5)}" fill="black"/>'
        a, b = rendered(ours, SIZE), rendered(theirs, SIZE)
        self.assertGreater(float(a.std()), 0.05)
        # Two 256ths on each pixel of the rims, about a tenth of the picture, are how finely resvg covers them.
        self.assertLess(float(np.abs(a - b).mean()), 7e-4)
        # A pixel or two differ where sides meet at a point.
        self.assertLess(float(np.quantile(np.abs(a - b), 0.9995)), 0.06)

    def test_a_bent_line_with_all_joins_and_ends(self):
        path = line((20, 20), (80, 25), (30, 60), (35, 90), (85, 80))
        for join in JOINS:
            for ends in ENDS:
                with self.subTest(join=join, ends=ends):
                    self.same(path, 9.0, join, ends)

    def test_mitres_within_and_beyond_their_limit(self):
        path = line((10, 50), (90, 20), (20, 30), (80, 90), (40, 40))
        for limit in (1.5, 3.0, 10.0):
            self.same(path, 5.0, "mitre", "flat", limit)

    def test_letters(self):
        for join in JOINS:
            shape = transform(transform(glyph("serif", "g"), scaling(0.1)), translation(20, 70))
            self.same(shape, 3.0, join, "flat")

    def test_curves_that_bend_more_than_the_stroke_is_wide(self):
        for seed in (1, 3, 8):
            curve = transform(transform(flower(seed), scaling(3.0)), translation(50, 50))
            lines = Path(curve.ctrl, curve.kind, curve.bulge, curve.start, [False])
            self.same(lines, 7.0, "round", "round")
            # Without round joins resvg leaves out what only the normals of a tight bend reach, so this one bends less.
            self.same(lines, 1.5, "bevel", "square")

    def test_dashes(self):
        path = transform(transform(flower(5), scaling(3.0)), translation(50, 50))
        for dashes, shift in (((6, 3), 0.0), ((6, 3), 4.0), ((10, 2, 1, 2), -3.0), ((5,), 1.0), ((0.2, 6), 0.0)):
            with self.subTest(dashes=dashes, shift=shift):
                self.same(path, 2.0, "mitre", "round", dashes=dashes, shift=shift)


class ClosedForms(unittest.TestCase):
    def test_a_square_and_a_circle(self):
        self.assertAlmostEqual(total_area(stroke_outline(box(0, 0, 10, 10), 2.0).path), 144 - 64, places=6)
        self.assertAlmostEqual(total_area(stroke_outline(circle(0, 0, 5), 2.0).path), math.pi * (36 - 16), places=6)

    def test_dashes_are_as_long_as_asked(self):
        path = line((0, 0), (10, 0), (10, 10))
        made, segment = dashed(path, (3.0, 2.0))
        np.testing.assert_allclose(lengths(made), [3, 3, 3, 3], atol=1e-9)
        self.assertEqual(segment.tolist(), [0, 0, 1, 1])
        made, segment = dashed(path, (4.0, 2.0), 1.0)
        np.testing.assert_allclose(lengths(made), [3, 4, 4, 3], atol=1e-9)
        # The third, from 11 to 15, is on the second line; the second, from 5 to 9, on the first.
        self.assertEqual(segment.tolist(), [0, 0, 1, 1])

    def test_a_dash_over_a_closed_outlines_start_is_one(self):
        made, segment = dashed(box(0, 0, 10, 10), (6.0, 4.0), 3.0)
        np.testing.assert_allclose(lengths(made), [6, 6, 6, 6], atol=1e-9)
        self.assertEqual(np.diff(made.start).tolist(), [2, 2, 2, 2])
        self.assertEqual(len(segment), 8)

    def test_a_pattern_of_nothing_is_no_pattern_and_too_many_are_refused(self):
        path = line((0, 0), (1000, 0))
        self.assertIs(dashed(path, (0.0, 0.0))[0], path)
        for dashes in ((1e-4, 1e-4), (-1.0, 2.0), (math.nan, 1.0)):
            with self.assertRaises(ValueError):
                dashed(path, dashes)

    def test_sources_are_those_of_the_path(self):
        path = Path.concatenate([line((0, 0), (10, 0)), line((0, 5), (4, 5), (10, 5))])
        made = stroke_outline(path, 1.0, dashes_mm=(2.0, 1.0))
        self.assertEqual(set(made.outline.tolist()), {0, 1})
        np.testing.assert_array_equal(path.outline_of[made.source], made.outline)
