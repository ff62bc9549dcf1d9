"""Queries: which pieces something is for, said in words: layer "Red" and smaller 2mm2.

Terms are joined by `and`, `or`, `not` and brackets: everything; layer "Name"; treatment cut; colour #b5653c;
kind piece, compound or line; smaller 2mm2 or 4mm; larger the same; named "moon*"; inside ID; id ID; made KEY, which
means all that the step of that key makes.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from fnmatch import fnmatchcase

import numpy as np

from ..errors import BadRequest
from ..geometry import area, bounds
from ..geometry.boolean import union
from ..geometry.flatten import points_at
from ..geometry.proximity.places import Places
from .document import Document, Piece, Treatment
from .ids import key_of
from .shapes import operand_of
from .units import parse_area, parse_length

_WORD = re.compile(r'\s*(?:"([^"]*)"|([()])|([^\s()"]+))')
KINDS = ("piece", "compound", "line")
#: The longest query, and the deepest: what is longer was not typed.
MOST_LETTERS, MOST_DEEP = 2000, 50

#: Whether a piece of a document is meant.
Test = Callable[[Document, Piece], bool]


@dataclass(frozen=True)
class Query:
    """A query as it was typed, and what it means."""

    text: str
    test: Test

    def pieces(self, document: Document) -> tuple[str, ...]:
        """The ids of the pieces that are meant, of those in use, in paint order."""
        return tuple(piece.id for piece in document.pieces_in_use() if self.test(document, piece))


def parse_query(text: str) -> Query:
    """Raises BadRequest, naming what was not understood."""
    if len(text) > MOST_LETTERS:
        raise BadRequest(f"A query has no more than {MOST_LETTERS:,} letters.")
    return Query(text, _Parser(text).parsed())


class _Parser:
    def __init__(self, text: str) -> None:
        self.text, self.words, at = text, [], 0
        while text[at:].strip():
            match = _WORD.match(text, at)
            if not match:
                raise BadRequest(f"The query {text} has a quotation mark too few.")
            quoted = match[1] is not None
            self.words.append((quoted, match[1] if quoted else match[2] or match[3]))
            at = match.end()
        self.at, self.deep = 0, 0

    def parsed(self) -> Test:
        if not self.words:
            raise BadRequest("The query is empty: say which pieces are meant, for instance everything.")
        test = self.either()
        if self.at < len(self.words):
            raise BadRequest(f'The query {self.text} goes on where it should end, at "{self.words[self.at][1]}".')
        return test

    def next_is(self, *words: str) -> bool:
        there = self.at < len(self.words) and not self.words[self.at][0] and self.words[self.at][1] in words
        self.at += there
        return there

    def either(self) -> Test:
        tests = [self.both()]
        while self.next_is("or"):
            tests.append(self.both())
        return tests[0] if len(tests) == 1 else lambda document, piece: any(t(document, piece) for t in tests)

    def both(self) -> Test:
        tests = [self.one()]
        while self.next_is("and"):
            tests.append(self.one())
        return tests[0] if len(tests) == 1 else lambda document, piece: all(t(document, piece) for t in tests)

    def one(self) -> Test:
        self.deep += 1
        if self.deep > MOST_DEEP:
            raise BadRequest("The query nests deeper than anybody means.")
        try:
            if self.next_is("not"):
                test = self.one()
                return lambda document, piece: not test(document, piece)
            if self.next_is("("):
                test = self.either()
                if not self.next_is(")"):
                    raise BadRequest(f"The query {self.text} lacks a closing bracket.")
                return test
            return self.term()
        finally:
            self.deep -= 1

    def term(self) -> Test:
        name = self.word("a term")
        if name == "everything":
            return lambda document, piece: True
        if name not in TERMS:
            raise BadRequest(f'"{name}" is no term of a query: use everything, {", ".join(TERMS)}.')
        return TERMS[name](self.word(f'a value after "{name}"'))

    def word(self, what: str) -> str:
        if self.at >= len(self.words):
            raise BadRequest(f"The query {self.text} ends where {what} should stand.")
        self.at += 1
        return self.words[self.at - 1][1]


def _layer(value: str) -> Test:
    return lambda document, piece: value in (piece.layer, document.layer_by_id[piece.layer].name)


def _treatment(value: str) -> Test:
    if value not in tuple(Treatment):
        raise BadRequest(f'"{value}" is no treatment: use {", ".join(Treatment)}.')
    return lambda document, piece: document.treatment_of(piece) == value


def _colour(value: str) -> Test:
    if not re.fullmatch("#[0-9a-fA-F]{6}", value):
        raise BadRequest(f'"{value}" is not a colour: write it as #rrggbb, for instance #b5653c.')
    return lambda document, piece: colour_of(document, piece).lower() == value.lower()


def _kind(value: str) -> Test:
    if value not in KINDS:
        raise BadRequest(f'"{value}" is no kind of piece: use {", ".join(KINDS)}.')
    return lambda document, piece: kind_of(piece) == value


def _size(smaller: bool) -> Callable[[str], Test]:
    def term(value: str) -> Test:
        by_area = value.rstrip().endswith("2")
        limit = parse_area(value) if by_area else parse_length(value)
        size = painted_mm2 if by_area else longer_mm
        return lambda document, piece: size(piece) < limit if smaller else size(piece) > limit

    return term


def _named(value: str) -> Test:
    return lambda document, piece: fnmatchcase(piece.name.casefold(), value.casefold())


def _inside(value: str) -> Test:
    def test(document: Document, piece: Piece) -> bool:
        about = document.by_id.get(value)
        return about is not None and about is not piece and lies_in(piece, about)

    return test


def _id(value: str) -> Test:
    return lambda document, piece: piece.id == value


def _made(value: str) -> Test:
    return lambda document, piece: key_of(piece.id) == value


TERMS: dict[str, Callable[[str], Test]] = {
    "layer": _layer,
    "treatment": _treatment,
    "colour": _colour,
    "kind": _kind,
    "smaller": _size(True),
    "larger": _size(False),
    "named": _named,
    "inside": _inside,
    "id": _id,
    "made": _made,
}


def colour_of(document: Document, piece: Piece) -> str:
    """The colour that a piece is told by: its fill's, else its line's, else its layer's."""
    if piece.fill:
        return piece.fill.color
    return piece.stroke.color if piece.stroke else document.layer_by_id[piece.layer].color


def kind_of(piece: Piece) -> str:
    """line: all its outlines are open; compound: it has several; piece: one that is closed."""
    if not piece.path.closed.any():
        return "line"
    return "compound" if len(piece.path) > 1 else "piece"


def painted_mm2(piece: Piece) -> float:
    """The area that it covers."""
    return area(union(operand_of(piece)).path)


def longer_mm(piece: Piece) -> float:
    """The longer side of its box."""
    box = bounds(piece.path)
    return max(box[2] - box[0], box[3] - box[1]) if box else 0.0


def lies_in(piece: Piece, about: Piece) -> bool:
    """Whether a piece lies in the shape of another one: its box, and a place on each of its outlines."""
    inner, outer = bounds(piece.path), bounds(about.path)
    if inner is None or outer is None:
        return False
    if min(inner[0] - outer[0], inner[1] - outer[1], outer[2] - inner[2], outer[3] - inner[3]) < 0:
        return False
    first = piece.path.start[:-1]
    places = points_at(piece.path, first, np.full(len(first), 0.5))
    return bool(Places(about.path).contains(places, about.fill_rule).all())
