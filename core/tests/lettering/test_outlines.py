"""Outlines of letters against fontTools' own pens and against FreeType's rasters."""

import unittest
from io import BytesIO

import freetype
import numpy as np
import resvg_py
from fontTools.pens.areaPen import AreaPen
from fontTools.pens.boundsPen import BoundsPen
from PIL import Image

from hakobu.errors import TooMuch
from hakobu.geometry import area, bounds, scaling, transform
from hakobu.geometry.path_text import path_data
from hakobu.lettering.face import EM_MM
from hakobu.lettering.outline_face import OutlineFace

from ..fonts import font, glyph_names
from .faces import built, containing_itself, data_of, doubling, face

#: Rasters have so many pixels an em.
PX = 2048


class Pens(unittest.TestCase):
    def test_area_and_box_of_every_glyph_are_those_of_fonttools(self):
        for name in ("sans", "serif"):
            unit = EM_MM / font(name)["head"].unitsPerEm
            glyphs = font(name).getGlyphSet()
            for index, which in list(enumerate(glyph_names(name)))[:400]:
                made = face(name).outline(index)
                about, box = AreaPen(glyphs), BoundsPen(glyphs)
                glyphs[which].draw(about)
                glyphs[which].draw(box)
                if not len(made):
                    self.assertFalse(about.value, which)
                    continue
                # Parts that lie over each other are counted once by us and twice by the pen.
                self.assertLessEqual(area(made), abs(about.value) * unit**2 + 1e-3, (name, which))
                left, low, right, high = (value * unit for value in box.bounds)
                np.testing.assert_allclose(bounds(made), (left, -high, right, -low), atol=2e-3, err_msg=which)


class Rasters(unittest.TestCase):
    def test_covered_pixels_are_those_of_freetype(self):
        """Coverage, intersection over union, at 2,048 px an em."""
        for name in ("sans", "serif"):
            drawn = freetype.Face(BytesIO(data_of(name)))
            drawn.set_pixel_sizes(0, PX)
            for letter in "gB8&Q@éa":
                (glyph,) = face(name).shape(letter, {})
                drawn.load_char(letter, freetype.FT_LOAD_RENDER | freetype.FT_LOAD_NO_HINTING)
                bitmap = drawn.glyph.bitmap
                theirs = np.array(bitmap.buffer, float).reshape(bitmap.rows, bitmap.pitch)[:, : bitmap.width]
                path = transform(face(name).outline(glyph.index), scaling(PX / EM_MM))
                left, top = drawn.glyph.bitmap_left, -drawn.glyph.bitmap_top
                svg = (
                    f'<svg xmlns="http://www.w3.org/2000/svg" width="{bitmap.width}" height="{bitmap.rows}" '
                    f'viewBox="{left} {top} {bitmap.width} {bitmap.rows}"><path d="{path_data(path)}"/></svg>'
                )
                png = bytes(resvg_py.svg_to_bytes(svg_string=svg, skip_system_fonts=True))
                ours = np.array(Image.open(BytesIO(png)).getchannel("A"), float)
                self.assertEqual(ours.shape, theirs.shape)
                share = np.minimum(ours, theirs).sum() / np.maximum(ours, theirs).sum()
                self.assertGreater(share, 0.999, (name, letter))


class Made(unittest.TestCase):
    def test_parts_that_lie_over_each_other_are_one(self):
        made = OutlineFace(built())
        (plus,) = made.shape("+", {})
        outline = made.outline(plus.index)
        self.assertEqual(len(outline), 1)
        # Two bars of 600 x 100 and 100 x 700 units less their common square, at a tenth of a millimetre a unit.
        self.assertAlmostEqual(area(outline), (600 * 100 + 100 * 700 - 100 * 100) / 100, places=6)

    def test_an_axis_widens_a_variable_face(self):
        data = built(varied=True)
        for weight, width in ((100, 50.0), (500, 55.0), (900, 60.0)):
            made = OutlineFace(data, {"wght": weight, "none": 3})
            left, _, right, _ = bounds(made.outline(made.shape("H", {})[0].index))
            self.assertAlmostEqual(right - left, width, places=6)
        (axis,) = OutlineFace(data).told.axes
        self.assertEqual((axis.tag, axis.name, axis.low, axis.high), ("wght", "Weight", 100, 900))

    def test_heights_are_measured_on_the_letters_near_what_the_font_says(self):
        """sCapHeight and sxHeight are stated by hand in many fonts: the letters themselves decide."""
        for name in ("sans", "serif"):
            told = font(name)["OS/2"]
            unit = EM_MM / font(name)["head"].unitsPerEm
            for letter, made, said in (
                ("H", face(name).capitals, told.sCapHeight),
                ("x", face(name).x_height, told.sxHeight),
            ):
                box = BoundsPen(font(name).getGlyphSet())
                font(name).getGlyphSet()[letter].draw(box)
                self.assertAlmostEqual(made, box.bounds[3] * unit, places=9)
                self.assertAlmostEqual(made, said * unit, delta=2.0)

    def test_glyphs_that_contain_themselves_or_too_much_are_refused(self):
        for data in (containing_itself(), doubling(20)):
            made = OutlineFace(data)
            with self.assertRaisesRegex(TooMuch, "letter"):
                made.outline(made.shape("H", {})[0].index)
