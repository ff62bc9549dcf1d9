"""What lies under one shape or several together, and what only seems to."""

import unittest
from dataclasses import replace

import numpy as np
import shapely
from shapely import affinity

from hakobu.checks import check
from hakobu.checks.applier import mend_where
from hakobu.checks.rule import SEEN_SHARE
from hakobu.geometry import Path
from hakobu.geometry.measure import lengths
from hakobu.model import Conditions, Document, Fill, Level, Piece, Stroke

from ..shapes import circle, document, square

LINE = Stroke("#1b2a4e", 0.4)


def box(left: float, top: float, right: float, bottom: float) -> Path:
    return Path.from_points(np.array([[left, top], [right, top], [right, bottom], [left, bottom]]), closed=True)


def frame() -> Path:
    """A square of 80 mm with a square hole of 20 in its middle."""
    return Path.concatenate([box(10, 10, 90, 90), box(40, 40, 60, 60).reversed()])


def hidden(made: Document) -> set[str]:
    return {f.pieces[0] for f in check(made, Conditions()) if f.rule == "invisible-object" and "wholly" in f.message}


class UnderOne(unittest.TestCase):
    def test_what_shows_through_a_hole_is_seen(self):
        for under, is_hidden in (
            (circle(50, 50, 20), False),  # reaches past the hole on all sides
            (circle(50, 50, 8), False),  # lies in the hole
            (circle(50, 41, 5), False),  # half in it
            (circle(25, 50, 8), True),
        ):
            with self.subTest(under=under.ctrl[0, 0]):
                self.assertEqual(hidden(document(under, frame())), {"t:/0"} if is_hidden else set())

    def test_parts_under_two_shapes_are_looked_at_under_both(self):
        """A piece of two discs, one under each of two squares, of which the lower one has a hole."""
        discs = Path.concatenate([circle(50, 50, 15), circle(150, 50, 15)])
        plain = document(discs, box(20, 20, 80, 80), box(120, 20, 180, 80))
        self.assertEqual(hidden(plain), {"t:/0"})
        open_ = Path.concatenate([box(20, 20, 80, 80), box(45, 45, 55, 55).reversed()])
        self.assertEqual(hidden(document(discs, open_, box(120, 20, 180, 80))), set())

    def test_a_line_that_shows_beside_the_edge_is_seen(self):
        for away, is_hidden in ((0.1, False), (0.15, False), (0.25, True), (1.0, True)):
            under = circle(10 + 5 + away, 50, 5)
            made = document(under, box(10, 10, 90, 90))
            line = replace(made.pieces[0], fill=None, stroke=LINE)
            self.assertEqual(hidden(replace(made, pieces=(line, made.pieces[1]))), {"t:/0"} if is_hidden else set())


class UnderSeveral(unittest.TestCase):
    def test_two_halves_a_plugged_hole_and_flush_edges_hide(self):
        left, right = box(10, 10, 55, 90), box(50, 10, 90, 90)
        self.assertEqual(hidden(document(circle(50, 50, 10), left, right)), {"t:/0"})
        self.assertEqual(hidden(document(circle(50, 50, 20), frame(), box(39, 39, 61, 61))), {"t:/0"})
        self.assertEqual(hidden(document(box(10, 10, 90, 90), box(10, 10, 50, 90), box(50, 10, 90, 90))), {"t:/0"})
        # A slit between the two shows it.
        self.assertEqual(hidden(document(circle(50, 50, 10), left, box(55.5, 10, 90, 90))), set())

    def test_what_is_above_or_seen_through_hides_nothing(self):
        left, right = box(10, 10, 55, 90), box(50, 10, 90, 90)
        self.assertEqual(hidden(document(left, right, circle(50, 50, 10))), set())
        made = document(circle(50, 50, 10), left, right)
        clear = replace(made.pieces[2], fill=Fill("#1b2a4e", 0.5))
        self.assertEqual(hidden(replace(made, pieces=(*made.pieces[:2], clear))), set())

    def test_a_line_under_two_shapes_is_hidden_as_far_as_it_is_broad(self):
        left, right = box(10, 10, 55, 90), box(50, 10, 90, 90)
        for y, is_hidden in ((50, True), (10.1, False), (10.3, True)):
            line = Piece("line", Path.from_points(np.array([[20.0, y], [80.0, y]]), False), "layer", stroke=LINE)
            made = document(left, right)
            self.assertEqual(hidden(replace(made, pieces=(line, *made.pieces))), {"line"} if is_hidden else set())

    def test_piles_agree_with_shapely(self):
        """Differences measured by shapely 2, polygons straight and turned, of one look."""
        for seed in range(12):
            random = np.random.default_rng(seed)
            shapes = [
                affinity.rotate(shapely.box(x, y, x + w, y + h), turn)
                for x, y, w, h, turn in np.column_stack(
                    [random.uniform(5, 60, (60, 2)), random.uniform(4, 40, (60, 2)), random.choice([0, 17, 45], 60)]
                )
            ]
            seen = {
                f"t:/{n}": shape.difference(shapely.union_all(shapes[n + 1 :])).area / shape.area
                for n, shape in enumerate(shapes)
            }
            paths = [Path.from_points(np.array(shape.exterior.coords)[:-1], closed=True) for shape in shapes]
            found = hidden(document(*paths))
            sure = {n for n, share in seen.items() if share < 1e-9}
            self.assertTrue(sure)
            self.assertLessEqual(sure, found)
            self.assertLessEqual(found, {n for n, share in seen.items() if share <= SEEN_SHARE})

    def test_it_goes_and_nothing_looks_different(self):
        made = document(circle(50, 50, 10), box(10, 10, 55, 90), box(50, 10, 90, 90))
        mended = mend_where(made, lambda f: f.rule == "invisible-object" and f.safe, Conditions())
        self.assertEqual([p.id for p in mended.document.pieces], ["t:/1", "t:/2"])
        after = check(mended.document, Conditions())
        self.assertEqual({f.rule for f in after if f.level is not Level.NOTE}, {"overlapping-shape"})


class Shared(unittest.TestCase):
    def test_a_lattice_of_closed_lines_is_cut_once_after_its_mends(self):
        """Six squares of 10 mm: 6 x 40 mm are drawn, of which 7 edges are there twice."""
        made = document(*(square(10 * x, 10 * y) for x in range(3) for y in range(2)), fill=None)
        self.assertEqual(self.length(made), 240)
        found = [f for f in check(made, Conditions()) if f.rule == "overlapping-line"]
        self.assertEqual({(f.level, f.mendable, f.safe) for f in found}, {(Level.SPOILS, True, False)})
        mended = mend_where(made, lambda f: f.rule == "overlapping-line", Conditions())
        self.assertAlmostEqual(self.length(mended.document), 170, delta=1e-6)
        self.assertEqual([f.rule for f in check(mended.document, Conditions()) if f.level is not Level.NOTE], [])
        lines = [
            shapely.LineString(path.ctrl[:, [0, 3]].reshape(-1, 2))
            for piece in mended.document.pieces
            for path in (piece.path.outline(k) for k in range(len(piece.path)))
        ]
        self.assertAlmostEqual(shapely.union_all(lines).length, 170, delta=1e-6)

    def test_filled_neighbours_keep_their_edges(self):
        made = document(square(0, 0), square(10, 0))
        found = [f for f in check(made, Conditions()) if f.rule == "overlapping-line"]
        self.assertEqual([(f.level, f.mendable) for f in found], [(Level.NOTE, False)])

    def length(self, made: Document) -> float:
        return sum(float(lengths(p.path).sum()) for p in made.pieces)
