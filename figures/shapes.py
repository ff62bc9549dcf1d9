"""Shapes to measure geometry with: circles, letters of open fonts, wavy blobs with holes."""

from __future__ import annotations

from functools import lru_cache
from importlib.resources import files

import numpy as np

from hakobu.geometry import Path, PathBuilder, scaling, transform, translation


def circles(count: int, side: float, radius: float, seed: int = 1) -> list[Path]:
    random = np.random.default_rng(seed)
    made = []
    for x, y in random.uniform(0, side, (count, 2)):
        builder = PathBuilder()
        builder.circle(x, y, radius)
        made.append(builder.path())
    return made


@lru_cache
def font_file(name: str):
    """An open font by name ("sans", "serif"): Source Sans and Source Serif under the SIL Open Font License, as their
    packages bring them, with cubic outlines."""
    from fontTools.ttLib import TTFont

    package, file = {
        "sans": ("font_source_sans_pro", "SourceSansPro-Regular.otf"),
        "serif": ("font_source_serif_pro", "SourceSerifPro-Bold.otf"),
    }[name]
    return TTFont(str(files(package).joinpath("files", file)))


def glyph(font, name: str) -> Path:
    """One glyph's outlines in units of the font, y down; empty where it has none."""
    from fontTools.pens.recordingPen import DecomposingRecordingPen

    glyphs = font.getGlyphSet()
    pen = DecomposingRecordingPen(glyphs)
    glyphs[name].draw(pen)
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


def _quadratics(builder: PathBuilder, points: list) -> None:
    """A run of quadratic curves with implied points between its controls (TrueType)."""
    for k, control in enumerate(points[:-1]):
        after = points[k + 1]
        end = after if k == len(points) - 2 else ((control[0] + after[0]) / 2, (control[1] + after[1]) / 2)
        builder.quadratic_to(control, end)


def letters(count: int, size: float = 20.0) -> list[Path]:
    """Glyphs of the serif font set so tight that neighbours overlap, in rows of twenty, in mm."""
    font = font_file("serif")
    names = [name for name in font.getGlyphOrder() if glyph(font, name).segment_count >= 8]
    made = []
    for k, name in enumerate(names[:count]):
        shape = transform(glyph(font, name), scaling(size / 1000))
        made.append(transform(shape, translation(k % 20 * size * 0.45, k // 20 * size * 0.75)))
    return made


def blob(x: float, y: float, radius: float, cubics: int, random) -> Path:
    """A smooth closed outline of so many cubics round a centre."""
    angle = np.linspace(0, 2 * np.pi, cubics, endpoint=False)
    point = np.array([x, y]) + (radius * random.uniform(0.8, 1.0, cubics))[:, None] * np.column_stack(
        [np.cos(angle), np.sin(angle)]
    )
    along = (np.roll(point, -1, axis=0) - np.roll(point, 1, axis=0)) / 6
    last = np.roll(point, -1, axis=0)
    ctrl = np.stack([point, point + along, last - np.roll(along, -1, axis=0), last], axis=1)
    return Path(ctrl, np.ones(cubics), np.zeros(cubics), [0, cubics], [True])


def blobs(count: int, cubics: int, pitch: float, seed: int = 3) -> Path:
    """Blobs on a square grid, none touching another."""
    random = np.random.default_rng(seed)
    side = int(np.ceil(count**0.5))
    return Path.concatenate(
        blob(k % side * pitch, k // side * pitch, 0.45 * pitch, cubics, random) for k in range(count)
    )
