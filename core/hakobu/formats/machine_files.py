"""What machine files share: strokes that become pieces."""

from __future__ import annotations

from collections.abc import Hashable, Mapping
from typing import TypeVar

import numpy as np

from ..geometry import IDENTITY, Path, compose, scaling, transform, translation
from ..geometry.nesting import shapes_of
from ..model import Document, Layer, Piece, Stroke
from ..model.ids import piece_id
from ..toolpaths import inverse
from .format import ReadOptions

#: Colours of tools and pens, which machine files do not tell, and how broad their strokes are shown.
COLORS = ("#1b2a4e", "#8a5a2b", "#2c6e5b", "#7a3b6b", "#4a6b8a", "#6b6b2c", "#8a3b3b", "#3b3b3b")
SHOWN_MM = 0.2


_Key = TypeVar("_Key", bound=Hashable)


def document_of(
    strokes: list[tuple[_Key, Path]],
    layers: Mapping[_Key, tuple[str, str, int]],
    units_per_mm: float,
    options: ReadOptions,
) -> Document:
    """The strokes of a machine, y up, as a document: each under its key, which layers gives an id, a name and the
    number of a colour. y is turned at the page's height or, without one, at the topmost line; closed strokes inside
    others of the same layer are their holes."""
    height = options.page_height_mm
    if height is None:
        height = max((float(path.ctrl[..., 1].max()) / units_per_mm for _, path in strokes), default=0.0)
    to_page = compose(translation(0, height), scaling(1.0, -1.0))
    sheet = inverse(np.array(options.frame).reshape(2, 3)) if options.frame else IDENTITY
    to_page = compose(to_page, compose(sheet, scaling(1 / units_per_mm)))
    made = {
        key: Layer(identity, name, COLORS[number % len(COLORS)]) for key, (identity, name, number) in layers.items()
    }
    pieces: list[tuple[int, Piece]] = []
    for key, layer in made.items():
        numbers = [i for i, (own, _) in enumerate(strokes) if own == key]
        whole = transform(Path.concatenate(strokes[i][1] for i in numbers), to_page)
        shapes = [[k] for k in range(len(whole))] if options.as_run else shapes_of(whole)
        paths = whole.take([k for shape in shapes for k in shape]).split([len(shape) for shape in shapes])
        for shape, path in zip(shapes, paths, strict=True):
            first = min(numbers[k] for k in shape)
            identity, stroke = piece_id(options.key, f"stroke[{first + 1}]"), Stroke(layer.color, SHOWN_MM)
            pieces.append((first, Piece(identity, path, layer.id, fill_rule="evenodd", stroke=stroke)))
    pieces.sort(key=lambda pair: pair[0])
    return Document(layers=tuple(made.values()), pieces=tuple(piece for _, piece in pieces))
