"""remove: pieces deleted."""

from __future__ import annotations

from dataclasses import dataclass

from ..model import Document
from ..model.step import ON
from .operation import Context, Operation, Outcome, Role, at_once, without_pieces


@dataclass(frozen=True)
class Remove:
    """Nothing but the pieces."""


def run(document: Document, parameters: Remove, context: Context) -> Outcome:
    gone = context.pieces(document)
    made = document.with_paths(dict.fromkeys(piece.id for piece in gone))
    name = gone[0].name or "A piece"
    return Outcome(made, f"{name if len(gone) == 1 else f'{len(gone):,} pieces'} deleted", "", {"pieces": len(gone)})


OPERATION = Operation(
    id="remove",
    version=2,
    station="check",
    title="Delete",
    parameters=Remove,
    run=run,
    sentence="Delete",
    roles=(Role(ON, "what is deleted"),),
    upgrade=without_pieces,
    cost=at_once,
)
