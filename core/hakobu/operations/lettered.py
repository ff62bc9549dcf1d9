"""What a step of words makes: pieces that keep their ids, on layers of their own, in a group."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, box_of
from ..lettering.face import EM_MM, Face
from ..lettering.faces import face_of
from ..lettering.layout import Laid
from ..lettering.setting import plain_text, set_line
from ..model import Document, Fill, Group, Layer, Piece, Stroke, Treatment
from ..model.ids import LASTING, piece_id
from .letter_parts import Part, names_in_rows, one_text, outline_copies
from .operation import Context, Spot
from .shape import LINE_MM
from .wished import Wished, axes_of

if TYPE_CHECKING:
    from .words import Words

INK = "#1b2a4e"
MOST_NAME = 80


@dataclass(frozen=True)
class Lettered:
    """pieces and groups that are new, all layers, and what is to be told: size of the ink, the height of capitals, how
    many letters, the name of the face and what it lacks, and where letters can be taken hold of."""

    pieces: tuple[Piece, ...]
    groups: tuple[Group, ...]
    layers: tuple[Layer, ...]
    size_mm: tuple[float, float]
    capitals_mm: float
    letters: int
    face: str
    lacking: tuple[str, ...]
    spots: tuple[Spot, ...]


def plain_lines(text: str) -> list[str]:
    """The lines of a text. Raises BadRequest where there is nothing to set."""
    return plain_text(text).strip("\n").split("\n")


def lettered(document: Document, wish: Words, context: Context) -> Lettered:
    """Raises BadRequest and CannotDo, saying what to change."""
    face = face_of(wish.face, context.font, axes_of(wish))
    texts = plain_lines(wish.text)
    features = dict.fromkeys(wish.forms, True)
    features |= {tag: False for tag, wanted in (("liga", wish.ligatures), ("kern", wish.kerning)) if not wanted}
    lines = [set_line(face, each, features) for each in texts]
    lacking = tuple(dict.fromkeys(sign for one in lines for sign in one.lacking))
    if not any(one.inked for one in lines):
        raise CannotDo(_nothing(face, lacking))
    wished = Wished(document, wish, context, face)
    made, shown, laid = (names_in_rows if wish.each else one_text)(wished, lines)
    layers, layer, outlines = _layers(document, wish, context.key, face)
    pieces = [_piece(context.key, one, layer) for one in made]
    copies = [_piece(context.key, one, outlines) for one in outline_copies(wish, face, made)] if wish.copies else []
    groups = _groups(context.key, wish, made, [*copies, *pieces])
    box = box_of(Path.concatenate(one.path for one in made))
    capitals = shown.em_mm * face.capitals / EM_MM
    return Lettered(
        (*copies, *pieces),
        groups,
        layers,
        (box[2] - box[0], box[3] - box[1]),
        capitals,
        sum(len(one.inked) for one in lines),
        face.told.name,
        lacking,
        tuple(_spot(each, shown.em_mm / EM_MM, capitals) for each in laid),
    )


def _spot(laid: Laid, scale: float, capitals: float) -> Spot:
    """Where a letter stands on the baseline, so wide and as high as capitals."""
    (across, _, x), (down, _, y) = laid.frame
    width = laid.letter.advance * scale
    turn = float(np.degrees(np.arctan2(down, across)))
    return Spot(f"{laid.letter.text} {laid.nth}", (float(x), float(y)), turn, (width, capitals))


def _nothing(face: Face, lacking: Sequence[str]) -> str:
    signs = " ".join(lacking)
    if not lacking:
        return "There is nothing to set: type a letter."
    return f"{face.told.name} has none of these letters ({signs}): choose another face."


def _layers(document: Document, wish: Words, key: str, face: Face) -> tuple[tuple[Layer, ...], Layer, Layer]:
    """All layers, the one that the words lie on, and the one that outline copies lie on, below it."""
    known = document.layer_by_id.get(wish.layer)
    name = " ".join(wish.text.split())[:40]
    treatment = Treatment(wish.treatment or ("draw" if face.single_line else "cut"))
    layer = known or Layer(f"{key}:layer", name, wish.colour or INK, treatment, wish.material)
    outlines = Layer(f"{key}:outlines", f"{name}, outlines"[:MOST_NAME], layer.color, layer.treatment, layer.material)
    layers = document.layers if known else (*document.layers, layer)
    if wish.copies:
        at = layers.index(layer)
        layers = (*layers[:at], outlines, *layers[at:])
    return layers, layer, outlines


def _piece(key: str, made: Part, layer: Layer) -> Piece:
    lines = len(made.path) and not made.path.closed.all()
    stroke, fill = (Stroke(layer.color, LINE_MM), None) if lines else (None, Fill(layer.color))
    return Piece(piece_id(key, made.anchor), made.path, layer.id, made.name[:MOST_NAME], fill=fill, stroke=stroke)


def _groups(key: str, wish: Words, made: Sequence[Part], pieces: Sequence[Piece]) -> tuple[Group, ...]:
    """What stays together: all of a text with its copies; in a list, each name that is more than one piece."""
    if not wish.each:
        name = " ".join(wish.text.split())[:MOST_NAME]
        return (Group(piece_id(key, f"{LASTING}words"), name, tuple(p.id for p in pieces)),) if len(pieces) > 1 else ()
    of_name: dict[str, list[Part]] = {}
    for one in made:
        of_name.setdefault(one.anchor.partition("/")[0], []).append(one)
    return tuple(
        Group(piece_id(key, begin), many[0].name, tuple(piece_id(key, one.anchor) for one in many))
        for begin, many in of_name.items()
        if len(many) > 1
    )
