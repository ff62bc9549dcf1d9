"""Meetings of curves, against closed forms, and against shapely on fine chords.

For tangent curves the place itself is ill-conditioned; what counts is that both curves pass within 1e-6 mm of it.
"""

import math
import unittest

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import Path, PathBuilder, flatten, rotation, scaling, transform, translation
from hakobu.geometry.flatten import points_at
from hakobu.geometry.intersect import curve_table, meetings

from ..shapes import circle, square


def line(*points) -> Path:
    return Path.from_points(np.array(points, float), closed=False)


def cubic(*points) -> Path:
    return Path(np.array(points, float).reshape(1, 4, 2), [1], [0.0], [0, 1], [False])


def arc(first, bulge, last) -> Path:
    builder = PathBuilder()
    builder.move_to(first)
    builder.bulge_to(bulge, last)
    return builder.path()


def both(*paths) -> Path:
    return Path.concatenate(paths)


def round_arc(begin: float, end: float) -> Path:
    """An arc of the circle of radius 10 about the origin, by its angles in degrees."""
    at = [(10 * math.cos(math.radians(d)), 10 * math.sin(math.radians(d))) for d in (begin, end)]
    return arc(at[0], math.tan(math.radians(end - begin) / 4), at[1])


def halves(path: Path) -> tuple[Path, Path]:
    """Both halves of a cubic, by de Casteljau's construction."""
    points = path.ctrl[0]
    a = (points[:-1] + points[1:]) / 2
    b = (a[:-1] + a[1:]) / 2
    middle = (b[0] + b[1]) / 2
    return cubic(points[0], a[0], b[0], middle), cubic(middle, b[1], a[2], points[3])


WAVE = cubic((0, 0), (10, -20), (20, 20), (30, 0))
#: Name, path, how many single meetings, how many of them touches, how many shared runs.
CASES = (
    ("two lines that cross", both(line((0, 0), (10, 10)), line((0, 10), (10, 0))), 1, 0, 0),
    ("a line that ends on another", both(line((0, 0), (10, 0)), line((4, 0), (4, 5))), 1, 0, 0),
    ("lines that share an end", both(line((0, 0), (10, 0)), line((10, 0), (12, 5))), 1, 0, 0),
    ("lines a hair apart", both(line((0, 0), (10, 0)), line((0, 0.01), (10, 0.01))), 0, 0, 0),
    ("parallel lines", both(line((0, 0), (10, 0)), line((0, 1), (10, 1))), 0, 0, 0),
    ("a line through a node", both(square(), line((-5, -5), (5, 5))), 2, 0, 0),
    ("one line on another, the same", both(line((0, 0), (10, 0)), line((0, 0), (10, 0))), 0, 0, 1),
    ("one line on another, reversed", both(line((0, 0), (10, 0)), line((10, 0), (0, 0))), 0, 0, 1),
    ("one line on another, in part", both(line((0, 0), (10, 0)), line((4, 0), (20, 0))), 0, 0, 1),
    ("one line within another", both(line((0, 0), (10, 0)), line((4, 0), (6, 0))), 0, 0, 1),
    ("lines end to end", both(line((0, 0), (10, 0)), line((10, 0), (20, 0))), 1, 1, 0),
    ("circles that cross", both(circle(0, 0, 10), circle(12, 1, 10)), 2, 0, 0),
    ("circles tangent outside", both(circle(0, 0, 10), circle(0, 20, 10)), 1, 1, 0),
    ("circles tangent inside", both(circle(0, 0, 10), circle(0, 5, 5)), 1, 1, 0),
    ("circles apart", both(circle(0, 0, 10), circle(30, 0, 10)), 0, 0, 0),
    ("circles one in another", both(circle(0, 0, 10), circle(1, 0, 5)), 0, 0, 0),
    ("arcs of one circle, in part", both(round_arc(0, 120), round_arc(90, 180)), 0, 0, 1),
    ("arcs of one circle, end to end", both(round_arc(0, 120), round_arc(120, 180)), 1, 1, 0),
    ("arcs of one circle, reversed", both(round_arc(0, 120), round_arc(120, 0)), 0, 0, 1),
    ("a tangent line", both(circle(0, 0, 10), line((-20, 10), (20, 10))), 1, 1, 0),
    ("a line through a circle", both(circle(0, 0, 10), line((-20, 3), (20, 3))), 2, 0, 0),
    ("a wave and a line", both(WAVE, line((0, 0.5), (30, 0.5))), 2, 0, 0),
    ("a wave and its middle line", both(WAVE, line((-5, 0.0), (35, 0.0))), 3, 0, 0),
    ("a cubic and itself", both(WAVE, WAVE), 0, 0, 1),
    ("a cubic and itself reversed", both(WAVE, WAVE.reversed()), 0, 0, 1),
    ("a cubic and its first half", both(WAVE, halves(WAVE)[0]), 0, 0, 1),
    ("a cubic and both its halves", both(WAVE, *halves(WAVE)), 1, 1, 2),
    ("a loop", cubic((0, 0), (30, 20), (-20, 20), (10, 0)), 1, 0, 0),
    ("a cusp", cubic((0, 0), (10, 10), (0, 10), (10, 0)), 0, 0, 0),
    ("a teardrop that closes itself", cubic((0, 0), (10, 10), (-10, 10), (0, 0)), 0, 0, 0),
    ("a line of no length", both(line((5, 0), (5, 0)), line((0, 0), (10, 0))), 0, 0, 0),
    ("nothing", Path.concatenate([]), 0, 0, 0),
)


