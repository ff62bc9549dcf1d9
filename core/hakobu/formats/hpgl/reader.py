"""HP-GL in: what the pens would draw, a layer for each pen and a piece for each stroke."""

from __future__ import annotations

import math
import re
from collections import Counter
from dataclasses import replace

import numpy as np

from ...geometry import Path, PathBuilder, compose, scaling, transform, translation
from ...model import Document, Layer, Piece, Stroke
from ...model.errors import TooMuch
from ...model.ids import piece_id
from ...model.notices import DAMAGED, LIVE_TEXT, NOT_UNDERSTOOD, TAKEN_PLAINLY
from ..format import ReadOptions, ReadResult
from .writer import UNITS_PER_MM

#: Device control (ESC . letter), a change of language (ESC % number letter), reset (ESC E).
ESCAPE = r"\x1b(?:\.[@()A-Z](?:[\d;]*:)?|%-?\d*[A-Z]|[A-Z0-9])"
_TOKEN = re.compile(ESCAPE + r"|LB[^\x03]*\x03?|PE[^;]*;?|([A-Za-z]{2})([^A-Za-z;\x1b]*)|[\s;]+|.", re.S)
_NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)")
#: Instructions that change speed, force or looks, not where the lines run.
_HARMLESS = {"VS", "FS", "AS", "PW", "WU", "CO", "PG", "BP", "PS", "NP", "PC", "TR", "SV", "AC", "LA", "PM", "IN", "DF"}
_PEN_COLORS = ("#1b2a4e", "#8a5a2b", "#2c6e5b", "#7a3b6b", "#4a6b8a", "#6b6b2c", "#8a3b3b", "#3b3b3b")


def read(data: bytes, options: ReadOptions) -> ReadResult:
    """Strokes as pieces, in millimetres, y down from the page's height or, without one, from the topmost line."""
    plotter = _Plotter(options)
    unknown: Counter[str] = Counter()
    for match in _TOKEN.finditer(data.decode("latin-1")):
        plotter.take(match, unknown)
    strokes = plotter.finish()
    height = options.page_height_mm
    if height is None:
        height = max((s.ctrl[..., 1].max() / UNITS_PER_MM for _, s in strokes), default=0.0)
    to_page = compose(translation(0, height), scaling(1 / UNITS_PER_MM, -1 / UNITS_PER_MM))
    pens = sorted({pen for pen, _ in strokes})
    layers = tuple(Layer(f"pen-{pen}", f"Pen {pen}", _PEN_COLORS[pen % 8]) for pen in pens)
    pieces = tuple(
        Piece(
            piece_id(options.key, f"stroke[{i + 1}]"),
            transform(stroke, to_page),
            f"pen-{pen}",
            stroke=Stroke(_PEN_COLORS[pen % 8], 0.2),
        )
        for i, (pen, stroke) in enumerate(strokes)
    )
    return ReadResult(Document(layers=layers, pieces=pieces), tuple(plotter.findings(unknown)))


