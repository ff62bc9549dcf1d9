"""Sizes, distances between letters, and what letters stand on, against closed forms and shapely."""

import math
import unittest

import numpy as np
import shapely
from shapely import affinity

from hakobu.errors import BadRequest, CannotDo
from hakobu.geometry import Path, bounds, flatten, primitives, rotation, transform
from hakobu.lettering.baseline import OnOutline, Round, Straight
from hakobu.lettering.contact import contact
from hakobu.lettering.face import EM_MM
from hakobu.lettering.layout import Moved, Spacing, em_of, laid_out, set_at
from hakobu.lettering.setting import plain_text, set_line

from .faces import face


def polygon(path: Path):
    chords = flatten(path, 1e-3)
    shapes = [shapely.Polygon(chords.outline(k)) for k in range(len(chords))]
    made = shapely.Polygon()
    for shape in shapes:
        made = made.symmetric_difference(shape.buffer(0))
    return made


def lines(*texts: str):
    return [set_line(face("sans"), text) for text in texts]


class Sizes(unittest.TestCase):
    def test_every_size_is_what_it_says(self):
        for by, text, measured in (
            ("capitals", "H", lambda b: b[3] - b[1]),
            ("x", "x", lambda b: b[3] - b[1]),
            ("whole", "Agjy", lambda b: b[3] - b[1]),
            ("width", "Kettle", lambda b: b[2] - b[0]),
        ):
            for spacing in (Spacing(), Spacing(1.5), Spacing(-0.4, True)):
                em = em_of(face("sans"), lines(text), by, 37.0, spacing)
                laid = laid_out(set_at(lines(text), em, spacing), Straight((0, 0)))
                box = bounds(Path.concatenate(each.path for each in laid))
                self.assertAlmostEqual(measured(box), 37.0, places=6, msg=(by, spacing))

    def test_a_size_that_cannot_be_is_refused(self):
        with self.assertRaisesRegex(CannotDo, "more than the whole width"):
            em_of(face("sans"), lines("Kettle"), "width", 10.0, Spacing(5.0))
        with self.assertRaisesRegex(CannotDo, "no size of their own"):
            em_of(face("sans"), lines("  "), "width", 10.0, Spacing())
        with self.assertRaisesRegex(CannotDo, "far larger than any sheet"):
            em_of(face("sans"), lines("."), "whole", 19_000.0, Spacing())

    def test_lines_stand_below_each_other_and_against_a_side(self):
        for align, share in (("left", 0.0), ("centre", 0.5), ("right", 1.0)):
            made = set_at(lines("wide line", "it"), 20.0, Spacing(line=1.5), align)
            laid = laid_out(made, Straight((0, 0)))
            wide, short = (bounds(Path.concatenate(e.path for e in laid if e.line == n)) for n in (0, 1))
            free = (wide[2] - wide[0]) - (short[2] - short[0])
            self.assertAlmostEqual(short[0] - wide[0], share * free, places=6)
            i = next(e for e in laid if e.line == 1 and e.letter.text == "t")
            self.assertAlmostEqual(bounds(i.path)[3], 30.0, delta=0.4)


class Between(unittest.TestCase):
    def test_letters_just_touch_at_their_contact(self):
        for left, right in ("AV", "LT", "oo", "rt", "Kg", "ij", "To"):
            a, b = (set_line(face("sans"), letter).letters[0].path for letter in (left, right))
            at = contact(a, b)
            one, two = polygon(a), polygon(b)
            nearer = affinity.translate(two, at - 0.02)
            beside = affinity.translate(two, at + 0.02)
            self.assertGreater(one.intersection(nearer).area, 0, left + right)
            self.assertEqual(one.intersection(beside).area, 0, left + right)

    def test_letters_without_a_common_height_meet_at_their_boxes(self):
        a, b = (set_line(face("sans"), letter).letters[0].path for letter in ("_", "'"))
        self.assertAlmostEqual(contact(a, b), bounds(a)[2] - bounds(b)[0])

    def test_an_overlap_is_kept_along_the_baseline_at_any_size(self):
        for em in (10.0, 80.0):
            laid = laid_out(set_at(lines("HHH"), em, Spacing(-0.4, True)), Straight((0, 0)))
            boxes = [bounds(each.path) for each in laid]
            for before, after in zip(boxes, boxes[1:], strict=False):
                self.assertAlmostEqual(before[2] - after[0], 0.4, places=6)

    def test_blanks_stay_between_words(self):
        space = set_line(face("sans"), "H H").letters[1].advance
        laid = laid_out(set_at(lines("H H"), EM_MM, Spacing(1.0, True)), Straight((0, 0)))
        first, last = (bounds(each.path) for each in laid)
        self.assertAlmostEqual(last[0] - first[2], space + 1.0, places=6)


