"""Sizes: typed, fitted, by amounts, by features; what stays; beside scaling laws, numpy's least squares and sheets."""

import io
import math
import re
import unittest

import numpy as np

from hakobu import formats
from hakobu.geometry import Path, area, bounds, features, length
from hakobu.geometry.boolean import difference
from hakobu.geometry.primitives import rectangle
from hakobu.model import Document, Page

from ..shapes import circle, square
from .building import take, took
from .test_built import of

#: A plate of 100 x 60 with a round hole of 4 mm, and a slot of 9 mm by 30.
PLATE = difference(rectangle(0, 0, 100, 60), circle(10, 10, 2), rectangle(50, 20, 30, 9, 4.5)).path
#: ISO 216 and ANSI/ASME Y14.1: A4, A3, B (ledger), in mm.
SHEETS = ((210, 297), (297, 420), (279.4, 431.8))


def sized(**values):
    return took("resize", None, of(PLATE), **values)


class Typed(unittest.TestCase):
    def test_the_typed_size_is_met(self):
        for values, expected in (
            ({"width_mm": 180.0}, (180, 108)),
            ({"height_mm": 30.0}, (50, 30)),
            ({"factor": 1.5}, (150, 90)),
            ({"width_mm": 140.0, "height_mm": 95.0}, (140, 84)),
            ({"width_mm": 300.0, "height_mm": 90.0}, (150, 90)),
            ({"width_mm": 140.0, "height_mm": 95.0, "stretch": True}, (140, 95)),
        ):
            with self.subTest(**values):
                left, top, right, bottom = sized(**values).document.box
                np.testing.assert_allclose((right - left, bottom - top), expected, atol=1e-6)

    def test_it_fits_sheets(self):
        for width, height in SHEETS:
            left, top, right, bottom = sized(width_mm=float(width), height_mm=float(height)).document.box
            self.assertTrue(right - left <= width + 1e-9 and bottom - top <= height + 1e-9)
            self.assertTrue(math.isclose(right - left, width) or math.isclose(bottom - top, height))

    def test_amounts_grow_as_they_do(self):
        """Areas as the square of the size, lengths as the size."""
        by_area = sized(area_mm2=20_000.0).document.pieces[0].path
        self.assertAlmostEqual(area(by_area), 20_000.0, places=4)
        by_line = sized(line_mm=1000.0).document.pieces[0].path
        self.assertAlmostEqual(length(by_line), 1000.0, places=6)

    def test_one_aim_at_a_time(self):
        for values in ({}, {"width_mm": 5.0, "factor": 2.0}, {"area_mm2": 9.0, "line_mm": 9.0}):
            self.assertRegex(take("resize", None, of(PLATE), **values).stopped, "one of them")


