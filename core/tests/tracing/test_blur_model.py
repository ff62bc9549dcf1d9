"""Corners of blurred and noisy pictures: resvg renders what is known exactly, scipy's Gaussian blurs it."""

import unittest
from functools import cache

import numpy as np
from scipy import ndimage

from hakobu.geometry import Path
from hakobu.tracing.edges.kernels.roughness import roughness_of_each
from hakobu.tracing.outlines.outlines import roughness_of
from hakobu.tracing.outlines.thresholding import propose, trace

from ..pictures import distances, nearest, rendered, truth
from .test_chamfers import wedge
from .test_thresholding import PIXELS

LEVELS = np.array([0.5, 0.0, 1.0])


#: One picture is blurred in several ways.
sharp = cache(rendered)


def blurred(body: str, blur: float, noise: float = 0.0, seed: int = 1) -> np.ndarray:
    grey = ndimage.gaussian_filter(sharp(body), blur, mode="nearest")
    return np.ascontiguousarray(grey + np.random.default_rng(seed).normal(0, noise, grey.shape), np.float32)


def side(towards: tuple[float, float], way: float, back: float = 4.0) -> np.ndarray:
    """A side that runs towards a place in a direction, known from fifteen points up to some pixels before it."""
    ux, uy = np.cos(way), np.sin(way)
    return np.array([towards[0] - back * ux, towards[1] - back * uy, ux, uy, 0.0, 0.0, 0.0, 14.0, 15.0])


class Model(unittest.TestCase):
    """What two sides should look like, beside the picture of them."""

    def of(self, kind: int, moves: np.ndarray, size: int = 6):
        from hakobu.tracing.corners.kernels.blur_model import MOST, MOVES, faced, model_of, moved_side

        at, out = (40.3, 40.8), [np.empty(9), np.empty(9)]
        sides = [side(at, 2.3), side(at, 0.4)]
        for own, move, moved in zip(sides, (moves[:3], moves[3:6]), out, strict=True):
            moved_side(own, np.ascontiguousarray(move), own[7], moved)
        frame = np.array([40.5, 40.5, 1.0, 0.0, 1.1])
        wide = 2 * size + 1
        model, change = np.zeros((wide, wide)), np.zeros((wide, wide, MOVES))
        ends = 4 + moves[6], 4 + moves[7]
        ink = faced(*out, 14.0, 14.0, *ends, 20.0, frame)
        row, weights = np.empty(2 * MOST), np.empty(MOVES)
        model_of(*out, 14.0, 14.0, *ends, kind, frame, size, True, model, change, row, weights)
        across = np.rot90(model + ink, round(np.arctan2(frame[3], frame[2]) / (np.pi / 2)) * -1 % 4)
        return across, model, change

    def test_it_is_the_blurred_picture_of_its_lines(self):
        for kind, back in ((0, 0.0), (1, 3.0)):
            made, _, _ = self.of(kind, np.array([0, 0, 0, 0, 0, 0, -back, -back]))
            directions = np.array([[np.cos(w), np.sin(w)] for w in (2.3, 0.4)])
            corner = np.array([40.3, 40.8])
            ends = [corner] if not back else [corner - back * directions[0], corner - back * directions[1]]
            places = [corner - 60 * directions[0], *ends, corner - 60 * directions[1]]
            body = '<path d="M' + "L".join(f"{x} {y}" for x, y in places) + 'Z"/>'
            seen = 1 - blurred(body, np.sqrt(1.1**2 - 1 / 12))[34:47, 34:47]
            self.assertLess(float(np.abs(made - seen).max()), 0.01, kind)

    def test_its_changes_are_those_of_small_moves(self):
        for kind in (0, 1):
            here = np.array([0.0, 0, 0, 0, 0, 0, -3.0 * kind, -3.0 * kind])
            _, model, change = self.of(kind, here)
            for move in range(6 if kind == 0 else 8):
                other = here.copy()
                other[move] += 1e-3
                if kind == 0:
                    # Sides that meet go on up to where they meet then.
                    other[6:] = self.meeting(other)
                _, moved, _ = self.of(kind, other)
                self.assertLess(float(np.abs((moved - model) / 1e-3 - change[:, :, move]).max()), 0.02, (kind, move))

    def meeting(self, moves: np.ndarray) -> tuple[float, float]:
        from hakobu.tracing.corners.kernels.blur_model import moved_side
        from hakobu.tracing.corners.kernels.corner_sides import meeting

        out = [np.empty(9), np.empty(9)]
        sides = [side((40.3, 40.8), 2.3), side((40.3, 40.8), 0.4)]
        for own, move, moved in zip(sides, (moves[:3], moves[3:6]), out, strict=True):
            moved_side(own, np.ascontiguousarray(move), own[7], moved)
        _, x, y, _ = meeting(*out, 40.0)
        return tuple((x - s[0]) * s[2] + (y - s[1]) * s[3] - 4 for s in sides)


