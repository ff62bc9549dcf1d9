"""Shapes combined: closed forms, identities, named degenerate cases, and shapely on fine chords as an oracle."""

import math
import unittest

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import (
    Path,
    PathBuilder,
    flatten,
    rotation,
    scaling,
    signed_areas,
    transform,
    translation,
)
from hakobu.geometry.boolean import Combined, Operand, combine, difference, intersection, union, xor
from hakobu.geometry.boolean.combining import closed_up
from hakobu.geometry.flatten import points_at
from hakobu.geometry.intersect import meetings

from ..shapes import begun_at, blob, circle, square


def polygon(*points) -> Path:
    return Path.from_points(np.array(points, float), closed=True)


def size(combined: Combined) -> float:
    return float(signed_areas(combined.path).sum())


def four_cubic_circle(x: float, y: float, radius: float, turn: float = 0.0) -> Path:
    builder, k = PathBuilder(), 4 / 3 * math.tan(math.pi / 8)
    builder.move_to((1.0, 0.0))
    for q in range(4):
        c, s = round(math.cos(q * math.pi / 2)), round(math.sin(q * math.pi / 2))
        builder.cubic_to((c - k * s, s + k * c), (-s + k * c, c + k * s), (float(-s), float(c)))
    builder.close()
    made = transform(builder.path(), rotation(turn))
    return transform(transform(made, scaling(radius)), translation(x, y))


def flower(seed: int, x: float = 0.0, y: float = 0.0) -> Path:
    """A closed outline of smooth cubics that may cross itself."""
    random = np.random.default_rng(seed)
    points = random.uniform(-10, 10, (int(random.integers(3, 7)), 2)) + np.array([x, y])
    builder = PathBuilder()
    builder.move_to(tuple(points[0]))
    for a, b in zip(points, np.roll(points, -1, axis=0), strict=True):
        builder.cubic_to(tuple(a + random.normal(0, 4, 2)), tuple(b + random.normal(0, 4, 2)), tuple(b))
    builder.close()
    return builder.path()


def oracle(path: Path, rule: str = "nonzero"):
    """The painted area as shapely has it, by fine chords."""
    chords = flatten(closed_up(path), 1e-5)
    result = shapely.Polygon()
    if rule == "evenodd":
        for k in range(len(chords)):
            result = result.symmetric_difference(shapely.make_valid(shapely.Polygon(chords.outline(k))))
        return result
    # Non-zero: every face of the arrangement whose inner point is wound about.
    lines = shapely.unary_union([shapely.LineString(chords.outline(k)) for k in range(len(chords))])
    faces = shapely.get_parts(shapely.polygonize([lines]))
    inner = np.array([[p.x, p.y] for p in shapely.point_on_surface(faces)]).reshape(-1, 2)
    return shapely.unary_union([f for f, p in zip(faces, inner, strict=True) if winding(chords, p)])


