"""Ink that the picture's own rim cuts off: straight along it, with corners where its sides, carried on, reach it. Each
shape is drawn on a larger picture of which a part is taken, as a crop does."""

import unittest

import numpy as np
from scipy import ndimage

from hakobu.geometry import Path, flatten, signed_areas
from hakobu.tracing.outlines.thresholding import trace

from ..pictures import rendered
from .test_thresholding import PIXELS

PART, SIDE = 40, 120


def part(points: np.ndarray, blur: float = 0.0, noise: float = 0.0, seed: int = 1) -> np.ndarray:
    """The part (SIDE, SIDE) of a picture of a polygon (N, 2), whose coordinates are the part's."""
    corners = " ".join(f"{x + PART:.4f} {y + PART:.4f}" for x, y in points)
    grey = ndimage.gaussian_filter(rendered(f'<path d="M{corners}Z"/>', 200), blur)
    grey = 0.1 + 0.82 * grey + np.random.default_rng(seed).normal(0, noise, grey.shape)
    return np.ascontiguousarray(grey[PART : PART + SIDE, PART : PART + SIDE], np.float32)


def traced(grey: np.ndarray) -> Path:
    return Path.concatenate(region.path for region in trace(grey, PIXELS, 0.51, 0.1, 12.0).regions)


def turns(path: Path) -> np.ndarray:
    return np.unique(path.ctrl[:, 0].round(6), axis=0)


def nearest(path: Path, places) -> float:
    """How far the nodes of a path lie from the places at most, each from the nearest."""
    return max(float(np.hypot(*(path.ctrl[:, 0] - place).T).min()) for place in places)


class Rims(unittest.TestCase):
    def assert_within(self, path: Path) -> None:
        """No line leaves the picture."""
        points = flatten(path, 0.001).points
        self.assertGreaterEqual(float(points.min()), -1e-6)
        self.assertLessEqual(float(points.max()), SIDE + 1e-6)

    def test_sides_meet_the_rim_where_they_do(self):
        """A bar that leaves by two rims at a slant, however soft or grainy the picture is."""
        slant = np.array([(-30, 35.3), (150, 5.3), (150, 45.3), (-30, 75.3)])
        meets = [(0, 30.3), (0, 70.3), (SIDE, 10.3), (SIDE, 50.3)]
        for turn in range(4):
            cos, sin = [(1, 0), (0, 1), (-1, 0), (0, -1)][turn]
            rotated = (slant - 60) @ np.array([[cos, sin], [-sin, cos]]) + 60
            places = (np.array(meets) - 60) @ np.array([[cos, sin], [-sin, cos]]) + 60
            for blur, noise, within in ((0.0, 0.0, 0.05), (1.2, 0.0, 0.15), (0.5, 0.016, 0.3)):
                with self.subTest(turn=turn, blur=blur):
                    made = traced(part(rotated, blur, noise))
                    self.assertLess(nearest(made, places), within)
                    self.assertEqual(len(turns(made)), 4)
                    self.assert_within(made)

    def test_a_corner_of_the_picture_is_one_of_the_ink(self):
        for blur, noise in ((0.0, 0.0), (1.2, 0.0), (0.5, 0.016)):
            with self.subTest(blur=blur):
                made = traced(part(np.array([(-30, -30), (70.3, -30), (50.3, 60.4), (-30, 60.4)]), blur, noise))
                self.assertLess(nearest(made, [(0, 0)]), 1e-6)
                self.assertLess(nearest(made, [(63.65, 0), (0, 60.4), (50.3, 60.4)]), 0.25)
                self.assertEqual(len(turns(made)), 4)
                self.assert_within(made)

    def test_ink_all_round_ends_at_the_picture(self):
        hole = rendered('<circle cx="60" cy="60" r="35"/>', SIDE)
        made = traced(np.ascontiguousarray(0.1 + 0.82 * (1 - hole), np.float32))
        self.assertEqual(sorted(turns(made.outline(0)).tolist()), [[0, 0], [0, SIDE], [SIDE, 0], [SIDE, SIDE]])

    def test_what_ends_within_the_last_pixels_is_not_cut_off(self):
        """A bar whose upper edge lies 0.6 pixels within the picture."""
        made = traced(part(np.array([(20, 0.6), (100, 0.6), (100, 40.2), (20, 40.2)])))
        self.assertLess(nearest(made, [(20, 0.6), (100, 0.6)]), 0.1)

    def test_a_thin_line_goes_up_to_the_rim(self):
        """However little of any pixel it covers."""
        for wide in (2.2, 3.0):
            with self.subTest(wide=wide):
                made = traced(part(np.array([(50.2, -30), (50.2 + wide, -30), (50.2 + wide, 80), (50.2, 80)]), 0.5))
                self.assertLess(nearest(made, [(50.2, 0), (50.2 + wide, 0)]), 0.15)

    def test_a_corner_near_the_rim_stays(self):
        """What lies beyond the rim, which no pixel tells, has no say in where it is."""
        for y in (0.6, 1.8):
            for blur, noise in ((0.0, 0.0), (0.5, 0.016), (1.2, 0.0)):
                with self.subTest(y=y, blur=blur):
                    made = traced(part(np.array([(30, y), (90, y + 8), (80, 70), (40, 70)]), blur, noise))
                    self.assertLess(nearest(made, [(30, y), (90, y + 8)]), 0.1)

    def test_as_much_is_ink_as_the_pixels_say(self):
        """Any shape, cut off anywhere: the area within the lines is the sum of how much of each pixel is covered."""
        random = np.random.default_rng(7)
        for case in range(12):
            with self.subTest(case=case):
                angle = np.sort(random.uniform(0, 2 * np.pi, 7))
                reach = random.uniform(40, 95, 7)
                shape = (
                    60 + random.uniform(-30, 30, 2) + reach[:, None] * np.column_stack([np.cos(angle), np.sin(angle)])
                )
                grey = part(np.clip(shape, -39, 159))
                made = traced(grey)
                self.assert_within(made)
                ink = float(((0.92 - grey) / 0.82).sum())
                self.assertAlmostEqual(float(signed_areas(made).sum()), ink, delta=0.002 * SIDE**2)

    def test_a_hole_that_the_rim_cuts_off(self):
        """White that comes in from the rim, in ink that is all round."""
        made = traced(1.02 - part(np.array([(40.3, -30), (80.3, -30), (60.3, 50)])))
        self.assertLess(nearest(made, [(47.8, 0), (72.8, 0), (60.3, 50)]), 0.1)
        self.assertLess(nearest(made, [(0, 0), (SIDE, 0), (SIDE, SIDE), (0, SIDE)]), 1e-6)

    def test_a_picture_of_one_row_is_no_trouble(self):
        made = traced(part(np.array([(20.5, -30), (100.5, -30), (100.5, 80), (20.5, 80)]))[:1])
        self.assertLess(nearest(made, [(20.5, 0), (100.5, 0), (100.5, 1), (20.5, 1)]), 0.1)


if __name__ == "__main__":
    unittest.main()
