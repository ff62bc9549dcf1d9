"""HP-GL in: what the pens would draw, a layer for each pen; closed strokes inside others are their holes."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator

from ...model import Finding
from ...model.notices import DAMAGED, LIVE_TEXT, NOT_UNDERSTOOD, TAKEN_PLAINLY
from ...model.units import FileUnit
from ..format import ReadOptions, ReadResult
from ..machine_files import document_of
from . import UNITS_PER_MM
from .plotter import FILLS, HARMLESS, Plotter
from .scanning import instructions

_NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")
#: Numbers, and what stands between them as a rule.
PLAIN = frozenset("0123456789.+-, \t\r\n")
#: What is said of instructions that are known, but not followed.
UNFOLLOWED = {
    "LT": (TAKEN_PLAINLY, "dashes"),
    "FT": (TAKEN_PLAINLY, "fillings"),
    "UF": (TAKEN_PLAINLY, "fillings"),
    "IW": (NOT_UNDERSTOOD, "a window that cuts off lines"),
    "IR": (NOT_UNDERSTOOD, "placing by shares of the sheet"),
}


def read(data: bytes, options: ReadOptions) -> ReadResult:
    """Strokes as pieces, in millimetres, y down from the page's height or, without one, from the topmost line."""
    plotter = Plotter(options.budget)
    heard = Heard()
    for word, rest in instructions(data.decode("latin-1")):
        heard.take(plotter, word, rest)
    strokes = plotter.finish()
    layers = {pen: (f"pen-{pen}", f"Pen {pen}", pen) for pen in sorted({pen for pen, _ in strokes})}
    steps = options.steps_per_mm or UNITS_PER_MM
    document = document_of(strokes, layers, steps, options)
    return ReadResult(document, tuple(heard.findings(plotter)), unit=FileUnit("step", 1 / steps, True))


def numbers_of(text: str) -> tuple[list[float], bool]:
    """The numbers of an instruction, and whether anything else stands among them."""
    if PLAIN.issuperset(text):
        try:
            return list(map(float, text.replace(",", " ").split())), False
        except ValueError:
            # Signs or points that part numbers by themselves.
            pass
    return [float(n) for n in _NUMBER.findall(text)], bool(_NUMBER.sub("", text).strip(" ,\t\r\n"))


class Heard:
    """What was heard beside lines: labels, what is not known, what could not be read."""

    def __init__(self) -> None:
        self.labels: list[str] = []
        self.unknown: Counter[str] = Counter()
        self.filled = 0
        self.odd: list[str] = []

    def take(self, plotter: Plotter, word: str, rest: str) -> None:
        if word == "LB":
            self.labels.append("".join(c for c in rest[:30] if c.isprintable()))
        elif word == "PE":
            plotter.follow_encoded(rest)
        elif not word:
            self.odd.append(rest)
        elif word not in HARMLESS:
            numbers, odd = numbers_of(rest)
            if odd:
                plotter.broken.append(f"{word}{rest.strip()[:20]}")
            self.filled += word in FILLS
            if not plotter.do(word, numbers):
                self.unknown[word] += 1

    def findings(self, plotter: Plotter) -> Iterator[Finding]:
        for text in self.labels:
            yield LIVE_TEXT.at(f'The label "{text}" is drawn in the machine\'s own font.', text)
        broken = plotter.broken + self.odd
        if broken:
            count, first = len(broken), broken[0]
            yield DAMAGED.at(f'{count} instructions could not be read, the first: "{first}".', first, count=count)
        if self.filled:
            what = f"{self.filled} areas are filled; their outlines are taken."
            yield TAKEN_PLAINLY.at(what, "fills", count=self.filled)
        if plotter.said["unplaced"]:
            yield NOT_UNDERSTOOD.at(
                "SC scales to the plotter's own sheet, which the file does not state: units are taken as they are.",
                "SC",
            )
        if plotter.said["RO"]:
            yield TAKEN_PLAINLY.at("RO turns the drawing; where it then lies depends on the plotter.", "RO")
        for word, count in sorted(self.unknown.items()):
            if word in UNFOLLOWED:
                notice, what = UNFOLLOWED[word]
                yield notice.at(f"{word} ({what}) stands {count} times and is not followed.", word, count=count)
            else:
                said = f"The instruction {word} stands {count} times and is not known."
                yield NOT_UNDERSTOOD.at(said, word, count=count)
