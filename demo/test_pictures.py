"""The demo's pictures traced back against the drawings they were made from."""

import hashlib
import sys
import unittest
from pathlib import Path

import numpy as np

DEMO = Path(__file__).parent
sys.path.insert(0, str(DEMO))

import heron  # noqa: E402
import kettle  # noqa: E402
from raster import coverage  # noqa: E402

from hakobu import pipeline  # noqa: E402
from hakobu.checks import check  # noqa: E402
from hakobu.geometry import Path as Outlines  # noqa: E402
from hakobu.geometry import SegmentIndex, bounds, flatten, signed_areas  # noqa: E402
from hakobu.geometry.nodes import end_directions, nodes_of  # noqa: E402
from hakobu.model import Level, Step  # noqa: E402

PIXEL_MM = 25.4 / 300


def traced(name: str, **parameters):
    data = (DEMO / "files" / name).read_bytes()
    document = pipeline.read(name, data).document
    pixels = pipeline.picture(name, data)
    assert document.pictures[0].sha256 == hashlib.sha256(data).hexdigest()
    step = Step("t", "trace", 1, parameters)
    result = pipeline.run_step(document, step, picture=lambda _: pixels)
    assert not result.stopped, result.stopped
    return result


def distances(a: Outlines, b: Outlines) -> np.ndarray:
    first, second = flatten(a, 0.001, 0.02), flatten(b, 0.001, 0.02)
    there = SegmentIndex(second, 0.05).nearest(first.points)[0]
    return np.concatenate([there, SegmentIndex(first, 0.05).nearest(second.points)[0]]) / PIXEL_MM


def corners(path: Outlines, degrees: float) -> np.ndarray:
    leaving, arriving = end_directions(path)
    before = np.arange(path.segment_count) - 1
    before[path.start[:-1]] = path.start[1:] - 1
    turn = np.arctan2(np.cross(arriving[before], leaving), (arriving[before] * leaving).sum(axis=1))
    return nodes_of(path).points[: path.segment_count][np.degrees(np.abs(turn)) > degrees]


class Heron(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.result = traced("heron-scan.jpg")
        cls.heron = max(
            (p for p in cls.result.document.pieces if len(p.path) > 2), key=lambda p: abs(signed_areas(p.path).sum())
        )

    def test_lies_within_a_tenth_of_a_pixel_of_the_drawing(self):
        apart = distances(heron.TRUTH, self.heron.path)
        self.assertLess(apart.mean(), 0.1)

    def test_loses_no_corner(self):
        known, made = corners(heron.TRUTH, 26), corners(self.heron.path, 20)
        self.assertGreaterEqual(len(known), 22)
        gaps = np.hypot(*(known[:, None] - made[None]).transpose(2, 0, 1)).min(axis=1) / PIXEL_MM
        self.assertLess(gaps.max(), 1.5)

    def test_every_hole_is_there_and_the_dust_is_not(self):
        self.assertEqual(len(self.heron.path), len(heron.TRUTH))
        self.assertEqual(len(self.result.document.pieces), 2)
        self.assertGreater(self.result.outcome.statistics["specks"], 30)

    def test_the_shadow_of_the_lid_is_found_as_background(self):
        grave = [f.rule for f in check(self.result.document) if f.level is not Level.NOTE]
        self.assertEqual(grave, ["background-rectangle"])


class Kettle(unittest.TestCase):
    def test_the_ink_is_where_it_was_drawn(self):
        ink = traced("kettle.png", threshold=0.2).document.pieces
        box = bounds(Outlines.concatenate(p.path for p in ink))
        drawn = bounds(Outlines.concatenate(kettle.outlines(data, 0, 0, 1) for _, _, data in kettle.FIELDS))
        half = kettle.INK_MM / 2
        expected = (drawn[0] - half, drawn[1] - half, drawn[2] + half, drawn[3] + half)
        self.assertLess(max(abs(a - b) for a, b in zip(box, expected, strict=True)), 0.1)


class Raster(unittest.TestCase):
    """The pictures are only as true as what draws them."""

    def test_coverage_of_known_areas(self):
        for name, points, expected in (
            ("whole pixels", [[2, 3], [7, 3], [7, 9], [2, 9]], 30.0),
            ("parts of pixels", [[2.25, 3], [7.5, 3], [7.5, 9], [2.25, 9]], 31.5),
            ("a triangle", [[1, 1], [11, 1], [1, 9]], 40.0),
        ):
            with self.subTest(name):
                made = coverage(Outlines.from_points(np.array(points, float), True), 20, 12)
                self.assertAlmostEqual(float(made.sum()), expected, 6)
                self.assertTrue((made >= 0).all() and (made <= 1).all())
