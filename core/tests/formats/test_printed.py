"""Pictures that are printed, in the files that are written: resvg and pdfium draw them where they lie."""

import io
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path

import numpy as np
import pypdfium2
import resvg_py
from PIL import Image

from hakobu.cli import main
from hakobu.formats import ReadOptions, WriteOptions, by_id
from hakobu.formats.limited import printed_picture
from hakobu.model import Document, Layer, Page, Picture, Treatment

from ..shapes import document, square

PX_PER_MM = 8


def pixels(mode: str) -> bytes:
    """Left half red, right half blue with, in RGBA, a clear lower half; its upper left pixels are green."""
    array = np.zeros((40, 60, 4), np.uint8)
    array[:, :30], array[:, 30:], array[:10, :10] = (200, 0, 0, 255), (0, 0, 200, 255), (0, 180, 0, 255)
    if mode == "RGBA":
        array[20:] = 0
    out = io.BytesIO()
    Image.fromarray(array).convert(mode).save(out, "PNG")
    return out.getvalue()


def printed(matrix, treatment=Treatment.PRINT) -> Document:
    layer = Layer("p", "Sticker & art", "#fffdf7", treatment)
    return Document(Page(50, 40), (layer,), pictures=(Picture("k:1", "a" * 64, (60, 40), matrix, "p"),))


def by_resvg(data: bytes) -> np.ndarray:
    png = resvg_py.svg_to_bytes(svg_string=data.decode(), width=50 * PX_PER_MM, dpi=96.0, background="white")
    return np.asarray(Image.open(io.BytesIO(bytes(png))).convert("RGB")).astype(int)


def by_pdfium(data: bytes) -> np.ndarray:
    page = pypdfium2.PdfDocument(data)[0]
    return np.asarray(page.render(scale=PX_PER_MM * 25.4 / 72).to_pil().convert("RGB")).astype(int)


#: Matrices from pixels to mm, and in mm where green, red and blue then are.
UPRIGHT = (0.5, 0, 0, 0.5, 10, 15), ((11, 16), (14, 24), (35, 20))
TURNED = (0, 0.5, -0.5, 0, 40, 5), ((39, 6), (31, 10), (35, 30))
ASKEW = (0.3, 0.3, -0.2, 0.2, 20, 5), ((20, 6.5), (19, 13), (32, 22))


class Drawn(unittest.TestCase):
    def test_each_format_has_them_where_they_lie(self):
        data = printed_picture("a.png", pixels("RGB"))
        self.assertEqual(data[:2], b"\xff\xd8")
        for matrix, places in (UPRIGHT, TURNED, ASKEW):
            design = printed(matrix)
            for kind, draw in (("svg", by_resvg), ("pdf", by_pdfium)):
                written = by_id(kind).write(design, WriteOptions(pictures={"a" * 64: data}))
                self.assertEqual(written.notes, ())
                shown = draw(written.data)
                for (x, y), channel in zip(places, (1, 0, 2), strict=True):
                    seen = shown[round(y * PX_PER_MM), round(x * PX_PER_MM)]
                    self.assertEqual(int(seen.argmax()), channel, (kind, matrix, seen))
                    self.assertGreater(seen.max() - sorted(seen)[1], 90)

    def test_what_is_clear_stays_clear_and_pieces_lie_above(self):
        data = printed_picture("a.png", pixels("RGBA"))
        self.assertEqual(data[:4], b"\x89PNG")
        art = document(square(12, 17, 4))
        design = replace(printed(UPRIGHT[0]), pieces=art.pieces)
        design = replace(design, layers=(*design.layers, *art.layers))
        for kind, draw in (("svg", by_resvg), ("pdf", by_pdfium)):
            shown = draw(by_id(kind).write(design, WriteOptions(pictures={"a" * 64: data})).data)
            self.assertEqual(shown[round(30 * PX_PER_MM), round(14 * PX_PER_MM)].min(), 255)
            self.assertLess(shown[round(19 * PX_PER_MM), round(14 * PX_PER_MM)].max(), 100)

    def test_left_out_they_are_not_there_and_missing_ones_are_said(self):
        for kind in ("svg", "pdf"):
            left = by_id(kind).write(printed(UPRIGHT[0], Treatment.LEAVE_OUT), WriteOptions())
            self.assertEqual(left.notes, ())
            missing = by_id(kind).write(printed(UPRIGHT[0]), WriteOptions())
            self.assertIn("not written", missing.notes[0])
            self.assertNotIn(b"<image", missing.data)


class Round(unittest.TestCase):
    def test_svg_brings_them_back_in_place_on_their_layer(self):
        data = printed_picture("a.png", pixels("RGB"))
        for matrix, _ in (UPRIGHT, TURNED, ASKEW):
            text = by_id("svg").write(printed(matrix), WriteOptions(pictures={"a" * 64: data})).data
            back = by_id("svg").read(text, ReadOptions(key="k"))
            (picture,) = back.document.pictures
            layer = back.document.layer_by_id[picture.layer]
            self.assertEqual((layer.name, layer.treatment), ("Sticker & art", Treatment.PRINT))
            np.testing.assert_allclose(picture.matrix, matrix, atol=1e-6)
            self.assertEqual(back.blobs[picture.sha256], data)

    def test_convert_takes_them_along(self):
        text = by_id("svg").write(printed(UPRIGHT[0]), WriteOptions(pictures={"a" * 64: pixels("RGB")})).data
        text = text.replace(b"</svg>", b'<path d="M1 1H5V5H1Z"/></svg>')
        with tempfile.TemporaryDirectory() as folder:
            source, out = Path(folder) / "a.svg", Path(folder) / "b.svg"
            source.write_bytes(text)
            self.assertEqual(main(["convert", str(source), str(out)]), 0)
            self.assertIn(b"xlink:href", out.read_bytes())
