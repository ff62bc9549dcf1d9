"""Patterns: densities beside closed forms, clipping beside shapely, what is left out and what holds as one."""

import math
import unittest

import numpy as np
import shapely

from hakobu.geometry import Path, area, bounds
from hakobu.geometry.lattice import SWING, Lattice, hexagon, middle_line
from hakobu.geometry.nesting import shapes_of
from hakobu.geometry.primitives import rectangle, star

from ..shapes import circle, square
from .building import take, took
from .test_build import covered, polygons
from .test_built import of

#: A shape that is large beside the pattern, so that its edge hardly counts.
LARGE = square(0, 0, 300)
WHOLE = 300.0**2


class Densities(unittest.TestCase):
    """The share of the area that a pattern takes, in closed form, within what the edge of 300 mm can change of it."""

    def share(self, **more) -> float:
        made = took("pattern", ("s:p0",), of(LARGE), use="openings", rim_mm=0.0, least_mm2=0.0, one=False, **more)
        return 1 - covered(made.document.by_id["s:p0"]) / WHOLE

    def test_shares(self):
        for kind, more, expected in (
            ("lines", {"spacing_mm": 3.0, "width_mm": 1.0}, 1 / 3),
            ("lines", {"spacing_mm": 3.0, "width_mm": 1.0, "angle": 31.0}, 1 / 3),
            ("crossed", {"spacing_mm": 3.0, "width_mm": 1.0}, 1 - (2 / 3) ** 2),
            ("dots", {"spacing_mm": 3.0, "width_mm": 1.0}, math.pi / (4 * 9 * math.sqrt(3) / 2)),
            ("hexagons", {"spacing_mm": 3.0, "width_mm": 0.6}, (2.4 / 3.0) ** 2),
        ):
            with self.subTest(kind, **more):
                self.assertAlmostEqual(self.share(kind=kind, **more), expected, delta=0.01)

    def test_a_wave_is_a_cosine(self):
        line = middle_line(Lattice(2.0), (0, 0, 20, 1), 0.5)
        t = np.linspace(0, 1, 501)[:, None]
        for c in line.ctrl[:4]:
            points = (1 - t) ** 3 * c[0] + 3 * (1 - t) ** 2 * t * c[1] + 3 * (1 - t) * t**2 * c[2] + t**3 * c[3]
            phase = (points[:, 0] - c[0, 0]) / 2.0 * np.pi
            self.assertLess(np.abs(points[:, 1] - c[0, 1] * np.cos(phase)).max(), 0.0005 * 0.5)
        self.assertEqual(SWING, 0.3642)

    def test_a_hexagon_is_as_wide_as_it_is_said(self):
        left, top, right, bottom = bounds(hexagon(6.0, 0.0))
        self.assertAlmostEqual(right - left, 6.0)
        self.assertAlmostEqual(bottom - top, 6.0 / math.cos(math.pi / 6))


