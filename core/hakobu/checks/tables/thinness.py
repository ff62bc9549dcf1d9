"""Where a design is too thin for its material, in one look: what the rules of thin strips, gaps and slivers find."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...model import Conditions, Document
from ..double_outline import double_outlines
from ..sliver import slivers
from .outlines import OutlineTable, outline_table
from .small_outlines import least_strips
from .thin_places import thin_places_of

#: So many places are told one by one, the narrowest first; the rest are counted.
MOST_PLACES = 60


@dataclass(frozen=True)
class Thin:
    """Two points that face each other, in mm, (2, 2), and the width between them."""

    ends: np.ndarray
    width_mm: float


@dataclass(frozen=True)
class Thinness:
    """Strips and gaps narrower than their material bears, the narrowest first, and how many there are; slivers: the ids
    of pieces that are narrower all along, so that nothing of them holds."""

    strips: tuple[Thin, ...]
    strip_count: int
    gaps: tuple[Thin, ...]
    gap_count: int
    slivers: tuple[str, ...]


def thinness(document: Document, conditions: Conditions) -> Thinness:
    """Of what is cut; single lines have no width."""
    table = outline_table(document)
    places = thin_places_of(table, conditions)
    found = [Thin(ends, float(width)) for ends, width in zip(places.points, places.width, strict=True)]
    strips = [one for one, inside in zip(found, places.inside, strict=True) if inside]
    strips = sorted([*strips, *_lines(table, conditions)], key=lambda one: one.width_mm)
    gaps = [one for one, inside in zip(found, places.inside, strict=True) if not inside]
    thin, _ = slivers(table, conditions)
    names = dict.fromkeys(table.piece_of(k).id for k in thin.tolist())
    return Thinness(tuple(strips[:MOST_PLACES]), len(strips), tuple(gaps[:MOST_PLACES]), len(gaps), tuple(names))


def _lines(table: OutlineTable, conditions: Conditions) -> list[Thin]:
    """Lines that are drawn by both their sides, each as one strip where it begins."""
    least, path = least_strips(table, conditions), table.path
    pairs = [pair for pair in double_outlines(table, conditions) if pair[2] < least[pair[0]]]
    return [Thin(path.ctrl[path.start[[outer, inner]], 0], apart) for outer, inner, apart in pairs]
