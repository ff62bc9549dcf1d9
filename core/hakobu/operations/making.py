"""Pieces made of others: their ids, looks and names, their places in the paint order, and their groups."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from ..geometry import Path, area, box_of, transform, translation
from ..geometry.boolean import cut_lines, difference, intersection, union
from ..geometry.nesting import shapes_of
from ..model import Document, Page, Piece
from ..model.ids import LASTING, is_lasting, key_of, made_id, piece_id
from ..model.shapes import has_inside, operand_of


@dataclass(frozen=True)
class Made:
    """A path of closed outlines that was made of pieces, the first of which it looks like."""

    path: Path
    parents: tuple[Piece, ...]


def parts_of(path: Path) -> list[Path]:
    """The shapes of a path that lie apart from each other, each with its holes."""
    return [path.take(rows) for rows in shapes_of(path)]


def solid(pieces: Iterable[Piece]) -> list[tuple[Piece, Path]]:
    """The pieces that cover something, each with what it covers; lines, and shapes of no area, are left out."""
    closed = [(piece, union(operand_of(piece)).path) for piece in pieces if has_inside(piece)]
    return [(piece, path) for piece, path in closed if len(path)]


#: Of shapes smaller than this, in mm2, nothing is left.
NOTHING_MM2 = 1e-9


def part_in(piece: Piece, shape: Path, outside: bool = False) -> Path:
    """What of a piece, a shape or lines, lies in a shape, or outside of it."""
    if not has_inside(piece):
        return cut_lines(piece.path, shape, keep="outside" if outside else "inside").path
    path = (difference if outside else intersection)(operand_of(piece), shape).path
    return path if len(path) and area(path) > NOTHING_MM2 else Path.concatenate([])


def with_shapes(document: Document, shapes: Mapping[str, Path]) -> Document:
    """The document with other outlines for some pieces: those of what they cover now, holes the other way; lines stay
    lines."""
    pieces = (
        replace(p, path=shapes[p.id], fill_rule="nonzero" if has_inside(p) else p.fill_rule) if p.id in shapes else p
        for p in document.pieces
    )
    return replace(document, pieces=tuple(pieces))


def pieces_of(key: str, made: Sequence[Made]) -> list[Piece]:
    """The pieces that a step makes, as they are given; ids by their parents, and among those of the same parents by
    where they lie: from the top down, then from the left."""
    of_parents: dict[tuple[str, ...], list[int]] = defaultdict(list)
    for number, one in enumerate(made):
        of_parents[tuple(sorted(p.id for p in one.parents))].append(number)
    ids = {}
    for parents, numbers in of_parents.items():
        if len(numbers) > 1:
            numbers = sorted(numbers, key=lambda n: _place(made[n].path))
        ids |= {number: made_id(key, parents, rank) for rank, number in enumerate(numbers)}
    return [_piece(ids[number], one) for number, one in enumerate(made)]


def _piece(identity: str, one: Made) -> Piece:
    first = one.parents[0]
    name = next((p.name for p in one.parents if p.name), "")
    return replace(first, id=identity, path=one.path, name=name, fill_rule="nonzero")


def parents_of(document: Document, pieces: Sequence[Piece]) -> list[str]:
    """The ids of pieces that something is made of together. All that a step of words makes counts as one parent, so
    that what is made of a word stays the same thing when more letters are typed."""
    ids = {piece.id for piece in pieces}
    for key in {key_of(identity) for identity in ids if is_lasting(identity)}:
        own = {piece.id for piece in document.pieces if key_of(piece.id) == key}
        if own <= ids:
            ids = (ids - own) | {piece_id(key, LASTING)}
    return sorted(ids)


#: Round the first pieces on no page, in mm.
MARGIN_MM = 5.0


def with_first_page(document: Document, key: str, placed: bool) -> Document:
    """The document of pieces that were made where there was no page, with a page about them. placed: a person said
    where they are, so they stay there; else what the step of that key made moves to the page's top left, with a
    margin."""
    if document.page is not None or document.box is None:
        return document
    if not placed:
        left, top, _, _ = document.box
        matrix = translation(MARGIN_MM - left, MARGIN_MM - top)
        own = {p.id: transform(p.path, matrix) for p in document.pieces if key_of(p.id) == key}
        document = document.with_paths(own)
    _, _, right, bottom = box_of(document.whole_path)
    return replace(document, page=Page(right + MARGIN_MM, bottom + MARGIN_MM))


def _place(path: Path) -> tuple[float, float]:
    left, top, right, bottom = box_of(path)
    return round((top + bottom) / 2, 6), round((left + right) / 2, 6)


def with_made(
    document: Document, made: Mapping[str, Sequence[Piece]], gone: Iterable[str], above: bool = False
) -> Document:
    """The document with made pieces, each list below the piece of that id, or above it, in the paint order and in the
    group; and without those that are gone."""
    gone = set(gone)
    pieces: list[Piece] = []
    for piece in document.pieces:
        kept = [piece] if piece.id not in gone else []
        own = list(made.get(piece.id, ()))
        pieces += [*kept, *own] if above else [*own, *kept]
    groups, empty = [], set(gone)
    for group in document.groups:
        members: list[str] = []
        for member in group.members:
            members += [piece.id for piece in made.get(member, ())]
            if member not in empty:
                members.append(member)
        if members:
            groups.append(replace(group, members=tuple(members)))
        else:
            empty.add(group.id)
    return replace(document, pieces=tuple(pieces), groups=tuple(groups))