class Clipped(unittest.TestCase):
    def test_hexagons_keep_from_the_edge_as_shapely_has_it(self):
        shape = star(100, 100, 150, None, 5, 0.5)
        made = took("pattern", ("s:p0",), of(shape), spacing_mm=6.0, width_mm=1.5, rim_mm=3.0, least_mm2=0.0)
        whole = polygons(made.document.pieces[0].path)
        inner = polygons(shape).buffer(-3.0, quad_segs=64)
        lattice = Lattice(6.0)
        cells = [
            shapely.Polygon(np.array(hexagon(4.5, 0.0).ctrl[:, 0]) + place)
            for place in lattice.places(bounds(shape), math.sqrt(3) / 2, True)
        ]
        expected = polygons(shape).difference(shapely.union_all(cells).intersection(inner))
        # The lattice stands in the middle of what is filled, which is the inner shape.
        self.assertAlmostEqual(whole.area, expected.area, delta=0.02 * expected.area)
        edge = shapely.Polygon(whole.exterior).exterior
        self.assertGreater(min(edge.distance(shapely.Polygon(hole)) for hole in whole.interiors), 2.99)
        self.assertEqual(len(shapes_of(made.document.pieces[0].path)), 1)

    def test_bars_hang_on_the_rim_and_what_is_loose_is_left_out(self):
        made = took("pattern", ("s:p0",), of(circle(50, 50, 40)), kind="lines", use="stays", rim_mm=4.0)
        self.assertEqual(len(shapes_of(made.document.pieces[0].path)), 1)
        dots = took("pattern", ("s:p0",), of(circle(50, 50, 40)), kind="dots", use="stays", width_mm=3.0, least_mm2=0.0)
        self.assertGreater(dots.outcome.statistics["loose"], 50)
        rim = math.pi * (40**2 - 37**2)
        self.assertGreater(covered(dots.document.pieces[0]), rim)

    def test_small_parts_are_left_out_and_counted(self):
        made = took("pattern", ("s:p0",), of(circle(50, 50, 30)), spacing_mm=6.0, least_mm2=12.0)
        sizes = [shapely.Polygon(h).area for h in polygons(made.document.pieces[0].path).interiors]
        self.assertGreater(min(sizes), 11.99)
        self.assertGreater(made.outcome.statistics["small"], 5)

    def test_other_pieces_repeated_over_it_or_as_they_lie(self):
        design = of(square(0, 0, 60), rectangle(200, 0, 4, 2))
        repeated = took("pattern", ("s:p0",), design, kind="repeated", spacing_mm=8.0, least_mm2=0.0, one=False)
        self.assertAlmostEqual(1 - covered(repeated.document.by_id["s:p0"]) / 3600, 8 / 64, delta=0.03)
        self.assertIn("s:p1", repeated.document.by_id)
        over = took("pattern", ("s:p0",), design, kind="over", use="stays", rim_mm=5.0)
        self.assertNotIn("s:p1", over.document.by_id)
        self.assertAlmostEqual(covered(over.document.by_id["s:p0"]), 3600.0, delta=1e-6)
        lies = took("pattern", ("s:p0",), of(square(0, 0, 60), rectangle(-5, 28, 70, 4)), kind="once", use="stays")
        self.assertAlmostEqual(covered(lies.document.by_id["s:p0"]), 3600 - 54**2 + 54 * 4, delta=1e-6)

    def test_lines_to_score_lie_inside_on_a_layer_of_their_own(self):
        made = took("pattern", ("s:p0",), of(square(0, 0, 60)), kind="crossed", use="lines", rim_mm=5.0).document
        lines = next(p for p in made.pieces if p.name == "Pattern")
        self.assertEqual(made.treatment_of(lines).value, "score")
        left, top, right, bottom = bounds(lines.path)
        self.assertTrue(left >= 5 - 1e-6 and top >= 5 - 1e-6 and right <= 55 + 1e-6 and bottom <= 55 + 1e-6)
        self.assertAlmostEqual(area(made.by_id["s:p0"].path), 3600.0)

    def test_scattered_as_the_number_says(self):
        def path(seed: int) -> Path:
            made = took("pattern", ("s:p0",), of(square(0, 0, 60)), kind="dots", jitter=0.5, seed=seed, least_mm2=0.0)
            return made.document.pieces[0].path

        self.assertEqual(path(1), path(1))
        self.assertNotEqual(path(1), path(2))


class Refused(unittest.TestCase):
    def test_each_has_a_sentence(self):
        for values, words in (
            ({"spacing_mm": 0.2}, "larger spacing"),
            ({"rim_mm": 200.0}, "narrower"),
            ({"spacing_mm": 1.0, "width_mm": 2.0}, "larger spacing, or narrower walls"),
            ({"kind": "lines", "spacing_mm": 1.0, "width_mm": 2.0}, "narrower ones"),
            ({"kind": "once"}, "Pick the shape"),
            ({"least_mm2": 1e6}, "No part of the pattern"),
        ):
            with self.subTest(**values):
                self.assertRegex(take("pattern", ("s:p0",), of(LARGE), **values).stopped, words)
