"""What was found, measured against the material it is to be cut from: where it is too thin to hold or to be weeded."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from ..geometry import Path, length, signed_areas
from ..geometry.narrow import Narrow, thin_places, tight_gaps
from .asking import Found, FoundPiece

#: So many places are told one by one, the narrowest first; the rest are counted.
MOST_PLACES = 60


@dataclass(frozen=True)
class Thin:
    """Two points that face each other, in mm, (2, 2), and the width between them."""

    ends: np.ndarray
    width_mm: float


@dataclass(frozen=True)
class Measured:
    """Strips and gaps narrower than asked, the narrowest first, and how many there are; slivers: the keys of pieces
    that are narrower all along, so that nothing of them holds."""

    strips: tuple[Thin, ...]
    strip_count: int
    gaps: tuple[Thin, ...]
    gap_count: int
    slivers: tuple[str, ...]


def measured(found: Found, strip_mm: float, gap_mm: float) -> Measured:
    """Shapes only, each layer for itself, since each is cut from its own sheet; single lines have no width."""
    strips, gaps, slivers = [], [], []
    for layer in found.layers:
        pieces = [piece for piece in found.pieces if piece.layer == layer.key]
        if layer.lines or not pieces:
            continue
        slivers += [piece.key for piece in pieces if is_sliver(piece, strip_mm)]
        whole = Path.concatenate(piece.path for piece in pieces)
        strips.append(thin_places(whole, below_mm=strip_mm))
        gaps.append(tight_gaps(whole, below_mm=gap_mm))
    return Measured(_narrowest(strips), sum(map(len, strips)), _narrowest(gaps), sum(map(len, gaps)), tuple(slivers))


def is_sliver(piece: FoundPiece, strip_mm: float) -> bool:
    """Whether a piece is narrower than that all along: a strip's area over half its outline's length is its width."""
    around = length(piece.path)
    return around > 0 and 2 * abs(float(signed_areas(piece.path).sum())) / around < strip_mm


def _narrowest(places: Iterable[Narrow]) -> tuple[Thin, ...]:
    all_places = [
        Thin(ends, float(width)) for narrow in places for ends, width in zip(narrow.points, narrow.width, strict=True)
    ]
    return tuple(sorted(all_places, key=lambda place: place.width_mm)[:MOST_PLACES])
