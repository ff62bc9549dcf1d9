"""Packing by whatever suits: rectangles by rectpack, rectangular stock by a search, all else on a raster."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from ...geometry import Box, Path, box_of, rotation, transform, translation
from ..distance import rectangle_of
from .boxes import pack_boxes
from .raster import Place, Raster, pack_greedily
from .shapes import TURNS, Shape, box_sizes, is_box
from .strip import pack_strip

#: A search of less time than this, in seconds, does not pay.
LEAST_SEARCH_S = 1.0


@dataclass(frozen=True)
class Wish:
    """spacing_mm: what stays free between shapes. turns: what may be turned, a name of TURNS. in_holes: whether shapes
    may lie in holes of others. seconds: how long to search; 0 for the quick way alone."""

    spacing_mm: float = 2.0
    turns: str = "quarter"
    in_holes: bool = False
    seconds: float = 0.0


@dataclass(frozen=True)
class Packed:
    """places: (x, y, degrees) of each shape's centre; None for what found no room. used: the share of the stock's
    length that is taken. by: how it was found."""

    places: tuple[Place | None, ...]
    used: float
    by: str


def pack(
    usable: Path,
    shapes: Sequence[Shape],
    wish: Wish,
    progress: Callable[[float, float], None] = lambda share, used: None,
) -> Packed:
    """Shapes on stock; usable: what of it may be covered. Of several ways the one that leaves least out, then takes the
    least length. progress(share of the work, share of the length): it may raise."""
    box = rectangle_of(usable)
    if box and shapes and all(map(is_box, shapes)):
        may_turn = wish.turns in ("quarter", "free")
        places = pack_boxes(box, box_sizes(shapes), wish.spacing_mm, may_turn)
        return _packed(places, shapes, usable, "boxes")
    quick_share = 0.3 if wish.seconds >= LEAST_SEARCH_S else 1.0
    raster = Raster.of_stock(usable, wish.spacing_mm, wish.in_holes)
    places = pack_greedily(raster, shapes, TURNS[wish.turns], lambda share: progress(share * quick_share, 1.0))
    best = _packed(places, shapes, usable, "raster")
    if box is None or wish.seconds < LEAST_SEARCH_S or wish.in_holes or not shapes:
        return best
    found = pack_strip(
        box, shapes, wish.spacing_mm, wish.turns, wish.seconds, lambda used: progress(quick_share, min(used, best.used))
    )
    searched = _with_rest(_packed(found, shapes, usable, "search"), shapes, usable, wish)
    return searched if _rank(searched, shapes) > _rank(best, shapes) else best


def _with_rest(packed: Packed, shapes: Sequence[Shape], usable: Path, wish: Wish) -> Packed:
    """What the search left out is tried in the gaps that are left."""
    rest = [n for n, place in enumerate(packed.places) if place is None]
    if not rest or len(rest) == len(shapes):
        return packed
    raster = Raster.of_stock(usable, wish.spacing_mm, wish.in_holes)
    for shape, place in zip(shapes, packed.places, strict=True):
        if place is not None:
            raster.take(shape, place)
    more = pack_greedily(raster, [shapes[n] for n in rest], TURNS[wish.turns])
    places = list(packed.places)
    for n, place in zip(rest, more, strict=True):
        places[n] = place
    return _packed(places, shapes, usable, packed.by)


def laid(shape: Shape, place: Place) -> Path:
    """A shape at its place."""
    x, y, degrees = place
    path = transform(shape.path, rotation(np.radians(degrees))) if degrees else shape.path
    return transform(path, translation(x, y))


def _packed(places: Sequence[Place | None], shapes: Sequence[Shape], usable: Path, by: str) -> Packed:
    stock: Box = box_of(usable)
    right = max((box_of(laid(s, p))[2] for s, p in zip(shapes, places, strict=True) if p), default=stock[0])
    return Packed(tuple(places), (right - stock[0]) / (stock[2] - stock[0]), by)


def _rank(packed: Packed, shapes: Sequence[Shape]) -> tuple[float, float]:
    covered = sum(shape.area_mm2 for shape, place in zip(shapes, packed.places, strict=True) if place)
    return round(covered, 6), -packed.used
