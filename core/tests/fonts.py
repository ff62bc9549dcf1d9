"""Letters of two whole open fonts, as their packages bring them: Source Sans and Source Serif, SIL Open Font License.

The sans has cubic outlines (CFF), the serif, read as TrueType, quadratic ones.
"""

from __future__ import annotations

from functools import lru_cache
from importlib.resources import files

from hakobu.geometry import Path, PathBuilder

FONTS = {
    "sans": ("font_source_sans_pro", "SourceSansPro-Regular.otf"),
    "serif": ("font_source_serif_pro", "SourceSerifPro-Bold.ttf"),
}


@lru_cache
def font(name: str):
    from fontTools.ttLib import TTFont

    package, file = FONTS[name]
    return TTFont(str(files(package).joinpath("files", file)))


def glyph_names(name: str) -> list[str]:
    return font(name).getGlyphOrder()


def glyph(name: str, which: str) -> Path:
    """One glyph's outlines in units of the font, a thousand to its size, y down; empty where it has none."""
    from fontTools.pens.recordingPen import DecomposingRecordingPen

    glyphs = font(name).getGlyphSet()
    pen = DecomposingRecordingPen(glyphs)
    glyphs[which].draw(pen)
    builder = PathBuilder()
    for how, points in pen.value:
        points = [(x, -y) for x, y in points]
        if how == "moveTo":
            builder.move_to(points[0])
        elif how == "lineTo":
            builder.line_to(points[0])
        elif how == "curveTo":
            builder.cubic_to(*points)
        elif how == "qCurveTo":
            _quadratics(builder, points)
        else:
            builder.close()
    return builder.path()


def glyph_area(name: str, which: str) -> float:
    """The glyph's signed area as fontTools' pen has it, in closed form over its own curves; y down."""
    from fontTools.pens.areaPen import AreaPen

    glyphs = font(name).getGlyphSet()
    pen = AreaPen(glyphs)
    glyphs[which].draw(pen)
    return -float(pen.value)


def _quadratics(builder: PathBuilder, points: list) -> None:
    """A run of quadratic curves with implied points between its controls, as TrueType has them."""
    for k, control in enumerate(points[:-1]):
        after = points[k + 1]
        end = after if k == len(points) - 2 else ((control[0] + after[0]) / 2, (control[1] + after[1]) / 2)
        builder.quadratic_to(control, end)
