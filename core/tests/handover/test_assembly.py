"""The assembly page: every piece with its number, layer by layer, at a size that is told."""

import unittest

import numpy as np

from hakobu import formats
from hakobu.errors import CannotDo
from hakobu.formats import WriteOptions
from hakobu.geometry import bounds
from hakobu.handover import assembly_page
from hakobu.handover.assembly import DIMENSION, MOST_PIECES, PAGE_MM
from hakobu.model import Document, Fill, Piece
from hakobu.model.features import drawn_dimensions

from ..operations.test_built import RING, of, took
from ..shapes import square


class Page(unittest.TestCase):
    def setUp(self):
        self.design = took("caption", ("s:p0",), of(RING), distance_mm=5.0, clearance_mm=0.3).document

    def test_three_layers_are_shown_at_true_size_and_whole(self):
        page = assembly_page(self.design, "Ring")
        self.assertEqual((page.page.width_mm, page.page.height_mm), PAGE_MM)
        left, top, right, bottom = page.box
        # Round letters stand over their capitals' height by a tenth of a millimetre.
        self.assertTrue(left >= 11.8 and top >= 11.8 and right <= 198.2 and bottom <= 285.2)
        backing = [p for p in page.pieces if p.fill and abs(bounds(p.path)[2] - bounds(p.path)[0] - 50) < 1e-6]
        self.assertEqual(len(backing), 2, "once with all, once by itself")

    def test_each_piece_has_a_disc_with_its_number_twice(self):
        page = assembly_page(self.design, "Ring")
        discs = [p for p in page.pieces if p.fill and p.fill.color == "#ffffff"]
        self.assertEqual(len(discs), 2 * len(self.design.pieces))
        # What follows a disc is its number, which lies on it.
        for disc in discs:
            number = page.pieces[page.pieces.index(disc) + 1]
            (a, b, c, d), (x0, y0, x1, y1) = bounds(number.path), bounds(disc.path)
            self.assertTrue(a > x0 and b > y0 and c < x1 and d < y1)

    def test_what_is_measured_stands_on_it_with_its_figure(self):
        plain = assembly_page(self.design, "Ring")
        measured = took("measure", None, self.design, kind="distance", name="Across").document
        page = assembly_page(measured, "Ring")
        green = [p for p in page.pieces if DIMENSION in (p.stroke and p.stroke.color, p.fill and p.fill.color)]
        # A line with two ticks, a plate, and the figure.
        self.assertEqual((len(page.pieces) - len(plain.pieces), len(green)), (5, 5))
        left, top, right, bottom = bounds(green[0].path)
        (drawn,) = drawn_dimensions(measured)
        self.assertAlmostEqual(np.hypot(right - left, bottom - top), drawn.size, places=6)

    def test_it_is_written_as_pdf_and_svg_and_the_same_twice(self):
        page = assembly_page(self.design, "Ring")
        for format_id in ("pdf", "svg"):
            data = formats.by_id(format_id).write(page, WriteOptions(title="Ring")).data
            again = formats.by_id(format_id).write(assembly_page(self.design, "Ring"), WriteOptions(title="Ring")).data
            self.assertEqual(data, again)
        read = formats.read("page.svg", data).document
        self.assertEqual(len(read.pieces), len(page.pieces))

    def test_what_is_large_is_shown_smaller_and_long_pages_grow(self):
        large = of(square(0, 0, 700))
        widths = {round(bounds(p.path)[2] - bounds(p.path)[0]) for p in assembly_page(large).pieces}
        self.assertIn(70, widths)
        tall = Document(layers=self.design.layers, pieces=self.design.pieces)
        for layer in self.design.layers:
            more = Piece(f"s:{layer.id}", square(0, 0, 59), layer.id, fill=Fill("#000000"))
            tall = Document(layers=tall.layers, pieces=(*tall.pieces, more))
        self.assertGreater(assembly_page(tall).page.height_mm, PAGE_MM[1])

    def test_nothing_and_far_too_much_are_refused(self):
        self.assertRaises(CannotDo, assembly_page, Document())
        many = of(*(square(0, 0, 1) for _ in range(MOST_PIECES + 1)))
        self.assertRaises(CannotDo, assembly_page, many)
