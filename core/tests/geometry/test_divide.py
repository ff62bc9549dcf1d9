"""All faces of outlines, and lines cut by shapes, against closed forms and shapely."""

import math

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import Path, flatten, signed_areas
from hakobu.geometry.boolean import Operand, cut_lines, divide, intersection, union
from hakobu.geometry.flatten import points_at
from hakobu.geometry.measure import length
from hakobu.geometry.proximity.places import Places

from ..shapes import circle, square
from .curves import flower, painted, polygon, total_area
from .sound import Case, size

LENS = 200 * math.acos(0.6) - 6 * math.sqrt(400 - 144)


def face_areas(made) -> list[float]:
    return [total_area(made.of(face)) for face in range(len(made.covers))]


class Divide(Case):
    def test_two_circles_make_three_faces(self):
        made = divide(circle(0, 0, 10), circle(12, 0, 10))
        areas = dict(zip(made.covers, face_areas(made), strict=True))
        crescent = 100 * math.pi - LENS
        self.assertEqual(set(areas), {(0,), (0, 1), (1,)})
        np.testing.assert_allclose([areas[0,], areas[0, 1], areas[1,]], [crescent, LENS, crescent], atol=1e-9)

    def test_faces_within_faces_are_their_holes(self):
        made = divide(circle(0, 0, 10), circle(0, 0, 6), circle(3, 0, 1), circle(-3, 0, 1))
        areas = dict(zip(made.covers, face_areas(made), strict=True))
        np.testing.assert_allclose(areas[0,], 64 * math.pi)
        np.testing.assert_allclose(areas[0, 1], 34 * math.pi)
        np.testing.assert_allclose(areas[0, 1, 2], math.pi)

    def test_what_no_shape_paints_is_a_face_too(self):
        frame = Operand(Path.concatenate([square(0, 0, 10), square(2, 2, 6)]), "evenodd")
        made = divide(frame)
        self.assertEqual(sorted(zip(made.covers, face_areas(made), strict=True)), [((), 36.0), ((0,), 64.0)])

    def test_shapes_apart_and_shapes_that_touch(self):
        made = divide(square(0, 0, 10), square(10, 0, 10), square(50, 0, 3))
        self.assertEqual(sorted(zip(made.covers, face_areas(made), strict=True)), [((0,), 100), ((1,), 100), ((2,), 9)])

    def test_nothing_has_no_faces(self):
        self.assertEqual(divide(Path.concatenate([])).covers, [])

    @given(st.integers(0, 100_000))
    @settings(max_examples=25)
    def test_faces_make_up_the_shapes(self, seed):
        a, b = flower(2 * seed), flower(2 * seed + 1, 3, 2)
        made = divide(a, b)
        areas = face_areas(made)
        self.assertTrue(all(area > 0 for area in areas))
        both = sum(area for cover, area in zip(made.covers, areas, strict=True) if cover == (0, 1))
        any_ = sum(area for cover, area in zip(made.covers, areas, strict=True) if cover)
        self.assertAlmostEqual(both, size(intersection(a, b)), 7)
        self.assertAlmostEqual(any_, size(union(a, b)), 7)
        whole = Path.concatenate([a, b])
        there = points_at(whole, made.source, made.span.mean(axis=1))
        ours = points_at(made.path, np.arange(made.path.segment_count), np.full(made.path.segment_count, 0.5))
        self.assertLess(float(np.hypot(*(there - ours).T).max()), 1e-9)


class CutLines(Case):
    ZIGZAG = Path.from_points(np.array([[-20, 0], [20, 0], [20, 20.0], [0, 20], [0, -20]]), closed=False)

    def test_a_line_through_a_circle(self):
        inside = cut_lines(self.ZIGZAG, circle(0, 0, 10))
        np.testing.assert_allclose(inside.path.ctrl[:, [0, 3]], [[(-10, 0), (10, 0)], [(0, 10), (0, -10)]], atol=1e-12)
        outside = cut_lines(self.ZIGZAG, circle(0, 0, 10), keep="outside")
        self.assertEqual(np.diff(outside.path.start).tolist(), [1, 4, 1])
        self.assertAlmostEqual(length(inside.path) + length(outside.path), length(self.ZIGZAG))
        np.testing.assert_allclose(inside.span, [[0.25, 0.75], [0.25, 0.75]])
        self.assertEqual(inside.source.tolist(), [0, 3])

    def test_a_closed_line_that_is_kept_round_its_start_is_one_piece(self):
        for keep, pieces in (("inside", 1), ("outside", 1)):
            made = cut_lines(circle(10, 0, 3), circle(0, 0, 10), keep=keep)
            self.assertEqual(len(made.path), pieces)
            self.assertFalse(made.path.closed[0])

    def test_whole_lines_stay_as_they_are(self):
        ring = circle(0, 0, 3)
        self.assertEqual(cut_lines(ring, square(-10, -10, 20)).path, ring)
        self.assertEqual(cut_lines(ring, square(20, 0, 5), keep="outside").path, ring)
        self.assertEqual(len(cut_lines(ring, square(20, 0, 5)).path), 0)

    def test_what_runs_along_a_rim_counts_as_inside(self):
        rim = Path.from_points(np.array([[2.0, 0], [8, 0]]), closed=False)
        self.assertEqual(cut_lines(rim, square(0, 0, 10)).path, rim)
        self.assertEqual(len(cut_lines(rim, square(0, 0, 10), keep="outside").path), 0)

    def test_a_hole_lets_a_line_go(self):
        frame = Operand(Path.concatenate([square(0, 0, 10), square(2, 2, 6)]), "evenodd")
        across = Path.from_points(np.array([[-5.0, 5], [15, 5]]), closed=False)
        made = cut_lines(across, frame)
        np.testing.assert_allclose(made.path.ctrl[:, [0, 3], 0], [[0, 2], [8, 10]], atol=1e-12)

    @given(st.integers(0, 100_000))
    @settings(max_examples=20)
    def test_as_long_as_shapely_says(self, seed):
        shape, line = flower(2 * seed), flower(2 * seed + 1, 3, 2)
        line = Path(line.ctrl, line.kind, line.bulge, line.start, [False])
        inside, outside = (cut_lines(line, shape, keep=keep) for keep in ("inside", "outside"))
        # Lengths are good to a millionth.
        self.assertAlmostEqual(length(inside.path) + length(outside.path), length(line), delta=2e-6 * length(line))
        strings = shapely.MultiLineString([flatten(line, 1e-5).outline(0)])
        area = painted(shape)
        self.assertAlmostEqual(length(inside.path), float(strings.intersection(area).length), 2)
        middle = points_at(inside.path, np.arange(inside.path.segment_count), np.full(inside.path.segment_count, 0.5))
        self.assertTrue(Places(shape).contains(middle).all())

    def test_faces_and_cut_lines_have_areas_of_one_sign(self):
        made = divide(polygon((0, 0), (10, 10), (10, 0), (0, 10)))
        self.assertTrue((signed_areas(made.path) > 0).all())
