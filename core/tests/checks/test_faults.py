"""Stray nodes, open outlines, crossings, overlaps and backgrounds: what is found, what is not, and how it is mended.

Rules of the trade, as common practice: a blade pricks at a lone point; an outline that does not close leaves its part
hanging; lines that cross are cut through each other.
"""

import unittest
from dataclasses import replace

import numpy as np

from hakobu.checks import check
from hakobu.checks.applier import apply_edit, edit_for, mend_where
from hakobu.checks.verdict import verdict
from hakobu.geometry import CUBIC, Path, PathBuilder, signed_areas
from hakobu.geometry.scanline_area import painted_area
from hakobu.model import Conditions, Document, Fill, Layer, Level, Page, Piece, Stroke, Treatment
from hakobu.model.materials import material_of

from ..shapes import circle, document, square

OPEN_BY_02 = Path.from_points(np.array([[0, 0], [10, 0], [10, 10], [0, 10], [0, 0.2]]), closed=False)
BOW = Path.from_points(np.array([[0, 0], [10, 10], [10, 0], [0, 10]]), closed=True)
DOT = Path.from_points(np.array([[50.0, 50.0]]), closed=False)
PAGE = Path.from_points(np.array([[0, 0], [200, 0], [200, 100], [0, 100]]), closed=True)


def rules(made: Document, tolerance: float = 0.25) -> list[str]:
    return sorted(f.rule for f in check(made, Conditions(tolerance)))


def rounded_page(margin: float) -> Path:
    return Path.from_points(
        np.array([[margin, margin], [200 - margin, margin], [200 - margin, 100 - margin], [margin, 100 - margin]]), True
    )


class Found(unittest.TestCase):
    def test_each_fault_alone(self):
        for name, made, expected in (
            ("a lone node", document(square(), DOT), ["stray-node"]),
            ("a gap within the tolerance", document(OPEN_BY_02), ["open-path"]),
            ("a filled outline open by more", document(square_open(3.0)), ["open-path"]),
            ("a bow-tie", document(BOW), ["self-crossing"]),
            ("two squares across each other", document(square(), square(5, 5)), ["overlapping-shape"]),
            (
                "one piece of two that cross",
                document(Path.concatenate([square(), square(5, 5)])),
                ["overlapping-shape"],
            ),
            ("the page as a shape", document(PAGE, square(20, 20)), ["background-rectangle"]),
            ("nearly the page", document(rounded_page(0.8), square(20, 20)), ["background-rectangle"]),
        ):
            with self.subTest(name):
                self.assertEqual(rules(made), expected)

    def test_what_is_sound_is_left_alone(self):
        two_layers = Document(
            Page(200, 100),
            (Layer("a", "A", "#000000"), Layer("b", "B", "#c2361f", Treatment.SCORE)),
            (
                Piece("t:/1", square(), "a", fill=Fill("#000000")),
                Piece("t:/2", square(5, 5), "b", stroke=Stroke("#c2361f", 0.1)),
            ),
        )
        for name, made in (
            ("squares side by side", document(square(), square(10, 0))),
            ("a hole", document(Path.concatenate([square(0, 0, 30), square(10, 10, 10)]), fill_rule="evenodd")),
            ("tangent circles", document(circle(20, 20, 10), circle(40, 20, 10))),
            ("an open line that is scored", document(OPEN_BY_02, treatment=Treatment.SCORE, fill=None)),
            ("open lines that cross", document(cross(), fill=None)),
            ("a cut over a score on another layer", two_layers),
            ("a card cut to its page, alone", document(PAGE)),
            ("a rectangle well inside the page", document(rounded_page(8), square(20, 20), fill=None)),
            ("a line that crosses itself, open and bare", document(loop(), fill=None)),
        ):
            with self.subTest(name):
                self.assertEqual([f.rule for f in check(made) if f.level is not Level.NOTE], [])

    def test_levels(self):
        bare = {"fill": None, "stroke": Stroke("#000000", 0.1)}
        for made, level in (
            (document(square(), square(5, 5)), Level.SPOILS),
            (document(square(), square(5, 5), **bare), Level.NOTE),
            (document(PAGE, square(20, 20)), Level.SPOILS),
            (document(PAGE, square(20, 20), **bare), Level.NOTE),
            (document(OPEN_BY_02), Level.SPOILS),
        ):
            self.assertEqual([f.level for f in check(made)], [level])

    def test_doubled_outlines_are_not_overlaps_as_well(self):
        self.assertEqual(rules(document(circle(50, 50, 10), circle(50.08, 50, 10))), ["duplicate-line"])

    def test_a_gap_wider_than_the_tolerance_is_not_mended_unseen(self):
        for looks in ({}, {"fill": None}):
            wide = check(document(OPEN_BY_02, **looks), Conditions(0.1))
            self.assertEqual([(f.rule, f.mendable, f.safe) for f in wide], [("open-path", True, False)])

    def test_messages_and_places_say_where(self):
        finding = check(document(OPEN_BY_02))[0]
        self.assertIn("0.2 mm", finding.message)
        self.assertEqual(finding.measure["gap_mm"], 0.2)
        self.assertIn(finding.place, ((0.0, 0.0), (0.0, 0.2)))
        crossing = check(document(square(), square(5, 5)))[0]
        self.assertEqual(crossing.measure["crossings"], 2)
        self.assertIn(crossing.place, ((10.0, 5.0), (5.0, 10.0)))


