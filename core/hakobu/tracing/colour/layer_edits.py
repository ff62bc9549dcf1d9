"""What was found, sorted as a person wants it: colours joined, left out, made of another material, single pieces moved
to another colour; and how far pieces go on under what lies on them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ...errors import BadRequest
from ...geometry import Path, box_of
from ...model.lab import to_lab
from ..options import FoundLayer, FoundPiece, TraceOptions, TraceResult, View, at_place, rgb_of

#: A colour is meant by one that is no farther from it in CIELAB: the number of colours may have moved it (common
#: practice).
MEANT = 20.0
#: A piece is moved to a layer that is there where its colour differs by no more than this.
SAME = 3.0


def sorted_out(found: TraceResult, view: View, asked: TraceOptions) -> TraceResult:
    """Raises BadRequest where a wish cannot be read. A wish for a colour that is not there is told in the notes."""
    layers, pieces = list(found.layers), list(found.pieces)
    notes: list[str] = []
    for wish in asked.joined:
        source, target = (_layer_of(layers, colour, notes) for colour in _words(wish, 2))
        if source and target and source is not target:
            pieces = _united([replace(p, layer=target.key) if p.layer == source.key else p for p in pieces], target)
            layers.remove(source)
    for wish in asked.moved:
        place, colour = _words(wish, 2)
        at = at_place(pieces, view, _pixel(place))
        if at is None:
            continue
        layers, target = _layer_for(layers, colour, pieces[at].layer)
        pieces[at] = replace(pieces[at], layer=target.key)
        if _touching(pieces, at):
            pieces = _united(pieces, target)
    for colour in asked.left_out:
        gone = _layer_of(layers, colour, notes)
        if gone:
            pieces = [piece for piece in pieces if piece.layer != gone.key]
    for wish in asked.given:
        colour, other = _words(wish, 2)
        layer = _layer_of(layers, colour, notes)
        if layer:
            layers[layers.index(layer)] = replace(layer, color=other.lower(), base=layer.base or layer.color)
    used = {piece.layer for piece in pieces}
    layers = [layer for layer in layers if layer.key in used]
    return replace(found, layers=tuple(layers), pieces=tuple(pieces), notes=(*found.notes, *notes))


def underlapped(found: TraceResult, by_mm: float) -> TraceResult:
    """Pieces that go on by so much under those of higher layers, which lie on them."""
    from ...geometry.boolean import intersection, union
    from ...geometry.offset import offset

    place = {layer.key: k for k, layer in enumerate(found.layers)}
    above = {
        k: Path.concatenate([piece.path for piece in found.pieces if place[piece.layer] > k])
        for k in range(len(found.layers) - 1)
    }
    made = []
    for piece in found.pieces:
        over = above.get(place[piece.layer])
        if over is not None:
            under = intersection(offset(piece.path, distance_mm=by_mm).path, over).path
            if len(under):
                piece = replace(piece, path=union(piece.path, under).path)
        made.append(piece)
    return replace(found, pieces=tuple(made))


def _words(wish: str, count: int) -> list[str]:
    parts = wish.split()
    if len(parts) != count:
        raise BadRequest(f'"{wish}" should be {count} words: a place or a colour, and a colour.')
    return parts


def _pixel(text: str) -> tuple[int, int]:
    try:
        x, y = (int(part) for part in text.split(":")[-1].split(","))
    except ValueError as error:
        raise BadRequest(f'"{text}" is no pixel: write x,y.') from error
    return x, y


def lab_of(colour: str) -> np.ndarray:
    """CIELAB (3,) of #rrggbb. Raises BadRequest."""
    return to_lab(rgb_of(colour)[None] / 255)[0]


def _nearest(layers: list[FoundLayer], colour: str) -> tuple[int, float]:
    lab = lab_of(colour)
    apart = [
        float(np.linalg.norm(lab_of(layer.key if layer.key[:1] == "#" else layer.color) - lab)) for layer in layers
    ]
    return (int(np.argmin(apart)), min(apart)) if apart else (-1, np.inf)


def _layer_of(layers: list[FoundLayer], colour: str, notes: list[str]) -> FoundLayer | None:
    at, apart = _nearest(layers, colour)
    if apart <= MEANT:
        return layers[at]
    notes.append(f"no layer of colour {colour} is there any more")
    return None


def _layer_for(layers: list[FoundLayer], colour: str, like: str) -> tuple[list[FoundLayer], FoundLayer]:
    """The layer of a colour, made where there is none, above the one that the piece comes from."""
    at, apart = _nearest(layers, colour)
    if apart <= SAME:
        return layers, layers[at]
    source = next(k for k, layer in enumerate(layers) if layer.key == like)
    count = sum(layer.name.startswith("Moved") for layer in layers)
    made = FoundLayer(colour.lower(), f"Moved {count + 1}" if count else "Moved", colour.lower(), layers[source].lines)
    return [*layers[: source + 1], made, *layers[source + 1 :]], made


def _touching(pieces: list[FoundPiece], at: int) -> bool:
    """Whether a piece meets others of its layer, as areas that share their borders do."""
    box = box_of(pieces[at].path)
    for k, other in enumerate(pieces):
        if k != at and other.layer == pieces[at].layer:
            own = box_of(other.path)
            if own[0] <= box[2] and box[0] <= own[2] and own[1] <= box[3] and box[1] <= own[3]:
                return True
    return False


def _united(pieces: list[FoundPiece], layer: FoundLayer) -> list[FoundPiece]:
    """The layer's pieces, those that share borders now one: of each, the largest gives its name."""
    if layer.lines:
        return pieces
    from ...geometry.boolean import union
    from ...geometry.inner import inner_point
    from ...geometry.nesting import shapes_of
    from ...geometry.proximity.places import Places

    own = [piece for piece in pieces if piece.layer == layer.key]
    whole = union(*(piece.path for piece in own)).path
    shapes = shapes_of(whole)
    if len(shapes) == len(own):
        return pieces
    inner = np.array([inner_point(piece.path) for piece in own])
    order = np.argsort([-_extent(piece.path) for piece in own], kind="stable")
    made = []
    for shape in shapes:
        part = whole.take(shape)
        inside = Places(part).contains(inner)
        first = next((k for k in order if inside[k]), None)
        if first is not None:
            made.append(replace(own[first], path=part))
    places = [k for k, piece in enumerate(pieces) if piece.layer == layer.key]
    rest = [piece for piece in pieces if piece.layer != layer.key]
    return [*rest[: places[0]], *made, *rest[places[0] :]]


def _extent(path: Path) -> float:
    left, top, right, bottom = box_of(path)
    return (right - left) * (bottom - top)