class ByFeatures(unittest.TestCase):
    def test_a_slot_is_truly_so_wide(self):
        made = sized(feature="hole", at=[60.0, 24.0], to_mm=12.0)
        self.assertAlmostEqual(made.outcome.statistics["factor"], 12 / 9, places=6)
        self.assertIn("slot 9 mm became 12 mm", made.outcome.note)

    def test_a_hole_a_strip_a_gap_and_two_nodes(self):
        for values, present in (
            ({"feature": "hole", "at": [11.0, 10.0]}, 4.0),
            ({"feature": "strip", "at": [60.0, 58.0]}, 31.0),
            ({"feature": "strip", "at": [60.0, 21.0]}, 9.0),
            ({"feature": "distance", "ends": [1.0, 1.0, 99.0, 2.0]}, 100.0),
        ):
            with self.subTest(**values):
                made = sized(**values, to_mm=2 * present)
                self.assertAlmostEqual(made.outcome.statistics["factor"], 2.0, places=5)

    def test_several_are_fitted_as_numpy_does_with_what_remains(self):
        wanted = [(4.0, 4.4), (9.0, 9.3), (100.0, 105.0)]
        others = [
            {"feature": "hole", "at": [60.0, 24.0], "to_mm": 9.3},
            {"feature": "distance", "at": [0.0, 0.0, 100.0, 0.0], "to_mm": 105.0},
        ]
        made = sized(feature="hole", at=[10.0, 10.0], to_mm=4.4, others={"features": others})
        sizes, true = np.array(wanted).T
        factor = np.linalg.lstsq(sizes[:, None], true, rcond=None)[0][0]
        self.assertAlmostEqual(made.outcome.statistics["factor"], factor, places=6)
        for k, (size, truly) in enumerate(wanted):
            self.assertAlmostEqual(made.outcome.statistics[f"rest_{k + 1}_mm"], size * factor - truly, places=4)

    def test_a_worked_example(self):
        """2 and 4 are to be 3 and 5: (2 * 3 + 4 * 5) / (4 + 16) = 1.3."""
        self.assertAlmostEqual(features.best_factor(np.array([2.0, 4.0]), np.array([3.0, 5.0])), 1.3)

    def test_where_nothing_is_to_be_measured(self):
        for design, values, words in (
            (of(square(0, 0, 9)), {"feature": "hole", "at": [4.0, 4.0], "to_mm": 2.0}, "no hole or slot"),
            (of(PLATE), {"feature": "hole", "to_mm": 2.0}, "where it is"),
            (of(PLATE), {"feature": "hole", "at": [1.0, 1.0]}, "its true size"),
            (of(PLATE), {"others": {"features": [{"feature": "moon", "at": [1, 1], "to_mm": 2}]}}, "one of hole"),
            (of(PLATE), {"others": {"features": 5}}, "must list"),
        ):
            with self.subTest(**values):
                self.assertRegex(take("resize", None, design, **values).stopped, words)


class Stays(unittest.TestCase):
    def test_rivet_holes_are_4_mm_after_any_sizing(self):
        random = np.random.default_rng(7)
        for factor in random.uniform(0.2, 6.0, 12):
            made = sized(factor=float(factor), holes_mm=5.0)
            self.assertEqual(made.outcome.statistics["holes_kept"], 1)
            (hole,) = features.round_holes(made.document.pieces[0].path, 5.0)
            left, top, right, bottom = bounds(made.document.pieces[0].path.take([hole]))
            np.testing.assert_allclose((right - left, bottom - top), 4.0, atol=1e-9)
            np.testing.assert_allclose(((left + right) / 2, (top + bottom) / 2), 10 * factor, atol=1e-9)

    def test_a_slot_and_what_is_larger_follow(self):
        made = sized(factor=2.0, holes_mm=20.0).document.pieces[0].path
        boxes = [bounds(made.take([k])) for k in range(len(made))]
        self.assertTrue(any(abs(box[2] - box[0] - 60) < 1e-6 for box in boxes))

    def test_a_page_that_was_set_stays(self):
        design = Document(Page(200, 200, fixed=True), of(PLATE).layers, of(PLATE).pieces)
        made = took("resize", None, design, width_mm=50.0).document
        self.assertEqual(made.page, design.page)


class Fitted(unittest.TestCase):
    def test_with_room_all_round_in_a_box_and_in_a_target(self):
        made = sized(width_mm=150.0, height_mm=150.0, clear_mm=5.0)
        self.assertAlmostEqual(made.document.size_mm[0], 140.0, places=9)
        target = {"name": "tile", "width_mm": 150.0, "height_mm": 150.0}
        self.assertAlmostEqual(sized(target=target, clear_mm=5.0).document.size_mm[0], 140.0, places=8)
        # In a circle the corners touch: the diagonal of 100 x 60 is its diameter less twice the room.
        round_ = sized(target={**target, "shape": "ellipse"}, clear_mm=5.0).document.size_mm
        self.assertAlmostEqual(math.hypot(*round_), 140.0, places=6)
        off = sized(target={**target, "off": [10.0, 0.0]}, clear_mm=5.0).document.size_mm
        self.assertAlmostEqual(off[0], 120.0, places=6)

    def test_without_room_it_is_said(self):
        tile = {"name": "tile", "width_mm": 9.0, "height_mm": 9.0}
        for values in ({"width_mm": 9.0, "clear_mm": 5.0}, {"target": tile, "clear_mm": 5.0}):
            self.assertRegex(take("resize", None, of(PLATE), **values).stopped, "room")
        self.assertRegex(take("resize", None, of(PLATE), target={"width_mm": 9.0}).stopped, "height_mm")


