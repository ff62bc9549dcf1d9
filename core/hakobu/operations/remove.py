"""remove: pieces deleted."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import CannotDo
from ..model import Document
from .operation import Context, Operation, Outcome, parameter


@dataclass(frozen=True)
class Remove:
    pieces: tuple[str, ...] = parameter(help="the pieces to delete, by their ids")


def run(document: Document, parameters: Remove, context: Context) -> Outcome:
    gone = set(parameters.pieces)
    if not gone or gone - set(document.by_id):
        raise CannotDo("A piece that was to be deleted is no longer there; pick again.")
    made = document.with_paths(dict.fromkeys(gone))
    name = document.by_id[parameters.pieces[0]].name or "A piece"
    return Outcome(made, f"{name if len(gone) == 1 else f'{len(gone):,} pieces'} deleted", "", {"pieces": len(gone)})


def select(document: Document, parameters: Remove) -> tuple[str, ...]:
    return parameters.pieces


def repair(document: Document, parameters: Remove, pieces: tuple[str, ...]) -> Remove:
    return replace(parameters, pieces=pieces)


OPERATION = Operation("remove", 1, "check", "Delete", Remove, run, select, repair, seconds_per_segment=0.0)
