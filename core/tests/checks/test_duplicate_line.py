"""duplicate-line: what is a copy, what is not, which of two stays, and what is safe to take away."""

import math
import unittest
from dataclasses import replace
from itertools import permutations

import numpy as np

from hakobu.checks import check
from hakobu.checks.applier import mend_where
from hakobu.checks.tables.outlines import MOST_COPIES
from hakobu.geometry import Path, PathBuilder, rotation, transform, translation
from hakobu.geometry.affine import arcs_to_cubics
from hakobu.model import Conditions, Fill, Layer, Level, Stroke

from ..shapes import begun_at, blob, circle, document, square


def moved(path: Path, x: float, y: float = 0.0) -> Path:
    return transform(path, translation(x, y))


def halved(path: Path) -> Path:
    """The same square with a node more in the middle of every side."""
    points = path.ctrl[:, 0]
    middle = (points + np.roll(points, -1, axis=0)) / 2
    return Path.from_points(np.stack([points, middle], axis=1).reshape(-1, 2), closed=True)


def open_line(*points) -> Path:
    return Path.from_points(np.array(points, float), closed=False)


def nearly_closed(gap: float) -> Path:
    return open_line((0, 0), (10, 0), (10, 10), (0, 10), (0, gap))


BIG = transform(blob().outline(0), rotation(0.3))


def of_this_rule(finding) -> bool:
    return finding.rule == "duplicate-line"


def doubled(made, conditions: Conditions = Conditions()):
    """The findings of this rule alone: some of these designs have other faults as well."""
    return [f for f in check(made, conditions) if of_this_rule(f)]


class Found(unittest.TestCase):
    """Each row: two outlines on one layer, and how far apart they count as one line, or None where they do not."""

    TABLE = (
        ("exactly", square(), square(), 0),
        ("backwards", square(), square().reversed(), 0),
        ("begun elsewhere", square(), begun_at(square(), 2), 0),
        ("backwards and begun elsewhere", BIG, begun_at(BIG.reversed(), 1), 0),
        ("with more nodes", square(), halved(square()), 0),
        ("moved within the tolerance", square(0, 0, 40), square(0.2, 0, 40), 0.2),
        ("an open line and its copy", open_line((0, 0), (5, 5), (9, 5)), open_line((9, 5), (5, 5), (0, 0)), 0),
        ("a circle and its cubics", circle(5, 5, 20), arcs_to_cubics(circle(5, 5, 20)), 0.0),
        ("a circle and it turned", circle(5, 5, 20), moved(transform(circle(0, 0, 20), rotation(1)), 5, 5), 0.0),
        ("closed, and open by a hair", square(), nearly_closed(0.2), 0.1),
        ("moved too far", square(0, 0, 40), square(0.3, 0, 40), None),
        ("small shapes moved by much of their size", circle(0, 0, 0.5), circle(0.2, 0, 0.5), None),
        ("a line across", open_line((0, 0), (10, 0)), open_line((5, -5), (5, 5)), None),
        ("a line on another, half as long", open_line((0, 0), (10, 0)), open_line((0, 0), (5, 0)), 0),
        ("a line beside, half as long", open_line((0, 0), (10, 0)), open_line((0, 0.1), (5, 0.1)), None),
        ("a ring inside another", circle(0, 0, 10), circle(0, 0, 9.5), None),
        ("a square and its circle", square(0, 0, 20), circle(10, 10, 10), None),
        ("one side in common", square(), square(10, 0), None),
        ("two lone nodes", open_line((3, 3)), open_line((3, 3)), None),
        ("the two halves of a circle", circle().take([0]), circle(40, 0), None),
    )

    def test_table(self):
        for name, first, second, distance in self.TABLE:
            for a, b in ((first, second), (second, first)):
                with self.subTest(name):
                    found = doubled(document(a, b, fill=None, stroke=Stroke("#000000", 0.1)))
                    self.assertEqual(len(found), 0 if distance is None else 1)
                    if found:
                        self.assertAlmostEqual(found[0].measure["distance_mm"], distance, delta=0.02)
                        self.assertEqual((found[0].rule, found[0].level), ("duplicate-line", Level.SPOILS))

    def test_the_tolerance_decides(self):
        made = document(square(0, 0, 40), square(0.2, 0, 40))
        self.assertEqual([len(doubled(made, Conditions(t))) for t in (0.05, 0.19, 0.21, 0.5)], [0, 0, 1, 1])

    def test_layers_are_not_compared_with_each_other(self):
        made = document(square(), square())
        layers = (*made.layers, Layer("second", "Second", "#ff0000"))
        apart = replace(made, layers=layers, pieces=(made.pieces[0], replace(made.pieces[1], layer="second")))
        self.assertEqual((len(doubled(made)), len(doubled(apart))), (1, 0))

    def test_it_points_to_where_they_lie_farthest_apart(self):
        builder = PathBuilder()
        builder.move_to((0.0, 0.0))
        for point in ((40.0, 0.0), (40.0, 40.2), (0.0, 40.0)):
            builder.line_to(point)
        builder.close()
        found = doubled(document(square(0, 0, 40), builder.path()))
        self.assertLess(math.dist(found[0].place, (40, 40.2)), 0.3)

    def test_a_compound_and_its_copy_are_one_finding(self):
        ring = Path.concatenate([circle(0, 0, 20), circle(0, 0, 15).reversed()])
        self.assertEqual(len(doubled(document(ring, moved(ring, 0.1)))), 1)

    def test_of_many_copies_a_few_are_told_one_by_one_and_the_others_together(self):
        made = document(*[begun_at(square(), i % 4) for i in range(60)])
        found = doubled(made)
        self.assertEqual((len(found), len({f.key for f in found})), (MOST_COPIES, MOST_COPIES))
        self.assertEqual([f.measure["copies"] for f in found if "copies" in f.measure], [60 - MOST_COPIES])
        left = mend_where(made, of_this_rule, Conditions(0.25)).document
        self.assertEqual([len(piece.path) for piece in left.pieces], [1])

    def test_chains_of_near_copies_do_not_wander(self):
        made = document(*[square(0.2 * i, 0, 40) for i in range(6)])
        left = mend_where(made, of_this_rule, Conditions(0.25)).document
        self.assertEqual(sorted(round(p.path.ctrl[0, 0, 0], 1) for p in left.pieces), [0.0, 0.4, 0.8])


