"""Features of a design that can be measured: holes, slots, strips, circles, radii, distances, angles."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..errors import BadRequest, CannotDo
from ..geometry import Path, bounds, feature_edges, features, signed_areas
from ..geometry.boolean import union
from ..geometry.features import Feature
from ..geometry.proximity.places import Places, places_of
from .dimension import Dimension, Place
from .document import Document, Piece
from .shapes import has_inside, operand_of
from .units import as_mm


@dataclass(frozen=True)
class FeatureKind:
    """places: how many say where it is. of_shape: whether it is measured on what a piece covers, not on its lines.
    across: whether a place may lie between pieces. find(path, places): the feature, or None."""

    words: str
    places: int
    find: Callable[..., Feature | None]
    missing: str
    of_shape: bool = False
    across: bool = False


KINDS: dict[str, FeatureKind] = {
    "hole": FeatureKind("a hole or a slot", 1, features.hole_at, "hole or slot", of_shape=True),
    "strip": FeatureKind("a strip or a gap", 1, features.strip_at, "other side", of_shape=True, across=True),
    "circle": FeatureKind("a circle", 1, features.circle_at, "circle"),
    "radius": FeatureKind("a radius", 1, feature_edges.radius_at, "round curve"),
    "distance": FeatureKind("two nodes", 2, features.distance_between, "second node"),
    "edges": FeatureKind("two edges", 2, feature_edges.distance_between_edges, "second edge"),
    "angle": FeatureKind("an angle", 1, feature_edges.angle_at, "corner"),
}
#: Those that are lengths.
LENGTHS = tuple(kind for kind in KINDS if kind != "angle")
#: Those of them that are at one place, and between two.
ONE_PLACE = tuple(kind for kind in LENGTHS if KINDS[kind].places == 1)
TWO_PLACES = tuple(kind for kind in LENGTHS if KINDS[kind].places == 2)


def feature_at(document: Document, kind: str, places: Sequence[Place]) -> tuple[Feature, tuple[str, ...]]:
    """A feature at one place or two, and the ids of the pieces it is on. Raises CannotDo where it is not there, and
    BadRequest where the number of places is wrong."""
    known = KINDS[kind]
    if len(places) != known.places:
        raise BadRequest(f"Of {known.words} {known.places} places say where it is, not {len(places)}.")
    pieces = [piece for piece in document.pieces_followed() if not known.of_shape or has_inside(piece)]
    if not pieces:
        what = "closed shape" if known.of_shape else "line"
        raise CannotDo(f"There is no {what} here to measure.")
    owners = _around_hole(pieces, places[0]) if kind == "hole" else []
    lines = document.lines_followed if len(pieces) == len(document.pieces_followed()) else None
    owners = owners or owners_of(pieces, places, lines)
    found = _find(known, pieces, owners, places, lines)
    if found is None:
        raise CannotDo(f"There is no {known.missing} there to measure: point at another place.")
    return found, tuple(piece.id for piece in owners)


def _around_hole(pieces: Sequence[Piece], place: Place) -> list[Piece]:
    """The piece with the smallest hole that a place lies in, the topmost of equals; none where it lies in none."""
    found: list[tuple[float, Piece]] = []
    for piece in reversed(pieces):
        left, top, right, bottom = bounds(piece.path) or (0.0, 0.0, -1.0, -1.0)
        if left <= place[0] <= right and top <= place[1] <= bottom:
            hole = features.hole_about(covered(piece), place)
            if hole is not None:
                found.append((round(abs(float(signed_areas(hole).sum())), 6), piece))
    return [min(found, key=lambda each: each[0])[1]] if found else []


def default_places(document: Document, kind: str) -> tuple[Place, ...]:
    """Where a feature is looked for while nobody has said: the middle of the design, or its corners. Raises CannotDo
    where there is nothing."""
    if not document.box:
        raise CannotDo("There is nothing here to measure yet.")
    left, top, right, bottom = document.box
    if KINDS[kind].places == 2:
        return (left, top), (right, bottom)
    return (((left + right) / 2, (top + bottom) / 2),)


def _find(
    known: FeatureKind,
    pieces: Sequence[Piece],
    owners: Sequence[Piece],
    places: Sequence[Place],
    lines: Path | None = None,
) -> Feature | None:
    """The feature on its owners, or None. lines: those of all pieces in one path, if already computed."""
    if not known.of_shape:
        return known.find(Path.concatenate(piece.path for piece in dict.fromkeys(owners)), *places)
    shape = covered(owners[0])
    if known.across and len(pieces) > 1 and not Places(shape).contains(np.array(places))[0]:
        # Beside the piece: the gap to whatever comes next.
        shape = lines if lines is not None else Path.concatenate(piece.path for piece in pieces)
    return known.find(shape, *places)


def covered(piece: Piece) -> Path:
    """What a piece covers, outer outlines clockwise and holes the other way."""
    return _covered(piece.path, operand_of(piece).rule)


@lru_cache(maxsize=64)
def _covered(path: Path, rule: str) -> Path:
    from ..geometry.boolean import Operand

    return union(Operand(path, rule)).path


def owners_of(pieces: Sequence[Piece], places: Sequence[Place], lines: Path | None = None) -> list[Piece]:
    """The piece whose line is nearest to each place, the topmost of equals. lines: those of all pieces in one
    path, if already computed."""
    whole = lines if lines is not None else Path.concatenate(piece.path for piece in pieces)
    ends = np.cumsum([len(piece.path) for piece in pieces])
    near = places_of(whole).nearest(np.array(places, float))
    owners = np.searchsorted(ends, near.outline, side="right")
    return [_topmost(pieces, int(owner), point) for owner, point in zip(owners, near.point, strict=True)]


#: Lines that are no farther apart lie on each other, in mm.
ON_EACH_OTHER_MM = 1e-6


def _topmost(pieces: Sequence[Piece], owner: int, point: np.ndarray) -> Piece:
    """The last piece whose line passes through a point of one of them."""
    for piece in reversed(pieces[owner + 1 :]):
        left, top, right, bottom = bounds(piece.path) or (np.inf, np.inf, -np.inf, -np.inf)
        if not (left - 1e-6 <= point[0] <= right + 1e-6 and top - 1e-6 <= point[1] <= bottom + 1e-6):
            continue
        if places_of(piece.path).nearest(point[None]).distance[0] < ON_EACH_OTHER_MM:
            return piece
    return pieces[owner]


def measured(document: Document, dimension: Dimension) -> Feature | None:
    """What a dimension measures now; None where it is lost."""
    owners = [document.by_id[identity] for identity in dimension.pieces if identity in document.by_id]
    if dimension.lost or len(owners) < len(dimension.pieces):
        return None
    known = KINDS[dimension.kind]
    pieces = [piece for piece in document.pieces_followed() if not known.of_shape or has_inside(piece)]
    return _find(known, pieces, owners, dimension.places)


@dataclass(frozen=True)
class DrawnDimension:
    """A dimension as it is drawn and listed. ends: as of its feature; of one that is lost, its places. size: in mm or
    degrees; None where it is lost. holds: whether it measures what it must; None where that is no rule."""

    id: str
    name: str
    kind: str
    ends: tuple[Place, ...]
    size: float | None
    text: str
    must_be: float | None = None
    holds: bool | None = None


#: A dimension that must be so large may be off by this, in mm, or in degrees (common practice).
OFF_MM, OFF_DEGREES = 0.01, 0.1


def drawn_dimensions(document: Document) -> list[DrawnDimension]:
    return [_drawn(each, measured(document, each)) for each in document.dimensions]


def _drawn(dimension: Dimension, found: Feature | None) -> DrawnDimension:
    must_be, name = dimension.must_be, dimension.name
    if found is None:
        holds = None if must_be is None else False
        return DrawnDimension(dimension.id, name, dimension.kind, dimension.places, None, "gone", must_be, holds)
    off = OFF_DEGREES if dimension.kind == "angle" else OFF_MM
    holds = None if must_be is None else abs(found.size - must_be) <= off + 1e-9
    ends = tuple((float(x), float(y)) for x, y in found.ends)
    text = size_words(dimension.kind, found.size)
    return DrawnDimension(dimension.id, name, dimension.kind, ends, found.size, text, must_be, holds)


def settled_places(kind: str, feature: Feature) -> tuple[Place, ...]:
    """Places that find a feature again: its ends, its corner, or the middle between its ends."""
    if KINDS[kind].places == 2:
        found = feature.ends
    elif kind == "angle":
        found = feature.ends[:1]
    elif kind in ("radius", "circle"):
        found = feature.ends[-1:]
    else:
        found = feature.ends.mean(axis=0)[None]
    return tuple((float(x), float(y)) for x, y in found)


def size_words(kind: str, size: float) -> str:
    """9 mm, or 42.5 degrees; a diameter and a radius with their signs (ISO 129-1, from memory)."""
    if kind == "angle":
        return f"{size:.4g}°"
    return f"{'⌀ ' if kind == 'circle' else 'R ' if kind == 'radius' else ''}{as_mm(size)}"
