"""Faces for tests: whole open fonts as files, and small ones that are made here, sound and broken."""

from __future__ import annotations

import io
from functools import lru_cache
from importlib.resources import files

from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTCollection, TTFont

from hakobu.lettering.outline_face import OutlineFace

from ..fonts import FONTS


@lru_cache
def data_of(name: str) -> bytes:
    """The file of an open font: "sans" (CFF) or "serif" (TrueType)."""
    package, file = FONTS[name]
    return files(package).joinpath("files", file).read_bytes()


@lru_cache
def face(name: str) -> OutlineFace:
    return OutlineFace(data_of(name))


def _square(left: int, low: int, right: int, high: int):
    pen = TTGlyphPen(None)
    pen.moveTo((left, low))
    pen.lineTo((left, high))
    pen.lineTo((right, high))
    pen.lineTo((right, low))
    pen.closePath()
    return pen.glyph()


def _crossed(width: int):
    """A plus of two bars that lie over each other, as variable fonts draw it."""
    pen = TTGlyphPen(None)
    for left, low, right, high in ((0, 300, 600, 300 + width), (300, 0, 300 + width, 700)):
        pen.moveTo((left, low))
        pen.lineTo((left, high))
        pen.lineTo((right, high))
        pen.lineTo((right, low))
        pen.closePath()
    return pen.glyph()


def built(**tables) -> bytes:
    """A small TrueType font of H, x and a plus; tables: what is done to it before it is saved."""
    builder = FontBuilder(1000, isTTF=True)
    builder.setupGlyphOrder([".notdef", "H", "x", "plus", "space"])
    builder.setupCharacterMap({0x48: "H", 0x78: "x", 0x2B: "plus", 0x20: "space"})
    glyphs = {".notdef": _square(0, 0, 500, 700), "H": _square(0, 0, 500, 700), "x": _square(0, 0, 400, 450)}
    glyphs |= {"plus": _crossed(100), "space": TTGlyphPen(None).glyph()}
    builder.setupGlyf(glyphs)
    builder.setupHorizontalMetrics(dict.fromkeys((".notdef", "H", "x", "plus", "space"), (650, 0)))
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": "Made for tests", "styleName": "Regular"})
    builder.setupOS2(fsType=tables.get("bits", 0), sCapHeight=700, sxHeight=450)
    builder.setupPost()
    if tables.get("varied"):
        builder.setupFvar([("wght", 100, 100, 900, "Weight")], [])
        builder.setupGvar({"H": _wider(), "plus": [], "x": [], ".notdef": [], "space": []})
    return _saved(builder.font)


def _wider():
    from fontTools.ttLib.tables.TupleVariation import TupleVariation

    return [TupleVariation({"wght": (0.0, 1.0, 1.0)}, [(0, 0), (0, 0), (100, 0), (100, 0)] + [(0, 0)] * 4)]


def _saved(font: TTFont) -> bytes:
    out = io.BytesIO()
    font.save(out)
    return out.getvalue()


def as_woff2(data: bytes) -> bytes:
    font = TTFont(io.BytesIO(data))
    font.flavor = "woff2"
    return _saved(font)


def as_collection(*fonts: bytes) -> bytes:
    collection = TTCollection()
    collection.fonts = [TTFont(io.BytesIO(data)) for data in fonts]
    out = io.BytesIO()
    collection.save(out)
    return out.getvalue()


def containing_itself() -> bytes:
    """A font whose H is made of itself."""
    font = TTFont(io.BytesIO(built()))
    pen = TTGlyphPen(font.getGlyphSet())
    pen.addComponent("x", (1, 0, 0, 1, 0, 0))
    glyph = pen.glyph()
    glyph.components[0].glyphName = "H"
    font["glyf"].glyphs["H"] = glyph
    return _unchecked(font)


def doubling(levels: int) -> bytes:
    """A font whose H is two of a glyph that is two of a glyph, and so on: two to so many squares."""
    font = TTFont(io.BytesIO(built()))
    order = list(font.getGlyphOrder())
    below = "x"
    for level in range(levels):
        name = f"level{level}"
        pen = TTGlyphPen(font.getGlyphSet())
        for shift in (0, 1):
            pen.addComponent(below, (1, 0, 0, 1, shift, 0))
        font["glyf"].glyphs[name] = pen.glyph()
        font["hmtx"][name] = (650, 0)
        order.append(name)
        font.setGlyphOrder(order)
        font["glyf"].glyphOrder = order
        below = name
    for table in font["cmap"].tables:
        table.cmap[0x48] = below
    return _unchecked(font)


def _unchecked(font: TTFont) -> bytes:
    """Saved as it is: bounds that cannot be told are not told."""
    font.recalcBBoxes = False
    for glyph in font["glyf"].glyphs.values():
        if not hasattr(glyph, "xMin"):
            glyph.xMin = glyph.yMin = glyph.xMax = glyph.yMax = 0
    out = io.BytesIO()
    font["maxp"].recalc = lambda _: None
    font.save(out)
    return out.getvalue()


def without(table: str, data: bytes | None = None) -> bytes:
    font = TTFont(io.BytesIO(data or built()))
    del font[table]
    return _saved(font)