class Ends(unittest.TestCase):
    """Corners, cuts and bends are told apart, and lie where they are."""

    def end(self, grey: np.ndarray, blur: float, noise: float, way: float, turn: float):
        from hakobu.tracing.corners.kernels.blurred_ends import end_between

        half = np.radians(180 - turn) / 2
        at = np.array([200.3, 200.7])
        first, second = side(tuple(at), way + half), side(tuple(at), way - half)
        place = at - 1.5 * np.array([np.cos(way), np.sin(way)])
        seen = np.hypot(blur, 12**-0.5)
        made = end_between(grey, LEVELS, 2.5 * noise, seen, 0.01 + noise, first, second, *place, *place)
        return made[0], np.array(made[1:5]).reshape(2, 2)

    def test_sharp_ones(self):
        for blur, noise in ((1.2, 0.0), (0.5, 0.02)):
            for turn in (60, 100, 130):
                for way in (0.2, 1.4, 2.9, 4.4):
                    with self.subTest(blur=blur, turn=turn, way=way):
                        count, places = self.end(blurred(wedge(turn, 0, way), blur, noise), blur, noise, way, turn)
                        self.assertEqual(count, 1)
                        self.assertLess(float(np.hypot(*(places[0] - (200.3, 200.7)))), 0.15)

    def test_cut_ones(self):
        for blur, noise in ((1.2, 0.0), (0.5, 0.02)):
            for turn in (80, 110):
                for way in (0.2, 1.4, 2.9, 4.4):
                    with self.subTest(blur=blur, turn=turn, way=way):
                        count, places = self.end(blurred(wedge(turn, 2.8, way), blur, noise), blur, noise, way, turn)
                        self.assertEqual(count, 2)
                        self.assertAlmostEqual(float(np.hypot(*(places[1] - places[0]))), 2.8, delta=0.35)

    def test_bends_are_none(self):
        for way in (0.2, 1.4, 2.9, 4.4):
            half, r = np.radians(45), 4.0
            u = np.array([[np.cos(way - half), np.sin(way - half)], [np.cos(way + half), np.sin(way + half)]])
            at = np.array([200.3, 200.7])
            (ax, ay), (bx, by) = at - r * u[0], at - r * u[1]
            (cx, cy), (dx, dy) = at - 110 * u[0], at - 110 * u[1]
            body = f'<path d="M{cx} {cy}L{ax} {ay}A{r} {r} 0 0 0 {bx} {by}L{dx} {dy}Z"/>'
            self.assertEqual(self.end(blurred(body, 1.2), 1.2, 0.0, way, 90.0)[0], 0)

    def test_another_line_near_by_changes_nothing(self):
        for way in (0.2, 1.4, 2.9, 4.4):
            u = np.array([np.cos(way), np.sin(way)])
            n = np.array([-u[1], u[0]])
            near = np.array([200.3, 200.7]) + 6.5 * u
            bar = [near + 30 * n, near + 30 * n + 9 * u, near - 30 * n + 9 * u, near - 30 * n]
            body = '<path d="M' + "L".join(f"{x} {y}" for x, y in bar) + 'Z"/>'
            count, places = self.end(blurred(wedge(90, 0, way) + body, 0.5, 0.02), 0.5, 0.02, way, 90.0)
            self.assertEqual(count, 1)
            self.assertLess(float(np.hypot(*(places[0] - (200.3, 200.7)))), 0.2)

    def test_outlines_of_blurred_stars_and_stairs_are_right_at_every_corner(self):
        angle = np.arange(10) * np.pi / 5 + 0.13
        reach = np.where(np.arange(10) % 2, 45.0, 110.0)
        star = np.column_stack([200.4 + reach * np.cos(angle), 199.7 + reach * np.sin(angle)])
        steps = [(80.2, 90.3), (110.2, 90.3), (110.2, 120.3), (140.2, 120.3), (140.2, 150.3), (80.2, 150.3)]
        for points in (star, np.array(steps)):
            body = '<path d="M' + "L".join(f"{x:.4f} {y:.4f}" for x, y in points) + 'Z"/>'
            grey = blurred(body, 1.2)
            made = trace(grey, PIXELS, propose(grey, 1.0).threshold, 0.2, 12.0)
            path = Path.concatenate(region.path for region in made.regions)
            self.assertLess(float(distances(truth(body), path).max()), 0.2)
            self.assertEqual(path.segment_count, len(points))

    def test_a_side_shorter_than_the_blur_reaches_has_its_two_corners(self):
        for degrees in range(0, 90, 10):
            with self.subTest(degrees=degrees):
                way = np.radians(degrees)
                turn = np.array([[np.cos(way), -np.sin(way)], [np.sin(way), np.cos(way)]])
                points = np.array([(-40, 60), (-3, 0), (3, -1.5), (60, 50)]) @ turn.T + (200.3, 200.6)
                body = '<path d="M' + "L".join(f"{x:.4f} {y:.4f}" for x, y in points) + 'Z"/>'
                grey = blurred(body, 1.2)
                made = trace(grey, PIXELS, propose(grey, 1.0).threshold, 0.2, 12.0)
                path = Path.concatenate(region.path for region in made.regions)
                self.assertEqual(path.segment_count, 4)
                self.assertLess(float(nearest(points, path.ctrl[:, 0]).max()), 0.1)


