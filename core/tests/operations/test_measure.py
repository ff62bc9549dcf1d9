"""Dimensions: what they measure beside what is known of drawn shapes; and that they follow every operation."""

import math
import unittest

import numpy as np

from hakobu import pipeline
from hakobu.geometry import rotation, transform
from hakobu.geometry.boolean import difference
from hakobu.geometry.primitives import polygon, rectangle
from hakobu.model import Document, codec
from hakobu.model.features import drawn_dimensions

from ..shapes import circle
from .building import DESIGN, step, take, took
from .test_built import of
from .test_registry import NOTHING_TO_DO, TRIED

#: A plate with a round hole of 8 mm, a slot of 6 x 30, corners rounded by 5 mm.
PLATE = of(difference(rectangle(0, 0, 100, 60, 5.0), circle(20, 20, 4), rectangle(50, 20, 30, 6, 3.0)).path)
TRIANGLE = of(polygon(50, 50, 60, None, 3))


def measure(design: Document, **values) -> float:
    (found,) = drawn_dimensions(took("measure", None, design, **values).document)
    return found.size


class Measured(unittest.TestCase):
    def test_what_is_known_of_drawn_shapes(self):
        for design, values, expected in (
            (PLATE, {"kind": "hole", "at": [19, 21]}, 8.0),
            (PLATE, {"kind": "hole", "at": [60, 23]}, 6.0),
            (PLATE, {"kind": "circle", "at": [24, 20]}, 8.0),
            (PLATE, {"kind": "radius", "at": [1, 1]}, 5.0),
            (PLATE, {"kind": "radius", "at": [50, 23]}, 3.0),
            (PLATE, {"kind": "strip", "at": [60, 15]}, 20.0),
            (PLATE, {"kind": "distance", "ends": [5, 0, 95, 0]}, 90.0),
            (PLATE, {"kind": "edges", "ends": [60, 0, 65, 20]}, 20.0),
            (PLATE, {"kind": "edges", "ends": [20, 16, 50, 0]}, 16.0),
            (TRIANGLE, {"kind": "angle", "at": [50, 0]}, 60.0),
            (TRIANGLE, {"kind": "edges", "ends": [50, 90, 45, 30]}, 0.0),
        ):
            with self.subTest(**values):
                if expected:
                    self.assertAlmostEqual(measure(design, **values), expected, places=4)
                else:
                    # Edges that meet in a corner have no distance.
                    self.assertIn("no second edge", take("measure", None, design, **values).stopped)

    def test_turned_shapes_measure_the_same(self):
        for degrees in (17.0, 90.0, 203.0):
            turned = of(transform(PLATE.pieces[0].path, rotation(math.radians(degrees))))
            at = np.array([60.0, 23.0]) @ rotation(math.radians(degrees))[:, :2].T
            self.assertAlmostEqual(measure(turned, kind="hole", at=at.tolist()), 6.0, places=5)

    def test_what_is_not_there_is_said(self):
        for values, words, design in (
            ({"kind": "circle", "at": [60, 20]}, "no circle", PLATE),
            ({"kind": "radius", "at": [50, 0]}, "no round curve", TRIANGLE),
            ({"kind": "edges", "ends": [50, 0, 60, 0]}, "no second edge", PLATE),
        ):
            self.assertRegex(take("measure", None, design, **values).stopped, words)
        self.assertIn("nothing here", take("measure", None, Document()).stopped)

    def test_a_rule_holds_or_not(self):
        for must, holds in ((8.0, True), (8.009, True), (8.02, False)):
            made = took("measure", None, PLATE, kind="hole", at=[19, 21], must_mm=must)
            (found,) = drawn_dimensions(made.document)
            self.assertEqual(found.holds, holds)

    def test_it_is_kept_to_the_bit(self):
        made = took("measure", None, PLATE, kind="hole", at=[19, 21], must_mm=8.0, name="Rivet").document
        self.assertEqual(codec.from_json(codec.to_json(made)).dimensions, made.dimensions)
        self.assertNotIn("dimensions", codec.to_manifest(PLATE)[0])


