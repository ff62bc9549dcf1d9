"""Faces whose letters are areas: OpenType and TrueType, shaped by HarfBuzz, drawn by fontTools."""

# Neither uharfbuzz nor fontTools states types for what is used here.
# pyright: reportAttributeAccessIssue=false

from __future__ import annotations

import io
from collections.abc import Mapping
from functools import cached_property

import numpy as np
import uharfbuzz as harfbuzz
from fontTools.ttLib import TTFont

from ..errors import TooMuch
from ..geometry import Path, area, scaling, transform
from ..geometry.boolean import union
from ..geometry.measure import outline_bounds, signed_areas
from .face import EM_MM, Axis, Face, Glyph, Told
from .pen import PathPen
from .runs import runs_of
from .words import embedding_words, feature_words


class OutlineFace(Face):
    """A face of the bytes of a font. place: values of its axes by their tags; axes that are not named stand at their
    usual value."""

    def __init__(self, data: bytes, place: Mapping[str, float] | None = None) -> None:
        self._font = TTFont(io.BytesIO(data), lazy=True)
        self._shaper = harfbuzz.Font(harfbuzz.Face(data))
        known = {axis.tag for axis in self.told.axes}
        self._place = {tag: value for tag, value in (place or {}).items() if tag in known}
        if self._place:
            self._shaper.set_variations(self._place)
        self._unit = EM_MM / self._font["head"].unitsPerEm
        self._outlines: dict[int, Path] = {}

    @cached_property
    def told(self) -> Told:
        font = self._font
        names = font.get("name")
        named = names.getBestFullName() if names else None
        axes = ()
        if "fvar" in font:
            axes = tuple(_axis(axis, names) for axis in font["fvar"].axes)
        bits = font["OS/2"].fsType if "OS/2" in font else 0
        return Told(str(named or "A face"), embedding_words(bits), axes, feature_words(self._features()))

    def _features(self) -> list[str]:
        table = self._font["GSUB"].table if "GSUB" in self._font else None
        listed = table.FeatureList.FeatureRecord if table and table.FeatureList else []
        return [record.FeatureTag for record in listed]

    @cached_property
    def _cmap(self) -> Mapping[int, str]:
        return self._font.getBestCmap() or {}

    @cached_property
    def _glyphs(self):
        return self._font.getGlyphSet(location=self._place or None)

    @cached_property
    def _order(self) -> list[str]:
        return self._font.getGlyphOrder()

    def has(self, character: str) -> bool:
        return ord(character) in self._cmap

    def _told_height(self, name: str) -> float:
        return getattr(self._font["OS/2"], name, 0) * self._unit if "OS/2" in self._font else 0.0

    def shape(self, text: str, features: Mapping[str, bool]) -> list[Glyph]:
        made: list[Glyph] = []
        for run in runs_of(text):
            buffer = harfbuzz.Buffer()
            # The whole line is seen, so that letters join across the ends of a run.
            buffer.add_str(text, run.start, run.end - run.start)
            buffer.direction = "rtl" if run.backwards else "ltr"
            buffer.script = run.script
            harfbuzz.shape(self._shaper, buffer, dict(features))
            for info, at in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
                index = info.codepoint or None
                advance = at.x_advance * self._unit if index else 0.0
                made.append(Glyph(index, info.cluster, advance, at.x_offset * self._unit, -at.y_offset * self._unit))
        return made

    def outline(self, index: int) -> Path:
        if index not in self._outlines:
            pen = PathPen(self._glyphs, self._unit)
            try:
                self._glyphs[self._order[index]].draw(pen)
            except RecursionError as error:
                raise TooMuch("A letter of this face contains itself: get the font anew from where it came.") from error
            self._outlines[index] = _sound(pen.path())
        return self._outlines[index]


def _axis(axis, names) -> Axis:
    named = names.getDebugName(axis.axisNameID) if names else None
    return Axis(axis.axisTag, str(named or axis.axisTag), axis.minValue, axis.defaultValue, axis.maxValue)


def _sound(path: Path) -> Path:
    """Outlines without those that enclose nothing, outer ones clockwise on the screen; united where parts of a letter
    lie over each other, as in variable and composite glyphs."""
    if not len(path):
        return path
    areas = signed_areas(path)
    path = path.take(np.flatnonzero(np.abs(areas) > 1e-9))
    if area(path) < 0:
        path = path.reversed()
    return union(path).path if _may_overlap(path) else path


def _may_overlap(path: Path) -> bool:
    """Whether two outlines that turn the same way have boxes that meet."""
    sides, boxes = signed_areas(path) > 0, outline_bounds(path)
    for side in (True, False):
        own = boxes[sides == side]
        meets = (own[:, None, :2] < own[None, :, 2:]).all(axis=2)
        if (meets & meets.T).sum() > len(own):
            return True
    return False


def at_size(path: Path, em_mm: float) -> Path:
    """Outlines at another size of the em."""
    return transform(path, scaling(em_mm / EM_MM))
