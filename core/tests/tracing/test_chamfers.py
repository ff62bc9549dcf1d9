"""Corners that are cut off by about a pixel, and those that are not: resvg renders what is known exactly."""

import unittest

import numpy as np

from hakobu.geometry import Path
from hakobu.tracing.outlines.thresholding import trace

from ..pictures import distances, rendered, truth
from .test_thresholding import PIXELS


def wedge(turn: float, cut: float, way: float) -> str:
    """A large triangle whose corner turns by so many degrees, cut off square by a chord of so many pixels."""
    half = np.radians(180 - turn) / 2
    back = cut / 2 / np.tan(half)
    tips = [(0.0, 0.0)] if not cut else [(-back, -cut / 2), (-back, cut / 2)]
    far = 110.0
    corners = [*tips, (-far, far * np.tan(half)), (-far, -far * np.tan(half))]
    cos, sin = np.cos(way), np.sin(way)
    places = [(200.3 + x * cos - y * sin, 200.7 + x * sin + y * cos) for x, y in corners]
    return '<path d="M' + "L".join(f"{x:.4f} {y:.4f}" for x, y in places) + 'Z"/>'


class Blunt(unittest.TestCase):
    def worst(self, body: str) -> float:
        made = trace(rendered(body), PIXELS, 0.5, 0.05, 12.0)
        away = distances(truth(body), Path.concatenate(region.path for region in made.regions))
        return float(away.max())

    def test_a_corner_that_is_cut_off_is_not_drawn_on_to_where_its_sides_meet(self):
        """From about six tenths of a square pixel on; less does not always show beside how well sides are known."""
        for turn in (80, 100, 120):
            for cut in (1.8, 2.0):
                for way in (0.2, 1.0, 2.3, 4.0):
                    with self.subTest(turn=turn, cut=cut, way=way):
                        drawn_on = cut / 2 / np.tan(np.radians(180 - turn) / 2)
                        self.assertLess(self.worst(wedge(turn, cut, way)), min(0.7 * drawn_on, 0.55))

    def test_a_sharp_one_stays_sharp(self):
        for turn in (80, 100, 120):
            for way in (0.2, 1.0, 2.3, 4.0):
                with self.subTest(turn=turn, way=way):
                    self.assertLess(self.worst(wedge(turn, 0.0, way)), 0.2)
