"""Shapes combined: closed forms, identities, named degenerate cases, and shapely on fine chords as an oracle."""

import math
from unittest.mock import patch

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import Path, flatten, rotation, scaling, signed_areas, transform, translation
from hakobu.geometry.boolean import NotCombined, Operand, combine, difference, divide, intersection, union, xor

from ..shapes import blob, circle, square
from .curves import flower, four_cubic_circle, painted
from .degenerate import DISC, NAMED, SMALL, SQUARE, Bounds
from .sound import Case, size


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
        exact = shapely.unary_union([shapely.Point(0, 0)] + [painted(s) for s in shapes]).area
        self.assertAlmostEqual(size(made), exact, delta=0.05)
        again = union(*shapes[::-1])
        self.assertEqual(again.path.segment_count, made.path.segment_count)
        self.assertAlmostEqual(size(again), size(made), 6)


class Named(Case):
    def judged(self, name, how, shapes, area, outlines, bounds: Bounds = Bounds(), factor: float = 1.0) -> None:
        made = combine(shapes, how)
        if area is not None:
            self.assertAlmostEqual(size(made) / factor**2, area, bounds.digits)
        self.assertEqual(len(made.path), outlines)
        self.sound(made, shapes, exact=bounds.exact)

    def test_each_has_its_area_and_its_outlines(self):
        self.assertGreaterEqual(len(NAMED) + len(SMALL), 80)
        for case in NAMED + SMALL:
            with self.subTest(case[0]):
                self.judged(*case)

    def test_and_so_when_turned_and_sized(self):
        for name, how, shapes, area, outlines, *own in NAMED:
            bounds = own[0] if own else Bounds()
            for angle, factor in ((0.6458, 1.0), (2.1, 40.0), (1.0, 0.05)):
                if factor in bounds.factors:
                    with self.subTest(name, angle=angle, factor=factor):
                        changed = [_changed(s, angle, factor) for s in shapes]
                        self.judged(name, how, changed, area, outlines, bounds, factor)

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
    @settings(max_examples=15)
    def test_united_areas_are_what_shapely_makes_of_fine_chords(self, seed):
        a, b = flower(2 * seed), flower(2 * seed + 1, 3, 2)
        united = size(union(a, b))
        self.assertAlmostEqual(united / max(united, 1.0), painted(a).union(painted(b)).area / max(united, 1.0), 4)

    @given(st.integers(0, 100_000))
    @settings(max_examples=25)
    def test_the_same_again_changes_nothing(self, seed):
        once = union(flower(seed))
        twice = union(once.path, once.path)
        self.assertAlmostEqual(size(twice), size(once), 7)
        self.assertEqual(twice.path.segment_count, once.path.segment_count)
        self.assertEqual(len(difference(once.path, once.path).path), 0)

    def test_an_outline_that_meets_itself_nowhere_stays_as_it_is(self):
        outline = circle(3, 0, 4)
        made = union(outline)
        np.testing.assert_array_equal(made.path.ctrl, outline.ctrl)
        self.assertTrue(made.path.is_united)
        self.assertFalse(outline.is_united, "what is given is not marked")
        # Run the other way, it is turned round; where it crosses itself, it is taken apart.
        turned = union(outline.reversed())
        self.assertAlmostEqual(size(turned), size(made), 9)
        bow = Path.from_points(np.array([[0, 0], [2, 2], [2, 0], [0, 2]], float), closed=True)
        self.assertEqual(len(union(bow).path), 2)

    def test_what_is_united_is_known_to_be_and_taken_as_it_is(self):
        once = union(flower(5), circle(3, 0, 4))
        again = union(once.path)
        self.assertIs(again.path, once.path)
        np.testing.assert_array_equal(again.source, np.arange(once.path.segment_count))
        np.testing.assert_array_equal(again.span, [[0, 1]] * once.path.segment_count)
        np.testing.assert_array_equal(again.outline, once.path.outline_of)
        # A copy of which that is not known is united for once, and comes out the same.
        unknown = transform(once.path, translation(0, 0))
        self.assertFalse(unknown.is_united)
        afresh = union(unknown)
        self.assertEqual(afresh.path.segment_count, once.path.segment_count)
        self.assertAlmostEqual(size(afresh), size(once), 9)

    @given(st.integers(0, 100_000))
    @settings(max_examples=25)
    def test_the_order_of_the_shapes_is_nothing_to_the_union(self, seed):
        shapes = [flower(3 * seed + k, 2 * k, k) for k in range(3)]
        first, second = union(*shapes), union(*shapes[::-1])
        self.assertAlmostEqual(size(first), size(second), 8)
        self.assertEqual(len(first.path), len(second.path))

    @given(st.integers(0, 100_000), st.floats(0, 6.28), st.floats(0.1, 30))
    @settings(max_examples=25)
    def test_what_is_moved_before_or_after_is_the_same(self, seed, angle, factor):
        a, b = flower(2 * seed), flower(2 * seed + 1, 3, 2)
        after = signed_areas(_changed(difference(a, b).path, angle, factor)).sum()
        before = size(difference(_changed(a, angle, factor), _changed(b, angle, factor)))
        self.assertAlmostEqual(before / factor**2, after / factor**2, 6)

    @given(st.integers(0, 100_000), st.sampled_from((1e-9, 1e-6, 1e-5, 1e-4, 1e-3, 1e-2)))
    @settings(max_examples=30)
    def test_copies_shifted_by_a_hair(self, seed, by):
        once = union(flower(seed)).path
        shifted = transform(once, translation(by, by / 3))
        made = union(once, shifted)
        grown = size(made) - float(signed_areas(once).sum())
        perimeter = float(np.hypot(*np.diff(flatten(once, 1e-3).points, axis=0).T).sum())
        self.assertGreater(grown, -1e-4 * perimeter)
        self.assertLess(grown, (2 * by + 1e-4) * perimeter)


