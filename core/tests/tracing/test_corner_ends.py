"""How sharp and short ends come out of clean pictures: tips whose sides bend, chamfers that lie aslant, corners whose
sides have a small foot. Each is known exactly."""

import unittest

import numpy as np

from hakobu.geometry import Path
from hakobu.tracing.outlines.thresholding import trace

from ..pictures import distances, rendered, truth
from .test_thresholding import PIXELS


def placed(points, way: float) -> list[tuple[float, float]]:
    cos, sin = np.cos(way), np.sin(way)
    return [(100.3 + x * cos - y * sin, 100.7 + x * sin + y * cos) for x, y in points]


def words(points, way: float) -> str:
    return " ".join(f"{x:.4f} {y:.4f}" for x, y in placed(points, way))


class Ends(unittest.TestCase):
    def worst(self, d: str) -> float:
        """How far the trace of a path lies from it at most, and it from the trace."""
        body = f'<path d="{d}"/>'
        made = trace(rendered(body, 200), PIXELS, 0.5, 0.05, 12.0)
        return float(distances(truth(body, 200), Path.concatenate(region.path for region in made.regions)).max())

    def test_tips_whose_sides_bend_end_where_they_do(self):
        """As at the tail of a letter, five degrees wider a few pixels off than at its end."""
        for way in np.arange(0.0, 6.2, 0.7):
            with self.subTest(way=way):
                bend = words([(2.66, -24.53), (2.44, -13.36), (0, 0)], way)
                back = words([(5.16, -10.26), (10.74, -17.72), (16.75, -22.37)], way)
                d = f"M{words([(0.67, -33.53)], way)}C{bend}C{back}L{words([(20.0, -60.0), (-12.0, -60.0)], way)}Z"
                self.assertLess(self.worst(d), 0.2)

    def test_short_cuts_of_slim_corners_lie_as_they_do(self):
        """Of a corner of 55 degrees, one side cut back a third more than the other."""
        for long in (1.4, 1.6):
            for ratio in (0.77, 1.0, 1.3):
                for way in (0.2, 1.0, 2.3, 4.0):
                    with self.subTest(long=long, ratio=ratio, way=way):
                        a, b = np.radians(180 - 27.5), np.radians(180 + 27.5)
                        one, other = long * ratio**0.5, long / ratio**0.5
                        points = [(far * np.cos(turn), far * np.sin(turn)) for far, turn in (
                            (one, a), (90, a), (90, b), (other, b)
                        )]  # fmt: skip
                        self.assertLess(self.worst(f"M{words(points, way)}Z"), 0.2)

    def test_a_small_foot_before_a_corner_stays(self):
        """Of a quarter of a pixel on the last two pixels of a side."""
        for way in (0.02, 1.6, 3.1):
            with self.subTest(way=way):
                points = [(0, 0), (60, 14), (60, 60), (1.1, 60), (0.27, 2.1), (0, 1.0)]
                self.assertLess(self.worst(f"M{words(points, way)}Z"), 0.2)


if __name__ == "__main__":
    unittest.main()
