"""A file of HP-GL as strokes in parts, none of which holds a place twice."""

from __future__ import annotations

import re
from dataclasses import dataclass

from ...errors import CannotDo

#: Points of one part of a stroke: a plotter that was cut off is in a part that holds no place twice.
POINTS = 12
_INSTRUCTION = re.compile(r"\s*([A-Za-z]{2})([^;]*);")


@dataclass(frozen=True)
class Stroke:
    """What is told before it; the pen, speed and force that hold when it begins; where it begins; and its parts: the
    places, in steps, and the words between them."""

    setup: str
    state: str
    start: tuple[int, int]
    parts: tuple[tuple[tuple[str, tuple[tuple[int, int], ...]], ...], ...]


def parsed(text: str) -> tuple[str, list[Stroke], str]:
    """What comes before the first stroke, the strokes, and what comes after the last one. Raises CannotDo for what is
    not told stroke by stroke."""
    rest = _INSTRUCTION.sub("", text).strip()
    if rest:
        raise CannotDo(f'This file cannot be sent stroke by stroke: "{rest[:20]}" is not understood.')
    parser = _Parser()
    for match in _INSTRUCTION.finditer(text):
        parser.take(match[1].upper(), match[2])
    parser.end()
    return parser.head, parser.strokes, f"PU;{parser.setup}"


class _Parser:
    def __init__(self) -> None:
        self.head = self.setup = ""
        self.strokes: list[Stroke] = []
        self._at: tuple[str, str, tuple[int, int]] | None = None
        self._parts: list = []
        self._words: list = []
        self._seen: set = set()
        #: Of SP, VS and FS what was told last; and what was told since the last place.
        self._state: dict[str, str] = {}
        self._told = ""

    def take(self, word: str, numbers: str) -> None:
        if word in ("PE", "AA", "AR", "CI"):
            raise CannotDo(f"A file with {word} cannot be sent stroke by stroke: write it without.")
        if word == "PU":
            self.end()
            if numbers:
                x, y = map(int, numbers.split(","))
                self._at, self.setup, self._seen = (self.setup, "".join(self._state.values()), (x, y)), "", {(x, y)}
        elif word == "PD" and numbers and self._at:
            self._draw(list(map(int, numbers.split(","))))
        elif word in ("IN", "PA", "PS", "VN") and not self.strokes and not self._at:
            self.head += f"{word}{numbers};"
        else:
            self._told += f"{word}{numbers};"
            if word in ("SP", "VS", "FS"):
                self._state[word] = f"{word}{numbers};"

    def _draw(self, flat: list[int]) -> None:
        assert self._at
        if self._told:
            # Speed that changes on the way.
            self._words.append((self._told, ()))
            self._told = ""
        own: list = []
        for point in zip(flat[::2], flat[1::2], strict=True):
            if point in self._seen or len(self._seen) >= POINTS:
                if own:
                    self._words.append(("", tuple(own)))
                self._parts.append(tuple(self._words))
                before = (own or [p for w in self._parts[-1] for p in w[1]] or [self._at[2]])[-1]
                self._words, own, self._seen = [], [], {before}
            own.append(point)
            self._seen.add(point)
        self._words.append(("", tuple(own)))

    def end(self) -> None:
        """The stroke under way is whole; what was told behind it is of the next one."""
        if self._words:
            self._parts.append(tuple(self._words))
        if self._at and self._parts:
            self.strokes.append(Stroke(*self._at, tuple(self._parts)))
        self._at, self._parts, self._words = None, [], []
        self.setup, self._told = self.setup + self._told, ""


def said(word: str, points: tuple[tuple[int, int], ...]) -> str:
    return word + (f"PD{','.join(f'{x},{y}' for x, y in points)};" if points else "")


def words_of(parts: tuple) -> str:
    """What is told in some parts besides their places."""
    return "".join(word for words in parts for word, _ in words)


def start_of(stroke: Stroke, part: int) -> tuple[int, int]:
    """Where a part of a stroke begins: where the one before ends."""
    for words in reversed(stroke.parts[:part]):
        for _, points in reversed(words):
            if points:
                return points[-1]
    return stroke.start


def from_place(place: tuple[int, int], first: tuple[int, int], parts: tuple) -> tuple[tuple[int, int], tuple]:
    """Parts from the place in the first of them that the pen has come to; from their start if it is not there yet."""
    (own, *others) = parts
    for k, (word, points) in enumerate(own):
        if place in points:
            left = ((word, points[points.index(place) + 1 :]), *own[k + 1 :])
            return place, (tuple(each for each in left if each[0] or each[1]), *others)
    return first, parts
