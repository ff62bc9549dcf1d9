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
    """What is told before it, where it begins, and its parts: the places, in steps, and the words between them."""

    setup: str
    start: tuple[int, int]
    parts: tuple[tuple[tuple[str, tuple[tuple[int, int], ...]], ...], ...]


def parsed(text: str) -> tuple[str, list[Stroke], str]:
    """What comes before the first stroke, the strokes, and what comes after the last one."""
    head, setup, strokes, at = "", "", [], None
    parts: list = []
    words: list = []

    def end() -> None:
        nonlocal parts, words
        if words:
            parts.append(tuple(words))
        if at is not None and parts:
            strokes.append(Stroke(at[0], at[1], tuple(parts)))
        parts, words = [], []

    rest = _INSTRUCTION.sub("", text).strip()
    if rest:
        raise CannotDo(f'This file cannot be sent stroke by stroke: "{rest[:20]}" is not understood.')
    seen: set = set()
    for match in _INSTRUCTION.finditer(text):
        word, numbers = match[1].upper(), match[2]
        if word == "PU" and numbers:
            end()
            x, y = map(int, numbers.split(","))
            at, setup, seen = (setup, (x, y)), "", {(x, y)}
        elif word == "PD" and numbers and at is not None:
            flat = list(map(int, numbers.split(",")))
            points = list(zip(flat[::2], flat[1::2], strict=True))
            own: list = []
            for point in points:
                if point in seen or len(seen) >= POINTS:
                    if own:
                        words.append(("", tuple(own)))
                    parts.append(tuple(words))
                    before = (own or [p for w in parts[-1] for p in w[1]] or [at[1]])[-1]
                    words, own, seen = [], [], {before}
                own.append(point)
                seen.add(point)
            words.append(("", tuple(own)))
        elif word in ("PE", "AA", "AR", "CI"):
            raise CannotDo(f"A file with {word} cannot be sent stroke by stroke: write it without.")
        elif at is not None and (parts or words) and word in ("VS", "FS"):
            # Speed that changes on the way.
            words.append((f"{word}{numbers};", ()))
        elif at is None and word in ("IN", "PA", "PS", "VN"):
            head += f"{word}{numbers};"
        elif word == "PU":
            end()
            at = None
        else:
            setup += f"{word}{numbers};"
    end()
    return head, strokes, f"PU;{setup}"


def said(word: str, points: tuple[tuple[int, int], ...]) -> str:
    return word + (f"PD{','.join(f'{x},{y}' for x, y in points)};" if points else "")


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
