"""shape: a plain figure by its sizes: for frames, backings, holes for hanging."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ..errors import BadRequest
from ..geometry import Path, primitives, rotation, transform
from ..model import Document, Fill, Layer, Piece, Stroke
from ..model.declare import choice, count, length, number, point, text
from ..model.declare import layer as a_layer
from ..model.ids import piece_id
from ..model.units import as_mm, parse_length, size_text
from .making import with_first_page
from .operation import Context, Operation, Outcome, at_once
from .place import about

KINDS = (
    ("rectangle", "a rectangle"),
    ("circle", "a circle"),
    ("ellipse", "an ellipse"),
    ("polygon", "a regular polygon"),
    ("star", "a star"),
    ("line", "a line"),
    ("ring", "a ring"),
    ("frame", "a frame"),
)
CORNERED, OPENED = ("rectangle", "frame"), ("ring", "frame")
HIGH = ("rectangle", "frame", "ellipse", "polygon", "star")
INK = "#1b2a4e"
#: How wide a line is shown until it has a tool.
LINE_MM = 0.3


@dataclass(frozen=True)
class Shape:
    kind: str = choice("rectangle", label="figure", help="which figure", choices=KINDS)
    width_mm: float = length(50.0, label="width", help="how wide, or how long a line is", low=0.1, handle="width")
    height_mm: float | None = length(
        None,
        label="height",
        help="how high; without it, as high as wide",
        low=0.1,
        when=("kind", HIGH),
        handle="height",
    )
    at: tuple[float, float] | None = point(
        None, label="at", help="its middle; without it, the middle of the page", handle="place"
    )
    corner_mm: float = length(0.0, label="corners", help="the radius of its corners", when=("kind", CORNERED))
    rim_mm: float = length(10.0, label="rim", help="from the outer edge to the opening", low=0.1, when=("kind", OPENED))
    corners: int = count(6, label="corners", help="how many", low=3, high=200, when=("kind", ("polygon",)))
    points: int = count(5, label="points", help="how many", low=3, high=200, when=("kind", ("star",)))
    inner: float = number(
        0.4,
        label="depth",
        help="the inner corners' share of the way out",
        low=0.01,
        high=1.0,
        step=0.05,
        when=("kind", ("star",)),
    )
    turn: float = number(
        0.0, label="turn", help="clockwise about its middle, in degrees", low=-360.0, high=360.0, group="more"
    )
    layer: str = a_layer("", label="layer", help="the layer it lies on; a new one where there is none", group="more")
    name: str = text("", label="name", help="what it is called", most=80, group="more")


def run(document: Document, parameters: Shape, context: Context) -> Outcome:
    """It lies on top of all else."""
    width, height = document.frame
    x, y = parameters.at or ((width / 2, height / 2) if document.page or document.pieces else (0.0, 0.0))
    path = _FIGURES[parameters.kind](parameters, x, y)
    if parameters.turn:
        path = transform(path, about(rotation(np.radians(parameters.turn)), (x, y)))
    layers, layer = _layer(document, parameters, context.key)
    line = parameters.kind == "line"
    stroke, fill = (Stroke(layer.color, LINE_MM), None) if line else (None, Fill(layer.color))
    name = parameters.name or parameters.kind.capitalize()
    piece = Piece(piece_id(context.key, "shape"), path, layer.id, name, fill=fill, stroke=stroke)
    after = replace(document, layers=layers, pieces=(*document.pieces, piece))
    after = with_first_page(after, context.key, parameters.at is not None)
    title = f"{dict(KINDS)[parameters.kind].capitalize()} of {_size(parameters)}"
    return Outcome(after, title, "", {"pieces": 1})


def _size(parameters: Shape) -> str:
    if parameters.kind in ("circle", "ring", "line"):
        return as_mm(parameters.width_mm)
    return size_text(parameters.width_mm, _height(parameters))


def _height(parameters: Shape) -> float:
    return parameters.width_mm if parameters.height_mm is None else parameters.height_mm


def _layer(document: Document, parameters: Shape, key: str) -> tuple[tuple[Layer, ...], Layer]:
    known = document.layer_by_id.get(parameters.layer)
    followed = document.pieces_followed()
    if known is None and followed:
        known = document.layer_by_id[followed[-1].layer]
    known = known or next((layer for layer in document.layers if layer.treatment.follows_lines), None)
    if known:
        return document.layers, known
    layer = Layer(f"{key}:layer", "Figures", INK)
    return (*document.layers, layer), layer


def _rectangle(p: Shape, x: float, y: float) -> Path:
    return primitives.rectangle(x - p.width_mm / 2, y - _height(p) / 2, p.width_mm, _height(p), p.corner_mm)


def _frame(p: Shape, x: float, y: float) -> Path:
    width, height = p.width_mm - 2 * p.rim_mm, _height(p) - 2 * p.rim_mm
    if min(width, height) <= 0:
        raise BadRequest(f"A rim of {as_mm(p.rim_mm)} leaves no opening in {size_text(p.width_mm, _height(p))}.")
    inner = primitives.rectangle(x - width / 2, y - height / 2, width, height, max(p.corner_mm - p.rim_mm, 0.0))
    return Path.concatenate([_rectangle(p, x, y), inner.reversed()])


def _ring(p: Shape, x: float, y: float) -> Path:
    inner = p.width_mm / 2 - p.rim_mm
    if inner <= 0:
        raise BadRequest(f"A rim of {as_mm(p.rim_mm)} leaves no opening in a ring of {as_mm(p.width_mm)}.")
    return Path.concatenate([primitives.circle(x, y, p.width_mm / 2), primitives.circle(x, y, inner).reversed()])


def _line(p: Shape, x: float, y: float) -> Path:
    return Path.from_points(np.array([(x - p.width_mm / 2, y), (x + p.width_mm / 2, y)]), closed=False)


_FIGURES: dict[str, Callable[[Shape, float, float], Path]] = {
    "rectangle": _rectangle,
    "circle": lambda p, x, y: primitives.circle(x, y, p.width_mm / 2),
    "ellipse": lambda p, x, y: primitives.ellipse(x, y, p.width_mm, _height(p)),
    "polygon": lambda p, x, y: primitives.polygon(x, y, p.width_mm, p.height_mm, p.corners),
    "star": lambda p, x, y: primitives.star(x, y, p.width_mm, p.height_mm, p.points, p.inner),
    "line": _line,
    "ring": _ring,
    "frame": _frame,
}


def of_size(typed: str) -> dict[str, float]:
    """WxH: a unit that stands once is meant for both."""
    parts = re.split(r"\s*[x\u00d7]\s*", typed.strip())
    if len(parts) > 2:
        raise BadRequest(f'"{typed}" is not a size: type a width and a height, such as 60x40mm.')
    unit = re.sub(r"[\d.,\s/]", "", parts[-1]) or "mm"
    return dict(zip(("width_mm", "height_mm"), (parse_length(part, unit) for part in parts), strict=False))


OPERATION = Operation(
    id="shape",
    version=1,
    station="build",
    title="Draw a figure",
    parameters=Shape,
    run=run,
    sizes=("width_mm", "height_mm", "rim_mm", "corner_mm"),
    sentence="Draw {kind} {width_mm} wide[ and {height_mm} high][, corners of {corner_mm}][, a rim of {rim_mm}]"
    "[, {corners} corners][, {points} points][ and {inner} deep], at {at}",
    cost=at_once,
    spellings={
        "size": ("how large, as 60x40mm", of_size),
        "radius": ("of a circle or a ring", lambda typed: {"width_mm": 2 * parse_length(typed)}),
    },
)
