"""Narrow places of shapes whose widths are known, and none missing of those that trying finds."""

import unittest

import numpy as np

from hakobu.geometry import Path, flatten, rotation, scaling, transform, translation
from hakobu.geometry.boolean import difference, union
from hakobu.geometry.narrow import Narrow, narrow_places, narrowest_places, thin_places, tight_gaps
from hakobu.geometry.proximity.places import Places

from ..fonts import glyph, glyph_names
from ..shapes import circle
from .curves import four_cubic_circle, polygon
from .degenerate import box
from .offset_cases import dumbbell, line, rounded


def smallest_circles(shape: Path, below_mm: float, step_mm: float = 0.01) -> np.ndarray:
    """Widths at places along the outlines, by trying: the circle inside that touches there and is shrunk until nothing
    lies in it (Ma, Bae and Choi 2012)."""
    from hakobu.geometry.kernels.curves import curves_at
    from hakobu.geometry.proximity.chord_grid import curve_table

    chords = flatten(shape, 1e-4, longest_mm=step_mm)
    middle = (chords.parameter > 0) & (chords.parameter < 1)
    place = curves_at(np.ascontiguousarray(chords.segment[middle]), chords.parameter[middle], *curve_table(shape))
    size = np.hypot(*place[:, 2:].T)[:, None]
    inward = np.column_stack([-place[:, 3], place[:, 2]]) / size
    point, radius, places = place[:, :2], np.full(len(place), below_mm), Places(shape)
    other = point.copy()
    for _ in range(30):
        near = places.nearest(point + radius[:, None] * inward)
        arm = near.point - point
        square, along = (arm**2).sum(axis=1), (arm * inward).sum(axis=1)
        smaller = (near.distance < radius - 1e-9) & (along > 1e-12) & (square > 1e-12)
        radius = np.where(smaller, np.minimum(radius, square / np.maximum(2 * along, 1e-300)), radius)
        other[smaller] = near.point[smaller]
    return np.column_stack([point, inward, radius, other])


class Known(unittest.TestCase):
    def only(self, found: Narrow, width: float, places: int = 7) -> None:
        self.assertEqual(len(found), 1)
        self.assertAlmostEqual(float(found.width[0]), width, places=places)

    def test_rings(self):
        for shift, width in ((0.0, 2.0), (1.2, 0.8)):
            self.only(thin_places(difference(circle(0, 0, 10), circle(shift, 0, 8)).path, below_mm=3), width)
        made = thin_places(difference(four_cubic_circle(0, 0, 10, 0.2), four_cubic_circle(0.5, 0, 8)).path, below_mm=3)
        # The four cubics leave the circle outwards by 2.7e-4 of its radius.
        self.assertAlmostEqual(float(made.width[0]), 1.5, delta=0.003)

    def test_a_ring_below_its_width_has_none(self):
        self.assertEqual(len(thin_places(difference(circle(0, 0, 10), circle(0, 0, 8)).path, below_mm=1.999)), 0)

    def test_a_neck_and_a_strip(self):
        self.only(thin_places(dumbbell(1.5), below_mm=3), 1.5)
        self.only(thin_places(box(0, 0, 30, 1), below_mm=3), 1.0)
        self.only(thin_places(rounded(20, 2, 1 - 1e-9), below_mm=3), 2.0)

    def test_an_hourglass_is_thinnest_at_its_waist(self):
        glass = polygon((0, 0), (10, 0), (5.4, 8), (10, 16), (0, 16), (4.6, 8))
        found = thin_places(transform(glass, rotation(0.3)), below_mm=3)
        self.only(found, 0.8)
        np.testing.assert_allclose(found.points[0].mean(axis=0), rotation(0.3)[:, :2] @ (5, 8), atol=1e-7)

    def test_a_wedge_has_no_narrow_place_but_its_point(self):
        self.assertEqual(len(thin_places(polygon((0, 0), (20, 1), (20, -1)), below_mm=1.5)), 0)

    def test_gaps_between_shapes_and_within_one(self):
        shapes = [box(0, 0, 5, 5), circle(9.5, 2.5, 3.7), box(0, 5.3, 5, 5)]
        found = tight_gaps(*shapes, below_mm=1.0)
        np.testing.assert_allclose(np.sort(found.width)[:2], [0.3, 0.8], atol=1e-9)
        slit = difference(box(0, 0, 10, 10), box(4.9, -1, 0.2, 8)).path
        self.only(tight_gaps(slit, below_mm=1.0), 0.2)
        self.assertFalse(tight_gaps(slit, below_mm=1.0).inside.any())

    def test_places_name_what_they_lie_on(self):
        found = tight_gaps(circle(0, 0, 5), circle(10.5, 0, 5), below_mm=1)
        self.assertEqual(sorted(found.outline[0].tolist()), [0, 1])
        np.testing.assert_allclose(np.sort(found.points[0][:, 0]), [5, 5.5], atol=1e-9)

    def test_open_lines_have_space_beside_them(self):
        lines = Path.concatenate([line((0, 0), (10, 0)), line((0, 0.4), (10, 1.4))])
        found = narrow_places(lines, 1.0)
        self.only(found, 0.4)
        self.assertFalse(found.inside[0])

    def test_nothing_has_no_places(self):
        self.assertEqual(len(thin_places(Path.concatenate([]), below_mm=1)), 0)
        self.assertEqual(len(thin_places(box(0, 0, 9, 9), below_mm=0)), 0)


