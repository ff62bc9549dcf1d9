"""SVG path data. Source: SVG 2, section 9.3: the grammar, and how to go on after an error (9.5.4)."""

from __future__ import annotations

import math
import re

from .build import PathBuilder
from .measure import box_of
from .path import Path

#: A number as SVG writes it.
NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")
_COMMAND = re.compile(r"([MmZzLlHhVvCcSsQqTtAa])")
_ARC = re.compile(
    rf"\s*,?\s*({NUMBER.pattern})\s*,?\s*({NUMBER.pattern})\s*,?\s*({NUMBER.pattern})\s*,?\s*([01])\s*,?\s*([01])"
    rf"\s*,?\s*({NUMBER.pattern})\s*,?\s*({NUMBER.pattern})"
)
_TAKES = {"m": 2, "l": 2, "h": 1, "v": 1, "c": 6, "s": 4, "q": 4, "t": 2}


def draw(data: str, builder: PathBuilder) -> str | None:
    """Draws path data up to its end or its first error; returns what the error was."""
    state = _State(builder)
    parts = _COMMAND.split(data)
    if parts[0].strip(" ,\t\r\n"):
        return f'it starts with "{parts[0].strip()[:12]}", not with a move'
    for command, text in zip(parts[1::2], parts[2::2], strict=True):
        if builder.position is None and command not in "Mm":
            return f'it starts with "{command}", not with a move'
        if command in "Zz":
            state.close()
            if text.strip(" ,\t\r\n"):
                return f'numbers stand behind "{command}"'
            continue
        groups, error = _arguments(command, text)
        for values in groups:
            state.do(command, values)
            command = {"M": "L", "m": "l"}.get(command, command)
        if error:
            return error
    return None


def closed_outline(data: str) -> Path:
    """The closed outlines of path data. Raises ValueError, saying what is wrong, where they make none that has an
    extent."""
    builder = PathBuilder()
    wrong = draw(data, builder)
    path = builder.path()
    if wrong:
        raise ValueError(wrong)
    if not len(path) or not path.closed.all():
        raise ValueError("it does not close")
    left, top, right, bottom = box_of(path)
    if min(right - left, bottom - top) <= 0:
        raise ValueError("it has no inside")
    return path


def _arguments(command: str, text: str) -> tuple[list[tuple], str | None]:
    if command in "Aa":
        return _arc_arguments(text)
    values = _plainly(text)
    if values is not None and len(values) == _TAKES[command.lower()]:
        return [tuple(values)], None
    return _any_arguments(command, text)


def _plainly(text: str) -> list[float] | None:
    """The numbers of a text that has nothing but numbers apart, as programs write them; None for any other."""
    try:
        values = list(map(float, text.replace(",", " ").split()))
    except ValueError:
        return None
    total = sum(values)
    # What is not finite is no number of the grammar, nor is what Python alone reads as one.
    return values if total - total == 0 and "_" not in text and text.isascii() else None


def _any_arguments(command: str, text: str) -> tuple[list[tuple], str | None]:
    odd = _ODD.search(text)
    takes = _TAKES[command.lower()]
    values = [float(n) for n in NUMBER.findall(text[: odd.start()] if odd else text)]
    error = None
    if odd:
        error = f'"{text[odd.start() :][:12]}" stands among its numbers'
    elif len(values) % takes or not values:
        error = f'"{command}" has {len(values)} numbers, not a multiple of {takes}'
    if any(not math.isfinite(v) for v in values):
        return [], "a number in it is too large"
    return [tuple(values[i : i + takes]) for i in range(0, len(values) - takes + 1, takes)], error


#: Anything that is neither part of a number nor a separator.
_ODD = re.compile(r"[^\d\s,.+\-eE]")


def _arc_arguments(text: str) -> tuple[list[tuple], str | None]:
    groups, at = [], 0
    while match := _ARC.match(text, at):
        rx, ry, turn, large, sweep, x, y = match.groups()
        groups.append((float(rx), float(ry), float(turn), large == "1", sweep == "1", float(x), float(y)))
        at = match.end()
    if any(not math.isfinite(v) for group in groups for v in group):
        return [], "a number in it is too large"
    rest = text[at:].strip(" ,\t\r\n")
    return groups, f'the arc "{rest[:20]}" is not whole' if rest or not groups else None


class _State:
    """Where the pen is, and the last handle, which smooth commands reflect."""

    def __init__(self, builder: PathBuilder) -> None:
        self.builder = builder
        self.at = (0.0, 0.0)
        self.first = (0.0, 0.0)
        self.handle: tuple[float, float] | None = None
        self.before = ""

    def close(self) -> None:
        self.builder.close()
        self.at, self.before = self.first, "z"

    def do(self, command: str, v: tuple) -> None:
        kind = command.lower()
        ox, oy = self.at if command.islower() else (0.0, 0.0)
        x, y = self.at
        if kind == "c":
            self._cubic((v[0] + ox, v[1] + oy), (v[2] + ox, v[3] + oy), (v[4] + ox, v[5] + oy))
        elif kind == "l":
            self._line((v[0] + ox, v[1] + oy))
        elif kind == "m":
            self.at = self.first = (v[0] + ox, v[1] + oy)
            self.builder.move_to(self.at)
        elif kind == "h":
            self._line((v[0] + ox, y))
        elif kind == "v":
            self._line((x, v[0] + oy))
        elif kind == "s":
            self._cubic(self._reflected("cs"), (v[0] + ox, v[1] + oy), (v[2] + ox, v[3] + oy))
        elif kind == "q":
            self._quadratic((v[0] + ox, v[1] + oy), (v[2] + ox, v[3] + oy))
        elif kind == "t":
            self._quadratic(self._reflected("qt"), (v[0] + ox, v[1] + oy))
        else:
            to = (v[5] + ox, v[6] + oy)
            self.builder.elliptical_arc_to(v[0], v[1], math.radians(v[2]), v[3], v[4], to)
            self.at = to
        self.before = kind

    def _line(self, to: tuple[float, float]) -> None:
        self.builder.line_to(to)
        self.at = to

    def _cubic(self, handle1, handle2, to) -> None:
        self.builder.cubic_to(handle1, handle2, to)
        self.at, self.handle = to, handle2

    def _quadratic(self, handle, to) -> None:
        self.builder.quadratic_to(handle, to)
        self.at, self.handle = to, handle

    def _reflected(self, after: str) -> tuple[float, float]:
        if self.before not in after or self.handle is None or not self.before:
            return self.at
        return 2 * self.at[0] - self.handle[0], 2 * self.at[1] - self.handle[1]
