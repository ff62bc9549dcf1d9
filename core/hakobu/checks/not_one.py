"""not-one: a piece that must be one comes off the sheet in more parts."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..geometry import flatten, signed_areas
from ..geometry.boolean import NotCombined, Operand, union
from ..geometry.nesting import shapes_of
from ..geometry.places import Places
from ..model import Conditions, Document, Finding, Level, Piece
from ..model.units import as_mm
from .naming import begun, called
from .rule import SHAPES, Rule

#: The nearest places of two parts are looked for at points this far apart, as a share of the smaller part's size.
STEP_SHARE = 0.01


def find(document: Document, conditions: Conditions) -> Iterator[Finding]:
    """One finding for each part beside the largest, where it comes nearest to the rest."""
    for identity in sorted(conditions.one):
        piece = document.by_id.get(identity)
        if piece is not None:
            yield from _breaks(piece)


def _breaks(piece: Piece) -> Iterator[Finding]:
    closed = piece.path.take(np.flatnonzero(piece.path.closed).tolist())
    try:
        made = union(Operand(closed, piece.fill_rule if piece.fill else "evenodd")).path
    except NotCombined:
        # Then as they are drawn: parts that only cross each other are told apart.
        made = closed
    shapes = shapes_of(made)
    parts = [made.take(rows) for rows in shapes]
    if len(parts) < 2:
        return
    size = [abs(float(signed_areas(part).sum())) for part in parts]
    order = np.argsort(size, kind="stable")[::-1].tolist()
    for n in order[1:]:
        rest = made.take([k for m, rows in enumerate(shapes) if m != n for k in rows])
        gap, place = nearest(parts[n], rest)
        yield RULE.at(
            f"{begun(called(piece))} must be one, but comes in {len(parts)} parts:"
            f" {as_mm(round(gap, 2))} are missing here.",
            [piece.id],
            place,
            measure={"parts": len(parts), "gap_mm": round(gap, 3)},
        )


def nearest(part, rest) -> tuple[float, tuple[float, float]]:
    """How near a part comes to the rest, and the middle between."""
    step = max(float(np.ptp(part.ctrl.reshape(-1, 2), axis=0).max()) * STEP_SHARE, 0.01)
    points = flatten(part, 0.01, longest_mm=step).points
    found = Places(rest).nearest(points)
    best = int(np.argmin(found.distance))
    return float(found.distance[best]), tuple((points[best] + found.point[best]) / 2)


RULE = Rule(
    id="not-one",
    about=SHAPES,
    level=Level.SPOILS,
    title="It comes in parts",
    effect="What must be one piece falls apart when it is lifted off.",
    find=find,
)
