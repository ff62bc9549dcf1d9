"""What lies on what, what ends near what, and loose lines chained."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import Path, signed_areas, transform, translation
from hakobu.geometry.chaining import chain
from hakobu.geometry.path import line_controls
from hakobu.geometry.proximity.incidence import coinciding, ends_near

from ..fonts import glyph, glyph_names
from ..shapes import begun_at, blob, circle, square
from .curves import flower, split_at


def strokes(points: np.ndarray) -> Path:
    """Lines from points (N, 2, 2), each an outline."""
    count = len(points)
    ctrl = line_controls(points[:, 0], points[:, 1])
    return Path(ctrl, np.zeros(count), np.zeros(count), np.arange(count + 1), np.zeros(count, bool))


def exploded(path: Path, seed: int) -> Path:
    """Every segment an outline of its own, in any order and direction."""
    random = np.random.default_rng(seed)
    parts = []
    for i in random.permutation(path.segment_count):
        part = Path(path.ctrl[i : i + 1], path.kind[i : i + 1], path.bulge[i : i + 1], [0, 1], [False])
        parts.append(part.reversed() if random.random() < 0.5 else part)
    return Path.concatenate(parts)


class CoincidingSegments(unittest.TestCase):
    def test_lines_whole_in_part_and_reversed_are_all_found(self):
        random = np.random.default_rng(4)
        at, step = random.uniform(0, 300, (3000, 2)), random.normal(0, 2, (3000, 2))
        first = np.stack([at, at + step], axis=1)
        part = np.stack([at[1000:2000] + 0.25 * step[1000:2000], at[1000:2000] + 0.75 * step[1000:2000]], axis=1)
        path = strokes(np.concatenate([first, first[:1000], part, first[2000:, ::-1]]))
        made = coinciding(path, 1e-6)
        pairs = {tuple(pair) for pair in made.segment.tolist()}
        self.assertEqual(pairs, {(k, 3000 + k) for k in range(3000)})
        order = np.argsort(made.segment[:, 0])
        self.assertEqual(made.whole[order].tolist(), [True] * 1000 + [False] * 1000 + [True] * 1000)
        self.assertEqual(made.against[order].tolist(), [False] * 2000 + [True] * 1000)
        np.testing.assert_allclose(made.run[order][1000:2000, :, 0], [[0.25, 0.75]] * 1000, atol=1e-6)

    def test_curves_split_elsewhere(self):
        outline = blob().outline(0)
        other = split_at(begun_at(outline, 1), 0.3)
        made = coinciding(Path.concatenate([outline, other]), 1e-6)
        self.assertEqual(len(made.segment), 4)
        self.assertFalse(made.whole.any())

    def test_how_near_is_one(self):
        pair = strokes(np.array([[[0, 0], [10, 0]], [[0, 0.01], [10, 0.01]]]))
        self.assertEqual(len(coinciding(pair, 0.02).segment), 1)
        self.assertEqual(len(coinciding(pair, 0.005).segment), 0)

    def test_groups_are_apart(self):
        pair = strokes(np.array([[[0, 0], [10, 0.0]], [[10, 0], [0, 0.0]]]))
        self.assertEqual(len(coinciding(pair, 1e-6, np.array([0, 1])).segment), 0)
        self.assertTrue(coinciding(pair, 1e-6).against[0])


class EndsNear(unittest.TestCase):
    def test_ends_of_open_lines_only(self):
        path = Path.concatenate([strokes(np.array([[[0, 0], [10, 0]], [[10.1, 0], [20, 0.0]]])), square(10, 0, 3)])
        self.assertEqual(ends_near(path, 0.2).tolist(), [[1, 2]])
        self.assertEqual(ends_near(path, 0.05).tolist(), [])


class Chain(unittest.TestCase):
    @given(st.integers(0, 10_000))
    @settings(max_examples=15)
    def test_letters_in_bits_come_together_again(self, seed):
        random = np.random.default_rng(seed)
        names = random.choice(glyph_names("sans")[1:800], 5)
        whole = [transform(glyph("sans", n), translation(2000.0 * k, 0)) for k, n in enumerate(names)]
        letters = Path.concatenate([*whole, circle(-5000, 0, 10)])
        made = chain(exploded(letters, seed), 1e-6)
        self.assertTrue(made.path.closed.all())
        self.assertEqual(made.gap_mm, 0.0)
        self.assertAlmostEqual(
            float(np.abs(signed_areas(made.path)).sum()), float(np.abs(signed_areas(letters)).sum()), delta=1e-3
        )

    def test_gaps_are_closed_in_their_middle_and_handles_go_along(self):
        first = flower(1)
        loose = exploded(first, 3)
        moved = Path.concatenate(
            transform(part, translation(0.01 * (k % 3), 0.01 * (k % 2))) for k, part in enumerate(loose.outlines())
        )
        self.assertTrue(chain(moved, 0.05).path.closed.all())
        self.assertGreater(chain(moved, 0.05).gap_mm, 0.005)
        self.assertEqual(len(chain(moved, 0.001).path), first.segment_count)

    def test_at_a_fork_the_line_goes_straight_on(self):
        cross = strokes(np.array([[[-10, 0], [0, 0]], [[0, 0], [0, 10]], [[10, 0], [0, 0]], [[0, -10], [0, 0.0]]]))
        made = chain(cross, 1e-6)
        self.assertEqual(len(made.path), 2)
        for line in made.path.outlines():
            first, last = line.ctrl[0, 0], line.ctrl[-1, 3]
            self.assertAlmostEqual(float(np.hypot(*(last - first))), 20)

    def test_closed_outlines_and_lone_lines_stay(self):
        path = Path.concatenate([square(0, 0, 10), strokes(np.array([[[50, 50], [60, 50.0]]]))])
        made = chain(path, 0.1)
        self.assertEqual(made.path, path)
        self.assertEqual(made.sources, [[(0, False)], [(1, False)]])
