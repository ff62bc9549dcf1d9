"""A file of HP-GL as strokes that can be sent one by one."""

from __future__ import annotations

import unittest
from dataclasses import replace

from hakobu.errors import CannotDo
from hakobu.formats import WriteOptions
from hakobu.machines.sending.hpgl_strokes import POINTS, parsed
from hakobu.model import Treatment
from hakobu.pipeline import write_for
from hakobu.toolpaths import Plan
from tests.shapes import circle, square
from tests.toolpaths.worked import KNIFE, design


class Strokes(unittest.TestCase):
    def test_each_has_the_words_that_hold_for_it(self):
        head, strokes, tail = parsed(
            "IN;PA;SP1;VS30;FS80;PU0,0;PD10,0,10,10;FS90;PU5,5;PD6,6;SP2;VS10;FS40;PU0,0;VS5;PD9,0;VS10;PD9,9;PU;SP0;IN;"
        )
        self.assertEqual((head, tail), ("IN;PA;", "PU;SP0;IN;"))
        self.assertEqual([stroke.setup for stroke in strokes], ["SP1;VS30;FS80;", "FS90;", "SP2;VS10;FS40;"])
        self.assertEqual([stroke.state for stroke in strokes], ["SP1;VS30;FS80;", "SP1;VS30;FS90;", "SP2;VS10;FS40;"])
        self.assertEqual(strokes[2].parts, ((("VS5;", ()), ("", ((9, 0),)), ("VS10;", ()), ("", ((9, 9),))),))

    def test_parts_hold_no_place_twice_and_all_places_in_order(self):
        machine = replace(KNIFE, passes=2, force_g=60.0, pass_force_g=20.0, corner_percent=50.0, speed_mm_s=100.0)
        document = design(square(20, 20, 30), circle(80, 60, 10), treatment=Treatment.CUT)
        data = write_for(document, "hpgl", WriteOptions(plan=Plan(machine))).written.data.decode()
        _, strokes, _ = parsed(data)
        self.assertEqual(len(strokes), 4)
        for stroke in strokes:
            last = stroke.start
            for part in stroke.parts:
                own = [last, *(place for _, places in part for place in places)]
                self.assertEqual(len(own), len(set(own)))
                self.assertLessEqual(len(own), POINTS)
                last = own[-1]
            self.assertEqual(last, stroke.start)

    def test_what_is_not_told_stroke_by_stroke_is_refused(self):
        for text in ("PU0,0;AA5,5,90;", "PE<=Ab;", "PU0,0;PD1,1;!"):
            with self.assertRaisesRegex(CannotDo, "cannot be sent"):
                parsed(text)
