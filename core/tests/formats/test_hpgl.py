"""HP-GL against its published reference (HP-GL/2 and HP RTL reference guide): 40 units a millimetre, y up."""

import unittest

import numpy as np

from hakobu import formats
from hakobu.formats import ReadOptions, WriteOptions, hpgl
from hakobu.formats.hpgl.reader import numbers_of
from hakobu.geometry import ARC, CUBIC, bounds, lengths
from hakobu.geometry.measure import signed_areas
from hakobu.model import Treatment

from ..shapes import blob, circle, document, square


def read(text: str, height: float = 100.0):
    return hpgl.FORMAT.read(text.encode("latin-1"), ReadOptions(page_height_mm=height))


def write(made) -> str:
    return hpgl.FORMAT.write(made, WriteOptions()).data.decode("ascii")


class Written(unittest.TestCase):
    def test_a_square_to_the_letter(self):
        text = write(document(square(10, 20, 5)))
        self.assertEqual(
            text.split(), ["IN;PA;", "SP1;", "PU400,3200;PD600,3200,600,3000,400,3000,400,3200;", "PU;SP0;IN;"]
        )

    def test_every_point_on_the_grid_lies_within_half_a_step(self):
        back = read(write(document(blob().outline(0))))
        self.assertLessEqual(
            np.abs(np.array(bounds(back.document.pieces[0].path)) - bounds(blob().outline(0))).max(), 0.0125 + 0.007
        )

    def test_drawn_and_scored_before_cut_each_with_its_pen(self):
        made = document(square()).with_layers({})
        layers = tuple(
            type(made.layers[0])(t.value, t.value, "#000000", t)
            for t in (Treatment.CUT, Treatment.PRINT, Treatment.DRAW, Treatment.LEAVE_OUT, Treatment.SCORE)
        )
        piece = made.pieces[0]
        pieces = tuple(type(piece)(x.id, piece.path, x.id) for x in layers)
        written = hpgl.FORMAT.write(type(made)(made.page, layers, pieces), WriteOptions())
        self.assertEqual(written.notes, ("pen 1: draw, draw", "pen 2: score, score", "pen 3: cut, cut"))
        self.assertEqual(written.data.count(b"SP"), 4)

    def test_long_lines_are_broken_into_instructions(self):
        text = write(document(circle(50, 50, 45)))
        longest = max(part.count(",") for part in text.split(";"))
        self.assertLess(longest, 240)
        self.assertEqual(len(read(text).document.pieces), 1)


class Numbers(unittest.TestCase):
    def test_whatever_parts_them(self):
        table = {
            "1,2": ([1, 2], False),
            " 1 -2,+3.5\r\n": ([1, -2, 3.5], False),
            "1-2+3": ([1, -2, 3], False),
            "1e2,5": ([100, 5], False),
            "": ([], False),
            "1,,2": ([1, 2], False),
            "1,x2": ([1, 2], True),
            "1_0": ([1, 0], True),
            "nan": ([], True),
        }
        for text, found in table.items():
            self.assertEqual(numbers_of(text), found, text)

    def test_many_moves_of_one_instruction_are_each_followed(self):
        points = [(k * 10, k % 7 * 40) for k in range(1, 40)]
        absolute = "IN;SP1;PU0,0;PD" + ",".join(f"{x},{y}" for x, y in points) + ";PU;"
        steps = [(x - u, y - v) for (x, y), (u, v) in zip(points, [(0, 0), *points], strict=False)]
        relative = "IN;SP1;PU0,0;PR;PD" + ",".join(f"{x},{y}" for x, y in steps) + ";PU;"
        paths = [read(text).document.pieces[0].path for text in (absolute, relative)]
        self.assertEqual(paths[0].segment_count, len(points))
        np.testing.assert_allclose(paths[0].ctrl, paths[1].ctrl, atol=1e-12)


