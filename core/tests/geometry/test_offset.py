"""Offsets in closed form: Steiner's formula, circles, rectangles, regular polygons; joins; what they come from."""

import math
import unittest

import numpy as np
from scipy.spatial import KDTree
from skimage.measure import find_contours

from hakobu.errors import CannotDo
from hakobu.geometry import ARC, CUBIC, LINE, Path, flatten, rotation, scaling, transform, translation
from hakobu.geometry.boolean import difference, union
from hakobu.geometry.boolean.combining import NotCombined
from hakobu.geometry.measure import lengths, signed_areas
from hakobu.geometry.offset import JOINS, around, offset
from hakobu.geometry.offset.banded import banded, path_of, rows_of
from hakobu.geometry.offset.parts import parts_of
from hakobu.geometry.offset.round import trace
from hakobu.geometry.proximity.kernels import reach
from hakobu.geometry.proximity.places import Places

from ..fonts import glyph
from ..shapes import circle
from .curves import flower, four_cubic_circle, polygon, regular, total_area
from .degenerate import box


def kinds(path: Path) -> list[int]:
    return np.bincount(path.kind, minlength=3).tolist()


def convex(seed: int) -> Path:
    """A random convex polygon without short sides: points on an ellipse, turned."""
    random = np.random.default_rng(seed)
    count = int(random.integers(3, 12))
    angle = (np.arange(count) + random.uniform(0, 0.6, count)) * 2 * np.pi / count
    points = np.column_stack([random.uniform(5, 15) * np.cos(angle), random.uniform(5, 15) * np.sin(angle)])
    return transform(Path.from_points(points, closed=True), rotation(float(random.uniform(0, 7))))


def perimeter(path: Path) -> float:
    return float(lengths(path).sum())


class ClosedForms(unittest.TestCase):
    def test_convex_shapes_grow_by_steiners_formula(self):
        # Steiner 1840: area A + P d + pi d^2, perimeter P + 2 pi d.
        for seed in range(30):
            shape = convex(seed)
            for d in (0.1, 1.0, 20.0):
                with self.subTest(seed=seed, d=d):
                    made = offset(shape, distance_mm=d).path
                    area = abs(total_area(shape)) + perimeter(shape) * d + math.pi * d * d
                    self.assertAlmostEqual(total_area(made), area, delta=1e-6 * area)
                    self.assertAlmostEqual(perimeter(made), perimeter(shape) + 2 * math.pi * d, delta=1e-5)
                    self.assertEqual(kinds(made), [shape.segment_count, 0, shape.segment_count])

    def test_out_then_in_gives_a_convex_shape_back(self):
        for shape in (*(convex(seed) for seed in range(10)), four_cubic_circle(3, 2, 7), circle(0, 0, 4)):
            there = offset(shape, distance_mm=2.5).path
            back = offset(there, distance_mm=-2.5).path
            points = flatten(shape, 1e-4, longest_mm=0.1).points
            self.assertLess(float(Places(back).nearest(points).distance.max()), 0.005)
            self.assertAlmostEqual(total_area(back), abs(total_area(shape)), delta=0.005 * perimeter(shape))

    def test_circles_stay_circles(self):
        for d, left in ((1.0, 11.0), (-1.0, 9.0), (-9.99, 0.01)):
            made = offset(circle(2, 3, 10), distance_mm=d).path
            self.assertTrue(made.is_circle.all())
            self.assertAlmostEqual(total_area(made), math.pi * left * left, places=9)
        self.assertEqual(len(offset(circle(2, 3, 10), distance_mm=-10.0).path), 0)

    def test_a_rectangle_shrinks_to_a_rectangle(self):
        made = offset(box(0, 0, 10, 6), distance_mm=-1.0).path
        self.assertEqual(kinds(made), [4, 0, 0])
        self.assertAlmostEqual(total_area(made), 32.0, places=6)

    def test_a_regular_polygon_shrinks_to_one(self):
        for count in (3, 5, 12, 100):
            within = 10 * math.cos(math.pi / count)
            made = offset(regular(count), distance_mm=-1.0).path
            area = count * (within - 1) ** 2 * math.tan(math.pi / count)
            self.assertEqual(kinds(made), [count, 0, 0])
            self.assertAlmostEqual(total_area(made), area, places=4)

    def test_arcs_stay_arcs_of_the_radius_that_is_left(self):
        two = union(circle(0, 0, 5), circle(6, 0, 5)).path
        made = offset(two, distance_mm=1.0).path
        self.assertEqual(kinds(made), [0, 0, made.segment_count])
        # The circles about both of radius 6: what is outside their common chord.
        half = 6 * math.sqrt(1 - (3 / 6) ** 2)
        lens = 2 * (36 * math.acos(3 / 6) - 3 * half)
        self.assertAlmostEqual(total_area(made), 2 * math.pi * 36 - lens, places=5)

    def test_nothing_moves_by_nothing(self):
        shape = union(flower(3)).path
        self.assertEqual(offset(shape, distance_mm=0).path, union(shape).path)
        self.assertEqual(len(offset(Path.concatenate([]), distance_mm=1).path), 0)

    def test_a_curve_has_few_nodes(self):
        made = offset(four_cubic_circle(0, 0, 10), distance_mm=3.0).path
        self.assertLessEqual(made.segment_count, 8)
        self.assertEqual(kinds(made)[CUBIC], made.segment_count)