class Complete(unittest.TestCase):
    """At every place of the outlines whose circle is smaller than along both sides of it, a place is reported."""

    def test_letters_with_serifs(self):
        for name in ("a", "g", "m", "R", "ampersand", "eight", "at"):
            for face in ("serif", "sans"):
                with self.subTest(face=face, glyph=name):
                    self.complete(union(transform(glyph(face, name), scaling(0.02))).path, 1.2)

    def test_lace(self):
        random = np.random.default_rng(4)
        holes = [circle(*random.uniform(3, 27, 2), random.uniform(0.5, 2)) for _ in range(60)]
        self.complete(difference(box(0, 0, 30, 30), *holes).path, 1.5)

    def complete(self, shape: Path, below: float) -> None:
        found = thin_places(shape, below_mm=below, even_mm=0.0)
        everywhere = narrow_places(shape, below, even_mm=0.0)
        tried = smallest_circles(shape, below)
        middle = tried[:, :2] + tried[:, 2:4] * tried[:, 4:5]
        # No circle that trying finds is smaller than a place near it, and each place is as wide as the circle there.
        self.assertTrue((everywhere.width > 0).all())
        for k in range(len(found)):
            centre = found.points[k].mean(axis=0)
            self.assertAlmostEqual(
                2 * float(Places(shape).nearest(centre[None]).distance[0]), float(found.width[k]), delta=1e-5
            )
        for row, at in self._smallest_of_runs(tried, middle, below):
            apart = np.hypot(*(found.points.mean(axis=1) - at).T) if len(found) else np.array([np.inf])
            near = found.width[apart < 0.3 + row] if len(found) else np.array([])
            self.assertTrue(
                len(near) and near.min() <= 2 * row + 0.002, f"no place where it is {2 * row} wide, at {at}"
            )

    def _smallest_of_runs(self, tried, middle, below):
        """Circles that touch on opposite sides, and are smaller than those a little farther along both ways."""
        radius, across = tried[:, 4], np.hypot(*(tried[:, 5:7] - tried[:, :2]).T)
        opposite = (across > 2 * radius * (1 - 1e-3)) & (radius < below / 2 * 0.98)
        for k in np.flatnonzero(opposite):
            rows = np.arange(k - 20, k + 21) % len(radius)
            apart = np.hypot(*(tried[rows, :2] - tried[k, :2]).T)
            ends = radius[rows[[0, -1]]]
            if apart.max() < 0.3 and radius[k] <= radius[rows].min() and (ends > radius[k] + 1e-3).all():
                yield float(radius[k]), middle[k]


class Narrowest(unittest.TestCase):
    def test_the_quick_way_finds_the_places_of_the_thorough_one(self):
        shapes = [glyph("serif", name) for name in glyph_names("serif")[40:160:3]]
        small = [transform(shape, scaling(0.01)) for shape in shapes]
        page = Path.concatenate(transform(shape, translation(k % 8 * 12, k // 8 * 15)) for k, shape in enumerate(small))
        for below in (0.3, 0.5):
            thorough, quick = narrow_places(page, below), narrowest_places(page, below)
            self.assertGreater(len(thorough), 0)
            away = np.abs(quick.points.mean(axis=1)[:, None] - thorough.points.mean(axis=1)[None]).max(axis=2)
            # The narrowest of each outline are found, with their widths; of even strips the same one place.
            for outline in np.unique(thorough.outline):
                own = [float(n.width[(n.outline == outline).any(axis=1)].min(initial=9.0)) for n in (thorough, quick)]
                self.assertAlmostEqual(*own, 3)
            self.assertLess(np.abs(quick.width - thorough.width[away.argmin(axis=1)]).max(), 0.01)

    def test_a_strip_between_straight_caps_is_found_once_however_it_tapers(self):
        bent = difference(circle(0, 0, 30), circle(0, 0, 28), box(-40, -40, 80, 40)).path
        for shape, width in (
            (polygon((0, 0), (60, 0), (60, 2.7), (0, 2.7)), 2.7),
            (polygon((0, 0), (60, 0.1), (60, 2.6), (0, 2.7)), 2.6),
            (polygon((0, 0), (20, 0), (20, 5), (50, 5), (50, 7), (20, 7), (20, 20), (0, 20)), 2.0),
            (
                polygon(
                    (0, 0),
                    (20, 0),
                    (20, 5),
                    (30, 5),
                    (30, 0),
                    (50, 0),
                    (50, 9),
                    (30, 9),
                    (30, 7),
                    (20, 7),
                    (20, 9),
                    (0, 9),
                ),
                2.0,
            ),
            (bent, 2.0),
        ):
            for angle in (0, 37):
                found = narrowest_places(transform(shape, rotation(angle)), 3.0)
                self.assertEqual(found.inside.tolist(), [True])
                self.assertAlmostEqual(float(found.width[0]), width, delta=0.01)

    def test_neither_a_square_nor_a_needle_is_a_strip(self):
        for shape in (polygon((0, 0), (2, 0), (2, 3.9), (0, 3.9)), polygon((0, 0), (40, 0), (20, 20))):
            self.assertEqual(len(narrowest_places(shape, 3.0)), 0)
