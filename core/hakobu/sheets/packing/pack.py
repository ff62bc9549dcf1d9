"""Packing by whatever suits: rectangles by free rectangles, rectangular stock by a search, all else on a raster."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from ...geometry import Box, Path, box_of, transform
from ..items import turned_to
from .boxes import pack_boxes
from .raster import Place, Raster, pack_greedily
from .shapes import TURNS, Shape, box_sizes, is_box, rectangle_of
from .strip import pack_strip

#: A search of less time than this, in seconds, does not pay.
LEAST_SEARCH_S = 1.0
#: What is no larger than this beyond the stock fits it, in mm.
FITS_MM = 1e-3
#: Seconds that the quick way takes for a shape (measured on letters), and the share of the time that it may have.
QUICK_S, QUICK_SHARE = 0.012, 0.2


@dataclass(frozen=True)
class Wish:
    """spacing_mm: what stays free between shapes. turns: what may be turned, a name of TURNS. in_holes: whether shapes
    may lie in holes of others. seconds: how long to search; 0 for the quick way alone."""

    spacing_mm: float = 2.0
    turns: str = "quarter"
    in_holes: bool = False
    seconds: float = 0.0


#: Told the share of the work, the share of the length, and the best places so far if there are any; True when these are
#: enough. It may raise.
Told = Callable[[float, float, Sequence[Place | None] | None], bool]


def untold(share: float, used: float, places: Sequence[Place | None] | None) -> bool:
    """Nobody follows."""
    return False


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
    progress: Told = untold,
) -> Packed:
    """Shapes on stock; usable: what of it may be covered. Of several ways the one that leaves least out, then takes the
    least length. progress: told how far it is."""
    box = rectangle_of(usable)
    if box and shapes and not wish.turns.startswith("across") and all(map(is_box, shapes)):
        may_turn = wish.turns in ("quarter", "free")
        places = pack_boxes(box, box_sizes(shapes), wish.spacing_mm, may_turn)
        return _packed(places, shapes, usable, "boxes")
    begun = time.monotonic()
    searches = box is not None and wish.seconds >= LEAST_SEARCH_S and not wish.in_holes and bool(shapes)
    # Of many shapes the quick way takes time that the search makes more of.
    best = None
    if not searches or len(shapes) * QUICK_S <= QUICK_SHARE * wish.seconds:
        raster = Raster.of_stock(usable, wish.spacing_mm, wish.in_holes)
        most = QUICK_SHARE if searches else 1.0
        places = pack_greedily(raster, shapes, TURNS[wish.turns], lambda share: progress(share * most, 1.0, None))
        best = _packed(places, shapes, usable, "raster")
        if box is not None:
            best = _better(best, _as_boxes(box, shapes, usable, wish), shapes)
        if not searches or box is None:
            return best
    assert box is not None, "only rectangles are searched"
    seconds = wish.seconds - (time.monotonic() - begun)

    def told(used: float, places: Sequence[Place | None]) -> bool:
        share = (time.monotonic() - begun) / wish.seconds
        # Reported results are monotone: never worse than an earlier one.
        if best and (used >= best.used or None in places):
            used, places = best.used, best.places
        enough = progress(min(share, 0.99), used, places)
        return enough and any(place is not None for place in places)

    found = pack_strip(box, shapes, wish.spacing_mm, wish.turns, seconds, told)
    searched = _with_rest(_packed(found, shapes, usable, "search"), shapes, usable, wish)
    return _better(best, searched, shapes) if best else searched


def _as_boxes(box: Box, shapes: Sequence[Shape], usable: Path, wish: Wish) -> Packed:
    """Bounding boxes packed as rectangles: rows and columns, where the greedy raster leaves gaps, and shapes that fill
    the stock to its rim."""
    if wish.turns.startswith("across"):
        return Packed((None,) * len(shapes), 1.0, "boxes")
    room = (box[0], box[1], box[2] + FITS_MM, box[3] + FITS_MM)
    places = pack_boxes(room, box_sizes(shapes), wish.spacing_mm, wish.turns in ("quarter", "free"))
    return _packed(places, shapes, usable, "boxes")


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
    return transform(shape.path, turned_to(*place))


def _packed(places: Sequence[Place | None], shapes: Sequence[Shape], usable: Path, by: str) -> Packed:
    stock: Box = box_of(usable)
    right = max((box_of(laid(s, p))[2] for s, p in zip(shapes, places, strict=True) if p), default=stock[0])
    return Packed(tuple(places), (right - stock[0]) / (stock[2] - stock[0]), by)


def _better(one: Packed, other: Packed, shapes: Sequence[Shape]) -> Packed:
    return other if _rank(other, shapes) > _rank(one, shapes) else one


def _rank(packed: Packed, shapes: Sequence[Shape]) -> tuple[float, float]:
    covered = sum(shape.area_mm2 for shape, place in zip(shapes, packed.places, strict=True) if place)
    return round(covered, 6), -packed.used
