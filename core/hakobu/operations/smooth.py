"""smooth: outlines made smoother, within a distance of what they were."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ..errors import CannotDo
from ..geometry.smoothing import smoothed
from ..model import Document
from ..model.declare import angle, length
from ..model.step import ON
from ..model.units import as_mm
from .operation import Context, Operation, Outcome, Role, times_by_pieces


@dataclass(frozen=True)
class Smooth:
    within_mm: float = length(
        0.2, label="distance", help="no point moves farther than that", low=0.005, high=10.0, step=0.05
    )
    corner: float = angle(
        40.0, label="corners over", help="where lines turn by more, corners stay", low=5.0, high=180.0
    )


def run(document: Document, parameters: Smooth, context: Context) -> Outcome:
    changes, before, after = {}, 0, 0
    for number, piece in enumerate(pieces := context.pieces(document)):
        context.progress(number / len(pieces), "Smoothing")
        made = smoothed(piece.path, parameters.within_mm, math.radians(parameters.corner))
        before, after = before + int(piece.path.node_counts.sum()), after + int(made.node_counts.sum())
        if made != piece.path:
            changes[piece.id] = made
    if not changes:
        raise CannotDo(f"Nothing here gets smoother within {as_mm(parameters.within_mm)}: allow more.")
    pieces = tuple(replace(p, path=changes[p.id]) if p.id in changes else p for p in document.pieces)
    note = f"{before:,} nodes became {after:,}"
    statistics = {"nodes_before": before, "nodes_after": after}
    return Outcome(replace(document, pieces=pieces), f"Smoothed within {as_mm(parameters.within_mm)}", note, statistics)


OPERATION = Operation(
    id="smooth",
    version=1,
    station="build",
    title="Smooth",
    parameters=Smooth,
    run=run,
    cost=times_by_pieces(8),
    sentence="Smooth lines within {within_mm}, corners over {corner} stay",
    roles=(Role(ON, "what is made smoother", everything=True),),
)
