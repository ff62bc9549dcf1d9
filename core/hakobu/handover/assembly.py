"""The assembly page: the whole design with a number on each piece, and the pieces of each layer by themselves."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, box_of, compose, primitives, scaling, transform, translation
from ..geometry.boolean import union
from ..geometry.inner import largest_circle
from ..lettering.text_path import text_path
from ..model import Document, Fill, Layer, Page, Piece, Stroke, Treatment
from ..model.features import DrawnDimension, drawn_dimensions
from ..model.shapes import has_inside, operand_of
from ..model.units import size_text
from ..model.words import number_of

#: A4 (ISO 216), its margin, and how high the whole design and each layer may be on it, in mm.
PAGE_MM, MARGIN_MM = (210.0, 297.0), 12.0
WHOLE_MM, LAYER_MM, BETWEEN_MM = 110.0, 60.0, 16.0
#: Capitals of titles and lines, and of numbers, in mm; a number that has no room in its piece stands beside it.
TITLE_MM, TEXT_MM, NUMBER_MM, LEAST_NUMBER_MM = 5.0, 2.6, 3.0, 1.2
#: A size is rounded down to one of these shares, so that it can be told: true size, a half, and so on.
SCALES = (1.0, 0.75, 0.5, 0.4, 0.25, 0.2, 0.1, 0.05, 0.02, 0.01)
INK, PAPER = "#1b2a4e", "#ffffff"
#: The colour of what is measured, and half the length of the ticks at its ends, in mm.
DIMENSION, DIMENSION_TICK_MM = "#1d6b5c", 1.2
#: More pieces than this would be a page of numbers.
MOST_PIECES = 400


@dataclass
class _Sheet:
    """What is drawn so far, and how far down the page it reaches."""

    pieces: list[Piece] = field(default_factory=list)
    down: float = MARGIN_MM

    def put(self, path: Path, color: str | None, line: str | None = None) -> None:
        if len(path):
            name = f"a:{len(self.pieces)}"
            fill, stroke = Fill(color) if color else None, Stroke(line, 0.2) if line else None
            self.pieces.append(Piece(name, path, "page", "", fill=fill, stroke=stroke))

    def text(self, words: str, x: float, capitals_mm: float, middle: bool = False, y: float | None = None) -> None:
        self.put(text_path(words, (x, self.down if y is None else y), capitals_mm, middle), INK)


def assembly_page(document: Document, title: str = "") -> Document:
    """A page, A4 wide, to be written as PDF or SVG: pieces are numbered from the lowest up, as they are laid on each
    other. Raises CannotDo where there is nothing to show, or far too much."""
    pieces = list(document.pieces_in_use())
    if not pieces:
        raise CannotDo("There is nothing to put together yet.")
    if len(pieces) > MOST_PIECES:
        raise CannotDo(f"These are {len(pieces):,} pieces: an assembly page shows {MOST_PIECES} at most.")
    numbers = {piece.id: number + 1 for number, piece in enumerate(pieces)}
    sheet = _Sheet()
    sheet.down += TITLE_MM
    sheet.text(title or "Assembly", MARGIN_MM, TITLE_MM)
    width, height = document.size_mm
    scale = _scale(width, height, WHOLE_MM)
    sheet.down += 7.0
    sheet.text(f"{size_text(width, height)}, {number_of(len(pieces), 'piece')}; {_shown(scale)}", MARGIN_MM, TEXT_MM)
    sheet.down += 6.0
    _drawn(sheet, document, pieces, numbers, scale, drawn_dimensions(document))
    for layer in document.layers:
        own = [piece for piece in pieces if piece.layer == layer.id]
        if own:
            _layer(sheet, document, layer, own, numbers)
    page = Page(PAGE_MM[0], max(PAGE_MM[1], sheet.down + MARGIN_MM))
    return Document(page, (Layer("page", "Page", INK, Treatment.DRAW),), tuple(sheet.pieces))


def _scale(width: float, height: float, high: float) -> float:
    most = min((PAGE_MM[0] - 2 * MARGIN_MM) / max(width, 1e-9), high / max(height, 1e-9))
    return next((scale for scale in SCALES if scale <= most), most)


def _layer(sheet: _Sheet, document: Document, layer: Layer, own: list[Piece], numbers: dict[str, int]) -> None:
    sheet.down += BETWEEN_MM
    sheet.put(primitives.rectangle(MARGIN_MM, sheet.down - 4.0, 5.0, 5.0, 0.8), layer.color)
    left, top, right, bottom = box_of(Path.concatenate(piece.path for piece in own))
    scale = _scale(right - left, bottom - top, LAYER_MM)
    what = f"{layer.name}: {layer.treatment.value}{f', {layer.material}' if layer.material else ''}"
    listed = _listed([numbers[piece.id] for piece in own])
    sheet.text(f"{what}; {listed}; {_shown(scale)}", MARGIN_MM + 8.0, TEXT_MM)
    sheet.down += 5.0
    _drawn(sheet, document, own, numbers, scale)


def _shown(scale: float) -> str:
    return "at true size" if scale == 1 else f"at {100 * scale:.3g} % of its size"


def _listed(numbers: list[int]) -> str:
    """Numbers as runs: "1 to 4, 7"."""
    runs: list[list[int]] = []
    for number in sorted(numbers):
        if runs and number == runs[-1][-1] + 1:
            runs[-1].append(number)
        else:
            runs.append([number])
    return ", ".join(f"{run[0]} to {run[-1]}" if len(run) > 2 else ", ".join(map(str, run)) for run in runs)


def _drawn(
    sheet: _Sheet,
    document: Document,
    pieces: list[Piece],
    numbers: dict[str, int],
    scale: float,
    dimensions: Sequence[DrawnDimension] = (),
) -> None:
    """Pieces in the middle of the page, below what is there, each with its number; and what is measured of them."""
    left, top, right, bottom = box_of(Path.concatenate(piece.path for piece in pieces))
    x = (PAGE_MM[0] - (right - left) * scale) / 2
    matrix = compose(translation(x, sheet.down), compose(scaling(scale), translation(-left, -top)))
    marks = []
    for piece in pieces:
        path = transform(piece.path, matrix)
        color = document.layer_by_id[piece.layer].color
        shape = union(operand_of(replace(piece, path=path))).path if has_inside(piece) else None
        if shape is not None and piece.fill is not None:
            sheet.put(shape, color, INK)
        else:
            sheet.put(path, None, color)
        marks.append(_mark(shape if shape is not None and len(shape) else path, numbers[piece.id], shape is not None))
    # Numbers last: nothing lies over them.
    for words, place, size, knob in marks:
        sheet.put(knob, PAPER, INK)
        sheet.text(words, place[0], size, middle=True, y=place[1] + size / 2)
    for dimension in dimensions:
        if dimension.size is not None:
            _dimension(sheet, dimension, matrix)
    sheet.down += (bottom - top) * scale


def _dimension(sheet: _Sheet, dimension: DrawnDimension, matrix: np.ndarray) -> None:
    """A line between the places that are measured, with ticks at its ends and its figure in the middle on paper."""
    ends = np.array(dimension.ends) @ matrix[:, :2].T + matrix[:, 2]
    if dimension.kind == "angle":
        corner, one, other = ends
        lines = [(one, corner), (corner, other)]
        middle = (one + other) / 2
    else:
        one, other = ends
        way = other - one
        across = np.array([-way[1], way[0]]) / max(float(np.hypot(*way)), 1e-9) * DIMENSION_TICK_MM
        lines = [(one, other), (one - across, one + across), (other - across, other + across)]
        middle = (one + other) / 2
    for pair in lines:
        sheet.put(Path.from_points(np.array(pair), closed=False), None, DIMENSION)
    words = " ".join(filter(None, (dimension.name, dimension.text.replace("⌀ ", "").replace("°", " deg"))))
    text = text_path(words, (float(middle[0]), float(middle[1])), NUMBER_MM * 0.7, False)
    if not len(text):
        return
    left, top, right, bottom = box_of(text)
    x, y = float(middle[0]) - (left + right) / 2, float(middle[1]) - (top + bottom) / 2
    plate = primitives.rectangle(left + x - 1.0, top + y - 0.8, right - left + 2.0, bottom - top + 1.6, 0.6)
    sheet.put(plate, PAPER, DIMENSION)
    sheet.put(transform(text, translation(x, y)), DIMENSION)


def _mark(path: Path, number: int, inside: bool) -> tuple[str, tuple[float, float], float, Path]:
    """A piece's number, where it stands, how high, and the disc that it stands on."""
    circle = largest_circle(path) if inside else None
    words = str(number)
    if circle is None or circle.radius < LEAST_NUMBER_MM:
        # There is no room in it: at its first node.
        place, radius = (circle.centre if circle else path.ctrl[0, 0]), LEAST_NUMBER_MM * 1.4
    else:
        place, radius = circle.centre, min(circle.radius * 0.9, NUMBER_MM * (1.0 + 0.25 * (len(words) - 1)))
    x, y = (float(v) for v in place)
    size = radius * 0.9 / (1.0 + 0.35 * (len(words) - 1))
    return words, (x, y), size, primitives.circle(x, y, radius)