#: What is measured of the design of these tests, and how large it is.
TAKEN = (
    ({"kind": "hole", "at": [20.0, 20.0]}, 20.0),
    ({"kind": "circle", "at": [20.0, 10.0]}, 20.0),
    ({"kind": "radius", "at": [20.0, 10.0]}, 10.0),
    ({"kind": "distance", "ends": [0.0, 0.0, 40.0, 0.0]}, 40.0),
    ({"kind": "edges", "ends": [40.0, 5.0, 0.0, 5.0]}, 40.0),
    ({"kind": "edges", "ends": [0.0, 5.0, 80.0, 5.0]}, 80.0),
    ({"kind": "angle", "at": [0.0, 40.0]}, 90.0),
    ({"kind": "strip", "at": [20.0, 5.0]}, 10.0),
)
#: What operations do to them: all times a factor, angles but; or some otherwise. None: what was measured is gone.
TIMES = {"resize": 2.0, "size-by": 1.5}
OTHERWISE = {
    "remove": dict.fromkeys(range(len(TAKEN))),
    "holes": {0: None, 1: None, 2: None, 7: 40.0},
    # The ring is cut through its hole; a bridge goes through it.
    "open-along": {0: None, 1: None},
    "bridge": {0: None, 1: None, 7: 1.5},
    # Holes 2.5 mm from the rim are made where the wall is; the line becomes a band 1 mm to both sides.
    "pattern": {7: 2.5},
    "edges": {5: 81.0},
}


class Followed(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.design = DESIGN
        for k, (values, _) in enumerate(TAKEN):
            made = pipeline.run_step(cls.design, step("measure", None, key=f"m{k}", document=cls.design, **values))
            assert not made.stopped, made.stopped
            cls.design = made.document

    def test_what_is_measured_is_as_large_as_drawn(self):
        sizes = [found.size for found in drawn_dimensions(self.design)]
        np.testing.assert_allclose(sizes, [size for _, size in TAKEN], atol=1e-4)

    def test_they_follow_every_operation(self):
        for name, (on, parameters) in TRIED.items():
            if name in NOTHING_TO_DO:
                continue
            made = pipeline.run_step(self.design, step(name, on, document=self.design, **parameters))
            self.assertEqual(made.stopped, "")
            found = drawn_dimensions(made.document)
            for k, (values, size) in enumerate(TAKEN):
                with self.subTest(name, number=k):
                    scaled = size if values["kind"] == "angle" else size * TIMES.get(name, 1.0)
                    expected = OTHERWISE.get(name, {}).get(k, scaled)
                    if expected is None:
                        self.assertIsNone(found[k].size)
                    else:
                        self.assertAlmostEqual(found[k].size, expected, places=3)

    def test_through_many_steps_they_stay_true(self):
        """Placed, turned, sized, placed back: sizes are times the product of all factors."""
        design, random, factor = self.design, np.random.default_rng(3), 1.0
        for _ in range(12):
            times = float(random.uniform(0.7, 1.5))
            turn, (x, y) = float(random.uniform(0, 360)), random.uniform(-30, 30, 2)
            factor *= times
            ids = tuple(piece.id for piece in design.pieces)
            design = took("place", ids, design, move=[float(x), float(y)], turn=turn).document
            design = took("resize", None, design, factor=times).document
        for (values, size), found in zip(TAKEN, drawn_dimensions(design), strict=True):
            with self.subTest(**values):
                expected = size if values["kind"] == "angle" else size * factor
                self.assertAlmostEqual(found.size / expected, 1.0, places=6)

    def test_a_file_that_is_brought_in_leaves_them(self):
        data = b'<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm"><path d="M0 0H9V9Z"/></svg>'

        def source(sha256, unit, key, notes):
            return pipeline.read("a.svg", data, unit, key)

        made = pipeline.run_step(self.design, step("bring-in", source="x", name="a.svg"), source)
        self.assertEqual(made.stopped, "")
        self.assertEqual(
            [d.size for d in drawn_dimensions(made.document)], [d.size for d in drawn_dimensions(self.design)]
        )

    def test_what_was_lost_stays_lost_but_is_found_by_the_chain_again(self):
        gone = took("remove", ("s:ring",), self.design).document
        again = took("resize", None, gone, factor=2.0).document
        self.assertTrue(all(each.lost for each in again.dimensions))
        self.assertEqual([each.text for each in drawn_dimensions(again)], ["gone"] * len(TAKEN))