class Closing(unittest.TestCase):
    def test_a_straight_end_is_made_longer_without_a_new_node(self):
        done = mend_where(document(OPEN_BY_02), lambda f: f.safe, Conditions()).document.pieces[0].path
        self.assertEqual((done.closed.tolist(), done.segment_count), ([True], 4))
        np.testing.assert_array_equal(done.ctrl[-1, 3], (0, 0))

    def test_a_curve_gets_a_short_line(self):
        builder = PathBuilder()
        builder.move_to((0.0, 0.0))
        builder.cubic_to((20.0, -20.0), (20.0, 20.0), (0.1, 0.1))
        done = mend_where(document(builder.path()), lambda f: f.safe, Conditions()).document.pieces[0].path
        self.assertEqual((done.closed.tolist(), done.segment_count), ([True], 2))

    def test_ends_that_were_rounded_twice_become_one(self):
        builder = PathBuilder()
        builder.move_to((0.0, 0.0))
        builder.cubic_to((20.0, -20.0), (20.0, 20.0), (0.0, 0.0004))
        done = mend_where(document(builder.path()), lambda f: f.safe, Conditions()).document.pieces[0].path
        self.assertEqual((done.closed.tolist(), done.kind.tolist()), ([True], [CUBIC]))

    def test_loose_lines_are_joined_in_any_order_and_direction(self):
        corners = np.array([[0, 0], [30, 0], [30, 20], [0, 20.0]])
        sides = [
            Path.from_points(np.array([a, b]), False) for a, b in zip(corners, np.roll(corners, -1, 0), strict=True)
        ]
        mixed = [sides[2].reversed(), sides[0], sides[3], sides[1].reversed()]
        done = mend_where(document(*mixed, fill=None), lambda f: f.safe, Conditions()).document
        self.assertEqual([(p.path.closed.tolist(), p.path.segment_count) for p in done.pieces], [([True], 4)])
        self.assertEqual(rules(done), [])

    def test_filled_outlines_are_joined_to_each_other_only_when_asked(self):
        corner = np.array([[0, 0], [20, 0], [20, 20.0]])
        other = np.array([[20, 20.05], [0, 20.05], [0, 0.05]])
        pair = [Path.from_points(corner, False), Path.from_points(other, False)]
        for looks, safe in (({}, False), ({"fill": None}, True)):
            found = [f for f in check(document(*pair, **looks), Conditions(0.1)) if f.rule == "open-path"]
            self.assertEqual({f.safe for f in found}, {safe})

    def test_a_finding_whose_line_is_closed_meanwhile_has_no_edit(self):
        made = document(OPEN_BY_02)
        finding = check(made)[0]
        closed = apply_edit(made, edit_for(made, finding, Conditions()))
        self.assertIsNone(edit_for(closed, finding, Conditions()))