class Outcomes(Case):
    def test_outlines_name_those_that_they_come_from(self):
        made = union(circle(0, 0, 10), square(30, 0, 5), circle(12, 0, 10))
        self.assertEqual(sorted(made.sources()), [(0, 2), (1,)])
        self.assertEqual(set(made.operand.tolist()), {0, 1, 2})

    def test_nothing_in_gives_nothing_out(self):
        self.assertEqual(len(union().path), 0)
        self.assertEqual(union(Path.concatenate([])).sources(), [])

    def test_where_curves_cannot_be_told_apart_it_says_so(self):
        with patch("hakobu.geometry.boolean.combining.TRIES", ()):
            made = union(circle(0, 0, 10), circle(12, 0, 10), square(50, 50, 3))
            with self.assertRaises(NotCombined):
                divide(SQUARE, DISC)
        exact = size(union(circle(0, 0, 10), circle(12, 0, 10), square(50, 50, 3)))
        self.assertEqual(made.off_mm, 0.001)
        self.assertAlmostEqual(size(made), exact, delta=0.001 * 130)
        self.assertEqual(sorted(made.sources()), [(0, 1), (2,)])
        self.assertTrue(np.isnan(made.span).all())

    def test_polygons_under_every_way_and_rule(self):
        ring = Operand(Path.concatenate([circle(0, 0, 10), circle(0, 0, 4)]), "evenodd")
        for how in ("union", "intersection", "difference", "xor"):
            exact = size(combine((ring, SQUARE), how))
            with patch("hakobu.geometry.boolean.combining.TRIES", ()):
                self.assertAlmostEqual(size(combine((ring, SQUARE), how)), exact, delta=0.1)


def _changed(shape, angle: float, factor: float):
    if isinstance(shape, Operand):
        return Operand(_changed(shape.path, angle, factor), shape.rule)
    return transform(transform(shape, rotation(angle)), scaling(factor))
