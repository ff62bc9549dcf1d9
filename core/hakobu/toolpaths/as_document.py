"""A program as a document: for formats that hold lines, not what a tool does."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..geometry import Path, compose, scaling, transform, translation
from ..model import Document, Layer, Page, Stroke
from .program import Program

#: How broad lines are shown, in mm.
SHOWN_MM = 0.1


def as_document(program: Program, design: Document) -> Document:
    """The lines of a program's first pass on the page of its design: a layer for each tool, with the layer's name,
    colour and treatment; a piece for each of the design, in the order in which they are worked."""
    height = program.page_height_mm
    down = compose(translation(0.0, height), scaling(1.0, -1.0))
    known = {piece.id: piece for piece in design.pieces}
    layers, pieces = [], []
    for nth, tool in enumerate(program.tools):
        layer = Layer(f"tool-{nth + 1}", tool.layer, tool.color, tool.treatment)
        layers.append(layer)
        rows = np.flatnonzero((program.tool == nth) & (program.nth_pass == 1))
        for piece in dict.fromkeys(program.piece[rows].tolist()):
            own = rows[program.piece[rows] == piece]
            path = transform(program.path.take(own), down)
            of = known[program.pieces[piece]]
            line = replace(of, path=path, layer=layer.id, stroke=Stroke(layer.color, SHOWN_MM))
            # What is open encloses nothing that could be filled.
            pieces.append(line if path.closed.all() else replace(line, fill=None))
    page = design.page or Page(*design.frame)
    return Document(page, tuple(layers), tuple(pieces))


def lines_of(program: Program, every_pass: bool = True) -> Path:
    """The lines of all passes, or of the first one, on the page of the design."""
    down = compose(translation(0.0, program.page_height_mm), scaling(1.0, -1.0))
    path = program.path if every_pass else program.path.take(np.flatnonzero(program.nth_pass == 1))
    return transform(path, down)
