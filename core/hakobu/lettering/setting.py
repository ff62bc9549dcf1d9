"""Lines of text as letters beside each other, in a face's nominal size."""

from __future__ import annotations

import unicodedata
from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..errors import BadRequest
from ..geometry import Box, Path, box_of, transform, translation
from .contact import contact
from .face import EM_MM, Face, Glyph

#: The longest text, in letters.
MOST_LETTERS = 10_000


@dataclass(frozen=True)
class Letter:
    """text: its characters, more than one where they are one in this face. nth: the how-manieth of the same in its
    line. path: from its own place on the baseline; x: where that is; advance: to the next; all at EM_MM."""

    text: str
    nth: int
    path: Path
    x: float
    advance: float

    @cached_property
    def box(self) -> Box:
        """Of an inked letter."""
        return box_of(self.path)


@dataclass(frozen=True)
class Line:
    """A line of text and its letters, from left to right. lacking: the characters that the face has not."""

    text: str
    letters: tuple[Letter, ...]
    lacking: tuple[str, ...]

    @cached_property
    def inked(self) -> tuple[Letter, ...]:
        """The letters that leave something on the sheet: blanks do not."""
        return tuple(letter for letter in self.letters if len(letter.path))


def plain_text(text: str) -> str:
    """A text as it is set: composed (Unicode NFC), with plain line ends. Raises BadRequest for one that is empty, too
    long, or holds signs that are no letters."""
    text = unicodedata.normalize("NFC", text.replace("\r\n", "\n").replace("\r", "\n").replace("\t", " "))
    if not text.strip():
        raise BadRequest("There is nothing to set: type a word.")
    if len(text) > MOST_LETTERS:
        raise BadRequest(f"A text has no more than {MOST_LETTERS:,} letters, and this one has {len(text):,}: split it.")
    odd = next((c for c in text if unicodedata.category(c) in ("Cc", "Cs") and c != "\n"), None)
    if odd:
        raise BadRequest(f"The text holds a control character (U+{ord(odd):04X}), which is no letter: take it out.")
    return text


def set_line(face: Face, text: str, features: Mapping[str, bool] | None = None) -> Line:
    """A line as the face sets it: kerned, with its ligatures and marks."""
    of_cluster: dict[int, list[tuple[Glyph, float]]] = defaultdict(list)
    order: list[int] = []
    lacking, at = [], 0.0
    for glyph in face.shape(text, features or {}):
        if glyph.cluster not in of_cluster:
            order.append(glyph.cluster)
        of_cluster[glyph.cluster].append((glyph, at))
        at += glyph.advance
    starts = sorted(of_cluster)
    ends = dict(zip(starts, [*starts[1:], len(text)], strict=True))
    letters, seen = [], defaultdict(int)
    for cluster in order:
        glyphs = of_cluster[cluster]
        said = text[cluster : ends[cluster]]
        if any(glyph.index is None for glyph, _ in glyphs):
            lacking.append(said)
            continue
        seen[said] += 1
        x = glyphs[0][1]
        advance = sum(glyph.advance for glyph, _ in glyphs)
        letters.append(Letter(said, seen[said], _drawn(face, glyphs, x), x, advance))
    return Line(text, tuple(letters), tuple(dict.fromkeys(lacking)))


def _index(glyph: Glyph) -> int:
    assert glyph.index is not None, "what a face lacks is not drawn"
    return glyph.index


def _drawn(face: Face, glyphs: list[tuple[Glyph, float]], x: float) -> Path:
    """The outlines of the glyphs of a letter, from its place at x on."""
    if len(glyphs) == 1 and not (glyphs[0][0].x or glyphs[0][0].y):
        # The same path for the same letter, so that what is worked out for it is worked out once.
        return face.outline(_index(glyphs[0][0]))
    parts = [(face.outline(_index(glyph)), at + glyph.x - x, glyph.y) for glyph, at in glyphs]
    return Path.concatenate(transform(path, translation(dx, dy)) for path, dx, dy in parts if len(path))


@dataclass(frozen=True)
class Spaced:
    """A line at a size: for each of its inked letters the place x (N,) in mm; left and right end of the ink."""

    line: Line
    scale: float
    x: np.ndarray

    @cached_property
    def left(self) -> float:
        return min((x + box[0] * self.scale for x, box in self._boxes), default=0.0)

    @cached_property
    def right(self) -> float:
        return max((x + box[2] * self.scale for x, box in self._boxes), default=0.0)

    @property
    def _boxes(self):
        return ((float(x), letter.box) for x, letter in zip(self.x, self.line.inked, strict=True))


def spaced(line: Line, em_mm: float, apart_mm: float = 0.0, by_outlines: bool = False) -> Spaced:
    """A line with so much more between its letters than the face has; by_outlines: so much between their outlines along
    the baseline, whatever the face has, overlapping where it is negative."""
    scale = em_mm / EM_MM
    if not by_outlines:
        every = (each.x * scale + n * apart_mm for n, each in enumerate(line.letters) if len(each.path))
        return Spaced(line, scale, np.fromiter(every, float))
    places, blank, before = [], 0.0, None
    for letter in line.letters:
        if not len(letter.path):
            blank += letter.advance * scale
            continue
        at = 0.0 if before is None else places[-1] + contact(before.path, letter.path) * scale + blank + apart_mm
        places.append(at)
        before, blank = letter, 0.0
    return Spaced(line, scale, np.array(places))