class Welding(unittest.TestCase):
    def test_shapes_that_overlap_become_one_with_the_same_area(self):
        made = document(square(), square(5, 5), square(40, 40))
        done = mend_where(made, lambda f: f.safe, Conditions()).document
        self.assertEqual([p.id for p in done.pieces], ["t:/0", "t:/2"])
        self.assertAlmostEqual(float(signed_areas(done.pieces[0].path).sum()), 175.0)
        self.assertEqual(rules(done), [])

    def test_a_row_of_letters_becomes_one_piece(self):
        row = document(*(circle(10 + 8 * i, 20, 5) for i in range(12)))
        done = mend_where(row, lambda f: f.safe, Conditions()).document
        self.assertEqual(len(done.pieces), 1)
        self.assertEqual(rules(done), [])

    def test_a_bow_tie_keeps_what_it_paints_under_either_rule(self):
        star = Path.from_points(
            20 + 10 * np.array([[np.sin(k * 2.5132741), -np.cos(k * 2.5132741)] for k in range(5)]), True
        )
        for rule in ("nonzero", "evenodd"):
            made = document(star, fill_rule=rule)
            box = (10.0, 10.0, 30.0, 30.0)
            before = painted_area([(star, rule)], box, 0.001)
            done = mend_where(made, lambda f: f.safe, Conditions()).document.pieces[0]
            self.assertAlmostEqual(painted_area([(done.path, rule)], box, 0.001), before, 3)
            self.assertEqual(rules(document(done.path)), [])

    def test_what_would_look_different_is_not_done_unasked(self):
        stroke = Stroke("#c2361f", 0.4)
        for name, looks, mendable, safe in (
            ("filled alike", {}, True, True),
            ("with strokes", {"stroke": stroke}, True, False),
            ("half transparent", {"opacity": 0.5}, True, False),
            ("bare lines", {"fill": None, "stroke": stroke}, False, False),
        ):
            with self.subTest(name):
                found = check(document(square(), square(5, 5), **looks))
                self.assertEqual([(f.mendable, f.safe) for f in found], [(mendable, safe)])

    def test_two_colours_are_not_welded_unasked(self):
        made = document(square(), square(5, 5))
        other = replace(made.pieces[1], fill=Fill("#c2361f"))
        self.assertEqual([f.safe for f in check(replace(made, pieces=(made.pieces[0], other)))], [False])


class Safety(unittest.TestCase):
    def test_a_dot_that_is_seen_is_not_taken_away_unasked(self):
        dot = {"fill": None, "stroke": Stroke("#000000", 1.0, cap="round")}
        found = check(document(DOT, **dot))
        self.assertEqual([(f.rule, f.mendable, f.safe) for f in found], [("stray-node", True, False)])

    def test_a_background_is_taken_only_when_asked(self):
        made = document(PAGE, square(20, 20))
        self.assertEqual(mend_where(made, lambda f: f.safe, Conditions()).taken, ())
        done = mend_where(made, lambda f: True, Conditions()).document
        self.assertEqual([p.path for p in done.pieces], [square(20, 20)])


def square_open(gap: float) -> Path:
    return Path.from_points(np.array([[0, 0], [10, 0], [10, 10], [0, 10], [0, gap]]), closed=False)


def cross() -> Path:
    return Path.concatenate(
        [Path.from_points(np.array(p, float), False) for p in ([[0, 0], [10, 10]], [[0, 10], [10, 0]])]
    )


def loop() -> Path:
    return Path.from_points(np.array([[0, 0], [20, 20], [20, 0], [0, 15.0]]), closed=False)


class BeyondThePage(unittest.TestCase):
    BEYOND = document(square(10, 10, 20), square(190, 10, 30), square(-60, 120, 20))

    def test_the_page_is_made_larger_first(self):
        found = [f for f in check(self.BEYOND) if f.rule == "outside-sheet"]
        self.assertEqual([(f.mendable, f.safe) for f in found], [(True, False)] * 2)
        made = mend_where(self.BEYOND, lambda f: f.rule == "outside-sheet", Conditions()).document
        # From 60 mm left of the page to 20 mm right of it, and 40 mm below.
        self.assertEqual((made.page.width_mm, made.page.height_mm, len(made.pieces)), (280, 140, 3))
        self.assertEqual(made.box, (0, 10, 280, 140))
        self.assertEqual([f.rule for f in check(made) if f.rule == "outside-sheet"], [])

    def test_or_what_lies_beyond_goes(self):
        made = mend_where(self.BEYOND, lambda f: f.rule == "outside-sheet", Conditions(), "take-away").document
        self.assertEqual((made.page, [p.id for p in made.pieces]), (self.BEYOND.page, ["t:/0"]))