def winding(chords, point) -> int:
    a, b, _ = chords.edges()
    up, down = (a[:, 1] <= point[1]) & (b[:, 1] > point[1]), (b[:, 1] <= point[1]) & (a[:, 1] > point[1])
    side = (b[:, 0] - a[:, 0]) * (point[1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (point[0] - a[:, 0])
    return int((up & (side > 0)).sum()) - int((down & (side < 0)).sum())


class Case(unittest.TestCase):
    def sound(self, made: Combined, shapes) -> None:
        """Closed, free of crossings and of shared runs, and each segment the span that it says it is."""
        self.assertTrue(made.path.closed.all())
        met = meetings(made.path)
        self.assertEqual(len(met.run_segment), 0)
        inner = ((met.parameter > 1e-7) & (met.parameter < 1 - 1e-7)).all(axis=1) & ~met.touch
        self.assertEqual(int(inner.sum()), 0)
        paths = [shape.path if isinstance(shape, Operand) else shape for shape in shapes]
        whole = Path.concatenate(closed_up(path) for path in paths)
        for share in (0.0, 0.21, 0.5, 0.83, 1.0):
            t = made.span[:, 0] + share * (made.span[:, 1] - made.span[:, 0])
            there = points_at(whole, made.source, t)
            ours = points_at(made.path, np.arange(made.path.segment_count), np.full(len(t), share))
            self.assertLess(float(np.hypot(*(there - ours).T).max(initial=0)), 3e-6)


class ClosedForms(Case):
    def test_the_lens_of_two_circles(self):
        for apart in (0.01, 3.0, 12.0, 19.0, 19.999):
            a, b = circle(0, 0, 10), circle(apart, 0, 10)
            lens = 200 * math.acos(apart / 20) - apart / 2 * math.sqrt(400 - apart**2)
            for how, expected in (
                (union, 200 * math.pi - lens),
                (intersection, lens),
                (difference, 100 * math.pi - lens),
                (xor, 2 * (100 * math.pi - lens)),
            ):
                made = how(a, b)
                self.assertAlmostEqual(size(made), expected, 6)
                self.sound(made, (a, b))

    def test_two_hundred_circles_have_as_many_arcs_as_their_outline(self):
        random = np.random.default_rng(1)
        shapes = [circle(*random.uniform(0, 100, 2), 10) for _ in range(200)]
        made = union(*shapes)
        self.sound(made, shapes)
        exact = shapely.unary_union([shapely.Point(0, 0)] + [oracle(s) for s in shapes]).area
        self.assertAlmostEqual(size(made), exact, delta=0.05)
        again = union(*shapes[::-1])
        self.assertEqual(again.path.segment_count, made.path.segment_count)
        self.assertAlmostEqual(size(again), size(made), 6)


ACROSS, DOWN = polygon((0, 4), (10, 4), (10, 6), (0, 6)), polygon((4, 0), (6, 0), (6, 10), (4, 10))
SPIKED = polygon((0, 0), (10, 0), (10, 10), (5, 10), (5, 20), (5, 10), (0, 10))
RING, TURNED = circle(0, 0, 3), transform(circle(0, 0, 3), rotation(0.7))
SQUARE, DISC = square(0, 0, 10), circle(5, 5, 5)
#: Name, how, shapes, area, outlines.
NAMED = (
    ("the same square united", "union", (SQUARE, SQUARE), 100.0, 1),
    ("the same square taken away", "difference", (SQUARE, SQUARE), 0.0, 0),
    ("the same square reversed, taken away", "difference", (SQUARE, SQUARE.reversed()), 0.0, 0),
    ("the same square begun elsewhere", "xor", (SQUARE, begun_at(SQUARE, 2)), 0.0, 0),
    ("the same square cut with itself", "intersection", (SQUARE, SQUARE), 100.0, 1),
    ("sixty copies", "union", tuple(begun_at(SQUARE, i % 4) for i in range(60)), 100.0, 1),
    ("squares that share a side", "union", (SQUARE, square(10, 0, 10)), 200.0, 1),
    ("squares that share part of a side", "union", (SQUARE, square(10, 3, 10)), 200.0, 1),
    ("what squares that share a side have in common", "intersection", (SQUARE, square(10, 0, 10)), 0.0, 0),
    ("squares that share a corner", "union", (SQUARE, square(10, 10, 10)), 200.0, 2),
    ("a smaller square in the corner", "difference", (SQUARE, square(0, 0, 4)), 84.0, 1),
    ("a square along one side", "difference", (SQUARE, square(3, 0, 4)), 84.0, 1),
    ("a hole", "difference", (SQUARE, square(3, 3, 4)), 84.0, 2),
    ("a hole that touches the side", "difference", (SQUARE, polygon((0, 5), (4, 3), (4, 7))), 92.0, 1),
    ("an inscribed circle", "difference", (SQUARE, DISC), 100 - 25 * math.pi, 4),
    ("an inscribed circle united", "union", (SQUARE, DISC), 100.0, 1),
    ("circles tangent outside", "union", (circle(0, 0, 5), circle(10, 0, 5)), 50 * math.pi, 2),
    ("circles tangent inside, taken away", "difference", (circle(0, 0, 10), circle(5, 0, 5)), 75 * math.pi, 1),
    ("circles tangent inside, united", "union", (circle(0, 0, 10), circle(5, 0, 5)), 100 * math.pi, 1),
    ("one circle on itself", "union", (circle(1, 2, 3), circle(1, 2, 3)), 9 * math.pi, 1),
    (
        "one circle on itself, turned",
        "difference",
        (circle(0, 0, 3), transform(circle(0, 0, 3), rotation(0.7))),
        0.0,
        0,
    ),
    ("a ring", "difference", (circle(0, 0, 10), circle(0, 0, 4)), 84 * math.pi, 2),
    ("a bow-tie", "union", (polygon((0, 0), (10, 10), (10, 0), (0, 10)),), 50.0, 2),
    ("nothing with something", "union", (Path.concatenate([]), SQUARE), 100.0, 1),
    ("something without nothing", "difference", (SQUARE, Path.concatenate([])), 100.0, 1),
    ("far apart", "union", (SQUARE, square(100, 100, 10)), 200.0, 2),
    ("far apart, in common", "intersection", (SQUARE, square(100, 100, 10)), 0.0, 0),
    ("a line of no area", "union", (SQUARE, polygon((2, 2), (8, 8))), 100.0, 1),
    (
        "a spike on a square",
        "union",
        (polygon((0, 0), (10, 0), (10, 10), (5, 10), (5, 20), (5, 10), (0, 10)),),
        100.0,
        1,
    ),
    ("a sliver beside", "union", (SQUARE, polygon((10, 0), (10.001, 0), (10.001, 10), (10, 10))), 100.01, 1),
    ("shifted by less than a node", "difference", (SQUARE, square(1e-9, 0, 10)), 0.0, 0),
    ("three that meet in a point", "union", (SQUARE, square(-10, 0, 10), square(0, -10, 10)), 300.0, 1),
    ("a frame and its filling", "union", (SQUARE, polygon((2, 2), (8, 2), (8, 8), (2, 8))), 100.0, 1),
    ("a square and its reverse in one path", "union", (Path.concatenate([SQUARE, SQUARE.reversed()]),), 0.0, 0),
    ("a lone node", "union", (Path.from_points(np.array([[1.0, 1.0]]), False),), 0.0, 0),
    ("a lone node and a square", "union", (Path.from_points(np.array([[1.0, 1.0]]), False), SQUARE), 100.0, 1),
    ("a bare line", "union", (Path.from_points(np.array([[1.0, 1.0], [5.0, 5.0]]), False),), 0.0, 0),
    ("crossing bars", "union", (ACROSS, DOWN), 36.0, 1),
    ("a grid of bars", "intersection", (ACROSS, DOWN), 4.0, 1),
)


class Named(Case):
    def test_each_has_its_area_and_its_outlines(self):
        for name, how, shapes, area, outlines in NAMED:
            with self.subTest(name):
                made = combine(shapes, how)
                self.assertAlmostEqual(size(made), area, 4 if "sliver" in name else 6)
                self.assertEqual(len(made.path), outlines)
                self.sound(made, shapes)

    def test_and_so_when_turned_and_sized(self):
        for name, how, shapes, area, outlines in NAMED:
            for angle, factor in ((0.6458, 1.0), (2.1, 40.0), (1.0, 0.05)):
                with self.subTest(name, angle=angle, factor=factor):
                    change = [transform(transform(s, rotation(angle)), scaling(factor)) for s in shapes]
                    if "sliver" in name and factor < 1:
                        continue
                    made = combine(change, how)
                    self.assertAlmostEqual(size(made) / factor**2, area, 3 if "sliver" in name else 5)
                    self.assertEqual(len(made.path), outlines)

    def test_fill_rules(self):
        twice = Path.concatenate([SQUARE, square(3, 3, 4)])
        self.assertAlmostEqual(size(union(Operand(twice, "nonzero"))), 100.0)
        self.assertAlmostEqual(size(union(Operand(twice, "evenodd"))), 84.0)
        self.assertAlmostEqual(size(difference(SQUARE, Operand(twice, "evenodd"))), 16.0)

    def test_a_circle_of_cubics_on_itself_turned(self):
        a, b = four_cubic_circle(0, 0, 10), four_cubic_circle(0, 0, 10, math.pi / 4)
        self.assertLess(size(difference(a, b)), 0.2)
        self.assertGreaterEqual(size(union(a, b)), size(union(a)))
        self.sound(union(a, b), (a, b))

    def test_open_outlines_are_taken_as_painted(self):
        opened = Path.from_points(np.array([[0, 0], [10, 0], [10, 10], [0, 10.0]]), closed=False)
        self.assertAlmostEqual(size(intersection(opened, SQUARE)), 100.0)
        self.assertEqual(size(union(blob())) > 0, True)

    def test_a_thousand_rings(self):
        rings = Path.concatenate([circle(0, 0, r) for r in np.linspace(1, 100, 1000)])
        made = union(Operand(rings, "evenodd"))
        self.assertEqual(len(made.path), 1000)
        self.assertTrue(made.path.is_circle.all())


class Identities(Case):
    @given(st.integers(0, 100_000))
    @settings(max_examples=60, deadline=None)
    def test_areas_add_up_and_shapes_are_sound(self, seed):
        a, b = flower(2 * seed), flower(2 * seed + 1, 3, 2)
        first, second = size(union(a)), size(union(b))
        united, common, left, either = union(a, b), intersection(a, b), difference(a, b), xor(a, b)
        scale = max(first + second, 1.0)
        self.assertAlmostEqual((first + second - size(united) - size(common)) / scale, 0, 9)
        self.assertAlmostEqual((first - size(common) - size(left)) / scale, 0, 9)
        self.assertAlmostEqual((size(united) - size(common) - size(either)) / scale, 0, 9)
        for made in (united, common, left, either):
            self.sound(made, (a, b))
        self.assertAlmostEqual(size(united) / scale, oracle(a).union(oracle(b)).area / scale, 4)

    @given(st.integers(0, 100_000))
    @settings(max_examples=25, deadline=None)
    def test_the_same_again_changes_nothing(self, seed):
        once = union(flower(seed))
        twice = union(once.path, once.path)
        self.assertAlmostEqual(size(twice), size(once), 7)
        self.assertEqual(twice.path.segment_count, once.path.segment_count)
        self.assertEqual(len(difference(once.path, once.path).path), 0)

    @given(st.integers(0, 100_000), st.sampled_from((1e-9, 1e-6, 1e-5, 1e-4, 1e-3, 1e-2)))
    @settings(max_examples=30, deadline=None)
    def test_copies_shifted_by_a_hair(self, seed, by):
        once = union(flower(seed)).path
        shifted = transform(once, translation(by, by / 3))
        made = union(once, shifted)
        grown = size(made) - float(signed_areas(once).sum())
        perimeter = float(np.hypot(*np.diff(flatten(once, 1e-3).points, axis=0).T).sum())
        self.assertGreater(grown, -1e-4 * perimeter)
        self.assertLess(grown, (2 * by + 1e-4) * perimeter)
