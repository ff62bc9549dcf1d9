"""What a pattern is made of: figures on a lattice, bands, or pieces; and what of it lies in a shape."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from ..errors import CannotDo, TooMuch
from ..geometry import Path, box_of, compose, scaling, transform, translation
from ..geometry.boolean import intersection, union
from ..geometry.lattice import ROW, Lattice, dot, hexagon, in_rows, middle_line, repeated
from ..geometry.offset import around
from ..geometry.proximity.places import Places
from ..model import Piece
from ..model.shapes import has_inside, operand_of

if TYPE_CHECKING:
    from .pattern import Pattern

#: So many figures, and bands, fill a shape at most.
MOST_FIGURES, MOST_BANDS = 100_000, 5_000


@dataclass(frozen=True)
class Filling:
    """A pattern before it is clipped. figure: what is repeated, about 0, 0; motif: what is laid in as it lies."""

    wish: Pattern
    lattice: Lattice
    figure: Path | None
    motif: Path | None


def filling_of(wish: Pattern, motif: Sequence[Piece]) -> Filling:
    """Raises CannotDo where figures would leave nothing between them."""
    lattice = Lattice(wish.spacing_mm, math.radians(wish.angle), wish.shift, wish.jitter, wish.seed)
    if wish.kind == "dots":
        return Filling(wish, lattice, dot(wish.width_mm), None)
    if wish.kind == "hexagons":
        across = wish.spacing_mm - wish.width_mm
        if across <= 0:
            raise CannotDo("Nothing is left of the hexagons: take a larger spacing, or narrower walls.")
        return Filling(wish, lattice, hexagon(across, lattice.angle), None)
    if wish.kind in ("repeated", "over", "once"):
        shapes = [operand_of(piece) for piece in motif if has_inside(piece)]
        if not shapes:
            raise CannotDo("Lines that do not close cannot fill a shape: pick closed ones.")
        whole = union(*shapes).path
        if wish.kind != "repeated":
            return Filling(wish, lattice, None, whole)
        left, top, right, bottom = box_of(whole)
        return Filling(wish, lattice, transform(whole, translation(-(left + right) / 2, -(top + bottom) / 2)), None)
    return Filling(wish, lattice, None, None)


def cells_in(fill: Filling, inner: Path) -> tuple[Path, Path]:
    """What of a pattern lies in a shape: the parts that were clipped, and the figures that lie in it whole."""
    none = Path.concatenate([])
    if fill.motif is not None:
        motif = _over(fill.motif, inner) if fill.wish.kind == "over" else fill.motif
        return intersection(motif, inner).path, none
    if fill.figure is None:
        return intersection(_bands(fill, inner), inner).path, none
    places = _places(fill, fill.figure, inner)
    reach = float(np.hypot(*fill.figure.ctrl.reshape(-1, 2).T).max())
    at = Places(inner)
    away = at.nearest(places).distance
    inside = at.contains(places)
    whole = places[inside & (away > reach)]
    edge = places[away <= reach]
    left, top, right, bottom = box_of(fill.figure)
    overlapping = max(right - left, bottom - top) > fill.lattice.spacing_mm * 0.999 or fill.wish.jitter > 0
    if overlapping:
        every = union(repeated(fill.figure, np.vstack([whole, edge]))).path
        return intersection(every, inner).path, none
    clipped = intersection(repeated(fill.figure, edge), inner).path if len(edge) else none
    return clipped, repeated(fill.figure, whole)


def _over(motif: Path, inner: Path) -> Path:
    """Pieces sized and moved so that their box just covers that of a shape."""
    left, top, right, bottom = box_of(motif)
    x0, y0, x1, y1 = box_of(inner)
    factor = max((x1 - x0) / max(right - left, 1e-9), (y1 - y0) / max(bottom - top, 1e-9))
    matrix = compose(scaling(factor), translation(-(left + right) / 2, -(top + bottom) / 2))
    return transform(motif, compose(translation((x0 + x1) / 2, (y0 + y1) / 2), matrix))


def _places(fill: Filling, figure: Path, inner: Path) -> np.ndarray:
    box = box_of(inner)
    staggered = fill.wish.kind in ("hexagons", "dots")
    row = ROW if staggered else 1.0
    count = fill.lattice.count(box, row)
    if count > MOST_FIGURES:
        raise TooMuch(
            f"That would be about {count:,.0f} figures: take a larger spacing than {fill.wish.spacing_mm:g} mm."
        )
    places = fill.lattice.places(box, row, staggered)
    room = float(np.hypot(*figure.ctrl.reshape(-1, 2).T).max())
    left, top, right, bottom = box
    near = (places >= (left - room, top - room)).all(axis=1) & (places <= (right + room, bottom + room)).all(axis=1)
    return places[near]


def _bands(fill: Filling, inner: Path) -> Path:
    wish = fill.wish
    if wish.width_mm >= wish.spacing_mm:
        raise CannotDo("The lines are as wide as their spacing, so nothing is between them: take narrower ones.")
    sets = []
    for lattice in _ways(fill.lattice, wish):
        line = _middle(lattice, wish, inner)
        sets.append(in_rows(around(line, wish.width_mm / 2, ends="flat").path, lattice, box_of(inner)))
    return union(*sets).path


def lines_of(wish: Pattern, inner: Path) -> Path:
    """The lines of a pattern that is scored or drawn, before they are clipped; figures by their outlines."""
    fill = filling_of(wish, ())
    if fill.figure is not None:
        return repeated(fill.figure, _places(fill, fill.figure, inner))
    ways = _ways(fill.lattice, wish)
    return Path.concatenate(in_rows(_middle(each, wish, inner), each, box_of(inner)) for each in ways)


def _ways(lattice: Lattice, wish: Pattern) -> list[Lattice]:
    """The lattices along whose rows lines run."""
    return [lattice, replace(lattice, angle=lattice.angle + math.pi / 2)] if wish.kind == "crossed" else [lattice]


def _middle(lattice: Lattice, wish: Pattern, inner: Path) -> Path:
    box = box_of(inner)
    if lattice.reach(box) * 2 / wish.spacing_mm > MOST_BANDS:
        raise TooMuch(f"That would be more than {MOST_BANDS:,} lines: take a larger spacing.")
    return middle_line(lattice, box, wish.swing_mm if wish.kind == "waves" else 0.0)
