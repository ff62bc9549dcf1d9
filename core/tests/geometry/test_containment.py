"""Shapes in outlines beside shapely 2's distances, within the chords that shapely needs."""

import unittest

import numpy as np
import shapely

from hakobu.geometry import Path, bounds, flatten, scaling, transform, translation
from hakobu.geometry.containment import clearance, largest_factor
from hakobu.geometry.primitives import circle, ellipse, polygon, rectangle, star
from hakobu.model.materials import MATERIALS
from hakobu.model.targets import TARGETS, Target, outline_of, target_from

from ..shapes import square

#: An L: not convex, its inner corner reaches towards the middle.
ELBOW = Path.from_points(np.array([(0, 0), (60, 0), (60, 20), (25, 20), (25, 60), (0, 60)], float), closed=True)


def polygon_of(path: Path) -> shapely.Polygon:
    return shapely.Polygon(flatten(path, 1e-4).outline(0))


def random_shape(random) -> Path:
    kinds = (
        lambda: star(
            0, 0, float(random.uniform(5, 40)), None, int(random.integers(3, 9)), float(random.uniform(0.2, 0.8))
        ),
        lambda: ellipse(0, 0, *random.uniform(3, 40, 2)),
        lambda: rectangle(0, 0, *random.uniform(3, 40, 2), 1.0),
    )
    return kinds[random.integers(3)]()


class Clearances(unittest.TestCase):
    def test_distances_are_shapelys(self):
        random = np.random.default_rng(5)
        for rim in (square(-50, -50, 100), circle(0, 0, 50), ellipse(0, 0, 120, 70), polygon(0, 0, 110, None, 5)):
            for _ in range(15):
                shape = transform(random_shape(random), translation(*random.uniform(-40, 40, 2)))
                own, outer = polygon_of(shape), polygon_of(rim)
                found = clearance(shape, rim).mm
                if outer.contains(own):
                    self.assertAlmostEqual(found, own.exterior.distance(outer.exterior), delta=0.0025)
                else:
                    points = shapely.points(shapely.segmentize(own, 0.05).exterior.coords)
                    beyond = max(outer.distance(point) for point in points)
                    self.assertAlmostEqual(-found, beyond, delta=0.03)

    def test_a_corner_of_the_rim_counts_too(self):
        """A long side passes the inner corner: no point of the side is as near."""
        strip = Path.from_points(np.array([(2, 30), (4, 32), (32, 4), (30, 2)], float), closed=True)
        own, outer = polygon_of(strip), polygon_of(ELBOW)
        self.assertAlmostEqual(clearance(strip, ELBOW).mm, own.exterior.distance(outer.exterior), delta=1e-6)

    def test_ends_lie_on_both(self):
        found = clearance(square(10, 20, 5), square(0, 0, 100))
        np.testing.assert_allclose(found.ends, [[10, 20], [0, 20]])


class Largest(unittest.TestCase):
    def test_it_fits_with_just_the_room_that_was_asked_for(self):
        random = np.random.default_rng(8)
        rims = (square(0, 0, 150), circle(40, 40, 30), ellipse(0, 0, 110, 70), ELBOW)
        for rim in rims:
            outer = polygon_of(rim)
            for _ in range(8):
                shape, clear = random_shape(random), float(random.uniform(0, 4))
                off = (0.0, 0.0) if rim is not ELBOW else (-17.0, -17.0)
                factor = largest_factor(shape, rim, clear, off)
                left, top, right, bottom = bounds(shape)
                x, y, x2, y2 = bounds(rim)
                at = ((x + x2) / 2 + off[0], (y + y2) / 2 + off[1])
                made = transform(
                    transform(shape, translation(-(left + right) / 2, -(top + bottom) / 2)), scaling(factor)
                )
                own = polygon_of(transform(made, translation(*at)))
                self.assertTrue(outer.buffer(0.002).contains(own))
                self.assertAlmostEqual(own.exterior.distance(outer.exterior), clear, delta=0.0025)

    def test_a_box_in_a_box_is_exact(self):
        self.assertAlmostEqual(largest_factor(square(3, 3, 10), square(0, 0, 150), 5.0), 14.0, places=9)

    def test_without_room_there_is_none(self):
        self.assertIsNone(largest_factor(square(0, 0, 5), square(0, 0, 10), 5.5))
        self.assertIsNone(largest_factor(Path.concatenate([]), square(0, 0, 10)))
        self.assertIsNone(largest_factor(square(0, 0, 5), ELBOW, 1.0, (20.0, 20.0)))


class Targets(unittest.TestCase):
    def test_what_ships_has_the_size_that_it_says(self):
        for target in TARGETS:
            left, top, right, bottom = bounds(outline_of(target))
            np.testing.assert_allclose((left, top), (-target.width_mm / 2, -target.height_mm / 2), atol=1e-9)
            np.testing.assert_allclose((right, bottom), (target.width_mm / 2, target.height_mm / 2), atol=1e-9)

    def test_published_sizes(self):
        """ISO 216: A4 is 210 x 297 mm. A 5 x 7 in frame is 127 x 177.8 mm."""
        sheets = {(m.sheet_width_mm, m.sheet_height_mm) for m in MATERIALS}
        self.assertIn((210.0, 297.0), sheets)
        frame = next(target for target in TARGETS if target.id == "frame")
        np.testing.assert_allclose((frame.width_mm, frame.height_mm), (5 * 25.4, 7 * 25.4))

    def test_plain_data_and_what_is_wrong_with_it(self):
        from hakobu.errors import BadRequest

        values = {"name": "pot", "width_mm": 80.0, "height_mm": 60.0, "off": [1, 2]}
        self.assertEqual(target_from(values), (Target("target", "pot", 80.0, 60.0), (1.0, 2.0)))
        for wrong in ({"width_mm": 0.0}, {"shape": "moon"}, {"off": [1]}, {"off": ["a", 1]}, {"deep": 3}):
            with self.subTest(**wrong), self.assertRaises(BadRequest):
                target_from({**values, **wrong})
        with self.assertRaisesRegex(BadRequest, "not a closed shape"):
            outline_of(Target("t", "t", 5.0, 5.0, "outline", outline="M0 0H9V9"))
