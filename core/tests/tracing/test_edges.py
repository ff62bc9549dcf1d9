"""Points of edges by the sum of coverage across them: half planes, strips and gaps of known place, drawn exactly.

Of a picture whose pixels hold how much of them is ink, the sum of a column of pixels is the height of what is below an
edge, exactly. Edges are laid through pictures at shares of a pixel, along rows and along columns, and on all four
sides.
"""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.special import ndtr

from hakobu.tracing.edges.kernels.cracks import follow
from hakobu.tracing.edges.kernels.subpixel_edges import EDGE, GAP, RIM, STRIP, halfway_points, place_edges
from hakobu.tracing.edges.regions import find_regions

WIDE, HIGH = 40, 30


def band(low: float, high: float, count: int) -> np.ndarray:
    """How much of each of so many pixels in a row lies between two places."""
    at = np.arange(count)
    return np.clip(np.minimum(high, at + 1) - np.maximum(low, at), 0, 1)


def soft(place: float, count: int) -> np.ndarray:
    """How much of each of so many pixels in a row lies beyond a place, blurred by half a pixel: a normal distribution's
    share, summed over the pixel."""
    z = (np.arange(count + 1) - place) / 0.5
    return np.diff(0.5 * (z * ndtr(z) + np.exp(-z * z / 2) / np.sqrt(2 * np.pi)))


def picture(coverage: np.ndarray, black: float = 0.0, white: float = 1.0) -> np.ndarray:
    return np.ascontiguousarray(white + (black - white) * coverage, np.float32)


def points_of(grey: np.ndarray, black: float = 0.0, white: float = 1.0, dead: float = 1e-4):
    """The placed points of all outlines, what each is, and the side of ink that each is on."""
    limit = (black + white) / 2
    found = find_regions(grey, limit)
    chains = follow(found.begin, found.left, found.right, found.region, np.ones(len(found.area), bool))
    rows, columns, ways, start = chains[:4]
    levels = np.tile([limit, black, white], (len(start) - 1, 1))
    points, begin, what, _, _ = place_edges(grey, rows, columns, ways, start, levels, dead)
    return points, begin, what


def inside(points: np.ndarray, axis: int, margin: float, size: int) -> np.ndarray:
    return (points[:, axis] > margin) & (points[:, axis] < size - margin)


class Placing(unittest.TestCase):
    @given(st.floats(5, 11), st.floats(18, 24), st.booleans(), st.sampled_from(((0.0, 1.0), (0.2, 0.9), (0.45, 0.55))))
    @settings(max_examples=60, deadline=None)
    def test_edges_along_rows_and_columns_are_where_they_are(self, low, high, upright, levels):
        cover = np.outer(band(low, high, HIGH), np.ones(WIDE))
        grey = picture(cover.T if upright else cover, *levels)
        points, _, what = points_of(grey, *levels)
        across = points[:, 0] if upright else points[:, 1]
        edge = (what == EDGE) & inside(points, 1 if upright else 0, 6, WIDE)
        near = np.minimum(np.abs(across[edge] - low), np.abs(across[edge] - high))
        self.assertGreater(np.count_nonzero(edge), 40)
        self.assertLess(near.max(), 2e-5)

    @given(st.floats(10, 11), st.floats(0.55, 0.98), st.booleans())
    @settings(max_examples=60, deadline=None)
    def test_a_strip_or_a_gap_thinner_than_a_pixel_has_its_width(self, middle, width, gap):
        """Its width is exact; where it lies within its pixel does not show while it is sharp."""
        thin = band(middle - width / 2, middle + width / 2, HIGH)
        if thin.max() < 0.51 or thin.max() > 0.999:
            return
        cover = np.outer(band(3, 20, HIGH) - thin if gap else thin, np.ones(WIDE))
        points, _, what = points_of(picture(cover))
        along = points[inside(points, 0, 6, WIDE) & (what == (GAP if gap else STRIP))]
        upper, lower = along[along[:, 1] < middle, 1], along[along[:, 1] >= middle, 1]
        self.assertEqual((len(upper), len(lower)), (WIDE - 12, WIDE - 12))
        np.testing.assert_allclose(lower - upper, width, atol=1e-5)
        np.testing.assert_allclose((lower + upper) / 2, middle, atol=(1 - width) / 2 + 1e-5)

    @given(st.floats(10, 11), st.floats(1.25, 1.6))
    @settings(max_examples=40, deadline=None)
    def test_a_strip_that_is_soft_has_its_middle_too(self, middle, width):
        """Blurred by half a pixel it shows where it lies (the sampling theorem, Shannon 1949)."""
        cover = np.outer(soft(middle - width / 2, HIGH) - soft(middle + width / 2, HIGH), np.ones(WIDE))
        points, _, what = points_of(picture(cover), dead=1e-6)
        along = points[inside(points, 0, 6, WIDE) & (what == STRIP)]
        self.assertGreaterEqual(len(along), WIDE - 12)
        near = np.minimum(*(np.abs(along[:, 1] - middle - side * width / 2) for side in (1, -1)))
        self.assertLess(near.max(), 0.01)

    def test_what_the_rim_cuts_off_lies_on_it(self):
        cover = np.outer(np.ones(HIGH), band(25.3, WIDE, WIDE))
        points, _, what = points_of(picture(cover))
        rim = points[what == RIM]
        on = (rim[:, 0] == WIDE) | (rim[:, 1] == 0) | (rim[:, 1] == HIGH)
        self.assertTrue(on.all())
        self.assertGreater(len(rim), HIGH)
        edge = points[(what == EDGE) & inside(points, 1, 6, HIGH)]
        np.testing.assert_allclose(edge[:, 0], 25.3, atol=2e-5)

    def test_levels_that_are_one_leave_points_between_their_pixels(self):
        """Where ink is no darker than the limit, all below it is ink: nothing is divided by nothing."""
        grey = picture(np.outer(band(8, 20, HIGH), np.ones(WIDE)))
        found = find_regions(grey, 0.5)
        rows, columns, ways, start, _, _ = follow(
            found.begin, found.left, found.right, found.region, np.ones(len(found.area), bool)
        )
        points, *_ = place_edges(grey, rows, columns, ways, start, np.array([[0.5, 0.5, 0.5]]), 1e-4)
        self.assertTrue(np.isfinite(points).all())
        along = inside(points, 0, 3, WIDE)
        np.testing.assert_allclose(
            np.minimum(np.abs(points[along, 1] - 8), np.abs(points[along, 1] - 20)), 0, atol=1e-6
        )

    @given(st.floats(0.05, 0.95))
    @settings(max_examples=30, deadline=None)
    def test_halfway_is_between_two_pixels_straight(self, share):
        """Marching squares: from ink at 0 to ground at 1, the limit is passed at its own share of the way."""
        grey = picture(np.outer(band(8, 20, HIGH), np.ones(WIDE)))
        found = find_regions(grey, share)
        rows, columns, ways, start, _, _ = follow(
            found.begin, found.left, found.right, found.region, np.ones(len(found.area), bool)
        )
        points = halfway_points(grey, rows, columns, ways, start, np.array([share]))
        off = np.minimum(np.abs(points[:, 1] - 8), np.abs(points[:, 1] - 20))[inside(points, 0, 3, WIDE)]
        np.testing.assert_allclose(off, abs(share - 0.5), atol=1e-6)