class Baselines(unittest.TestCase):
    def test_feet_stand_on_a_circle_and_heads_away_from_it_or_to_its_middle(self):
        for inside in (False, True):
            laid = laid_out(set_at(lines("HHHHH"), 5.0, Spacing()), Round((10, 20), 40.0, 0.3, inside))
            for each in laid:
                far = np.hypot(*(each.path.ctrl[:, 0] - (10, 20)).T)
                nodes = np.sort(far)
                # H is a rectangle of strokes: its feet lie beside the tangent, its heads so high above.
                height = face("sans").capitals * 5 / EM_MM
                self.assertAlmostEqual(nodes[0 if not inside else -1], 40.0, delta=0.25)
                self.assertAlmostEqual(abs(nodes[-1 if not inside else 0] - 40.0), height, delta=0.25)

    def test_letters_on_a_circle_are_as_far_apart_along_it_as_on_a_line(self):
        made = set_at(lines("HHH"), 6.0, Spacing())
        straight = [np.mean(bounds(e.path)[::2]) for e in laid_out(made, Straight((0, 0)))]
        turned = laid_out(made, Round((0, 0), 50.0))
        middles = [np.mean(e.path.ctrl[:, 0], axis=0) for e in turned]
        angles = [math.atan2(x, -y) for x, y in middles]
        np.testing.assert_allclose(np.diff(angles) * 50.0, np.diff(straight), atol=1e-6)

    def test_an_outline_is_followed_at_a_distance_whichever_way_it_runs(self):
        square = primitives.rectangle(0, 0, 100, 100)
        for path in (square, square.reversed()):
            (on, off) = (
                laid_out(set_at(lines("H"), 10.0, Spacing()), OnOutline(path, out, 0.125))[0].path for out in (0.0, 3.0)
            )
            self.assertAlmostEqual(bounds(on)[3], 0.0, places=6)
            self.assertAlmostEqual(bounds(off)[3], -3.0, places=6)
        (within,) = laid_out(set_at(lines("H"), 10.0, Spacing()), OnOutline(square, 0.0, 0.875, True))
        self.assertGreaterEqual(bounds(within.path)[1], -1e-9)

    def test_beyond_the_ends_of_a_line_it_goes_on_straight(self):
        line = Path.from_points(np.array([(0.0, 0.0), (10.0, 0.0)]), closed=False)
        laid = laid_out(set_at(lines("HHHHHH"), 10.0, Spacing()), OnOutline(line, start=0.5))
        for each in laid:
            self.assertAlmostEqual(bounds(each.path)[3], 0.0, places=6)
        self.assertLess(bounds(laid[0].path)[0], 0.0)

    def test_letters_moved_by_hand_move_alone(self):
        made = set_at(lines("HEH"), 20.0, Spacing())
        plain = laid_out(made, Straight((0, 0)))
        moved = laid_out(made, Straight((0, 0)), moved={("H", 2): Moved(3.0, 2.0, math.pi / 2)})
        self.assertEqual([a.path == b.path for a, b in zip(plain, moved, strict=True)], [True, True, False])
        middle = plain[2].letter.advance * 20 / EM_MM / 2
        box = bounds(transform(plain[2].path, rotation(math.pi / 2)))
        self.assertAlmostEqual(bounds(moved[2].path)[3] - bounds(moved[2].path)[1], box[3] - box[1], places=6)
        self.assertGreater(middle, 0)


class Texts(unittest.TestCase):
    def test_what_is_no_text_is_refused_with_a_sentence(self):
        for text, said in (
            ("", "nothing to set"),
            (" \n ", "nothing to set"),
            ("a\x07", "control"),
            ("x" * 10_001, "10,000"),
        ):
            with self.assertRaisesRegex(BadRequest, said):
                plain_text(text)

    def test_line_ends_tabs_and_composed_letters_are_plain(self):
        self.assertEqual(plain_text("a\r\nb\tc\re\u0301"), "a\nb c\n\u00e9")
