"""Single-line faces: Hershey's letters, strokes for a pen or a score.

A. V. Hershey, "A contribution to computer typesetting techniques", NBS Special Publication 424, 1976; the strokes come
with the package hershey-fonts.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property

import numpy as np

from ..geometry import Path
from .face import EM_MM, Face, Glyph, Told

#: Where capitals stand and how high the em is, in the units of the strokes, y down.
BASE, EM = 9, 32


class LineFace(Face):
    """A face by the name that the package gives it."""

    single_line = True

    def __init__(self, name: str, title: str) -> None:
        from HersheyFonts import HersheyFonts

        fonts = HersheyFonts()
        fonts.load_default_font(name)
        self._letters = fonts.all_glyphs
        self._title = title
        self._outlines: dict[int, Path] = {}

    @cached_property
    def told(self) -> Told:
        return Told(self._title)

    def has(self, character: str) -> bool:
        return character in self._letters

    def shape(self, text: str, features: Mapping[str, bool]) -> list[Glyph]:
        unit = EM_MM / EM
        return [
            Glyph(ord(c), at, self._letters[c].char_width * unit) if self.has(c) else Glyph(None, at, 0.0)
            for at, c in enumerate(text)
        ]

    def outline(self, index: int) -> Path:
        if index not in self._outlines:
            self._outlines[index] = self._drawn(self._letters[chr(index)])
        return self._outlines[index]

    def _drawn(self, letter) -> Path:
        unit = EM_MM / EM
        strokes = (np.array(stroke, float) - (letter.left_offset, BASE) for stroke in letter.strokes if len(stroke) > 1)
        return Path.concatenate(Path.from_points(points * unit, closed=False) for points in strokes)
