"""put-together: several pieces made one compound, as they lie."""

from __future__ import annotations

from dataclasses import dataclass

from ..geometry import Path, signed_areas
from ..geometry.nesting import parents_of
from ..model import Document
from ..model.step import ON
from ..model.words import counted
from .making import Made, pieces_of, with_made
from .operation import Context, Operation, Outcome, Role, by_pieces


@dataclass(frozen=True)
class PutTogether:
    """Nothing but the pieces."""


def run(document: Document, parameters: PutTogether, context: Context) -> Outcome:
    """Outlines stay as they are drawn; those that lie in one run the other way, so that they are its holes. Layer,
    looks and name are the lowest piece's."""
    pieces = context.pieces(document)
    path = _holes_turned(Path.concatenate(piece.path for piece in pieces))
    (made,) = pieces_of(context.key, [Made(path, tuple(pieces))])
    after = with_made(document, {pieces[0].id: [made]}, {piece.id for piece in pieces})
    return Outcome(after, f"{counted(len(pieces), 'piece').capitalize()} put together", "", {"pieces": 1})


def _holes_turned(path: Path) -> Path:
    parent, depth = parents_of(path), [0] * len(path)
    for k in range(len(path)):
        at = parent[k]
        while at >= 0:
            depth[k], at = depth[k] + 1, parent[at]
    ways = signed_areas(path)
    turned = [
        outline.reversed() if outline.closed[0] and (ways[k] > 0) == (depth[k] % 2 == 1) else outline
        for k, outline in enumerate(path.outlines())
    ]
    return Path.concatenate(turned)


OPERATION = Operation(
    id="put-together",
    version=1,
    station="build",
    title="Put together",
    parameters=PutTogether,
    run=run,
    cost=by_pieces,
    sentence="Put together as one compound",
    roles=(Role(ON, "what is put together", least=2, everything=True),),
)