class Stays(unittest.TestCase):
    """Which of two equals stays does not depend on their order."""

    def test_the_same_one_whatever_the_order(self):
        shapes = [square(0, 0, 40), halved(square(0, 0, 40)), square(0.1, 0, 40), begun_at(square(0, 0.1, 40), 1)]
        left = set()
        for order in permutations(shapes):
            mended = mend_where(document(*order), of_this_rule, Conditions()).document
            self.assertEqual(len(mended.pieces), 1)
            left.add(mended.pieces[0].path.digest)
        self.assertEqual(len(left), 1)

    def test_closed_before_open_filled_before_bare(self):
        made = document(nearly_closed(0.2), square())
        self.assertEqual(mend_where(made, of_this_rule, Conditions()).document.pieces[0].id, "t:/1")
        bare = document(square(), square())
        line = replace(bare.pieces[0], fill=None, stroke=Stroke("#000000", 0.1))
        made = replace(bare, pieces=(line, bare.pieces[1]))
        self.assertEqual(mend_where(made, of_this_rule, Conditions()).document.pieces[0].id, "t:/1")


class Safe(unittest.TestCase):
    """Safe is what changes the visible area by no more than the tolerance times the length taken away."""

    def safety(self, made) -> list[bool]:
        return [f.safe for f in doubled(made)]

    def test_a_copy_in_the_same_paint_is(self):
        self.assertEqual(self.safety(document(square(), square())), [True])
        self.assertEqual(self.safety(document(square(0, 0, 40), square(0.2, 0, 40))), [True])

    def test_a_copy_in_another_paint_is_not(self):
        made = document(square(0, 0, 40), square(0, 0, 40))
        other = replace(made, pieces=(made.pieces[0], replace(made.pieces[1], fill=Fill("#ff0000"))))
        self.assertEqual(self.safety(other), [False])

    def test_a_hairline_on_a_fill_is_a_broad_line_is_not(self):
        for width, safe in ((0.1, True), (3.0, False)):
            made = document(square(0, 0, 40), square(0, 0, 40))
            line = replace(made.pieces[1], fill=None, stroke=Stroke("#1b2a4e", width))
            self.assertEqual(self.safety(replace(made, pieces=(made.pieces[0], line))), [safe])

    def test_within_one_path_the_fill_rule_decides(self):
        twice = Path.concatenate([square(0, 0, 40), square(0, 0, 40)])
        self.assertEqual(self.safety(document(twice)), [True])
        # Under even-odd the copy cancels its original: taking it away paints the whole square.
        self.assertEqual(self.safety(document(twice, fill_rule="evenodd")), [False])
        against = Path.concatenate([square(0, 0, 40), square(0, 0, 40).reversed()])
        self.assertEqual(self.safety(document(against)), [False])

    def test_a_filled_disc_on_the_edge_of_a_ring_fills_nothing_that_was_open(self):
        ring = Path.concatenate([circle(0, 0, 20), circle(0, 0, 15).reversed()])
        self.assertEqual(self.safety(document(ring, circle(0, 0, 20))), [False])