class Joins(unittest.TestCase):
    def test_a_square_with_each_join(self):
        areas = {"round": 140 + math.pi, "mitre": 144.0, "bevel": 142.0}
        for join in JOINS:
            made = offset(box(0, 0, 10, 10), distance_mm=1.0, join=join)
            self.assertAlmostEqual(total_area(made.path), areas[join], places=6)
            self.assertEqual(made.path.segment_count, 4 if join == "mitre" else 8)

    def test_a_mitre_beyond_its_limit_is_cut_off(self):
        # SVG 2, "miter limit": 1 / sin(theta / 2) of the angle between both sides. Here theta = 60 degrees, 2.
        shape = regular(3, 10)
        for limit, corners in ((2.01, 3), (1.99, 6)):
            made = offset(shape, distance_mm=1.0, join="mitre", mitre_limit=limit).path
            self.assertEqual(made.segment_count, corners)

    def test_inside_joins_turn_at_the_corners_that_look_inwards(self):
        shape = polygon((0, 0), (10, 0), (10, 4), (4, 4), (4, 10), (0, 10))
        areas = {"round": 28 + 1 - math.pi / 4, "mitre": 28.0, "bevel": 28.5}
        for join in JOINS:
            self.assertAlmostEqual(total_area(offset(shape, distance_mm=-1.0, join=join).path), areas[join], places=6)

    def test_a_mitre_of_curves_goes_on_along_their_tangents(self):
        made = offset(union(circle(0, 0, 5), circle(6, 0, 5)).path, distance_mm=-1.0, join="mitre").path
        # The corners look inwards: both circles of radius 4 and the kites between their tangents at the corners.
        self.assertEqual(kinds(made)[LINE], 4)
        self.assertGreater(kinds(made)[ARC], 1)

    def test_bands_united_are_what_is_trimmed(self):
        # Two ways to the same: pieces trimmed one by one, and all bands united by the booleans.
        for seed in range(20):
            source = union(flower(seed)).path
            for d in (1.0, -0.5, 4.0):
                with self.subTest(seed=seed, d=d):
                    parts, side = parts_of(source), "out" if d > 0 else "in"
                    ways = trace(parts, abs(d), side), banded(parts, abs(d), side, "round", 4.0, "round")
                    one, other = (path_of(rows_of(way.rows), way.start) for way in ways)
                    self.assertAlmostEqual(total_area(one), total_area(other), delta=1e-5 * perimeter(source))

    def test_what_makes_no_sense_is_refused(self):
        shape = box(0, 0, 1, 1)
        for words in ({"join": "sharp"}, {"mitre_limit": 0.5}):
            with self.assertRaises(ValueError):
                offset(shape, distance_mm=1.0, **words)
        with self.assertRaises(ValueError):
            offset(shape, distance_mm=math.nan)
        with self.assertRaises(ValueError):
            around(shape, 0.0)
        with self.assertRaises(ValueError):
            around(shape, 1.0, ends="pointed")
        self.assertTrue(issubclass(NotCombined, CannotDo))


class Lines(unittest.TestCase):
    def test_ends(self):
        line = Path.from_points(np.array([[0.0, 0], [10, 0], [10, 5]]), closed=False)
        round_ = 30 + 3 * math.pi / 4 + math.pi - math.pi / 2
        for ends, more in (("round", math.pi / 2), ("flat", -math.pi / 2), ("square", 4 - math.pi / 2)):
            made = around(line, 1.0, "round", ends).path
            extra = {"round": math.pi, "flat": 0.0, "square": 4.0}[ends]
            self.assertAlmostEqual(total_area(made), 30 - 1 + math.pi / 4 + extra, places=6, msg=(round_, more))

    def test_a_dot(self):
        dot = Path.from_points(np.array([[3.0, 4.0]]), closed=False)
        self.assertAlmostEqual(total_area(around(dot, 2.0).path), 4 * math.pi, places=9)
        self.assertEqual(len(around(dot, 2.0, ends="flat").path), 0)

    def test_both_sides_of_a_circle_are_a_ring(self):
        made = around(circle(0, 0, 5), 1.0).path
        self.assertEqual(len(made), 2)
        self.assertTrue(made.is_circle.all())
        self.assertAlmostEqual(total_area(made), math.pi * (36 - 16), places=9)

    def test_lines_along_each_other_have_one_outline(self):
        one = Path.from_points(np.array([[0.0, 0], [10, 0]]), closed=False)
        other = Path.from_points(np.array([[12.0, 0], [4, 0]]), closed=False)
        made = around(Path.concatenate([one, other, one]), 1.0).path
        self.assertEqual(len(made), 1)
        self.assertAlmostEqual(total_area(made), 24 + math.pi, places=6)