class _Plotter:
    """The state of the plotter: pen, whether it is down, where it is, and what was drawn."""

    def __init__(self, options: ReadOptions) -> None:
        self.options = options
        self.done: list[tuple[int, Path]] = []
        self.builder: PathBuilder | None = None
        self.first = self.at = (0.0, 0.0)
        self.pen, self.down, self.relative = 1, False, False
        self.count = 0
        self.broken: list[str] = []
        self.labels: list[str] = []

    def take(self, match: re.Match, unknown: Counter[str]) -> None:
        word = (match[1] or "").upper()
        if not word:
            self._take_other(match[0], unknown)
            return
        numbers = [float(n) for n in _NUMBER.findall(match[2])]
        if _NUMBER.sub("", match[2]).strip(" ,\t\r\n"):
            self.broken.append(f"{word}{match[2].strip()[:20]}")
        do = getattr(self, f"do_{word.lower()}", None)
        if do:
            do(numbers)
        elif word not in _HARMLESS:
            unknown[word] += 1

    def _take_other(self, text: str, unknown: Counter[str]) -> None:
        if text.startswith("LB"):
            self.labels.append("".join(c for c in text[2:32] if c.isprintable()))
        elif text.startswith("PE"):
            unknown["PE"] += 1
        elif text.strip(" ;\t\r\n\x03") and not text.startswith("\x1b"):
            self.broken.append(text)

    # -- instructions ------------------------------------------------------------------------------------------------
    def do_pu(self, numbers: list[float]) -> None:
        self._end()
        self.down = False
        self._travel(numbers)

    def do_pd(self, numbers: list[float]) -> None:
        if not self.down:
            self.down = True
            self._begin()
        self._travel(numbers)

    def do_pa(self, numbers: list[float]) -> None:
        self.relative = False
        self._travel(numbers)

    def do_pr(self, numbers: list[float]) -> None:
        self.relative = True
        self._travel(numbers)

    def do_sp(self, numbers: list[float]) -> None:
        self._end()
        self.down = False
        self.pen = int(numbers[0]) if numbers else 0

    def do_in(self, numbers: list[float]) -> None:
        self._end()
        self.down, self.relative, self.at = False, False, (0.0, 0.0)

    def do_df(self, numbers: list[float]) -> None:
        self.relative = False

    def do_ci(self, numbers: list[float]) -> None:
        """A circle about the pen, which is put down for it and stays where it was."""
        if not numbers or numbers[0] == 0:
            self.broken.append("CI")
            return
        circle = PathBuilder()
        circle.circle(*self.at, abs(numbers[0]))
        self._keep(circle.path())

    def do_aa(self, numbers: list[float]) -> None:
        self._arc(numbers, (0.0, 0.0))

    def do_ar(self, numbers: list[float]) -> None:
        self._arc(numbers, self.at)

    # ----------------------------------------------------------------------------------------------------------------
    def _arc(self, numbers: list[float], origin: tuple[float, float]) -> None:
        if len(numbers) < 3:
            self.broken.append("AA/AR")
            return
        cx, cy, sweep = numbers[0] + origin[0], numbers[1] + origin[1], math.radians(numbers[2])
        x, y = self.at[0] - cx, self.at[1] - cy
        parts = max(1, math.ceil(abs(sweep) / math.pi - 1e-9))
        for i in range(1, parts + 1):
            c, s = math.cos(sweep * i / parts), math.sin(sweep * i / parts)
            to = (cx + x * c - y * s, cy + x * s + y * c)
            if self.down and to != self.at:
                self.builder.bulge_to(max(-1.0, min(1.0, math.tan(sweep / parts / 4))), to)
                self._count()
            self.at = to

    def _travel(self, numbers: list[float]) -> None:
        if len(numbers) % 2:
            self.broken.append(f"{len(numbers)} coordinates")
        for x, y in zip(numbers[::2], numbers[1::2], strict=False):
            to = (self.at[0] + x, self.at[1] + y) if self.relative else (x, y)
            if self.down:
                self.builder.line_to(to)
                self._count()
            self.at = to

    def _begin(self) -> None:
        self.builder, self.first = PathBuilder(), self.at
        self.builder.move_to(self.at)

    def _end(self) -> None:
        if not self.down or self.builder is None:
            return
        path = self.builder.path()
        # A stroke back to its very start is a closed outline; a lone dot is not.
        if path.segment_count > 1 and self.at == self.first:
            path = replace(path, closed=np.array([True]))
        self._keep(path)
        self.builder = None

    def _keep(self, path: Path) -> None:
        self.done.append((self.pen, path))

    def _count(self) -> None:
        self.count += 1
        if self.count > self.options.budget.segments:
            raise TooMuch("It holds more strokes than are read at once; split it.")

    def finish(self) -> list[tuple[int, Path]]:
        self._end()
        return self.done

    def findings(self, unknown: Counter[str]):
        for text in self.labels:
            yield LIVE_TEXT.at(f'The label "{text}" is drawn in the machine\'s own font.', text)
        if self.broken:
            count, first = len(self.broken), self.broken[0]
            yield DAMAGED.at(f'{count} instructions could not be read, the first: "{first}".', first, count=count)
        for word, count in sorted(unknown.items()):
            if word in ("LT", "FT", "SC", "IP", "IW", "RO"):
                notice, what = (
                    (TAKEN_PLAINLY, "dashes and fillings") if word in ("LT", "FT") else (NOT_UNDERSTOOD, "placing")
                )
                yield notice.at(f"{word} ({what}) stands {count} times and is not followed.", word, count=count)
            else:
                yield NOT_UNDERSTOOD.at(
                    f"The instruction {word} stands {count} times and is not known.", word, count=count
                )
