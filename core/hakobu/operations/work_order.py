"""work-order: pieces that the tools do first, in the order of the person."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..model import Document
from ..model.declare import pieces
from ..model.words import number_of
from .operation import Context, Operation, Outcome, at_once


@dataclass(frozen=True)
class WorkOrder:
    first: tuple[str, ...] = pieces((), label="first", help="pieces in the order in which they are worked", group="")


def run(document: Document, parameters: WorkOrder, context: Context) -> Outcome:
    """Pieces that are named are worked in their order, each tool's own before its others; those that are gone are
    passed over. Without any the order is the machine's again."""
    known = document.by_id
    first = tuple(dict.fromkeys(piece for piece in parameters.first if piece in known))
    made = replace(document, work_order=first)
    if not first:
        return Outcome(made, "Order of work by the machine")
    return Outcome(made, f"{number_of(len(first), 'piece')} in an order of your own", "", {"ordered": len(first)})


OPERATION = Operation(
    id="work-order",
    version=1,
    station="proof",
    title="Order of work",
    parameters=WorkOrder,
    run=run,
    sentence="Work pieces in this order",
    cost=at_once,
)
