"""The cover of what is handed over: a page that says what there is, and one for each sheet with its picture."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..geometry import Path, compose, primitives, scaling, transform, translation
from ..lettering.text_path import text_path
from ..model import Document, Fill, Layer, Page, Piece, Stroke, Treatment
from ..model.units import as_mm

#: A4 (ISO 216) and its margin; capitals of titles and lines; and the most that a picture may be, in mm.
PAGE_MM, MARGIN_MM, TITLE_MM, TEXT_MM = (210.0, 297.0), 15.0, 6.0, 2.5
PICTURE_MM = (168.0, 140.0)
#: What stays free between lines, as a share of their capitals; the longest line, in letters.
LEADING, LONGEST = 2.1, 92
INK, PALE, RIM = "#1b2a4e", "#8a8471", "#b4331f"
LINE_MM = 0.25
#: What is to be left alone when a file is opened.
LEAVE = (
    "Leave alone when you open these files:",
    "- their size: every file carries true millimetres; scale stays at 100 %.",
    "- their place: the lower left corner of the sheet is the corner of the file.",
    "- mirroring: sheets that are cut from the back are mirrored already.",
    "- offsets, overcut and kerf: they are in the machine files; set them to 0 there.",
)


@dataclass(frozen=True)
class CoverSheet:
    """One sheet on the cover. laid: what lies on it as the tool sees it; lines: its text."""

    title: str
    laid: Document
    lines: tuple[str, ...]


def cover_pages(title: str, said: Sequence[str], sheets: Sequence[CoverSheet]) -> list[Document]:
    """The pages, to be written as one PDF. said: lines of the first page."""
    return [_first(title, said), *(_of_sheet(sheet, n, len(sheets)) for n, sheet in enumerate(sheets, 1))]


class _Paper:
    def __init__(self) -> None:
        self.pieces: list[Piece] = []
        self.down = MARGIN_MM

    def put(self, path: Path, color: str = INK, filled: bool = True) -> None:
        if len(path):
            fill = Fill(color) if filled else None
            stroke = None if filled else Stroke(color, LINE_MM)
            self.pieces.append(Piece(f"a:{len(self.pieces)}", path, "page", "", fill=fill, stroke=stroke))

    def say(self, words: str, capitals_mm: float = TEXT_MM, color: str = INK) -> None:
        self.down += capitals_mm
        self.put(text_path(words[:LONGEST], (MARGIN_MM, self.down), capitals_mm), color)
        self.down += capitals_mm * (LEADING - 1)

    def page(self) -> Document:
        layer = Layer("page", "Page", INK, Treatment.DRAW)
        return Document(Page(*PAGE_MM, fixed=True), (layer,), tuple(self.pieces))


def _first(title: str, said: Sequence[str]) -> Document:
    paper = _Paper()
    paper.say(title, TITLE_MM)
    paper.down += TEXT_MM
    for line in (*said, "", *LEAVE):
        paper.say(line) if line else _skip(paper)
    return paper.page()


def _skip(paper: _Paper) -> None:
    paper.down += TEXT_MM * LEADING


def _of_sheet(sheet: CoverSheet, nth: int, count: int) -> Document:
    paper = _Paper()
    paper.say(sheet.title, TITLE_MM)
    paper.say(f"Sheet {nth} of {count}", color=PALE)
    paper.down += 2 * TEXT_MM
    width, height = sheet.laid.frame
    share = min(PICTURE_MM[0] / width, PICTURE_MM[1] / height, 1.0)
    left, top = MARGIN_MM, paper.down + 2 * TEXT_MM
    at = compose(translation(left, top), scaling(share, share))
    paper.put(transform(primitives.rectangle(0, 0, width, height), at), RIM, filled=False)
    for piece in sheet.laid.pieces_followed():
        path = transform(piece.path, at)
        color = sheet.laid.layer_by_id[piece.layer].color
        line = replace(piece, id=f"p:{len(paper.pieces)}", path=path, layer="page", fill=None)
        paper.pieces.append(replace(line, stroke=Stroke(color, LINE_MM)))
    _dimension(paper, (left, top - TEXT_MM), (left + width * share, top - TEXT_MM), as_mm(round(width, 2)))
    below = top + height * share
    side = left + width * share + 2 * TEXT_MM
    _dimension(paper, (side, top), (side, below), as_mm(round(height, 2)))
    paper.down = below + 4 * TEXT_MM
    if share < 1:
        paper.say(f"Shown at {100 * share:.0f} % of its size", color=PALE)
    for line in sheet.lines:
        paper.say(line)
    return paper.page()


def _dimension(paper: _Paper, first: tuple[float, float], last: tuple[float, float], words: str) -> None:
    """A line between two places with its length on it."""
    paper.put(Path.from_points(np.array([first, last]), closed=False), PALE, filled=False)
    level = first[1] == last[1]
    for x, y in (first, last):
        tick = [(x, y - 1), (x, y + 1)] if level else [(x - 1, y), (x + 1, y)]
        paper.put(Path.from_points(np.array(tick), closed=False), PALE, filled=False)
    middle = ((first[0] + last[0]) / 2, (first[1] + last[1]) / 2)
    place = (middle[0] - 6, middle[1] - 1) if level else (middle[0] + 1, middle[1])
    paper.put(text_path(words, place, 0.9 * TEXT_MM), PALE)
