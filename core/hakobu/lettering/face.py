"""What a face is: letters in, glyphs and their outlines out, in one nominal size."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

from ..geometry import Path, bounds

#: Outlines and advances are in mm at this size of the em.
EM_MM = 100.0
#: The height of capitals, and of x, as a share of the em, where a face has neither letters nor figures that say so.
CAPITALS, X_HEIGHT = 0.7, 0.5


@dataclass(frozen=True, slots=True)
class Glyph:
    """index: in the face, None where the face lacks it. cluster: the number of the character in the text that it comes
    from. advance: to the next glyph; x, y: where it stands off its place on the baseline; all in mm, y down."""

    index: int | None
    cluster: int
    advance: float
    x: float = 0.0
    y: float = 0.0


@dataclass(frozen=True)
class Axis:
    """An axis of a variable face: tag (OpenType), name, and its values."""

    tag: str
    name: str
    low: float
    usual: float
    high: float


@dataclass(frozen=True)
class Told:
    """What a face says of itself. embedding: what its maker allows (OpenType OS/2 fsType), in words. features: forms
    that can be asked for, by their OpenType tags, in words."""

    name: str
    embedding: str = ""
    axes: tuple[Axis, ...] = ()
    features: Mapping[str, str] = field(default_factory=dict)


class Face(ABC):
    """A face at one place of its axes. single_line: its letters are lines for a pen or a score, not areas."""

    single_line = False

    @property
    @abstractmethod
    def told(self) -> Told: ...

    @abstractmethod
    def shape(self, text: str, features: Mapping[str, bool]) -> list[Glyph]:
        """The glyphs of a line of text, from left to right. features: OpenType features on or off, by their tags."""

    @abstractmethod
    def outline(self, index: int) -> Path:
        """The outlines of a glyph, its place on the baseline at 0, 0. Raises TooMuch for one that has too many."""

    @abstractmethod
    def has(self, character: str) -> bool:
        """Whether it has a glyph for a character."""

    @cached_property
    def capitals(self) -> float:
        """The height of H in mm: what "height of capitals" means."""
        return self._height("H") or self._told_height("sCapHeight") or CAPITALS * EM_MM

    @cached_property
    def x_height(self) -> float:
        """The height of x in mm."""
        return self._height("x") or self._told_height("sxHeight") or X_HEIGHT * EM_MM

    def _told_height(self, name: str) -> float:
        return 0.0

    def _height(self, letter: str) -> float:
        glyphs = self.shape(letter, {}) if self.has(letter) else []
        box = bounds(self.outline(glyphs[0].index)) if glyphs and glyphs[0].index is not None else None
        return -box[1] if box else 0.0
