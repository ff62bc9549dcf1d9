"""What a step of words wishes for, in millimetres: size, spacing, baseline, and what is done to letters."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, fields
from functools import cached_property
from typing import TYPE_CHECKING, Any

import numpy as np

from ..errors import BadRequest, CannotDo
from ..geometry import Path, box_of
from ..geometry.halves import Gap, gap_between
from ..geometry.strips import bridged, filled, parts_joined
from ..lettering import baseline as on
from ..lettering.face import Face
from ..lettering.layout import Laid, Moved, Set, Spacing, em_of, laid_out, set_at
from ..lettering.setting import Line
from ..model import Document
from ..model.declare import MOST_MM
from ..model.shapes import has_inside
from ..model.units import as_mm
from .operation import Context

if TYPE_CHECKING:
    from .words import Words

#: The roles of the outline that letters stand on, and of the two pieces that they stand between.
ALONG, BETWEEN = "along", "between"

#: Room between a caption and what it stands above, in mm (common practice).
ABOVE_MM = 3.0


@dataclass(frozen=True)
class Wished:
    """One step's wish, with what it is made for."""

    document: Document
    wish: Words
    context: Context
    face: Face

    @cached_property
    def spacing(self) -> Spacing:
        wish = self.wish
        if wish.weld == "closed":
            return Spacing(-wish.overlap_mm, True, wish.line_spacing)
        return Spacing(wish.apart_mm, wish.spacing == "outlines", wish.line_spacing)

    @cached_property
    def moved(self) -> dict[tuple[str, int], Moved]:
        return _moved(self.wish.letters or {})

    @cached_property
    def ready(self) -> Callable[[Path], Path]:
        """What is done to each letter."""
        wish, steps = self.wish, []
        if self.face.single_line:
            return lambda path: path
        if wish.counters == "fill":
            steps.append(filled)
        if wish.dots:
            steps.append(lambda path: parts_joined(path, wish.strip_mm))
        if wish.counters == "bridge":
            steps.append(lambda path: bridged(path, wish.bridges, wish.bridge_mm, np.radians(wish.bridge_turn)))

        def run(path: Path) -> Path:
            for step in steps:
                path = step(path)
            return path

        return run

    def set(self, lines: Sequence[Line]) -> Set:
        """Lines at the size that is wished for."""
        wish, by = self.wish, self.wish.size_by
        if by in ("box", "gap"):
            width, height = (wish.width_mm, wish.height_mm) if by == "box" else self.room
            ems = [em_of(self.face, lines, "width", width, self.spacing)]
            ems.append(em_of(self.face, lines, "whole", height, self.spacing))
            return set_at(lines, min(ems), self.spacing, wish.align)
        size = {"width": wish.width_mm, "points": self.reach[1]}.get(by, wish.size_mm)
        em = em_of(self.face, lines, "width" if by == "points" else by, size, self.spacing)
        return set_at(lines, em, self.spacing, wish.align)

    @cached_property
    def reach(self) -> tuple[tuple[float, float], float, float]:
        """The middle between the two points, how far apart they are, and the angle in radians."""
        if self.wish.size_by != "points":
            return (0.0, 0.0), 0.0, 0.0
        if self.wish.points is None:
            raise BadRequest("Say from which point to which point the words reach.")
        x0, y0, x1, y1 = self.wish.points
        far = float(np.hypot(x1 - x0, y1 - y0))
        if far < 0.1:
            raise BadRequest("The two points lie on each other: take them farther apart.")
        return ((x0 + x1) / 2, (y0 + y1) / 2), far, float(np.arctan2(y1 - y0, x1 - x0))

    @cached_property
    def gap(self) -> Gap:
        """The room between the two pieces that were picked, or else the only two that there are."""
        between = self.context.pieces(self.document, BETWEEN)
        two = between or [piece for piece in self.document.pieces_in_use() if has_inside(piece)]
        if len(two) != 2:
            raise CannotDo(f"Pick the two pieces that the words are to stand between: there are {len(two)}.")
        gap = gap_between(*(piece.path for piece in two))
        if gap is None:
            raise CannotDo("There is no straight gap between these two pieces: open them along a line first.")
        return gap

    @property
    def room(self) -> tuple[float, float]:
        """How wide and how high words may be in the gap."""
        clear, gap = self.wish.clear_mm, self.gap
        if gap.high <= 2 * clear:
            raise CannotDo(
                f"The gap is {as_mm(gap.high)} wide: with {as_mm(clear)} on both sides there is no room for words. "
                "Open it wider, or take less clearance."
            )
        return gap.wide, gap.high - 2 * clear

    def place(self) -> tuple[float, float]:
        width, height = self.document.frame
        there = self.document.page or self.document.pieces
        return self.wish.at or ((width / 2, height / 2) if there else (0.0, 0.0))

    def _above(self, made: Set) -> tuple[float, float]:
        """The crown of an arc whose letters stand clear of the design, over its middle."""
        left, top, right, _ = box_of(self.document.whole_path)
        half = min(made.width / 2 / self.wish.radius_mm, np.pi / 2)
        sagitta = self.wish.radius_mm * (1 - np.cos(half))
        _, bottom = made.top_bottom
        return (left + right) / 2, top - ABOVE_MM - sagitta - bottom

    def laid(self, made: Set) -> list[Laid]:
        """The letters of one text where they stand."""
        line, shift = self.baseline(made)
        return laid_out(made, line, shift, self.moved, self.ready)

    def baseline(self, made: Set) -> tuple[on.Baseline, tuple[float, float]]:
        """What a text stands on, and how far it is shifted along it and down from it."""
        wish, turn = self.wish, np.radians(self.wish.turn)
        at = self.place()
        if wish.size_by == "points":
            middle, _, turn = self.reach
            return on.Straight(middle, turn), (0.0, 0.0)
        if wish.size_by == "gap":
            top, bottom = made.top_bottom
            return on.Straight(self.gap.line.point, self.gap.line.angle), (0.0, -(top + bottom) / 2)
        if wish.on == "outline":
            along = self.context.pieces(self.document, ALONG)
            if not along:
                raise CannotDo("Pick the outline that the letters are to stand on.")
            return on.OnOutline(along[0].path, wish.out_mm, wish.start, wish.backwards), (0.0, 0.0)
        if wish.on in ("outside", "inside"):
            inside = wish.on == "inside"
            # Inside a circle letters read the right way up at the bottom.
            middle = turn + 2 * np.pi * wish.start + (np.pi if inside else 0.0)
            return on.Round(at, wish.radius_mm, middle, inside), (0.0, 0.0)
        if wish.on in ("arc", "above", "bowl"):
            if wish.on == "above" and wish.at is None and self.document.box:
                at = self._above(made)
            side = -1 if wish.on == "bowl" else 1
            centre = (at[0] - side * wish.radius_mm * np.sin(turn), at[1] + side * wish.radius_mm * np.cos(turn))
            bowl = wish.on == "bowl"
            return on.Round(centre, wish.radius_mm, turn + (np.pi if bowl else 0.0), bowl), (0.0, 0.0)
        if wish.anchor == "middle":
            top, bottom = made.top_bottom
            return on.Straight(at, turn), (0.0, -(top + bottom) / 2)
        side = {"start": 1, "centre": 0, "end": -1}[wish.anchor]
        return on.Straight(at, turn), (side * made.width / 2, 0.0)


def _is_moved(values: object) -> bool:
    if not isinstance(values, dict) or not set(values) <= {f.name for f in fields(Moved)}:
        return False
    return all(isinstance(v, int | float) and abs(v) <= MOST_MM for v in values.values())


def _moved(letters: Mapping[str, Any]) -> dict[tuple[str, int], Moved]:
    made = {}
    for name, values in letters.items():
        said, _, nth = name.rpartition(" ")
        if not nth.isdecimal() or not _is_moved(values):
            raise BadRequest(
                f'"letters" does not say what is meant by "{name[:20]}": '
                'name letters as "K 1", each with along, up, turn, shear, wide or high.'
            )
        angles = {key: np.radians(values[key]) for key in ("turn", "shear") if key in values}
        made[said, int(nth)] = Moved(**(values | angles))
    return made


def axes_of(wish: Words) -> dict[str, float]:
    """The values of a variable face's axes. Raises BadRequest for one that is no number."""
    axes = wish.axes or {}
    if any(not isinstance(value, int | float) or isinstance(value, bool) for value in axes.values()):
        raise BadRequest('"axes" must name a number for each axis.')
    return {str(tag): float(value) for tag, value in axes.items()}
