"""Corners that blocks show cut off: told from sharp ones, and drawn so."""

from __future__ import annotations

import unittest

import numpy as np
from scipy.sparse import csc_array

from hakobu.geometry import LINE, Path, PathBuilder, area
from hakobu.tracing.bevels import Shown, areas_of, bevelled, sharp_corners
from hakobu.tracing.kernels.footprints import footprint_sums


def polygon(*points: tuple[float, float]) -> Path:
    return Path.from_points(np.array(points, float), closed=True)


SQUARE = polygon((20, 20), (50, 20), (50, 50), (20, 50))


class Corners(unittest.TestCase):
    def test_lie_inside_the_angle_whichever_way_round(self):
        for path in (SQUARE, polygon(*SQUARE.ctrl[::-1, 0])):
            found = sharp_corners(path)
            self.assertEqual(len(found.segment), 4)
            np.testing.assert_allclose(np.hypot(*found.inward.T), 1)
            away = np.hypot(*(found.place + found.inward - 35).T)
            self.assertTrue((away < np.hypot(*(found.place - 35).T)).all())
            np.testing.assert_allclose(found.half, np.pi / 4)

    def test_are_sharp_and_between_long_sides_that_are_no_arcs(self):
        short = polygon((20, 20), (50, 20), (50, 24), (20, 24))
        self.assertEqual(len(sharp_corners(short).segment), 0)
        gentle = polygon((20, 20), (50, 20), (60, 29), (60, 60), (20, 60))
        self.assertEqual(sorted(map(tuple, sharp_corners(gentle).place.tolist())), [(20, 20), (20, 60), (60, 60)])
        build = PathBuilder()
        build.move_to((20, 20))
        build.line_to((50, 20))
        build.bulge_to(0.9, (20, 20))
        build.close()
        self.assertEqual(len(sharp_corners(build.path()).segment), 0)

    def test_a_bevel_takes_ink_away_whichever_way_the_line_runs(self):
        """What one square pixel of each changes sums up to one, of the same sign."""
        sums = []
        for path in (SQUARE, polygon(*SQUARE.ctrl[::-1, 0])):
            corners = sharp_corners(path)
            chords = corners.chords()
            # What is right of the line against what is left of it: ink is on the side where the area is.
            step = np.full(1, 1.0 if area(path) > 0 else -1.0)
            change = chords.long * step[chords.border]
            free = np.ones(4, bool)
            mover, _, image = footprint_sums(
                chords.middle, change, chords.mover, chords.by, free, 10, 10, 1.0, 0.0, 0.0
            )
            self.assertEqual(sorted(mover.tolist()), [0, 1, 2, 3])
            sums += image.sum(axis=1).tolist()
        np.testing.assert_allclose(np.abs(sums), 1)
        self.assertEqual(len(set(np.sign(sums))), 1)


class Areas(unittest.TestCase):
    def test_one_that_explains_more_than_chance_would_is_found(self):
        # Its bevel and one unknown explain the same half of a block: what is the bevel's own is what is left of both.
        together = csc_array(np.diag([2.0, 2.0]))
        none = np.zeros(0, np.int64)
        sure = Shown(20.0, 16.0, np.array([0]), np.array([4.0]))
        area_, change = areas_of([sure, Shown(1.0, 16.0, none, np.zeros(0))], together, 2, 1.0)
        np.testing.assert_allclose(area_, [20 / (16 - 8), 0])
        np.testing.assert_allclose(change, [-2 * 20 / 8, 0])
        # Where blocks stay off by more, it takes more to be sure.
        np.testing.assert_array_equal(areas_of([sure], together, 2, 3.0)[0], [0])
        # What the unknowns explain as well is not the corner's.
        instead = Shown(20.0, 16.0, np.array([0]), np.array([32.0**0.5]))
        np.testing.assert_array_equal(areas_of([instead], together, 2, 1.0)[0], [0])

    def test_the_rest_of_the_unknowns_is_as_if_solved_for_all_together(self):
        random = np.random.default_rng(3)
        count = 12
        rows = random.normal(size=(30, count))
        bevel, off = random.normal(size=30), random.normal(size=30)
        matrix = rows.T @ rows + np.eye(count)
        found = np.linalg.solve(matrix, rows.T @ off)
        left = off - rows @ found
        bevel *= np.sign(bevel @ left)
        shown = Shown(1e3 * float(bevel @ left), float(bevel @ bevel), np.arange(count), rows.T @ bevel)
        area_, change = areas_of([shown], csc_array(matrix), count, 1.0)
        both = np.block([[matrix, (rows.T @ bevel)[:, None]], [(rows.T @ bevel)[None], np.array([[bevel @ bevel]])]])
        asked = np.append(rows.T @ off, bevel @ off)
        # A thousand times as much is asked of the bevel as the blocks do, so that it is sure.
        asked[-1] += 999 * bevel @ left
        solved = np.linalg.solve(both, asked)
        np.testing.assert_allclose(area_[0], solved[-1])
        np.testing.assert_allclose(found + change, solved[:-1])


class Drawn(unittest.TestCase):
    def test_takes_the_area_away_that_was_told(self):
        corners = sharp_corners(SQUARE)
        told = np.array([0.05, 0.0, 0.1, 0.02])
        made = bevelled(SQUARE, corners, corners.deep(told))
        self.assertEqual((made.segment_count, (made.kind == LINE).all()), (7, True))
        self.assertAlmostEqual(abs(area(made)), 900 - told.sum())
        # None is cut off deeper than chance may have it.
        deepest = bevelled(SQUARE, corners, corners.deep(np.array([5.0, 0, 0, 0])))
        self.assertAlmostEqual(abs(area(deepest)), 900 - 0.4**2)

    def test_curves_and_the_end_of_an_outline_are_cut_off_on_themselves(self):
        build = PathBuilder()
        build.move_to((20, 20))
        build.cubic_to((30, 24), (40, 24), (50, 20))
        build.line_to((50, 50))
        build.line_to((20, 50))
        build.close()
        path = build.path()
        corners = sharp_corners(path)
        made = bevelled(path, corners, np.where(np.hypot(*(corners.place - 20).T) < 1, 0.4, 0.0))
        self.assertEqual(made.segment_count, path.segment_count + 1)
        self.assertTrue(made.closed.all())
        self.assertFalse((np.hypot(*(made.ctrl[:, 0] - 20).T) < 0.4).any())
        self.assertLess(abs(abs(area(made)) - abs(area(path))), 0.5)

    def test_what_stays_is_the_same(self):
        self.assertIs(bevelled(SQUARE, sharp_corners(SQUARE), np.zeros(4)), SQUARE)


if __name__ == "__main__":
    unittest.main()
