"""Lines of letters laid out: at their size, one below the other, with what a person has moved by hand."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, rotation, scaling, transform, translation
from ..geometry.affine import compose
from .baseline import Baseline
from .face import EM_MM, Face
from .setting import Letter, Line, Spaced, spaced

#: Where lines stand against each other.
ALIGN = {"left": -1, "centre": 0, "right": 1}
#: No em is larger than this, in mm.
MOST_EM = 20_000.0


@dataclass(frozen=True)
class Spacing:
    """between: what there is between letters in mm, more than the face has, or by_outlines between their outlines.
    line: from baseline to baseline, as a share of the em."""

    between: float = 0.0
    by_outlines: bool = False
    line: float = 1.2


@dataclass(frozen=True)
class Moved:
    """A letter moved by hand: along the baseline and up from it in mm, turned and sheared in radians, its width and
    height so many times what they were."""

    along: float = 0.0
    up: float = 0.0
    turn: float = 0.0
    shear: float = 0.0
    wide: float = 1.0
    high: float = 1.0

    def matrix(self) -> np.ndarray:
        shear = np.array([[1.0, -np.tan(self.shear), 0.0], [0.0, 1.0, 0.0]])
        own = compose(shear, scaling(self.wide, self.high))
        return compose(translation(self.along, -self.up), compose(rotation(self.turn), own))


@dataclass(frozen=True)
class Set:
    """Lines at a size. Positions in mm: s along the baseline from the middle of the widest line, down from the first
    baseline."""

    lines: tuple[Spaced, ...]
    em_mm: float
    align: str
    spacing: Spacing

    @cached_property
    def width(self) -> float:
        return max((line.right - line.left for line in self.lines), default=0.0)

    @cached_property
    def top_bottom(self) -> tuple[float, float]:
        """Top and bottom of the ink, below the first baseline."""
        boxes = [(each.box[1], each.box[3], n) for n, s in enumerate(self.lines) for each in s.line.inked]
        scale, down = self.em_mm / EM_MM, self.spacing.line * self.em_mm
        return (
            min((top * scale + n * down for top, _, n in boxes), default=0.0),
            max((bottom * scale + n * down for _, bottom, n in boxes), default=0.0),
        )

    def starts(self, line: Spaced) -> float:
        """How far a line's letters are shifted along the baseline."""
        side = ALIGN[self.align]
        own = line.left if side < 0 else line.right if side > 0 else (line.left + line.right) / 2
        return side * self.width / 2 - own


def set_at(lines: Sequence[Line], em_mm: float, spacing: Spacing, align: str = "centre") -> Set:
    made = tuple(spaced(line, em_mm, spacing.between, spacing.by_outlines) for line in lines)
    return Set(made, em_mm, align, spacing)


def em_of(face: Face, lines: Sequence[Line], by: str, size_mm: float, spacing: Spacing) -> float:
    """The em, in mm, at which capitals, x, the whole text or its width measure so much. by: "capitals", "x", "em",
    "whole" or "width". Raises CannotDo where that is not possible."""
    if by in ("width", "whole"):
        em = _solved(lines, size_mm, spacing, _width if by == "width" else _height)
    else:
        em = size_mm * EM_MM / {"capitals": face.capitals, "x": face.x_height, "em": EM_MM}[by]
    if em > MOST_EM:
        raise CannotDo("These letters would be far larger than any sheet: take a smaller size.")
    return em


def _solved(lines: Sequence[Line], size_mm: float, spacing: Spacing, of: Callable[[Set], float]) -> float:
    """Sizes grow evenly with the em, but for what stays between letters: so two sizes tell all others."""
    one, two = (of(set_at(lines, em, spacing)) for em in (EM_MM, 2 * EM_MM))
    growth = two - one
    if growth <= 0:
        raise CannotDo("These letters have no size of their own: type a letter that can be seen.")
    em = EM_MM * (1 + (size_mm - one) / growth)
    if em <= 0:
        raise CannotDo("What stays between the letters is more than the whole width: take less, or a larger width.")
    return em


def _width(made: Set) -> float:
    return made.width


def _height(made: Set) -> float:
    top, bottom = made.top_bottom
    return bottom - top


@dataclass(frozen=True)
class Laid:
    """A letter where it stands. line: the number of its line; nth: the how-manieth of its kind in the whole text;
    frame (2, 3): takes a letter, its middle at 0, 0, to its place on the baseline, before it is moved by hand."""

    letter: Letter
    line: int
    nth: int
    path: Path
    frame: np.ndarray


def laid_out(
    made: Set,
    baseline: Baseline,
    shift: tuple[float, float] = (0.0, 0.0),
    moved: Mapping[tuple[str, int], Moved] | None = None,
    ready: Callable[[Path], Path] = lambda path: path,
) -> list[Laid]:
    """All letters on a baseline, shifted along it and down from it. moved: by a letter and the how-manieth of its kind
    in the whole text; ready: what is done to the outlines of a letter at its size, worked out once for equal ones."""
    scale, laid = made.em_mm / EM_MM, []
    seen: dict[str, int] = {}
    remembered: dict[Path, Path] = {}
    for number, line in enumerate(made.lines):
        letters = line.line.inked
        middles = np.array([letter.advance / 2 for letter in letters]) * scale
        at = line.x + middles + made.starts(line) + shift[0]
        frames = baseline.frames(at, number * made.spacing.line * made.em_mm + shift[1])
        for letter, middle, frame in zip(letters, middles, frames, strict=True):
            seen[letter.text] = seen.get(letter.text, 0) + 1
            hand = (moved or {}).get((letter.text, seen[letter.text]))
            if letter.path not in remembered:
                remembered[letter.path] = ready(transform(letter.path, scaling(scale)))
            own = translation(-middle, 0.0)
            matrix = compose(frame, compose(hand.matrix(), own) if hand else own)
            path = transform(remembered[letter.path], matrix)
            laid.append(Laid(letter, number, seen[letter.text], path, frame))
    return laid
