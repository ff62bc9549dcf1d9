"""Items: what is placed as one on a sheet, a piece, a group, or all that a sheet takes."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..geometry import Box, Path, box_of, compose, flatten, rotation, translation
from ..geometry.nesting import parents_of
from ..model import Document, Picture, Piece, Treatment
from ..model.sheet import Placement

#: Chords of open lines leave them by no more, in mm.
CHORD_MM = 0.05
#: The item that is all that a sheet takes.
WHOLE = ""


@dataclass(frozen=True)
class Item:
    """id: that of the piece or of the group. pieces: in paint order, as they lie in the design.
    pictures: what is printed and goes along."""

    id: str
    pieces: tuple[Piece, ...]
    pictures: tuple[Picture, ...] = ()

    @cached_property
    def path(self) -> Path:
        return Path.concatenate(piece.path for piece in self.pieces)

    @cached_property
    def box(self) -> Box:
        return box_of(self.path)

    @property
    def centre(self) -> tuple[float, float]:
        left, top, right, bottom = self.box
        return (left + right) / 2, (top + bottom) / 2

    def matrix(self, placement: Placement) -> np.ndarray:
        """The matrix (2, 3) that takes the item from the design to its place on a sheet."""
        x, y = self.centre
        return compose(turned_to(placement.x, placement.y, placement.turn), translation(-x, -y))


def turned_to(x: float, y: float, degrees: float) -> np.ndarray:
    """The matrix (2, 3) that takes what lies about 0, 0 to its place."""
    return compose(translation(x, y), rotation(np.radians(degrees)))


def items_of(document: Document, layers: Iterable[str], together: bool = False) -> list[Item]:
    """The items of some layers that a tool follows: those of a group that nothing holds are one, and so is
    what lies within another: holes that are pieces of their own, and lines that are scored on it. together: all are."""
    wanted = set(layers)
    pieces = [piece for piece in document.pieces_followed() if piece.layer in wanted and len(piece.path)]
    if not pieces:
        return []
    printed = [
        picture
        for picture in document.pictures
        if picture.layer in wanted and document.layer_by_id[picture.layer].treatment is Treatment.PRINT
    ]
    if together:
        return [Item(WHOLE, tuple(pieces), tuple(printed))]
    group_of = document.outermost_group_of
    holder = _holders([piece.path for piece in pieces], [group_of.get(piece.id, piece.id) for piece in pieces])
    members: dict[str, list[Piece]] = {}
    for piece in pieces:
        members.setdefault(holder[group_of.get(piece.id, piece.id)], []).append(piece)
    return [
        Item(identity, tuple(own), tuple(p for p in printed if group_of.get(p.id) == identity))
        for identity, own in members.items()
    ]


def _holders(paths: Sequence[Path], items: Sequence[str]) -> dict[str, str]:
    """For each item the one that it lies in, or itself. items: of each path."""
    # Open lines lie in what their chords lie in, so they are closed for that.
    parts = [_closed(path) for path in paths]
    of_outline = [item for part, item in zip(parts, items, strict=True) for _ in range(len(part))]
    parent = parents_of(Path.concatenate(parts))
    found = {item: item for item in items}

    def top(item: str) -> str:
        while found[item] != item:
            item = found[item]
        return item

    for k in np.flatnonzero(parent >= 0).tolist():
        inner, outer = top(of_outline[k]), top(of_outline[parent[k]])
        if inner != outer:
            found[inner] = outer
    return {item: top(item) for item in found}


def _closed(path: Path) -> Path:
    if path.closed.all():
        return path
    return Path.concatenate(
        each if each.closed[0] else Path.from_points(flatten(each, CHORD_MM).points, closed=True)
        for each in path.outlines()
    )
