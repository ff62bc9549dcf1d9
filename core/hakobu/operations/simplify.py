"""simplify: outlines of fewer nodes, within a distance of what they were."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import CannotDo
from ..geometry.simplify import simplify
from ..model import Document
from ..model.declare import length
from ..model.step import ON
from ..model.units import as_mm
from .operation import Context, Operation, Outcome, Role, times_by_pieces


@dataclass(frozen=True)
class Simplify:
    within_mm: float = length(
        0.05, label="distance", help="no point farther than that from the line before", low=0.001, high=10.0, step=0.01
    )


def run(document: Document, parameters: Simplify, context: Context) -> Outcome:
    """Corners stay; lines, arcs and circles are recovered. A piece that would not have fewer nodes stays as it is."""
    changes, worst, before, after = {}, 0.0, 0, 0
    for number, piece in enumerate(pieces := context.pieces(document)):
        context.progress(number / len(pieces), "Simplifying")
        made = simplify(piece.path, parameters.within_mm)
        was, now = int(piece.path.node_counts.sum()), int(made.path.node_counts.sum())
        before, after = before + was, after + min(was, now)
        if now < was:
            changes[piece.id] = made.path
            worst = max(worst, made.off_mm)
    if not changes:
        raise CannotDo(f"These outlines have no node too many within {as_mm(parameters.within_mm)}: allow more.")
    made = tuple(replace(p, path=changes[p.id]) if p.id in changes else p for p in document.pieces)
    title = f"Simplified within {as_mm(parameters.within_mm)}"
    note = f"{before:,} nodes became {after:,}"
    statistics = {"nodes_before": before, "nodes_after": after, "off_mm": worst}
    return Outcome(replace(document, pieces=made), title, note, statistics)


OPERATION = Operation(
    id="simplify",
    version=1,
    station="build",
    title="Simplify",
    parameters=Simplify,
    run=run,
    cost=times_by_pieces(4),
    sentence="Take nodes away where lines move by at most {within_mm}",
    roles=(Role(ON, "what is simplified", everything=True),),
)
