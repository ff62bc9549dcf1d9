"""PDF out, drawn by pdfium. Source: ISO 32000-1, 8.3.2.3: a unit of user space is 1/72 inch."""

import unittest

import numpy as np
import pypdfium2

from hakobu.formats import WriteOptions, by_id
from hakobu.geometry import Path, PathBuilder
from hakobu.model import Fill, Stroke

from ..shapes import blob, circle, document, square


def drawn(design, px_per_mm: float) -> np.ndarray:
    """The page as greys, (H, W), 0 to 1."""
    page = pypdfium2.PdfDocument(by_id("pdf").write(design, WriteOptions()).data)[0]
    return (
        page.render(scale=px_per_mm * 25.4 / 72, grayscale=True)
        .to_numpy()
        .reshape(-1, round(page.get_width() * px_per_mm * 25.4 / 72))
        / 255
    )


class Written(unittest.TestCase):
    def test_the_page_is_as_large_as_the_document_says(self):
        design = document(square(10, 20, 30))
        page = pypdfium2.PdfDocument(by_id("pdf").write(design, WriteOptions()).data)[0]
        width, height = (side / 72 * 25.4 for side in page.get_size())
        self.assertAlmostEqual(width, design.page.width_mm, places=3)
        self.assertAlmostEqual(height, design.page.height_mm, places=3)

    def test_areas_are_where_they_are(self):
        # Round ones: of level rectangles pdfium fills every pixel that they touch.
        design = document(circle(25, 40, 15), circle(70, 30, 10), fill=Fill("#000000"))
        ink = 1 - drawn(design, 10)
        self.assertAlmostEqual(ink[:, :500].sum() / 100, np.pi * 225, delta=0.5)
        self.assertAlmostEqual(ink[:, 500:].sum() / 100, np.pi * 100, delta=0.5)
        rows, columns = np.indices(ink[:, :500].shape) + 0.5
        weight = ink[:, :500] / ink[:, :500].sum()
        np.testing.assert_allclose([(columns * weight).sum(), (rows * weight).sum()], [250, 400], atol=0.6)

    def test_holes_and_rules(self):
        rings = Path.concatenate([circle(50, 50, 20), circle(50, 50, 10)])
        for rule, area in (("evenodd", 300), ("nonzero", 400)):
            ink = 1 - drawn(document(rings, fill=Fill("#000000"), fill_rule=rule), 10)
            self.assertAlmostEqual(ink.sum() / 100, np.pi * area, delta=2)

    def test_lines_are_as_wide_as_they_are(self):
        builder = PathBuilder()
        builder.move_to((10.0, 50.0))
        builder.line_to((90.0, 50.0))
        design = document(builder.path(), fill=None, stroke=Stroke("#000000", 4.0))
        self.assertAlmostEqual((1 - drawn(design, 10)).sum() / 100, 320, delta=1)

    def test_the_same_design_gives_the_same_bytes(self):
        design = document(blob(), circle(5, 5, 3))
        one, two = (by_id("pdf").write(design, WriteOptions(title="A")).data for _ in range(2))
        self.assertEqual(one, two)
