"""Lines drawn by both their sides, and pieces in parts."""

import unittest
from dataclasses import replace

import numpy as np

from hakobu.checks import check, rule_of
from hakobu.checks.applier import apply_edit, edit_for, mend_where
from hakobu.geometry import Path, SegmentIndex, flatten, transform, translation
from hakobu.geometry.measure import lengths
from hakobu.model import Conditions, Document, Group, Stroke
from hakobu.model.materials import material_of

from ..shapes import circle, document, square

CARD = Conditions(material=material_of("black-card"))
THIN = Stroke("#000000", 0.1)


def wave(shift: float = 0.0, count: int = 200) -> Path:
    """A sine of 80 mm through so many places, moved down."""
    x = np.linspace(0, 80, count)
    return Path.from_points(np.column_stack([x, 6 * np.sin(x / 8) + shift]), closed=False)


def doubles(*paths: Path) -> list:
    made = document(*paths, fill=None, stroke=THIN)
    return [f for f in check(made, CARD) if f.rule == "double-outline"]


class DoubleLines(unittest.TestCase):
    def test_two_lines_beside_each_other_are_one_whatever_their_direction_and_nodes(self):
        for other in (wave(0.5), wave(0.5).reversed(), wave(0.5, 333), wave(0.5, 90).reversed()):
            found = doubles(wave(), other)
            self.assertEqual(len(found), 1)
            self.assertAlmostEqual(found[0].measure["width_mm"], 0.44, delta=0.03)

    def test_the_line_in_the_middle_lies_between_them(self):
        for other in (wave(0.5), wave(0.5, 333).reversed()):
            made = document(wave(), other, fill=None, stroke=THIN)
            (found,) = (f for f in check(made, CARD) if f.rule == "double-outline")
            after = apply_edit(made, edit_for(made, found, CARD))
            self.assertEqual(len(after.pieces), 1)
            truth = SegmentIndex(flatten(wave(0.25), 0.005), 0.5)
            off = truth.nearest(flatten(after.pieces[0].path, 0.005).points)[0]
            self.assertLess(off.max(), 0.03)

    def test_hatching_what_parts_and_what_is_wide_enough_are_left(self):
        self.assertEqual(doubles(*(wave(0.5 * k) for k in range(5))), [])
        self.assertEqual(doubles(wave(), wave(1.6)), [])
        fan = Path.from_points(np.array([[0.0, 0.4], [80.0, 9.0]]), closed=False)
        self.assertEqual(doubles(Path.from_points(np.array([[0.0, 0.0], [80.0, 0.0]]), closed=False), fan), [])
        short = Path.from_points(np.array([[0.0, 0.5], [30.0, 0.5]]), closed=False)
        self.assertEqual(doubles(Path.from_points(np.array([[0.0, 0.0], [80.0, 0.0]]), closed=False), short), [])

    def test_a_field_of_dashes_has_none(self):
        dash = Path.from_points(np.array([[0.0, 0.0], [0.0, 1.5]]), closed=False)
        dashes = [transform(dash, translation(0.6 * (k % 50), 2.0 * (k // 50))) for k in range(3000)]
        self.assertEqual(doubles(Path.concatenate(dashes)), [])

    def test_which_is_the_outer_one_does_not_depend_on_their_order(self):
        kept = set()
        for pair in ((wave(), wave(0.5)), (wave(0.5), wave())):
            made = document(*pair, fill=None, stroke=THIN)
            (found,) = (f for f in check(made, CARD) if f.rule == "double-outline")
            kept.add(apply_edit(made, edit_for(made, found, CARD, "outer")).pieces[0].path.digest)
        self.assertEqual(len(kept), 1)


class Rings(unittest.TestCase):
    """A ring of 0.4 mm among the other outlines of a filled piece."""

    OTHERS = (square(100, 0, 30), square(150, 0, 30))

    def mended(self, *outlines: Path, choice: str = "", rule: str = "evenodd") -> tuple[Document, Document]:
        made = document(Path.concatenate([*outlines, *self.OTHERS]), square(0, 90, 5), fill_rule=rule)
        (found,) = (f for f in check(made, CARD) if f.rule == "double-outline")
        self.assertTrue(found.mendable)
        after = apply_edit(made, edit_for(made, found, CARD, choice))
        self.assertEqual([f for f in check(after, CARD) if f.rule == "double-outline"], [])
        return made, after

    def test_it_becomes_a_line_of_its_own_over_its_piece(self):
        for choice, radius in (("outer", 20.0), ("inner", 19.6), ("middle", 19.8)):
            made, after = self.mended(circle(40, 30, 20), circle(40, 30, 19.6).reversed(), choice=choice)
            rest, line, other = after.pieces
            self.assertEqual((rest.id, other), ("t:/0", made.pieces[1]))
            self.assertEqual(rest.path.digest, Path.concatenate(self.OTHERS).digest)
            self.assertEqual((line.fill, line.stroke), (None, Stroke(rest.fill.color, 0.4)))
            self.assertAlmostEqual(float(lengths(line.path)[0]), 2 * np.pi * radius, delta=1e-3)

    def test_a_gap_is_left_as_a_line_in_the_colour_of_the_ground(self):
        around = square(2, -9, 80)
        _, after = self.mended(around, circle(40, 30, 20).reversed(), circle(40, 30, 19.6))
        self.assertEqual([p.stroke and p.stroke.color for p in after.pieces], [None, "#ffffff", None])

    def test_a_line_inside_what_is_painted_goes(self):
        """Both wound the same way under the nonzero rule: the inner one shows nothing."""
        _, after = self.mended(circle(40, 30, 20), circle(40, 30, 19.6), rule="nonzero")
        self.assertEqual([len(p.path) for p in after.pieces], [3, 1])
        self.assertAlmostEqual(float(lengths(after.pieces[0].path)[0]), 2 * np.pi * 20, delta=1e-3)

    def test_several_of_one_piece_are_taken_at_once_and_stay_in_its_group(self):
        pairs = [part for k in range(3) for part in (circle(40 * k, 30, 15), circle(40 * k, 30, 14.6).reversed())]
        made = document(Path.concatenate([*pairs, square(0, 60, 30)]), fill_rule="evenodd")
        made = replace(made, groups=(Group("g", "Rings", ("t:/0",)),))
        mended = mend_where(made, lambda f: f.rule == "double-outline", CARD)
        self.assertEqual((len(mended.taken), mended.passes), (3, 1))
        self.assertEqual(len(mended.document.pieces), 4)
        self.assertEqual(mended.document.groups[0].members, tuple(p.id for p in mended.document.pieces))

    def test_where_nothing_else_is_left_the_piece_goes(self):
        pairs = [part for k in range(2) for part in (circle(40 * k, 30, 15), circle(40 * k, 30, 14.6).reversed())]
        made = document(Path.concatenate(pairs), fill_rule="evenodd")
        mended = mend_where(made, lambda f: f.rule == "double-outline", CARD)
        self.assertEqual([p.fill for p in mended.document.pieces], [None, None])


class Parts(unittest.TestCase):
    def breaks(self, *paths: Path, every: bool = False) -> list:
        made = document(Path.concatenate(paths))
        held = Conditions(one=frozenset([made.pieces[0].id]))
        return [f for f in check(made, held, [rule_of("not-one")], every=every) if f.rule == "not-one"]

    def test_each_part_is_told_of_where_it_is_nearest_to_the_rest(self):
        found = self.breaks(square(0, 0, 40), square(45, 10, 10), circle(20, 60, 8))
        self.assertEqual(sorted(f.measure["gap_mm"] for f in found), [5.0, 12.0])
        places = {f.measure["gap_mm"]: f.place for f in found}
        self.assertAlmostEqual(places[12.0][1], 46.0, delta=0.01)

    def test_a_hole_and_what_lies_in_it_are_no_bridge(self):
        ring = (circle(0, 0, 30), circle(0, 0, 20).reversed())
        found = self.breaks(*ring, circle(3, 0, 10))
        self.assertEqual([f.measure["parts"] for f in found], [2])
        self.assertAlmostEqual(found[0].measure["gap_mm"], 7.0, delta=0.01)

    def test_of_thousands_of_parts_the_first_thousand_are_listed(self):
        many = [circle(5 * (k % 60), 5 * (k // 60), 2.0) for k in range(1800)]
        found = self.breaks(*many)
        self.assertEqual((len(found), found[-1].measure), (1001, {"more": 799}))
        self.assertTrue(all(abs(f.measure["gap_mm"] - 1.0) < 0.01 for f in found[:-1]))
        self.assertEqual(len(self.breaks(*(transform(one, translation(3, 3)) for one in many[:70]), every=True)), 69)
