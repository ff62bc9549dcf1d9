"""A design handed from format to format stays what it is: pieces, holes, layers, sizes and every line.

Documents are made by hypothesis from shapes that lie apart, with holes and islands; machine files know no pieces, so
what belongs together is told there by what lies in what.
"""

import unittest
from dataclasses import replace

import numpy as np
from hypothesis import Phase, given, settings
from hypothesis import strategies as st

from hakobu.formats import ReadOptions, WriteOptions, by_id
from hakobu.geometry import Path, SegmentIndex, bounds, flatten, rotation, scaling, transform, translation
from hakobu.geometry.affine import compose
from hakobu.model import Document, Layer, Page, Piece, Treatment

from ..fonts import glyph
from ..shapes import blob, circle, square

LAYERS = (
    Layer("a", "Plate", "#aa3311"),
    Layer("b", "Folds", "#2255cc", Treatment.SCORE),
    Layer("c", "Pen", "#118833", Treatment.DRAW),
)
PAGE = Page(300.0, 200.0)


def outlines(document: Document) -> Path:
    return Path.concatenate(piece.path for piece in document.pieces)


def through(document: Document, *formats: tuple[str, str | None]) -> Document:
    for name, release in formats:
        data = by_id(name).write(document, WriteOptions(release=release)).data
        document = by_id(name).read(data, ReadOptions(page_height_mm=PAGE.height_mm)).document
        if by_id(name).is_machine:
            # Machine files know no page; whoever reads one says how high it is.
            document = replace(document, page=PAGE)
    return document


class Compared(unittest.TestCase):
    def same(self, before: Document, after: Document, within: float, size: float) -> None:
        a, b = outlines(before), outlines(after)
        self.assertEqual(sorted(len(p.path) for p in before.pieces), sorted(len(p.path) for p in after.pieces))
        self.assertEqual(sorted(a.closed.tolist()), sorted(b.closed.tolist()))
        np.testing.assert_allclose(
            np.diff(np.reshape(bounds(a), (2, 2)), axis=0), np.diff(np.reshape(bounds(b), (2, 2)), axis=0), atol=size
        )
        for one, other in ((a, b), (b, a)):
            off = SegmentIndex(flatten(other, 1e-4), 0.5).nearest(flatten(one, 1e-3, 1.0).points)[0].max()
            self.assertLessEqual(off, within)
        self.assertEqual(len({p.layer for p in before.pieces}), len({p.layer for p in after.pieces}))


class Chains(Compared):
    def design(self) -> Document:
        plate = Path.concatenate([square(10, 10, 80), circle(30, 30, 8).reversed(), square(60, 60, 12).reversed()])
        letter = transform(glyph("serif", "B"), compose(compose(translation(120, 120), rotation(0.2)), scaling(0.08)))
        pieces = (
            Piece("k:1", plate, "a", fill_rule="evenodd"),
            Piece("k:2", circle(30, 30, 3), "a"),
            Piece("k:3", letter, "b", fill_rule="evenodd"),
            Piece("k:4", transform(blob().outline(0), translation(200, 100)), "b"),
            Piece("k:5", Path.from_points(np.array([[210.0, 20.0], [250.0, 30.0], [280.0, 10.0]]), closed=False), "c"),
        )
        return Document(PAGE, LAYERS, pieces)

    def test_from_program_to_program(self):
        design = self.design()
        after = through(design, ("svg", None), ("dxf", "R2000"), ("svg", None))
        self.same(design, after, 0.002, 0.002)
        self.assertEqual([layer.name for layer in after.layers], ["Plate", "Folds", "Pen"])
        self.assertEqual([layer.treatment for layer in after.layers], [layer.treatment for layer in LAYERS])
        self.assertEqual(after.page, PAGE)

    def test_through_the_machine(self):
        design = self.design()
        for release in ("HP-GL", "HP-GL/2"):
            after = through(design, ("svg", None), ("dxf", None), ("svg", None), ("hpgl", release), ("svg", None))
            self.same(design, after, 0.025, 0.025)
            self.assertEqual(sorted(layer.name for layer in after.layers), ["Pen 1", "Pen 2", "Pen 3"])

    def test_through_old_files_and_other_machines(self):
        design = self.design()
        self.same(design, through(design, ("dxf", "R12"), ("svg", None)), 0.002, 0.002)
        for release in ("power", "height"):
            self.same(design, through(design, ("gcode", release), ("svg", None)), 0.01, 0.01)


@st.composite
def documents(draw) -> Document:
    """Up to six shapes in cells of 40 mm, some with a hole and an island in it."""
    cells = draw(st.lists(st.tuples(st.integers(0, 5), st.integers(0, 3)), min_size=1, max_size=6, unique=True))
    pieces = []
    for number, (column, row) in enumerate(cells):
        x, y = 20 + 45 * column, 20 + 45 * row
        kind, layer = draw(st.sampled_from(("square", "circle", "blob", "letter"))), draw(st.sampled_from("abc"))
        outer = {
            "square": square(x - 15, y - 15, 30),
            "circle": circle(x, y, 16),
            "blob": transform(blob().outline(0), translation(x - 15, y)),
            "letter": transform(glyph("sans", "S"), compose(translation(x - 8, y + 10), scaling(0.03))),
        }[kind]
        holes = []
        if kind in ("square", "circle") and draw(st.booleans()):
            radius = draw(st.floats(1.0, 8.0))
            holes = [circle(x, y, radius).reversed()]
            if radius > 3 and draw(st.booleans()):
                pieces.append(Piece(f"k:{number}i", square(x - 1, y - 1, 2), layer))
        turned = draw(st.floats(0, 6.3))
        about = compose(translation(x, y), compose(rotation(turned), translation(-x, -y)))
        path = transform(Path.concatenate([outer, *holes]), about)
        pieces.append(Piece(f"k:{number}", path, layer, fill_rule="evenodd"))
    used = {piece.layer for piece in pieces}
    return Document(PAGE, tuple(layer for layer in LAYERS if layer.id in used), tuple(pieces))


class MadeUp(Compared):
    @given(documents())
    @settings(max_examples=20, deadline=None, phases=(Phase.explicit, Phase.reuse, Phase.generate))
    def test_each_format_gives_any_document_back(self, design):
        # The chords that are measured are within 1e-4 mm themselves.
        for name, release, within in (
            ("svg", None, 2e-4),
            ("dxf", "R2000", 2e-4),
            ("dxf", "R2018", 2e-4),
            ("dxf", "R12", 0.0015),
            ("hpgl", "HP-GL", 0.025),
            ("hpgl", "HP-GL/2", 0.025),
            ("gcode", "power", 0.008),
        ):
            with self.subTest(name, release=release):
                after = through(design, (name, release))
                self.same(design, after, within, 2 * within)
                again = through(after, (name, release))
                self.same(after, again, within, 2 * within)
