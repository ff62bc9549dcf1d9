"""Where lines that were drawn anew cross: looked for near them, the same as everywhere."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.geometry import Path, PathBuilder
from hakobu.geometry.crossings import crossing_segments, crossings
from hakobu.tracing.outlines.self_intersections import _redrawn


def rings(count: int, corners: int, seed: int) -> Path:
    """Rings inside each other that cross nowhere."""
    random = np.random.default_rng(seed)
    angle = np.linspace(0, 2 * np.pi, corners, endpoint=False)
    made = []
    for k in range(count):
        radius = 10.0 * (k + 1) + random.uniform(-3, 3, corners)
        made.append(Path.from_points(np.stack([radius * np.cos(angle), radius * np.sin(angle)], axis=1), closed=True))
    return Path.concatenate(made)


class Looking(unittest.TestCase):
    @given(st.integers(0, 10_000), st.integers(1, 4), st.integers(1, 5))
    @settings(max_examples=80, deadline=None)
    def test_near_what_was_drawn_anew_are_all_crossings(self, seed, count, many):
        path = rings(count, 24, seed)
        whole = np.zeros(len(path), np.int64)
        self.assertEqual(len(crossings(path, whole).segments), 0)
        random = np.random.default_rng(seed + 1)
        asked = np.unique(random.integers(0, path.segment_count, many))
        plain = {
            k: path.ctrl[a:b, 0] + random.normal(0, 6, (b - a, 2))
            for k, (a, b) in enumerate(zip(path.start[:-1], path.start[1:], strict=True))
        }
        path, drawn = _redrawn(path, asked, 1, plain, 1.0, 0.0)
        self.assertTrue(drawn.any())
        everywhere = np.unique(crossings(path, whole).segments)
        self.assertEqual(crossing_segments(path, drawn).tolist(), everywhere.tolist())

    def test_arcs_are_crossed_beside_their_chords(self):
        build = PathBuilder()
        build.circle(30, 0, 10)
        circle = build.path()
        ring = Path.from_points(np.array([(0.0, 20), (60, 20), (60, 40), (0, 40)]), closed=True)
        path = Path.concatenate([circle, ring])
        plain = {1: np.array([(0.0, 20), (20, 20), (30, 8), (40, 20), (60, 20), (60, 40), (0, 40)])}
        path, drawn = _redrawn(path, np.array([2]), 0, plain, 1.0, 0.0)
        self.assertEqual(set(path.outline_of[crossing_segments(path, drawn)].tolist()), {0, 1})

    def test_what_cannot_be_drawn_anew_is_looked_at_again(self):
        # A figure of eight whose plain points lead far away: it stays, and is still told to cross.
        eight = Path.from_points(np.array([(0.0, 0), (10, 10), (10, 0), (0, 10)]), closed=True)
        first = np.unique(crossings(eight, np.zeros(1, np.int64)).segments)
        self.assertEqual(first.tolist(), [0, 2])
        away = {0: np.array([(0.0, 0), (900, 900), (10, 10), (900, 0), (10, 0), (0, 900), (0, 10)])}
        path, drawn = _redrawn(eight, first, 0, away, 0.1, 0.0)
        self.assertEqual(path, eight)
        self.assertEqual(crossing_segments(path, drawn).tolist(), first.tolist())


if __name__ == "__main__":
    unittest.main()
