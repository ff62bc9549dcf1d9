"""Statistics of a design, as the report of a step states them before and after."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import asdict, dataclass
from typing import Any

import numpy as np

from ..geometry import Path, area, length
from ..geometry.boolean import NotCombined, Operand, union
from ..geometry.narrow import thin_places, tight_gaps
from .document import Document, Piece
from .shapes import has_inside, operand_of

#: Narrow places are looked for below the first of these widths, then below the next, in mm.
NARROW_MM = (1.0, 4.0, 16.0)
#: Of more nodes than this narrow places are not looked for.
MOST_NODES = 20_000


@dataclass(frozen=True, slots=True)
class Report:
    """Of all pieces in use. area_mm2: what each covers, added up; None where one could not be worked out. length_mm:
    of all lines that a tool follows. narrowest_mm, smallest_gap_mm: of what is on one layer; None where there is none
    up to 16 mm, or where that was not looked for."""

    pieces: int
    outlines: int
    nodes: int
    area_mm2: float | None
    length_mm: float
    size_mm: tuple[float, float]
    narrowest_mm: float | None
    smallest_gap_mm: float | None

    def as_json(self) -> dict[str, Any]:
        return {
            name: [round(v, 4) for v in value] if isinstance(value, tuple) else round(value, 4) if value else value
            for name, value in asdict(self).items()
        }


def report_of(document: Document) -> Report:
    pieces = document.pieces_in_use()
    path = Path.concatenate(piece.path for piece in pieces)
    nodes = int(path.node_counts.sum())
    followed = Path.concatenate(piece.path for piece in document.pieces_followed())
    layers: dict[str, list[Operand]] = {}
    for piece in document.pieces_followed():
        if has_inside(piece):
            layers.setdefault(piece.layer, []).append(operand_of(piece))
    few = nodes <= MOST_NODES
    return Report(
        len(pieces),
        len(path),
        nodes,
        _area(pieces),
        length(followed),
        document.size_mm,
        _narrowest(layers.values(), thin_places) if few else None,
        _narrowest(layers.values(), tight_gaps) if few else None,
    )


def _area(pieces: Iterable[Piece]) -> float | None:
    try:
        return sum(area(union(operand_of(piece)).path) for piece in pieces if has_inside(piece))
    except NotCombined:
        return None


def _narrowest(layers: Iterable[Sequence[Operand]], places: Callable) -> float | None:
    """The least width that a search for narrow places finds on a layer."""
    found = []
    for operands in layers:
        try:
            widths = (places(*operands, below_mm=below).width for below in NARROW_MM)
            found += [float(next((width[0] for width in widths if len(width)), np.inf))]
        except NotCombined:
            return None
    least = min(found, default=np.inf)
    return least if np.isfinite(least) else None
