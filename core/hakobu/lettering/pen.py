"""The pen that fontTools draws glyphs with, and the path that it leaves."""

from __future__ import annotations

from fontTools.pens.basePen import BasePen

from ..errors import TooMuch
from ..geometry import Path, PathBuilder

#: No letter has so many lines, curves and parts: what has was made to do harm.
MOST_DRAWN = 20_000


class PathPen(BasePen):
    """Draws into a path, y down. TrueType's quadratic curves become the cubic ones that are the same; parts of
    composite glyphs are drawn where they belong.

    scale: millimetres in a unit of the font. Raises TooMuch where a glyph has more than MOST_DRAWN commands.
    """

    def __init__(self, glyphs, scale: float) -> None:
        super().__init__(glyphs)
        self._scale = scale
        self._builder = PathBuilder()
        self._left = MOST_DRAWN

    def path(self) -> Path:
        return self._builder.path()

    def _point(self, point) -> tuple[float, float]:
        self._left -= 1
        if self._left < 0:
            raise TooMuch(f"A letter of this face has more than {MOST_DRAWN:,} lines: no letter needs so many.")
        return point[0] * self._scale, -point[1] * self._scale

    def _moveTo(self, point) -> None:
        self._builder.move_to(self._point(point))

    def _lineTo(self, point) -> None:
        to = self._point(point)
        # A line to where one is already is nothing to cut.
        if to != self._builder.position:
            self._builder.line_to(to)

    def _curveToOne(self, handle1, handle2, point) -> None:
        self._builder.cubic_to(self._point(handle1), self._point(handle2), self._point(point))

    def _qCurveToOne(self, handle, point) -> None:
        self._builder.quadratic_to(self._point(handle), self._point(point))

    def _closePath(self) -> None:
        self._builder.close()

    # An outline that a font leaves open is filled all the same.
    _endPath = _closePath

    def addComponent(self, glyph_name, transformation) -> None:
        self._point((0, 0))
        super().addComponent(glyph_name, transformation)
