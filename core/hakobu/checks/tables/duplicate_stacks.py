"""Many exact copies in one place: those beyond the few that are looked at one by one, told and taken together."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

import numpy as np

from ...model import Conditions, Piece
from .outlines import OutlineTable, Ref
from .paint_change import fill_change, line_change

#: Of more pieces than this in one stack that lose a part, it is not worked out whether a mend is safe.
MOST_PIECES = 50


@dataclass
class Stack:
    """The copies that go, by their pieces, and the outlines (rows of the table) that they lie on, one for each kind."""

    kept: list[int]
    gone: dict[str, list[int]] = field(default_factory=dict)

    def refs(self) -> Iterator[Ref]:
        return ((piece, k) for piece, outlines in self.gone.items() for k in outlines)

    def __len__(self) -> int:
        return sum(map(len, self.gone.values()))


def stacks_of(table: OutlineTable) -> list[Stack]:
    """All stacks of a design: of whole pieces that are copies of each other, and of single outlines."""
    if "stacks" not in table.kept:
        table.kept["stacks"] = _stacks(table)
    return table.kept["stacks"]


def _stacks(table: OutlineTable) -> list[Stack]:
    if not len(table.copies):
        return []
    count = np.array([len(piece.path) for piece in table.followed])
    row = (np.cumsum(count) - count)[table.copies[:, 0]] + table.copies[:, 1]
    kinds = table.whole_kind[row].tolist()
    by_piece: dict[int, list[tuple[int, int]]] = defaultdict(list)
    for (piece, outline), kind in zip(table.copies.tolist(), kinds, strict=True):
        by_piece[piece].append((outline, kind))
    # The first of the copies that are looked at.
    there, first = np.unique(table.kind, return_index=True)
    kept = dict(zip(there.tolist(), first.tolist(), strict=True))
    found: dict[tuple[int, ...], Stack] = {}
    for n, outlines in by_piece.items():
        whole = len(outlines) == count[n]
        parts = [outlines] if whole else [[one] for one in outlines]
        for part in parts:
            key = tuple(sorted(kind for _, kind in part))
            if not all(kind in kept for kind in key):
                # They lie where nothing is compared: that is told of them.
                continue
            stack = found.setdefault(key, Stack([kept[kind] for kind in key]))
            stack.gone.setdefault(table.followed[n].id, []).extend(k for k, _ in part)
    return list(found.values())


def is_safe(table: OutlineTable, stack: Stack, pieces: Mapping[str, Piece], conditions: Conditions) -> bool:
    """Whether what is seen changes by no more than the tolerance times the length of the lines taken away, in each
    piece that loses some."""
    partners = {table.piece_of(k).id for k in stack.kept}
    partner = table.piece_of(stack.kept[0])
    if len(partners) > 1:
        return False
    size = float(table.size[stack.kept].sum())
    alike, parted = set(), []
    for identity, outlines in stack.gone.items():
        piece = pieces[identity]
        if len(outlines) == len(piece.path) == len(partner.path) and piece.id != partner.id:
            alike.add((piece.fill, piece.fill_rule, piece.stroke))
        else:
            parted.append(piece)
    if len(parted) > MOST_PIECES:
        return False
    allowed = conditions.tolerance_mm * size
    for fill, rule, stroke in alike:
        if (fill, rule) != (partner.fill, partner.fill_rule):
            return False
        if stroke != partner.stroke:
            sample = next(pieces[p] for p in stack.gone if pieces[p].stroke == stroke)
            if line_change(sample, partner, size) > allowed:
                return False
    return all(
        line_change(piece, partner, size) <= allowed
        and fill_change(piece, partner, stack.gone[piece.id], table.winds_plainly(piece.id), table.kept) <= allowed
        for piece in parted
    )
