"""One colour within another keeps its corners and slim tips, as ink on paper does."""

import unittest

import numpy as np
from scipy.spatial import KDTree

from hakobu.geometry import flatten
from hakobu.tracing import TraceOptions, View, find

from ..pictures import rendered

INK, GROUND = np.array([20, 90, 160]), np.array([200, 40, 40])


def star(points: int, outer: float, inner: float) -> np.ndarray:
    angle = np.arange(2 * points) * np.pi / points + 0.1
    reach = np.where(np.arange(2 * points) % 2, inner, outer)
    return 200 + np.column_stack([np.cos(angle), np.sin(angle)]) * reach[:, None]


def coloured(grey: np.ndarray) -> View:
    rgb = np.round(INK + grey[..., None] * (GROUND - INK)).astype(np.uint8)
    return View(np.dstack([rgb, np.full(grey.shape, 255, np.uint8)]), (1.0, 0.0, 0.0, 1.0, 0.0, 0.0))


class SlimTips(unittest.TestCase):
    def test_stars_come_with_all_their_corners(self):
        for points, outer, inner in ((5, 170, 30), (7, 180, 40), (8, 180, 25), (12, 180, 60)):
            with self.subTest(points):
                corners = star(points, outer, inner)
                drawn = " L".join(f"{x:.3f} {y:.3f}" for x, y in corners)
                (piece,) = find(coloured(rendered(f'<path d="M{drawn}Z"/>')), "colour", TraceOptions()).pieces
                self.assertEqual(piece.path.segment_count, 2 * points)
                off = KDTree(flatten(piece.path, 0.01, 0.05).points).query(corners)[0]
                self.assertLess(off.max(), 0.15)

    def test_where_a_bit_was_taken_in_the_border_stays(self):
        """A speck of a third colour on the border: what takes it in has a border that the picture does not show."""
        view = coloured(rendered('<circle cx="200" cy="200" r="90"/>'))
        view.rgba[198:202, 288:292, :3] = (240, 230, 90)
        (piece,) = find(view, "colour", TraceOptions(colours=2, smallest_mm2=40.0)).pieces
        radius = np.hypot(*(flatten(piece.path, 0.05).points - 200).T)
        self.assertLess(np.abs(radius - 90).max(), 2.0)
        self.assertLess(np.median(np.abs(radius - 90)), 0.1)
