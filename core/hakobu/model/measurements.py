"""What is read off picked things: size, length, area, radius, nodes, and the thinnest place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import NotThere
from ..geometry import Path, area, box_of, length
from ..geometry.arcs import centre_and_radius
from ..geometry.boolean import Operand, union
from ..geometry.narrow import thin_places
from ..geometry.recover import recover
from .document import Document

#: A curve is called a circle where it is one within this, in mm: less than any cutter's step.
CIRCLE_MM = 0.01
#: Thin places are looked for below the first of these widths, then below the next, in mm.
THIN_MM = (1.0, 4.0, 16.0)
#: Of more nodes than this, area and thinnest place are not worked out while somebody waits.
MOST_NODES = 20_000


@dataclass(frozen=True, slots=True)
class Pick:
    """A piece, or one of its outlines by its number."""

    piece: str
    outline: int | None = None


@dataclass(frozen=True, slots=True)
class Reading:
    """All in mm. box: of the outlines, (left, top, right, bottom). length_mm: of all lines. area_mm2: what is painted
    by pieces, or enclosed by a single outline; None of open lines, and of more nodes than MOST_NODES. radius_mm and
    centre: where all that is picked is one circle. thin_mm and thin: the narrowest strip and its two ends; None where
    there is none up to 16 mm. too_many: whether that was not looked for."""

    pieces: int
    outlines: int
    nodes: int
    box: tuple[float, float, float, float]
    length_mm: float
    area_mm2: float | None
    radius_mm: float | None
    centre: tuple[float, float] | None
    thin_mm: float | None
    thin: tuple[tuple[float, float], tuple[float, float]] | None
    too_many: bool


def reading_of(document: Document, picks: Sequence[Pick]) -> Reading:
    """Raises NotThere where something picked is not in the document."""
    operands = [_operand(document, pick) for pick in picks]
    path = Path.concatenate(operand.path for operand in operands)
    if not len(path):
        raise NotThere("Nothing is picked that could be measured.")
    nodes = int(path.node_counts.sum())
    too_many = nodes > MOST_NODES
    closed = [operand for operand in operands if operand.path.closed.any()]
    radius, centre = _circle(path)
    covered = None if too_many or not closed else area(union(*closed).path)
    thin_mm, thin = (None, None) if too_many or any(p.outline is not None for p in picks) else _thinnest(closed)
    pieces = len({pick.piece for pick in picks})
    return Reading(
        pieces, len(path), nodes, box_of(path), length(path), covered, radius, centre, thin_mm, thin, too_many
    )


def _operand(document: Document, pick: Pick) -> Operand:
    piece = document.by_id.get(pick.piece)
    if piece is None or (pick.outline is not None and not 0 <= pick.outline < len(piece.path)):
        raise NotThere("What is picked is no longer there; pick it again.")
    if pick.outline is None:
        return Operand(piece.path, piece.fill_rule)
    return Operand(piece.path.outline(pick.outline))


def _circle(path: Path) -> tuple[float | None, tuple[float, float] | None]:
    """The radius and centre of a single outline that is a circle, whatever it is drawn of."""
    if len(path) != 1 or not path.closed[0]:
        return None, None
    found = recover(path, CIRCLE_MM)
    if not found.is_circle[0]:
        return None, None
    centre, radius = centre_and_radius(found.ctrl[:1, 0], found.ctrl[:1, 3], found.bulge[:1])
    return float(np.abs(radius[0])), (float(centre[0, 0]), float(centre[0, 1]))


def _thinnest(operands: Sequence[Operand]):
    """The width of the narrowest strip and its two ends."""
    for below in THIN_MM if operands else ():
        found = thin_places(*operands, below_mm=below)
        if len(found):
            (ax, ay), (bx, by) = found.points[0].tolist()
            return float(found.width[0]), ((ax, ay), (bx, by))
    return None, None
