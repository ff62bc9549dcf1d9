"""Prints that end at outlines, or go on beyond them in the colours that they have there."""

from __future__ import annotations

import io
import unittest
from dataclasses import replace

import numpy as np
import pypdfium2
from PIL import Image
from scipy.spatial import cKDTree

from hakobu import pipeline
from hakobu.formats import WriteOptions
from hakobu.geometry import Path
from hakobu.handover import print_page, with_bleed
from hakobu.handover.bleed import clipped
from hakobu.model import Document, Layer, Picture, Piece, Treatment
from tests.shapes import circle, square
from tests.sheets.test_placing import laid

#: Millimetres of a pixel, and where the picture lies.
PIXEL, AT = 0.5, (20.0, 30.0)


def picture(width: int, height: int) -> Picture:
    return Picture("p", "0" * 64, (width, height), (PIXEL, 0.0, 0.0, PIXEL, *AT), "art")


def halves(width: int = 80, height: int = 60) -> np.ndarray:
    """Red at the left, blue at the right."""
    pixels = np.zeros((height, width, 4), np.uint8)
    pixels[:, :, 3], pixels[:, : width // 2, 0], pixels[:, width // 2 :, 2] = 255, 255, 255
    return pixels


def centres(found: Picture) -> np.ndarray:
    """The middle of each pixel in mm, (H, W, 2)."""
    x, y = np.meshgrid(np.arange(found.size_px[0]) + 0.5, np.arange(found.size_px[1]) + 0.5)
    return np.stack([x, y], axis=2) * PIXEL + found.matrix[4:]


class Clipped(unittest.TestCase):
    def look(self, bleed: float, outlines: Path) -> tuple[np.ndarray, np.ndarray]:
        made = clipped(halves(), picture(80, 60), outlines, bleed)
        assert made is not None
        data, found = made
        return np.array(Image.open(io.BytesIO(data))), centres(found)

    def test_it_ends_at_the_outline(self):
        pixels, at = self.look(0.0, circle(40, 45, 10))
        far = np.hypot(*(at - (40, 45)).transpose(2, 0, 1))
        self.assertTrue((pixels[far < 10 - PIXEL][:, 3] == 255).all())
        self.assertTrue((pixels[far > 10 + PIXEL][:, 3] == 0).all())

    def test_beyond_it_has_the_colour_of_what_is_nearest_within(self):
        """The nearest by a k-d tree of scipy's."""
        pixels, at = self.look(3.0, circle(40, 45, 10))
        far = np.hypot(*(at - (40, 45)).transpose(2, 0, 1))
        self.assertTrue((pixels[far < 13 - PIXEL][:, 3] == 255).all())
        self.assertTrue((pixels[far > 13 + PIXEL][:, 3] == 0).all())
        inside, ring = far < 10 - PIXEL, (far > 10 + PIXEL) & (far < 13 - PIXEL) & (abs(at[:, :, 0] - 40) > 2)
        nearest = cKDTree(at[inside]).query(at[ring])[1]
        self.assertTrue((pixels[ring] == pixels[inside][nearest]).all())

    def test_it_goes_on_beyond_the_picture_itself(self):
        # The outline is the picture's own rim: all of the bleed lies beyond it.
        pixels, at = self.look(2.0, Path.concatenate([square(20, 30, 30)]))
        left = (at[:, :, 0] < 20) & (at[:, :, 0] > 18.5) & (at[:, :, 1] > 31) & (at[:, :, 1] < 59)
        self.assertTrue((pixels[left] == (255, 0, 0, 255)).all())

    def test_what_no_outline_lies_on_is_left_as_it_is(self):
        self.assertIsNone(clipped(halves(), picture(80, 60), circle(300, 300, 10), 2.0))


class Printed(unittest.TestCase):
    def test_the_print_lies_where_it_is_cut(self):
        """Read back by pypdfium2: colour within the outline and its bleed, none beyond."""
        layers = (Layer("art", "Art", "#808080", Treatment.PRINT), Layer("line", "Line", "#26272b"))
        piece = Piece("c", circle(40, 45, 10), "line")
        document = Document(layers=layers, pieces=(piece,), pictures=(picture(80, 60),))
        document = laid(document, width_mm=100.0, height_mm=100.0, printed="bleed", bleed_mm=2.0)
        (sheet,) = document.sheets
        self.assertEqual((sheet.printed, sheet.bleed_mm), ("bleed", 2.0))
        bled, made = with_bleed(document, sheet, lambda sha256: halves())
        page = print_page(bled, sheet, None)
        data = pipeline.write(page, "pdf", options=WriteOptions(pictures=made)).data
        seen = np.array(pypdfium2.PdfDocument(data)[0].render(scale=4).to_pil())
        scale = seen.shape[1] / 100.0
        x, y = sheet.placements[0].x, sheet.placements[0].y
        for off, colour in ((-11.0, (255, 0, 0)), (-9.0, (255, 0, 0)), (11.0, (0, 0, 255)), (-13.5, (255,) * 3)):
            found = seen[int(y * scale), int((x + off) * scale)][:3]
            self.assertTrue(np.abs(found.astype(int) - colour).max() < 40, (off, found))

    def test_as_it_is_where_nothing_is_said(self):
        document = Document(
            layers=(Layer("art", "Art", "#808080", Treatment.PRINT), Layer("line", "Line", "#26272b")),
            pieces=(Piece("c", circle(40, 45, 10), "line"),),
            pictures=(picture(80, 60),),
        )
        document = laid(document)
        same, made = with_bleed(document, document.sheets[0], lambda sha256: halves())
        self.assertEqual((same.pictures, made), (document.pictures, {}))
        clear = replace(document.sheets[0], printed="outlines")
        self.assertEqual(len(with_bleed(document, clear, lambda sha256: halves())[1]), 1)