class NearlyClosed(unittest.TestCase):
    """A line that stops short of its start by more than the tolerance looks closed and is not."""

    @staticmethod
    def open_by(gap: float, **looks) -> Document:
        side = [[10, 10], [50, 10], [50, 50], [10, 50], [10, 10 + gap]]
        return document(Path.from_points(np.array(side, float), closed=False), circle(80, 80, 9), **looks)

    def test_it_is_found_and_closed_once_looked_at(self):
        for gap in (0.3, 1.0, 3.0, 7.0):
            for looks in ({}, {"fill": None}):
                with self.subTest(gap, **looks):
                    made = self.open_by(gap, **looks)
                    found = check(made)
                    self.assertEqual([(f.rule, f.mendable, f.safe) for f in found], [("open-path", True, False)])
                    self.assertAlmostEqual(found[0].measure["gap_mm"], gap, 3)
                    answer = verdict(made, Conditions(), found)
                    self.assertEqual((answer.holds, "One outline does not close" in answer.sentence), (False, True))
                    after = mend_where(made, lambda f: f.rule == "open-path", Conditions()).document
                    self.assertTrue(after.pieces[0].path.closed.all())
                    self.assertAlmostEqual(abs(signed_areas(after.pieces[0].path)[0]), 1600.0, 6)

    def test_what_is_open_by_more_is_meant_or_only_told(self):
        self.assertEqual(rules(self.open_by(20.0, fill=None)), [])
        (found,) = check(self.open_by(20.0))
        self.assertEqual((found.rule, found.mendable), ("open-path", False))
        short = Path.from_points(np.array([[0.0, 0.0], [2.0, 1.0]]), closed=False)
        self.assertEqual(rules(document(short, square(50, 50, 20), fill=None)), [])

    def test_loose_lines_that_make_up_one_outline(self):
        ends = [((10, 10), (50, 10)), ((50, 10), (50, 50)), ((50, 50), (10, 50)), ((10, 50), (10, 10.4))]
        lines = [Path.from_points(np.array(pair, float), closed=False) for pair in ends]
        made = document(*lines, fill=None)
        self.assertIn("4 lines that make up one outline", " ".join(f.message for f in check(made)))
        after = mend_where(made, lambda f: f.rule == "open-path", Conditions()).document
        self.assertEqual([(len(p.path), bool(p.path.closed[0])) for p in after.pieces], [(1, True)])

    def test_hatching_is_no_outline(self):
        rows = [Path.from_points(np.array([[10.0, y], [60.0, y]]), closed=False) for y in (10, 11.5, 13, 14.5)]
        self.assertEqual(rules(document(*rows, fill=None)), [])


class ThinRings(unittest.TestCase):
    """A ring that is too thin all along is told of once, with its length."""

    @staticmethod
    def star(points: int, outer: float, inner: float) -> Path:
        angle = np.arange(2 * points) * np.pi / points
        reach = np.where(np.arange(2 * points) % 2, inner, outer)
        return Path.from_points(50 + np.column_stack([np.cos(angle), np.sin(angle)]) * reach[:, None], closed=True)

    def test_an_uneven_one_is_one_finding(self):
        ring = Path.concatenate([self.star(6, 30, 15), self.star(6, 29.6, 14.84).reversed()])
        (found,) = check(document(ring))
        self.assertEqual(found.rule, "thin-strip")
        self.assertGreater(found.measure["length_mm"], 200)

    def test_an_even_one_is_one_line_drawn_by_both_its_sides(self):
        for width, level in ((0.2, Level.SPOILS), (0.5, Level.NOTE), (0.95, Level.NOTE)):
            ring = Path.concatenate([circle(50, 50, 20), circle(50, 50, 20 - width).reversed()])
            pair = document(circle(50, 50, 20), circle(50, 50, 20 - max(width, 0.3)), fill=None)
            for made in (document(ring), pair):
                (found,) = check(made)
                self.assertEqual(found.rule, "double-outline")
                self.assertAlmostEqual(found.measure["length_mm"], 2 * np.pi * (20 - width / 2), delta=0.5)
            self.assertEqual(check(document(ring))[0].level, level)

    def test_where_the_material_bears_it_a_ring_is_meant(self):
        ring = Path.concatenate([circle(50, 50, 20), circle(50, 50, 19.3).reversed()])
        vinyl = Conditions(material=material_of("adhesive-vinyl"))
        self.assertEqual(check(document(ring), vinyl), ())