class Read(unittest.TestCase):
    def lines(self, text: str) -> list:
        return [np.round(p.path.ctrl[:, [0, 3]].reshape(-1, 2), 4).tolist() for p in read(text).document.pieces]

    def test_up_down_absolute_relative(self):
        self.assertEqual(self.lines("IN;PU400,400;PD800,400;PU;"), [[[10, 90], [20, 90]]])
        self.assertEqual(self.lines("PU400,400;PR;PD400,0;PU"), [[[10, 90], [20, 90]]])
        self.assertEqual(self.lines("pu 400 400 pd 800 400 pu"), [[[10, 90], [20, 90]]])
        self.assertEqual(self.lines("PA400,400;PD;PA800,400;PU;PD;PU;")[0], [[10, 90], [20, 90]])

    def test_a_stroke_back_to_its_start_is_closed(self):
        made = read("PU0,0;PD400,0,400,400,0,0;PU;").document
        self.assertEqual(made.pieces[0].path.closed.tolist(), [True])

    def test_pens_are_layers(self):
        made = read("SP2;PU0,0;PD40,0;SP1;PU0,40;PD40,40;PU;").document
        self.assertEqual([x.name for x in made.layers], ["Pen 1", "Pen 2"])
        self.assertEqual([p.layer for p in made.pieces], ["pen-2", "pen-1"])

    def test_circles_and_arcs_stay_arcs(self):
        made = read("PU2000,2000;CI400;PU1000,0;PD;AA1000,1000,180;PU;").document
        self.assertEqual([set(p.path.kind.tolist()) for p in made.pieces], [{ARC}, {ARC}])
        np.testing.assert_allclose([lengths(p.path)[0] for p in made.pieces], [2 * np.pi * 10, np.pi * 25])
        np.testing.assert_allclose(bounds(made.pieces[1].path), (25, 50, 50, 100), atol=1e-9)

    def test_scaling_points_place_user_units(self):
        # IP gives the corners P1 and P2, SC what they are called.
        self.assertEqual(self.lines("IP400,400,4400,2400;SC0,100,0,50;PU0,0;PD100,50;PU;"), [[[10, 90], [110, 40]]])
        # Of the same size both ways, in the middle of the frame that is left.
        self.assertEqual(self.lines("IP0,0,4000,2000;SC0,10,0,10,1;PU0,0;PD10,10;PU;"), [[[25, 100], [75, 50]]])
        # So many plotter units to a user unit, from P1.
        self.assertEqual(self.lines("IP0,0,10,10;SC0,40,0,40,2;PU1,1;PD2,1;PU;"), [[[1, 99], [2, 99]]])
        self.assertEqual(self.lines("SC0,1,0,1,2;SC;PU40,40;PD80,40;PU;"), [[[1, 99], [2, 99]]])

    def test_rectangles_wedges_and_polygons(self):
        made = read(
            "PU400,400;EA800,600;PU0,0;ER400,400;PU2000,2000;EW400,0,90;PM0;PU0,0;PD40,0,40,40;PM2;EP;"
        ).document
        areas = [abs(float(signed_areas(p.path)[0])) for p in made.pieces]
        np.testing.assert_allclose(areas, [50, 100, np.pi * 25, 0.5], rtol=1e-9)

    def test_arcs_by_three_points_and_bezier_curves(self):
        made = read("PU400,0;PD;AT0,400,-400,0;PU;PU0,0;PD;RT400,400,800,0;PU;PU0,0;PD;BZ0,40,40,40,40,0;PU;").document
        np.testing.assert_allclose([lengths(p.path)[0] for p in made.pieces[:2]], [np.pi * 10] * 2, rtol=1e-9)
        self.assertEqual(made.pieces[2].path.kind.tolist(), [CUBIC])

    def test_encoded_polylines_by_hand(self):
        # Eight bits, base 64: 2 * 40 = 80 is the digits 16 and 1, "O" and the last one chr(191 + 1); zero is chr(191).
        forty, zero = chr(63 + 16) + chr(191 + 1), chr(191)
        minus = chr(63 + 17) + chr(191 + 1)
        self.assertEqual(
            self.lines(f"PE<={forty}{forty}{forty}{zero}{zero}{minus};PU;"), [[[1, 99], [2, 99], [2, 99], [2, 100]]]
        )
        # Seven bits, base 32: 80 is 16 and 2; a pen, and halves of units.
        seven = chr(63 + 16) + chr(95 + 2)
        made = read(f"PE7:{chr(95 + 4)}>{chr(95 + 2)}<={seven}{seven}{seven}{chr(95)};PU;").document
        self.assertEqual(made.layers[0].name, "Pen 2")
        np.testing.assert_allclose(made.pieces[0].path.ctrl[0, [0, 3]], [[0.5, 99.5], [1.0, 99.5]])

    def test_both_releases_are_the_same_strokes(self):
        design = document(blob().outline(0), circle(50, 50, 30), square(3, 3, 9))
        one, two = (hpgl.FORMAT.write(design, WriteOptions(release=r)).data for r in ("HP-GL", "HP-GL/2"))
        self.assertLess(len(two), 0.6 * len(one))
        options = ReadOptions(page_height_mm=100.0)
        for a, b in zip(*(hpgl.FORMAT.read(data, options).document.pieces for data in (one, two)), strict=True):
            self.assertEqual(a.path, b.path)

    def test_holes_belong_to_their_shape(self):
        made = read("PU0,0;PD400,0,400,400,0,400,0,0;PU100,100;PD200,100,200,200,100,200,100,100;PU;").document
        self.assertEqual([len(piece.path) for piece in made.pieces], [2])

    def test_a_label_may_end_as_the_file_says(self):
        made = read("DT@;LBPU0,0;PD9@;PU0,0;PD40,0;PU;")
        self.assertEqual((len(made.document.pieces), [f.rule for f in made.findings]), (1, ["live-text"]))

    def test_without_a_page_the_topmost_line_is_the_top(self):
        made = hpgl.FORMAT.read(b"IN;PU0,0;PD0,4000;PU;", ReadOptions()).document
        np.testing.assert_allclose(made.box, (0, 0, 0, 100))

    def test_what_is_not_followed_is_said(self):
        for text, rule, words in (
            ("LBHello\x03", "live-text", "Hello"),
            ("SC0,100,0,100;", "not-understood", "SC"),
            ("PE<=?;", "damaged", "PE"),
            ("IW0,0,10,10;", "not-understood", "IW"),
            ("RA40,40;", "taken-plainly", "filled"),
            ("LT2;", "taken-plainly", "LT"),
            ("QQ5;", "not-understood", "QQ"),
            ("PD5,?;", "damaged", "PD5,?"),
            ("PD5;", "damaged", "1 coordinates"),
            ("CI;", "damaged", "CI"),
            ("VS20;FS3;PW0.3;\x1b.(", None, ""),
        ):
            with self.subTest(text):
                found = read(f"IN;{text}PU0,0;PD40,0;PU;").findings
                self.assertEqual([f.rule for f in found], [rule] if rule else [])
                self.assertTrue(not rule or words in found[0].message, found)

    def test_it_is_recognised_by_what_is_in_it(self):
        self.assertEqual(formats.recognise("x", b"IN;PU0,0;PD40,0;").id, "hpgl")
        self.assertEqual(formats.recognise("x.plt", b"\x1b.(;IN;SP1;").id, "hpgl")