class ByFeaturesApart(unittest.TestCase):
    def test_two_factors_meet_a_width_and_a_height(self):
        others = [{"feature": "distance", "at": [0.0, 0.0, 0.0, 60.0], "to_mm": 90.0}]
        values = {"feature": "distance", "ends": [0.0, 0.0, 100.0, 0.0], "to_mm": 120.0, "others": {"features": others}}
        made = sized(**values, stretch=True)
        np.testing.assert_allclose(made.document.size_mm, (120.0, 90.0), atol=1e-6)
        self.assertEqual([round(made.outcome.statistics[f"rest_{k}_mm"], 6) for k in (1, 2)], [0.0, 0.0])
        one = sized(**values)
        self.assertAlmostEqual(one.outcome.statistics["factor"], (100 * 120 + 60 * 90) / (100**2 + 60**2), places=9)

    def test_they_are_what_scipy_finds_by_another_way(self):
        """Beside a search by Nelder and Mead over the same sum of squares."""
        from scipy.optimize import minimize

        random = np.random.default_rng(2)
        ways = random.uniform(5, 80, (5, 2))
        wanted = np.hypot(*(ways * (1.3, 0.8)).T) + random.normal(0, 0.5, 5)
        found = [features.Feature(float(np.hypot(*way)), np.array([(0, 0), way]), "distance") for way in ways]
        best = features.best_factors(found, wanted)
        other = minimize(
            lambda f: ((np.hypot(*(ways * f).T) - wanted) ** 2).sum(),
            (1, 1),
            method="Nelder-Mead",
            options={"xatol": 1e-10, "fatol": 1e-14, "maxiter": 4000},
        )
        np.testing.assert_allclose(best, other.x, rtol=1e-5)


class Written(unittest.TestCase):
    """The typed size as svgelements, ezdxf and pypdfium2 read it from the files; HP-GL by its
    coordinates in units of 0.025 mm (HP-GL/2 reference)."""

    WIDTH = 123.456

    def setUp(self):
        self.design = sized(width_mm=self.WIDTH).document

    def data(self, kind: str) -> bytes:
        return formats.write(self.design, kind, formats.WriteOptions()).data

    def test_svg(self):
        import svgelements

        read = svgelements.SVG.parse(io.BytesIO(self.data("svg")), ppi=25.4)
        boxes = np.array([each.bbox() for each in read.elements() if isinstance(each, svgelements.Path) and len(each)])
        self.assertAlmostEqual(boxes[:, 2].max() - boxes[:, 0].min(), self.WIDTH, delta=1e-4)

    def test_dxf(self):
        from ezdxf import bbox
        from ezdxf.filemanagement import read

        document = read(io.StringIO(self.data("dxf").decode()))
        self.assertEqual(document.header["$INSUNITS"], 4, "millimetres")
        self.assertAlmostEqual(bbox.extents(document.modelspace(), fast=False).size.x, self.WIDTH, delta=1e-4)

    def test_pdf(self):
        import pypdfium2

        page = pypdfium2.PdfDocument(self.data("pdf"))[0]
        boxes = np.array([each.get_bounds() for each in page.get_objects()])
        across = (boxes[:, 2].max() - boxes[:, 0].min()) / 72 * 25.4
        # What is painted may reach beyond the line by half of its width.
        self.assertAlmostEqual(across, self.WIDTH, delta=0.3)

    def test_hpgl(self):
        text = self.data("hpgl").decode("ascii")
        numbers = [[int(v) for v in run.split(",")] for run in re.findall(r"P[DUA]+(-?\d+(?:,-?\d+)*)", text)]
        across = np.array([v for run in numbers for v in run[::2]])
        self.assertAlmostEqual((across.max() - across.min()) * 0.025, self.WIDTH, delta=0.026)


class Circles(unittest.TestCase):
    def test_stretched_circles_are_ellipses(self):
        made = took("resize", None, of(circle(50, 50, 20)), width_mm=80.0, height_mm=20.0, stretch=True).document
        self.assertAlmostEqual(area(Path.concatenate(p.path for p in made.pieces)), math.pi * 40 * 10, delta=0.01)
