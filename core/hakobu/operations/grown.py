"""Shapes grown or shrunk by a distance, as rims and backings ask for it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, signed_areas
from ..geometry.boolean import Operand, difference, union
from ..geometry.offset import offset
from ..model import Document, Fill, Layer, Piece
from ..model.declare import choice, colour, count, flag, length, number, text
from ..model.lab import is_light
from ..model.shapes import has_inside, operand_of
from ..model.units import parse_area
from .operation import Context

JOINS = (("round", "round"), ("mitre", "pointed"), ("bevel", "cut off"))
#: What becomes of hollows; the size may be typed.
HOLLOWS = (("fill", "filled"), ("keep", "kept"), ("20mm2", "filled below 20 mm\u00b2"))
HOLLOWS_HELP = "keep, fill, or the area below which they are filled, as 20mm2"
#: The colour of a backing behind what is dark, and behind what is light.
LIGHT, DARK = "#d9c08a", "#1b2a4e"
#: What a layer is called that a step makes, where nobody says.
MOST_NAME = 80


@dataclass(frozen=True)
class Growing:
    """What rims and backings have in common."""

    distance_mm: float = length(
        3.0, label="distance", help="how far out; inwards where it is negative", low=-1000.0, high=1000.0, handle="out"
    )
    join: str = choice("round", label="corners", help="what corners that turn away become", choices=JOINS)
    hollows: str = text("fill", label="hollows", help=HOLLOWS_HELP, choices=HOLLOWS)
    each: bool = flag(False, label="each piece alone", help="each piece gets its own, rather than one for all together")
    mitre_limit: float = number(
        4.0,
        label="longest point",
        help="a point longer than so many times the distance is cut off",
        low=1.0,
        high=100.0,
        group="more",
        when=("join", ("mitre",)),
    )
    steps: int = count(
        1, label="how many", help="so many, each farther out by the distance", low=1, high=50, group="more"
    )
    layer: str = text("", label="layer", help="what its layer is called", most=MOST_NAME, group="more")
    colour: str | None = colour(None, label="colour", help="the colour of its material", group="more")
    material: str | None = text(None, label="material", help="what it is made of, by the material's id", group="more")


def least_hollow(parameters: Growing) -> float:
    """Hollows of a smaller area are filled, in mm2. Raises BadRequest where the words make no sense."""
    words = parameters.hollows.strip().lower()
    named = {"keep": 0.0, "fill": np.inf}
    return named[words] if words in named else parse_area(words)


def shapes_to_grow(document: Document, parameters: Growing, context: Context) -> list[list[Piece]]:
    """The pieces that are grown together, the lowest first. Raises CannotDo where there is none with an inside."""
    pieces = [piece for piece in context.pieces(document) if has_inside(piece)]
    if not pieces:
        raise CannotDo("Lines that do not close have no inside to be grown: pick closed shapes.")
    return [[piece] for piece in pieces] if parameters.each else [pieces]


def grown_path(pieces: Sequence[Piece], parameters: Growing, nth: int) -> tuple[Path, float]:
    """The nth outline of pieces, from 1 on, hollows filled as asked; and how far straight lines are off, where curves
    could not be told apart."""
    made = offset(
        *map(operand_of, pieces),
        distance_mm=parameters.distance_mm * nth,
        join=parameters.join,
        mitre_limit=parameters.mitre_limit,
    )
    return without_hollows(made.path, least_hollow(parameters)), made.off_mm


def without_hollows(path: Path, below_mm2: float) -> Path:
    """A path whose outer outlines run one way and holes the other, without holes below an area, and without what lies
    in those holes."""
    if below_mm2 <= 0 or not len(path):
        return path
    areas = signed_areas(path)
    filled = np.flatnonzero((areas < 0) & (-areas < below_mm2))
    if not len(filled):
        return path
    kept = path.take(np.flatnonzero((areas > 0) | (-areas >= below_mm2)))
    # An island in a hollow that is filled lies on what fills it.
    return union(Operand(kept, "nonzero")).path


def band(outer: Path, inner: Path) -> Path:
    """What lies between two outlines."""
    return difference(outer, inner).path


def layer_for(
    document: Document, parameters: Growing, context: Context, source: Layer, word: str, color: str = ""
) -> Layer:
    """A layer of its own for what is made: the one of that name, or a new one like the source's, of another colour
    where one is given."""
    name = (parameters.layer or f"{source.name}, {word}").strip()[:MOST_NAME]
    known = next((layer for layer in document.layers if parameters.layer and layer.name == name), None)
    layer = known or own_layer(document, f"{context.key}:layer", name, source, color)
    if parameters.colour:
        layer = replace(layer, color=parameters.colour)
    return replace(layer, material=parameters.material) if parameters.material else layer


def own_layer(document: Document, identity: str, name: str, source: Layer, color: str = "") -> Layer:
    """The layer of an id, or a new one like another layer, of another colour where one is given."""
    known = document.layer_by_id.get(identity)
    return known or Layer(
        identity, name[:MOST_NAME], color or source.color, source.treatment, source.material, source.mirrored
    )


def backing_color(source: Layer) -> str:
    """What is seen behind the colour of a layer: cut from a sheet of its own, since else nothing would be seen of what
    lies on it."""
    return DARK if is_light(source.color) else LIGHT


def on_layer(piece: Piece, layer: Layer, identity: str, path: Path, name: str = "") -> Piece:
    """A piece made of another one on a layer: filled with its colour, or a bare line where the other is one."""
    line = piece.stroke if piece.fill is None else None
    return replace(
        piece,
        id=identity,
        path=path,
        layer=layer.id,
        name=name,
        fill_rule="nonzero",
        fill=None if line else Fill(layer.color, piece.fill.opacity if piece.fill else 1.0),
        stroke=replace(line, color=layer.color) if line else None,
    )


def with_layer(document: Document, layer: Layer, beside: str, above: bool = False) -> Document:
    """The document with a layer, below another one where it is new, or above it."""
    if layer.id in document.layer_by_id:
        return replace(document, layers=tuple(layer if each.id == layer.id else each for each in document.layers))
    at = next(n for n, each in enumerate(document.layers) if each.id == beside) + above
    return replace(document, layers=(*document.layers[:at], layer, *document.layers[at:]))