class Sources(unittest.TestCase):
    def test_outlines_know_what_they_lie_along(self):
        shapes = Path.concatenate([circle(0, 0, 3), circle(20, 0, 3), circle(24, 0, 3)])
        made = offset(shapes, distance_mm=1.0)
        self.assertEqual(sorted(made.sources()), [(0,), (1, 2)])
        self.assertTrue((shapes.outline_of[made.source] == made.outline).all())

    def test_each_segment_begins_beside_its_source(self):
        for seed in range(6):
            shape = union(flower(seed)).path
            for d in (1.0, -0.4):
                made = offset(shape, distance_mm=d)
                for k in range(made.path.segment_count):
                    s = made.source[k]
                    one = Path(shape.ctrl[[s]], shape.kind[[s]], shape.bulge[[s]], [0, 1], [False])
                    away = float(Places(one).nearest(made.path.ctrl[k, :1]).distance[0])
                    self.assertAlmostEqual(away, abs(d), delta=0.003)


class DistanceField(unittest.TestCase):
    """The contour of a grid of distances, each to the nearest place on the curves, lies on the result."""

    CASES = (("sans", "ampersand", 0.35), ("serif", "g", -0.2), ("serif", "R", 0.6), ("sans", "at", 0.25))

    def test_nothing_of_the_contour_is_missing(self):
        cell = 0.02
        for face, name, d in self.CASES:
            with self.subTest(glyph=name, d=d):
                shape = union(transform(glyph(face, name), scaling(0.008))).path
                made = offset(shape, distance_mm=d).path
                low = shape.ctrl.reshape(-1, 2).min(axis=0) - abs(d) - 0.1
                high = shape.ctrl.reshape(-1, 2).max(axis=0) + abs(d) + 0.1
                count = np.ceil((high - low) / cell).astype(int)
                x, y = np.meshgrid(low[0] + cell * np.arange(count[0]), low[1] + cell * np.arange(count[1]))
                grid = np.column_stack([x.ravel(), y.ravel()])
                places = Places(shape)
                # Distances to points along the curves, which know nothing of how places on them are found.
                away, _ = KDTree(flatten(shape, 1e-6, longest_mm=0.002).points).query(grid)
                field = (away * np.where(places.contains(grid), -1, 1)).reshape(x.shape)
                found = np.concatenate(find_contours(field, d))
                points = low + cell * found[:, ::-1]
                # Where the field has a crease, between two sides, a contour by linear steps is off by part of a cell.
                off = np.abs(places.nearest(points).distance - abs(d))
                points = points[off < 2e-4]
                self.assertGreater(len(points), 0.5 * len(found))
                self.assertLess(float(Places(made).nearest(points).distance.max()), 0.004)


class Reach(unittest.TestCase):
    def test_runs_within_reach_are_those_that_are_nearer(self):
        from hakobu.geometry.kernels.elements import set_element

        random = np.random.default_rng(2)
        rows, run, event = np.empty((2, 13)), np.empty((11, 2)), np.empty(10)
        share = (np.arange(400) + 0.5) / 400
        for _ in range(300):
            for row in rows:
                bulge = random.choice([0.0, random.uniform(-1, 1)])
                set_element(row, *random.uniform(-5, 5, 4), bulge)
            near = random.uniform(0.2, 4)
            count = reach.within_reach(rows[0], rows[1], near, 0.0, 1.0, event, run)
            away = np.array([reach.nearest_on(rows[1], *reach.place_on(rows[0], t)[:2])[2] for t in share])
            within = np.zeros(len(share), bool)
            for a, b in run[:count]:
                within |= (share > a) & (share < b)
            clear = np.abs(away - near) > 1e-9
            np.testing.assert_array_equal(within[clear], (away < near)[clear])


class Differences(unittest.TestCase):
    def test_a_rim_a_backing_and_a_kerf_are_one_call_each(self):
        letter = transform(glyph("sans", "B"), scaling(0.02))
        word = union(letter, transform(letter, translation(14.0, 0))).path
        backing = offset(word, distance_mm=2.0).path
        rim = difference(backing, word).path
        self.assertAlmostEqual(total_area(rim), total_area(backing) - total_area(word), places=6)
        kerf = offset(word, distance_mm=0.05).path
        self.assertGreater(total_area(kerf), total_area(word))
        self.assertEqual(len(signed_areas(kerf)), len(word))