class Roughness(unittest.TestCase):
    def test_what_compression_leaves_shows_over_longer_stretches(self):
        """Noise that is alike over eight points hardly shows over nine of them."""
        random = np.random.default_rng(5)
        noise = ndimage.uniform_filter1d(random.normal(0, 1, 4000), 8)
        noise *= 0.1 / noise.std()
        points = np.ascontiguousarray(np.column_stack([np.arange(4000.0), noise]))
        start, found = np.array([0, 4000]), np.zeros(1)
        roughness_of_each(points, start, found)
        self.assertGreater(float(found[0]), 1.4 * roughness_of(points, start))
        even = np.ascontiguousarray(np.column_stack([np.arange(4000.0), random.normal(0, 0.1, 4000)]))
        roughness_of_each(even, start, found)
        self.assertAlmostEqual(float(found[0]), 0.1, delta=0.01)

    def test_a_tight_bend_is_not_rough(self):
        """Arcs of points that are known to a thousandth of a pixel, of radii from 5 px on."""
        for radius in (5.0, 10.0, 20.0):
            with self.subTest(radius=radius):
                angle = np.arange(0, 6, 1 / radius)
                arc = np.column_stack([np.cos(angle), np.sin(angle)]) * radius
                arc += np.random.default_rng(3).normal(0, 0.001, arc.shape)
                found = np.zeros(1)
                roughness_of_each(np.ascontiguousarray(arc), np.array([0, len(arc)]), found)
                self.assertLess(float(found[0]), 0.03)

    def test_a_short_line_has_none(self):
        found = np.ones(2)
        roughness_of_each(np.random.default_rng(1).random((9, 2)), np.array([0, 4, 9]), found)
        self.assertEqual(found.tolist(), [0.0, 0.0])

    def test_many_outlines_that_are_alike_are_as_rough_as_few(self):
        """Their numbers of points divide every step that goes through all evenly."""
        angle = np.arange(68) * 2 * np.pi / 68
        random = np.random.default_rng(2)
        found = []
        for count in (20, 10_000):
            reach = 12 + random.normal(0, 0.1, (count, 68))
            points = np.stack([reach * np.cos(angle), reach * np.sin(angle)], axis=-1).reshape(-1, 2)
            found.append(roughness_of(np.ascontiguousarray(points), np.arange(count + 1) * 68))
        self.assertGreater(found[0], 0.05)
        self.assertAlmostEqual(found[1], found[0], delta=0.2 * found[0])


class ShortCuts(unittest.TestCase):
    def left(self, one: float, other: float, much: float = 1.0) -> np.ndarray:
        """How much a cut line takes off each side, which was so much, once it is evened."""
        from hakobu.tracing.corners.kernels.blurred_ends import symmetrize

        best, found, made = np.zeros((3, 4)), np.zeros(8), np.zeros(8)
        best[1] = -one, 0.0, 0.0, other
        symmetrize(best, found, much, made)
        return np.array([one, other]) - made[6:]

    def test_take_as_much_area_off_and_both_sides_more_alike_the_shorter_they_are(self):
        one, other = self.left(1.5, 0.5)
        self.assertAlmostEqual(one * other, 0.75)
        self.assertLess(abs(one - other), 0.3)
        self.assertLess(abs(one - other), abs(np.subtract(*self.left(1.5, 0.5, 0.5))))
        np.testing.assert_allclose(self.left(0.7, 0.7), 0.7)
        np.testing.assert_array_equal(self.left(7.0, 3.0), (7.0, 3.0))