def found(path: Path):
    made = meetings(path)
    return len(made.segment), int(made.touch.sum()), len(made.run_segment)


def off(path: Path, made) -> float:
    """How far the farthest of both curves is from a stated meeting."""
    if not len(made.segment):
        return 0.0
    ends = [points_at(path, made.segment[:, k], made.parameter[:, k]) for k in (0, 1)]
    return float(max(np.hypot(*(end - made.point).T).max() for end in ends))


class Named(unittest.TestCase):
    def test_each_is_what_it_is(self):
        for name, path, *expected in CASES:
            with self.subTest(name):
                self.assertEqual(list(found(path)), expected)
                self.assertLessEqual(off(path, meetings(path)), 1e-6)

    def test_and_stays_so_turned_moved_and_sized(self):
        for name, path, *expected in CASES:
            for change in (rotation(0.6458), translation(1e4, -3e3), scaling(1e-2), scaling(300.0)):
                with self.subTest(name, change=change.tolist()):
                    self.assertEqual(list(found(transform(path, change))), expected)

    def test_tiny_shapes_have_their_meetings_too(self):
        tiny = transform(both(circle(0, 0, 10), circle(12, 1, 10)), scaling(1e-4))
        self.assertEqual(found(tiny), (2, 0, 0))


class ClosedForms(unittest.TestCase):
    def test_the_lens_of_two_circles(self):
        for distance in (0.5, 5.0, 12.0, 19.9, 19.9999):
            made = meetings(both(circle(0, 0, 10), circle(distance, 0, 10)))
            half = math.sqrt(100 - (distance / 2) ** 2)
            np.testing.assert_allclose(sorted(made.point[:, 1]), (-half, half), atol=1e-7)
            np.testing.assert_allclose(made.point[:, 0], distance / 2, atol=1e-7)

    def test_a_line_and_a_parabola(self):
        # y = x (10 - x) / 5 as a cubic, exactly; it meets y = 3 where x = 5 +- sqrt(10).
        parabola = cubic((0, 0), (10 / 3, 20 / 3), (20 / 3, 20 / 3), (10, 0))
        made = meetings(both(parabola, line((-1, 3), (11, 3))))
        np.testing.assert_allclose(made.point[:, 0], (5 - math.sqrt(10), 5 + math.sqrt(10)), atol=1e-9)
        np.testing.assert_allclose(made.parameter[:, 0], made.point[:, 0] / 10, atol=1e-9)

    def test_the_loop_of_a_cubic(self):
        # By its symmetry about x = 5 it crosses itself where y is the same for t and 1 - t.
        made = meetings(cubic((0, 0), (30, 20), (-20, 20), (10, 0)))
        np.testing.assert_allclose(made.parameter.sum(axis=1), 1.0)
        np.testing.assert_allclose(made.point[0, 0], 5.0)

    def test_runs_name_their_ends_on_both(self):
        made = meetings(both(line((0, 0), (10, 0)), line((16, 0), (4, 0))))
        np.testing.assert_allclose(made.run[0], [[0.4, 1.0], [1.0, 0.5]], atol=1e-12)


