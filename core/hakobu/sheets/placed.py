"""A sheet as a document: its pieces where they lie, as they look from the front and as the tool sees them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from ..geometry import Path, transform
from ..model import Document, Layer, OutlinePlace, Page, Picture, Piece, Stroke, Treatment
from ..model.scaling import moved_matrix
from ..model.sheet import HELPS, Placement, Sheet
from .items import WHOLE, Item, items_of, turned_to
from .numbering import numbers_of
from .packing.shapes import shape_of
from .weeding import weeding_of

#: The id of the piece that boxes and lines for weeding are, and how wide they are shown.
WEEDING, LINE_MM = f"{HELPS}weeding", 0.1
#: The id of the piece and of the layer of numbers, and their colour.
NUMBERS, INK = f"{HELPS}numbers", "#1b2a4e"


def items_on(document: Document, sheet: Sheet) -> list[tuple[Item, Placement]]:
    """What lies on a sheet, and where; what is gone from the design is not there."""
    wanted = {placement.item for placement in sheet.placements}
    known = {item.id: item for item in items_of(document, sheet.layers)} if wanted - {WHOLE} else {}
    if WHOLE in wanted:
        known |= {item.id: item for item in items_of(document, sheet.layers, together=True)}
    return [(known[placement.item], placement) for placement in sheet.placements if placement.item in known]


def finished(document: Document, sheet: Sheet) -> Document:
    """The sheet as it looks from the front: a page of its size, the pieces on it, and helps for weeding. Ids of copies
    have their number."""
    pieces: list[Piece] = []
    pictures: list[Picture] = []
    seen: dict[str, int] = {}
    on = items_on(document, sheet)
    for item, placement in on:
        matrix = item.matrix(placement)
        for piece in item.pieces:
            seen[piece.id] = seen.get(piece.id, 0) + 1
            identity = piece.id if seen[piece.id] == 1 else f"{piece.id}*{seen[piece.id]}"
            pieces.append(replace(piece, id=identity, path=transform(piece.path, matrix)))
        pictures += [
            replace(p, id=f"{p.id}*{placement.copy}", matrix=moved_matrix(p.matrix, matrix)) for p in item.pictures
        ]
    layers = tuple(layer for layer in document.layers if layer.id in sheet.layers)
    shapes = covered(on) if sheet.weed_box or sheet.numbers else []
    numbers, _ = numbers_of(sheet, on, shapes)
    if numbers:
        by = Treatment(sheet.number_by)
        if by is Treatment.CUT:
            layer = layers[0]
        else:
            layer = Layer(NUMBERS, "Numbers", INK, by)
            layers = (*layers, layer)
        pieces.append(Piece(NUMBERS, numbers, layer.id, "numbers", stroke=Stroke(layer.color, LINE_MM)))
    helps = weeding_of(sheet, shapes) if sheet.weed_box else None
    if helps:
        line = Stroke(layers[0].color, LINE_MM)
        pieces.append(Piece(WEEDING, helps, sheet.layers[0], "weeding", stroke=line))
    page = Page(sheet.width_mm, sheet.height_mm, fixed=True)
    return Document(page, layers, tuple(pieces), pictures=tuple(pictures), work_order=document.work_order,
                    starts=document.starts, tabs=document.tabs)  # fmt: skip


def covered(on: Sequence[tuple[Item, Placement]]) -> list[Path]:
    """What each item covers of a sheet, as it looks from the front: united outlines. on: as `items_on` gives it."""
    known = {item.id: shape_of(item).path for item in {item.id: item for item, _ in on}.values()}
    return [transform(known[item.id], turned_to(placement.x, placement.y, placement.turn)) for item, placement in on]


def as_cut(document: Document, sheet: Sheet) -> Document:
    """The sheet as the tool sees it: mirrored about its upright middle where it is cut from the back."""
    front = replace(finished(document, sheet), pictures=())
    if not sheet.mirrored:
        return front
    # Outlines keep their direction round what they enclose.
    pieces = tuple(replace(piece, path=from_back(piece.path, sheet).reversed()) for piece in front.pieces)
    starts, tabs = (tuple(map(from_other_end, places)) for places in (front.starts, front.tabs))
    return replace(front, pieces=pieces, starts=starts, tabs=tabs)


def from_other_end(place: OutlinePlace) -> OutlinePlace:
    """The same place along an outline that runs the other way round."""
    return place._replace(share=(1.0 - place.share) % 1.0)


def from_back(path: Path, sheet: Sheet) -> Path:
    """What is seen of outlines on a sheet from its back."""
    return transform(path, np.array([[-1.0, 0.0, sheet.width_mm], [0.0, 1.0, 0.0]]))
