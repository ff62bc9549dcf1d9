"""Tables over FORMATS: every format that is read and written gives the design back."""

import unittest
from pathlib import Path

import numpy as np

from hakobu.formats import FORMATS, ReadOptions, WriteOptions, by_id, by_name, recognise
from hakobu.geometry import Path as Outlines
from hakobu.geometry import SegmentIndex, flatten
from hakobu.model import Document, HakobuError, Treatment

from ..shapes import blob, circle, document, square

DESIGNS = {
    "curves": document(blob().outline(0), circle(100, 50, 20)),
    "open lines and arcs": document(blob().outline(1), fill=None),
    "holes": document(Outlines.concatenate([square(10, 10, 40), square(20, 20, 10)]), fill_rule="evenodd"),
    "scored": document(square(3, 4, 50), treatment=Treatment.SCORE),
    "small and large": document(circle(1, 1, 0.3), square(0, 0, 90)),
}


class RoundTrips(unittest.TestCase):
    def test_every_line_comes_back_where_it_was(self):
        for format_ in (f for f in FORMATS if f.read and f.write):
            for name, design in DESIGNS.items():
                with self.subTest(f"{format_.id}, {name}"):
                    data = format_.write(design, WriteOptions(title="A & B <c>")).data
                    self.assertTrue(format_.looks_like(data))
                    back = format_.read(data, ReadOptions(page_height_mm=design.frame[1])).document
                    a, b = (Outlines.concatenate(p.path for p in d.pieces) for d in (design, back))
                    self.assertEqual((len(a), a.closed.tolist()), (len(b), b.closed.tolist()))
                    there = SegmentIndex(flatten(b, 1e-4), 0.2).nearest(flatten(a, 1e-4, 0.1).points)[0].max()
                    again = SegmentIndex(flatten(a, 1e-4), 0.2).nearest(flatten(b, 1e-4, 0.1).points)[0].max()
                    limit = format_.precision_mm if format_.is_machine else 0.001
                    self.assertLessEqual(max(there, again), limit)

    def test_svg_keeps_paint_names_layers_and_treatments(self):
        svg = by_id("svg")
        design = DESIGNS["scored"]
        back = svg.read(svg.write(design, WriteOptions()).data, ReadOptions()).document
        self.assertEqual((back.layers[0].name, back.layers[0].treatment), ("Layer", Treatment.SCORE))
        self.assertEqual((back.pieces[0].fill, back.page), (design.pieces[0].fill, design.page))

    def test_svg_keeps_arcs_as_arcs(self):
        svg = by_id("svg")
        back = svg.read(svg.write(document(circle(5, 5, 3)), WriteOptions()).data, ReadOptions()).document
        self.assertTrue(back.pieces[0].path.is_circle.all())

    def test_what_is_left_out_is_hidden_in_svg_and_absent_from_machine_files(self):
        out = document(square(), treatment=Treatment.LEAVE_OUT)
        self.assertIn(b'display="none"', by_id("svg").write(out, WriteOptions()).data)
        self.assertNotIn(b"PD", by_id("hpgl").write(out, WriteOptions()).data)

    def test_a_design_of_nothing_has_a_size_in_every_file(self):
        for format_ in (f for f in FORMATS if f.write):
            with self.subTest(format_.id):
                made = format_.write(Document(), WriteOptions()).data
                text = made.decode("latin-1")
                self.assertNotRegex(text, r'width="0|height="0|MediaBox \[ 0 0 0 |LIMMAX\s+10\s+0\.0\s')

    def test_svg_holds_nothing_but_plain_svg(self):
        text = by_id("svg").write(DESIGNS["curves"], WriteOptions()).data.decode()
        for word in ("xmlns:", "style=", "<script", "href", "clip", "transform", "<!DOCTYPE"):
            self.assertNotIn(word, text)


class Registry(unittest.TestCase):
    def test_ids_and_suffixes_are_taken_once(self):
        ids = [f.id for f in FORMATS]
        suffixes = [s for f in FORMATS for s in f.suffixes]
        self.assertEqual((len(set(ids)), len(set(suffixes))), (len(ids), len(suffixes)))

    def test_every_folder_of_the_room_is_listed(self):
        folder = Path(__file__).parents[2] / "hakobu" / "formats"
        rooms = {(f.read or f.write).__module__.split(".")[2] for f in FORMATS}
        self.assertEqual({p.parent.name for p in folder.glob("*/__init__.py")}, rooms)

    def test_names(self):
        self.assertEqual(by_name("A B.SVG").id, "svg")
        self.assertIsNone(by_name("a.xyz"))
        with self.assertRaises(HakobuError):
            by_id("nothing")
        with self.assertRaises(HakobuError):
            recognise("a.xyz", np.zeros(8).tobytes())