class AgainstShapely(unittest.TestCase):
    @given(st.integers(0, 100_000), st.integers(2, 14))
    @settings(max_examples=40, deadline=None)
    def test_random_curves_cross_as_often_as_their_fine_chords(self, seed, count):
        random = np.random.default_rng(seed)
        curves = [cubic(*random.uniform(0, 40, (4, 2))) for _ in range(count)]
        path = both(*curves)
        made = meetings(path)
        self.assertLessEqual(off(path, made), 1e-6)
        self.assertEqual(len(made.run_segment), 0)
        chords = flatten(path, 1e-6)
        strings = [shapely.LineString(chords.outline(k)) for k in range(count)]
        for i in range(count):
            for j in range(i + 1, count):
                expected = shapely.get_num_geometries(strings[i].intersection(strings[j]))
                ours = int(((made.segment == (i, j)).all(axis=1)).sum())
                if strings[i].is_empty or strings[i].intersection(strings[j]).is_empty:
                    expected = 0
                self.assertEqual(ours, expected, (i, j))

    def test_many_circles(self):
        random = np.random.default_rng(3)
        centres = random.uniform(0, 100, (150, 2))
        path = both(*(circle(x, y, 8.0) for x, y in centres))
        apart = np.hypot(*(centres[:, None] - centres[None]).transpose(2, 0, 1))
        expected = 2 * int((np.triu(apart < 16, 1)).sum())
        made = meetings(path)
        # A crossing at the start of a circle would be found on both of its halves; by chance there is none here.
        self.assertEqual(len(made.segment), expected)
        self.assertLessEqual(off(path, made), 1e-6)


class Groups(unittest.TestCase):
    def test_only_outlines_of_one_group_meet(self):
        path = both(circle(0, 0, 10), circle(12, 1, 10), circle(0, 12, 10))
        self.assertEqual(len(meetings(path, np.array([0, 1, 2])).segment), 0)
        self.assertEqual(len(meetings(path, np.array([0, 1, 0])).segment), 2)


class Table(unittest.TestCase):
    def test_kernels_draw_the_same_curves(self):
        from hakobu.geometry.kernels.curves import curve_at, foot

        path = both(line((0, 0), (5, 2)), WAVE, arc((0, 0), -0.7, (4, 3)), arc((0, 0), 1e-9, (4, 3)))
        kinds, geometry = curve_table(path)
        for segment in range(path.segment_count):
            for t in (0.0, 0.3, 0.9, 1.0):
                x, y, dx, dy = curve_at(kinds[segment], geometry[segment], t)
                there = points_at(path, np.array([segment]), np.array([t]))[0]
                np.testing.assert_allclose((x, y), there, atol=1e-12)
                h = 1e-6
                ahead, behind = (np.array(curve_at(kinds[segment], geometry[segment], t + s)[:2]) for s in (h, -h))
                np.testing.assert_allclose((dx, dy), (ahead - behind) / (2 * h), rtol=1e-6, atol=1e-5)
                nearest, away = foot(kinds[segment], geometry[segment], x, y)
                self.assertLess(away, 1e-9)
                self.assertAlmostEqual(nearest, t, 5)
