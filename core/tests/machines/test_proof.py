"""The proof against deviations, strokes and lines that were put in on purpose."""

import math
import unittest
from dataclasses import replace

from hakobu.errors import BadRequest
from hakobu.formats import ReadOptions, WriteOptions, by_id
from hakobu.geometry import Path, transform, translation
from hakobu.lists import Lists
from hakobu.machines import PROFILES
from hakobu.machines.proof import compare
from hakobu.model import Document, Treatment

from ..shapes import blob, circle, document, square

DESIGN = document(square(10, 10, 30), circle(100, 50, 20), blob())
HPGL = by_id("hpgl")


def proven(data: bytes, design: Document = DESIGN):
    back = HPGL.read(data, ReadOptions(page_height_mm=design.frame[1])).document
    return compare(back, design, HPGL.precision_mm)


def lines(data: bytes) -> list[bytes]:
    return data.splitlines(keepends=True)


class Deviation(unittest.TestCase):
    def test_of_our_own_file_it_is_within_the_grid(self):
        for design in (DESIGN, document(circle(33.333, 44.444, 0.2)), document(circle(90, 50, 49))):
            proof = proven(HPGL.write(design, WriteOptions()).data, design)
            self.assertTrue(proof.holds)
            self.assertLessEqual(proof.max_deviation_mm, 0.025)

    def test_of_a_moved_copy_it_is_the_way_moved(self):
        for away in (0.01, 0.3, 5.0):
            piece = DESIGN.pieces[0]
            copy = replace(DESIGN, pieces=(replace(piece, path=transform(piece.path, translation(away, 0))),))
            proof = compare(copy, replace(DESIGN, pieces=(piece,)), 0.025)
            self.assertAlmostEqual(proof.max_deviation_mm, away, 4)

    def test_it_is_the_larger_of_both_ways(self):
        # A square is nowhere far from its circle of the same centre, but its corners are.
        big, small = document(square(0, 0, 20)), document(circle(10, 10, 10))
        for a, b in ((big, small), (small, big)):
            self.assertAlmostEqual(compare(a, b, 0.025).max_deviation_mm, math.hypot(10, 10) - 10, 2)

    def test_its_place_is_where_it_is(self):
        piece = DESIGN.pieces[0]
        points = piece.path.ctrl[:, 0].copy()
        points[2] += 0.4
        bent = replace(piece, path=Path.from_points(points, True))
        proof = compare(replace(DESIGN, pieces=(bent,)), replace(DESIGN, pieces=(piece,)), 0.025)
        self.assertLess(math.dist(proof.place, (40.2, 40.2)), 1)

    def test_both_empty_is_no_deviation(self):
        proof = compare(Document(), Document(), 0.025)
        self.assertIsNone(proof.max_deviation_mm)
        self.assertTrue(proof.holds)

    def test_one_empty_lacks_everything(self):
        proof = compare(Document(), DESIGN, 0.025)
        self.assertEqual((proof.missing, proof.extra, proof.holds), (5, 0, False))
        self.assertIsNone(proof.as_json()["max_deviation_mm"])

    def test_what_no_tool_follows_is_not_compared(self):
        printed = document(square(), treatment=Treatment.PRINT)
        self.assertIsNone(compare(Document(), printed, 0.025).max_deviation_mm)


class Strokes(unittest.TestCase):
    """Every stroke that is taken out, and every one that is put in, shows."""

    def test_each_stroke_taken_out_is_missing(self):
        rows = lines(HPGL.write(DESIGN, WriteOptions()).data)
        for i, row in enumerate(rows):
            if b"PD" not in row:
                continue
            with self.subTest(row[:30]):
                proof = proven(b"".join(rows[:i] + rows[i + 1 :]))
                self.assertEqual((proof.missing, proof.extra, proof.holds), (1, 0, False))
                self.assertEqual(len(proof.missing_outlines), 1)

    def test_a_stroke_put_in_is_extra(self):
        data = HPGL.write(DESIGN, WriteOptions()).data.replace(b"PU;SP0", b"PU4000,400;PD4400,400;PU;SP0")
        proof = proven(data)
        self.assertEqual((proof.missing, proof.extra, proof.holds), (0, 1, False))

    def test_one_of_two_lines_in_one_place_is_missed_as_well(self):
        for copies in (2, 3):
            design = document(square(10, 10, 30), *[circle(100, 50, 20)] * copies)
            rows = lines(HPGL.write(design, WriteOptions()).data)
            self.assertTrue(proven(b"".join(rows), design).holds)
            proof = proven(b"".join(rows[:-2] + rows[-1:]), design)
            self.assertEqual((proof.missing, proof.extra), (1, 0))
            self.assertLess(proof.max_deviation_mm, 0.025)

    def test_a_line_cut_once_too_often_is_extra(self):
        rows = lines(HPGL.write(DESIGN, WriteOptions()).data)
        stroke = next(row for row in rows if b"PD" in row)
        self.assertEqual(proven(b"".join([*rows[:-1], stroke, rows[-1]])).extra, 1)

    def test_half_a_stroke_is_missing_too(self):
        rows = lines(HPGL.write(document(square(10, 10, 30)), WriteOptions()).data)
        half = b"".join(rows).replace(b",400,2400,400,3600;", b";")
        self.assertEqual(proven(half, document(square(10, 10, 30))).missing, 1)

    def test_one_stroke_in_two_parts_is_whole(self):
        data = b"IN;PU400,3600;PD1600,3600,1600,2400;PU;PU1600,2400;PD400,2400,400,3600;PU;"
        self.assertTrue(proven(data, document(square(10, 10, 30))).holds)


class Profiles(unittest.TestCase):
    def test_two_machines_ship_and_their_formats_exist(self):
        self.assertEqual(len({m.id for m in PROFILES}), len(PROFILES))
        for machine in PROFILES:
            self.assertTrue(by_id(machine.format).is_machine)
        with self.assertRaisesRegex(BadRequest, "desk-cutter"):
            Lists().machine("nonsense")
