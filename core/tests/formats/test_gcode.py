"""G-code against its published report (NISTIR 6556): its words, its arcs, and a whole program as printed there."""

import math
import unittest

import numpy as np

from hakobu.formats import ReadOptions, WriteOptions, gcode, recognise
from hakobu.geometry import ARC, bounds, lengths
from hakobu.geometry.measure import signed_areas
from hakobu.model import Treatment

from ..shapes import blob, circle, document, square


def read(text: str, height: float | None = 100.0):
    return gcode.FORMAT.read(text.encode(), ReadOptions(page_height_mm=height))


def ends(text: str) -> list:
    return [np.round(p.path.ctrl[:, [0, 3]].reshape(-1, 2), 4).tolist() for p in read(text).document.pieces]


LINE = [[[10, 90], [20, 90]]]


class Read(unittest.TestCase):
    def test_absolute_relative_inches_and_millimetres(self):
        for text in (
            "G21 G90 G0 X10 Y10\nG1 X20 F100",
            "g21g90\n g0 x1 0 y10\n g1 x+20.",
            "N10 G21\nN20 G0X10Y10\nN30 G91 G1 X10",
            "G20 G0 X.393700787 Y.393700787\nG1 X.787401575",
            "%\n(a comment G1 X99)\nG0 X10 Y10 ; G1 X98\n/G1 X20 (to the end)\nM2\n%",
            "G0 X20 Y20\nG92 X0 Y0\nG0 X-10 Y-10\nG1 X0",
        ):
            with self.subTest(text):
                self.assertEqual(ends(text), LINE)

    def test_arcs_by_centre_and_by_radius(self):
        for arc, length in (
            ("G3 X0 Y10 I-10 J0", math.pi * 5),
            ("G2 X0 Y10 I-10 J0", math.pi * 15),
            ("G3 X0 Y10 R10", math.pi * 5),
            ("G3 X0 Y10 R-10", math.pi * 15),
            ("G90.1 G3 X0 Y10 I0 J0", math.pi * 5),
            ("G3 X10 Y0 I-10", math.pi * 20),
        ):
            with self.subTest(arc):
                (piece,) = read(f"G21 G0 X10 Y0\n{arc}").document.pieces
                self.assertEqual(set(piece.path.kind.tolist()), {ARC})
                self.assertAlmostEqual(float(lengths(piece.path)[0]), length, places=6)

    def test_a_tool_works_below_its_clearance(self):
        self.assertEqual(ends("G0 Z5\nG0 X10 Y10\nG1 Z-1\nG1 X20\nG0 Z5\nG1 X50 Y50"), LINE)

    def test_a_beam_works_while_it_is_on(self):
        self.assertEqual(ends("M5\nG1 X10 Y10\nM3 S500\nG1 X20\nM5\nG1 X50 Y50"), LINE)
        self.assertEqual(ends("M4 S0\nG1 X10 Y10\nG1 X20 S500\nG1 X50 Y50 S0"), LINE)

    def test_passes_at_several_depths_are_one_line_each(self):
        text = "G0 Z5\nG0 X10 Y10\n" + "".join(f"G1 Z-{k}\nG1 X20 Y10\nG0 Z5\nG0 X10 Y10\n" for k in (1, 2, 3))
        self.assertEqual(ends(text), LINE)
        self.assertIn("up to 3 times", read(text).findings[0].message)
        # The same line twice at one depth is a fault of the design, and stays.
        self.assertEqual(len(read(text.replace("Z-2", "Z-1").replace("Z-3", "Z-1")).document.pieces), 3)

    def test_tools_and_powers_are_layers(self):
        made = read("T1\nG0 X0 Y0\nM3 S100\nG1 X5\nM5\nT2\nG0 X0 Y5\nM3 S900\nG1 X5\nM5").document
        self.assertEqual([layer.name for layer in made.layers], ["Tool 1, power 100", "Tool 2, power 900"])

    def test_what_is_not_followed_is_said(self):
        for text, rule, words in (
            ("G81 X5 Y5 Z-1 R2", "not-understood", "G81"),
            ("G1 X[1+2]", "damaged", "line 2"),
            ("#1=5", "damaged", "line 2"),
            ("G2 X5 Y5 R1", "damaged", "no circle fits"),
            ("G2 X5 Y5 I1 J9", "damaged", "off its circle"),
            ("G18", "not-understood", "G18"),
            ("G54 G64 M8 F200 G4 P2", None, ""),
        ):
            with self.subTest(text):
                found = read(f"G0 X0 Y0\n{text}\nG1 X10").findings
                self.assertEqual([f.rule for f in found], [rule] if rule else [])
                self.assertTrue(not rule or words in found[0].message, found)

    def test_a_program_of_the_report(self):
        # NISTIR 6556, section 3.5.3: the arc of more than a semicircle with R, in the XY plane, seen from above.
        made = read("G17 G20\nG0 X0 Y0 Z1\nG1 Z0\nG2 X1.0 Y1.5 R2.0 F10\nG0 Z1", None).document
        (piece,) = made.pieces
        chord = math.hypot(1.0, 1.5) * 25.4
        self.assertAlmostEqual(float(lengths(piece.path)[0]), 2 * math.asin(chord / 2 / 50.8) * 50.8, places=4)

    def test_it_is_recognised_by_what_is_in_it(self):
        for text in (b"%\nO1000\nG21\n", b"(made)\nN1 G0 X0\n", b"; hello\nG90\n", b"M3 S10\nG1X2\n"):
            self.assertEqual(recognise("x.txt", text).id, "gcode")
        self.assertEqual(recognise("x.txt", b"IN;PU0,0;PD40,0;").id, "hpgl")


class Written(unittest.TestCase):
    def test_what_is_written_is_read_as_it_was(self):
        design = document(blob().outline(0), circle(60, 60, 20), square(85, 3, 9))
        for release in gcode.RELEASES:
            with self.subTest(release):
                text = gcode.FORMAT.write(design, WriteOptions(release=release, title="A (b)")).data.decode()
                back = read(text).document
                self.assertEqual(len(back.pieces), 3)
                self.assertEqual(sum(piece.path.is_circle.all() for piece in back.pieces), 1)
                # They run in a short order: the same from left to right.
                pairs = (sorted(each.pieces, key=lambda p: bounds(p.path)[0]) for each in (design, back))
                for a, b in zip(*pairs, strict=True):
                    np.testing.assert_allclose(bounds(a.path), bounds(b.path), atol=0.008)
                    np.testing.assert_allclose(signed_areas(a.path), signed_areas(b.path), rtol=2e-4)

    def test_each_layer_has_a_tool(self):
        made = document(square(), treatment=Treatment.SCORE)
        written = gcode.FORMAT.write(made, WriteOptions())
        self.assertEqual(written.notes, ("tool 1: Layer, score",))
        self.assertIn(b"T1\n", written.data)

    def test_a_tool_is_up_between_strokes_and_at_the_end(self):
        text = gcode.FORMAT.write(document(square(), circle(50, 50, 5)), WriteOptions(release="height")).data.decode()
        self.assertEqual(text.count("G1 Z-0.5"), 2)
        self.assertEqual(text.splitlines()[-2:], ["G0 Z5", "M2"])
