"""The ways to combine pieces: each gives what is made in the place of which pieces."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, area, bounds
from ..geometry.boolean import Combined, difference, divide, intersection, union
from ..geometry.nesting import are_nested, shapes_of
from ..model import Conditions, Document, Piece
from ..model.shapes import has_inside, operand_of
from ..model.words import number_of
from .making import Made, parts_of, pieces_of
from .operation import Context

if TYPE_CHECKING:
    from .combine import Combine

#: The role of what cuts.
WITH = "with"
#: Less of an area than this is a rounding, not a change, in mm2.
NOTHING_MM2 = 1e-9


@dataclass(frozen=True)
class Remade:
    """What was made, by the piece in whose place it stands; which pieces are gone; how far straight lines are off,
    where curves could not be told apart; what else is to be told; and how many pieces there are of those it was for."""

    made: dict[str, list[Piece]]
    gone: set[str]
    off_mm: float
    note: str = ""
    count: int = 0


def _weld(document: Document, parameters: Combine, context: Context) -> Remade:
    pieces = _shapes(context.pieces(document), 2, "Pick two pieces or more to make them one.")
    whole, holes = _with_holes(document, pieces, context.conditions) if parameters.loose == "holes" else (pieces, 0)
    made = union(*map(operand_of, whole))
    note = f"{number_of(holes, 'loose outline')} became {'a hole' if holes == 1 else 'holes'}" if holes else ""
    result = _in_place_of(context.key, document, _parts(made, whole), {p.id for p in pieces}, made.off_mm, note)
    if not result.gone:
        raise CannotDo("These pieces meet nowhere, so they stay as they are: move them together first.")
    return result


def _with_holes(document: Document, pieces: list[Piece], conditions: Conditions) -> tuple[list[Piece], int]:
    """The pieces after what lies loose in one of them has become its hole, and how many outlines did."""
    if not are_nested(np.array([bounds(piece.path) for piece in pieces])).any():
        return pieces, 0
    from ..checks.applier import applied, edit_for, without_overlaps  # loaded only where something may be loose
    from ..checks.loose_hole import RULE

    alone = replace(document, pieces=tuple(pieces), groups=(), pictures=())
    found = list(RULE.find(alone, conditions))
    edits = [edit for f in found if (edit := edit_for(alone, f, conditions, ""))]
    taken = without_overlaps(edits)
    holes = {edit.finding for edit in taken}
    return list(applied(alone, taken).pieces), sum(int(f.measure["holes"]) for f in found if f.key in holes)


def _parts(made: Combined, pieces: Sequence[Piece]) -> list[Made]:
    """The shapes of a union, each with the pieces whose outlines it has."""
    start, found = made.path.start, []
    of_outline = [set(made.operand[a:b].tolist()) for a, b in zip(start[:-1], start[1:], strict=True)]
    for rows in shapes_of(made.path):
        parents = sorted(set().union(*(of_outline[row] for row in rows)))
        found.append(Made(made.path.take(rows), tuple(pieces[n] for n in parents)))
    return found


def _in_place_of(
    key: str, document: Document, parts: Sequence[Made], gone: set[str], off_mm: float, note: str = ""
) -> Remade:
    """Each part where its lowest parent lay; one that nothing was done to stays what it was."""
    order = {piece.id: n for n, piece in enumerate(document.pieces)}
    same = [len(p.parents) == 1 and _is_same(p.path, document.by_id[p.parents[0].id]) for p in parts]
    gone = gone - {part.parents[0].id for part, is_same in zip(parts, same, strict=True) if is_same}
    fresh = [part for part, is_same in zip(parts, same, strict=True) if not is_same]
    made: dict[str, list[Piece]] = {}
    for part, piece in zip(fresh, pieces_of(key, fresh), strict=True):
        lowest = min((p.id for p in part.parents), key=order.__getitem__)
        made.setdefault(lowest, []).append(piece)
    return Remade(made, gone, off_mm, note, len(parts))


def _is_same(path: Path, piece: Piece) -> bool:
    """Whether nothing was done to a piece: its outlines, or those of what it covers, are these."""
    if len(path) != len(piece.path) or bounds(path) != bounds(piece.path):
        return False
    size = area(path)
    if abs(size - abs(area(piece.path))) <= NOTHING_MM2:
        return True
    return abs(size - area(union(operand_of(piece)).path)) <= NOTHING_MM2


def _cut_away(document: Document, parameters: Combine, context: Context) -> Remade:
    picked, cutters = context.pieces(document), context.pieces(document, WITH)
    if not cutters:
        picked = _shapes(picked, 2, "Pick what is cut and what cuts it: two pieces at least.")
        cutters = picked[:1] if parameters.lowest_cuts else picked[-1:]
    return _cut(document, _others(picked, cutters), cutters, parameters, context)


def _through(document: Document, parameters: Combine, context: Context) -> Remade:
    cutters = context.pieces(document, WITH) or context.pieces(document)
    return _cut(document, _others(document.pieces_in_use(), cutters), cutters, parameters, context)


def _others(pieces: Sequence[Piece], cutters: Sequence[Piece]) -> list[Piece]:
    ids = {piece.id for piece in cutters}
    return [piece for piece in pieces if piece.id not in ids]


def _cut(
    document: Document, pieces: Sequence[Piece], cutters: Sequence[Piece], parameters: Combine, context: Context
) -> Remade:
    """Each piece without what cuts. A piece that falls apart becomes several, unless it was several shapes before."""
    cutters = _shapes(cutters, 1, "Pick a closed shape that cuts: lines have no inside.")
    blades = [operand_of(piece) for piece in cutters]
    box = bounds(Path.concatenate(piece.path for piece in cutters))
    changed: dict[str, list[Piece]] = {}
    gone, off, vanished = set(), 0.0, 0
    for piece in pieces:
        if not has_inside(piece) or not _boxes_meet(bounds(piece.path), box):
            continue
        own = union(operand_of(piece)).path
        made = difference(operand_of(piece), *blades)
        if abs(area(own) - area(made.path)) <= NOTHING_MM2:
            continue
        parts = parts_of(made.path) if len(parts_of(own)) == 1 else [made.path]
        parts = [part for part in parts if len(part)]
        changed[piece.id] = pieces_of(context.key, [Made(part, (piece,)) for part in parts])
        gone.add(piece.id)
        off, vanished = max(off, made.off_mm), vanished + (not parts)
    if not changed:
        raise CannotDo("What cuts lies on none of the other pieces, so nothing is cut: move it, or pick others.")
    if not parameters.keep_cutter:
        gone |= {piece.id for piece in cutters}
    note = f"{number_of(vanished, 'piece')} lay wholly under what cuts and {'is' if vanished == 1 else 'are'} gone"
    return Remade(changed, gone, off, note if vanished else "")


def _boxes_meet(one, other) -> bool:
    return bool(
        one and other and one[0] <= other[2] and other[0] <= one[2] and one[1] <= other[3] and other[1] <= one[3]
    )


def _overlap(document: Document, parameters: Combine, context: Context) -> Remade:
    pieces, others = context.pieces(document), context.pieces(document, WITH)
    pieces = _shapes(pieces, 1 if others else 2, "Pick two pieces or more that overlap.")
    operands = [operand_of(piece) for piece in pieces]
    if others:
        others = _shapes(others, 1, "Pick a closed shape: lines have no inside.")
        results = [(p, intersection(operand_of(p), union(*map(operand_of, others)).path)) for p in pieces]
        parts = [Made(path, (p, *others)) for p, made in results for path in parts_of(made.path)]
        off = max(made.off_mm for _, made in results)
    else:
        made = intersection(*operands)
        parts, off = [Made(path, tuple(pieces)) for path in parts_of(made.path)], made.off_mm
    if not parts:
        raise CannotDo("These pieces have nothing in common: they do not overlap.")
    return _in_place_of(context.key, document, parts, {p.id for p in (*pieces, *others)}, off)


def _divide(document: Document, parameters: Combine, context: Context) -> Remade:
    pieces = _shapes(context.pieces(document), 1, "Pick the pieces to part.")
    made = divide(*map(operand_of, pieces))
    parts = []
    for face, covers in enumerate(made.covers):
        if covers:
            # What is seen there: the topmost first.
            parents = tuple(pieces[n] for n in sorted(covers, reverse=True))
            parts.append(Made(made.of(face), parents))
    if len(parts) <= len(pieces) and all(len(part.parents) == 1 for part in parts):
        raise CannotDo("These pieces meet nowhere, so there is nothing to part.")
    return _in_place_of(context.key, document, parts, {p.id for p in pieces}, 0.0)


WAYS: dict[str, Callable[[Document, Combine, Context], Remade]] = {
    "weld": _weld,
    "cut-away": _cut_away,
    "overlap": _overlap,
    "divide": _divide,
    "through": _through,
}


def _shapes(pieces: Sequence[Piece], least: int, otherwise: str) -> list[Piece]:
    """Those that have an inside. Raises CannotDo where they are too few."""
    found = [piece for piece in pieces if has_inside(piece)]
    if len(found) < least:
        raise CannotDo(otherwise)
    return found
