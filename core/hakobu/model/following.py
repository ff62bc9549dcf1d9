"""Dimensions that follow the design through a step: what they measure is found again on what the step made."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from ..errors import CannotDo
from ..geometry import Path
from ..geometry.proximity.places import Places
from .dimension import Dimension, Place
from .document import Document, Piece
from .features import KINDS, feature_at, measured, owners_of, settled_places
from .shapes import has_inside

#: A motion that takes each control point to where it is now within this share of the outline's size is the motion.
MOTION_SHARE = 1e-6
#: What was reshaped is looked for no farther from where it was than this share of the design's longer side.
NEAR_SHARE = 0.05


def with_dimensions(before: Document, after: Document) -> Document:
    """The design after a step with the dimensions that it had before, where they are now. One that the step itself
    added or changed stays as it is."""
    if after is before or not before.dimensions:
        return after
    was = {dimension.id: dimension for dimension in before.dimensions}
    moved = tuple(_followed(each, before, after) if was.get(each.id) == each else each for each in after.dimensions)
    return replace(after, dimensions=moved)


def _followed(dimension: Dimension, before: Document, after: Document) -> Dimension:
    """Where its pieces are as they were it stays; else its places go where their lines went, and it is measured there
    anew."""
    owners = [before.by_id.get(identity) for identity in dimension.pieces]
    if all(_is_same(piece, after) for piece in owners):
        return dimension
    known = KINDS[dimension.kind]
    there = [piece for piece in after.pieces_followed() if not known.of_shape or has_inside(piece)]
    moves = (_moved(place, piece, before, after, there) for place, piece in zip(dimension.places, owners, strict=True))
    places = [place for place in moves if place is not None]
    if len(places) < len(owners):
        return replace(dimension, lost=True)
    named = [identity for piece in owners if (identity := _still(piece, after)) is not None]
    if len(named) < len(owners):
        named = [piece.id for piece in owners_of(there, places)]
    moved = replace(dimension, places=tuple(places), pieces=tuple(named), lost=False)
    return _settled(after, moved) or _on_its_own(dimension, before, after, moved) or replace(moved, lost=True)


def _settled(after: Document, dimension: Dimension) -> Dimension | None:
    """A dimension on its pieces, or on whichever there are; None where there is nothing to measure."""
    found, pieces = measured(after, dimension), dimension.pieces
    if found is None:
        try:
            found, pieces = feature_at(after, dimension.kind, dimension.places)
        except CannotDo:
            return None
    places = settled_places(dimension.kind, found)
    return replace(dimension, places=places, pieces=pieces)


def _on_its_own(was: Dimension, before: Document, after: Document, moved: Dimension) -> Dimension | None:
    """A round hole that is an outline of its own now, since its piece was taken apart, is a circle as large."""
    size = measured(before, was) if was.kind == "hole" else None
    made = _settled(after, replace(moved, kind="circle")) if size else None
    found = measured(after, made) if made else None
    return made if found and size and abs(found.size - size.size) <= 1e-3 * size.size else None


def _is_same(piece: Piece | None, after: Document) -> bool:
    now = after.by_id.get(piece.id) if piece else None
    return piece is not None and now is not None and (now.path is piece.path or now.path == piece.path)


def _still(piece: Piece | None, after: Document) -> str | None:
    return piece.id if piece and piece.id in after.by_id else None


def _moved(
    place: Place, piece: Piece | None, before: Document, after: Document, there: Sequence[Piece]
) -> Place | None:
    """Where a place of a piece is after a step; None where nothing like it is left."""
    if not there:
        return None
    line = np.array(place)
    if piece is not None:
        now = after.by_id.get(piece.id)
        path = piece.path
        near = Places(path).nearest(np.array([place]))
        outline, line = int(near.outline[0]), near.point[0]
        if now is not None and np.array_equal(now.path.start, path.start):
            moved = _by_motion(np.array(place), path, now.path, outline)
            if moved is not None:
                return moved
        moved = _by_segments(np.array(place), path, outline, [now] if now is not None else there)
        if moved is not None:
            return moved
    whole = Path.concatenate(each.path for each in there)
    reach = NEAR_SHARE * max(*before.size_mm, *after.size_mm)
    return place if _distance(whole, line) <= reach else None


def _by_motion(place: np.ndarray, was: Path, now: Path, outline: int) -> Place | None:
    """Along with a piece, or else with one outline of it, that an affine map took to where it is now."""
    own = slice(int(was.start[outline]), int(was.start[outline + 1]))
    for rows in (slice(None), own):
        old, new = was.ctrl[rows].reshape(-1, 2), now.ctrl[rows].reshape(-1, 2)
        mirrored = bool((was.bulge[rows] * now.bulge[rows] < 0).any())
        moved = _mapped(place, old, new, mirrored)
        if moved is not None:
            return moved
    return None


def _mapped(place: np.ndarray, old: np.ndarray, new: np.ndarray, mirrored: bool) -> Place | None:
    """The image of a place under the affine map that takes points to others (N, 2), by least squares; None where none
    does. Points on one line, such as those of a circle of two arcs, leave one of two similarities."""
    middle, centre = old.mean(axis=0), new.mean(axis=0)
    away, there, off = old - middle, new - centre, place - middle
    size = max(float(np.abs(away).max()), float(np.abs(there).max()), 1e-9)
    if np.linalg.matrix_rank(away, tol=1e-9 * size) == 2:
        map_ = np.linalg.lstsq(away, there, rcond=None)[0]
    else:
        flip = np.array([1.0, -1.0]) if mirrored else np.ones(2)
        a, b = (away * flip) @ (1, 1j), there @ (1, 1j)
        turn = complex((a.conj() @ b) / max(float((a.conj() @ a).real), 1e-300))
        map_ = flip[:, None] * np.array([[turn.real, turn.imag], [-turn.imag, turn.real]])
    if np.abs(away @ map_ - there).max() > MOTION_SHARE * size:
        return None
    x, y = off @ map_ + centre
    return float(x), float(y)


def _by_segments(place: np.ndarray, path: Path, outline: int, there: Sequence[Piece]) -> Place | None:
    """Along with the nearest segment of its outline that is found again. Of several places where a segment of the same
    shape lies, that one which most segments of the outline moved to counts, then the nearest."""
    own = path.take([outline])
    near = np.argsort(np.abs(own.ctrl - place).sum(axis=2).min(axis=1), kind="stable")[:MOST_SEGMENTS]
    whole = Path.concatenate(piece.path for piece in there)
    ways = [_ways(own, int(k), whole) for k in near]
    votes: Counter = Counter(key for found in ways for key in {_key(way) for way in found})
    for found in ways:
        if len(found):
            best = max(found, key=lambda way: (votes[_key(way)], -float(np.hypot(*way))))
            if votes[_key(best)] == 1 and _distance(whole, place) < ON_LINE_MM:
                # One segment alone may look like another one: a line is still there.
                return float(place[0]), float(place[1])
            x, y = place + best
            return float(x), float(y)
    return None


#: So many segments of an outline are looked for, the nearest to the place.
MOST_SEGMENTS = 24
#: A place that is no farther from a line lies on it.
ON_LINE_MM = 1e-6


def _distance(path: Path, place: np.ndarray) -> float:
    return float(Places(path).nearest(np.asarray(place)[None]).distance[0])


def _ways(own: Path, row: int, whole: Path) -> np.ndarray:
    """How far a segment would have moved to each of the same shape in a path, (N, 2), either way round."""
    ctrl, kind, bulge = own.ctrl[row], own.kind[row], own.bulge[row]
    within = MOTION_SHARE * (1 + float(np.ptp(ctrl, axis=0).max()))
    found = []
    for shape, sign in ((ctrl, 1.0), (ctrl[::-1], -1.0)):
        off = whole.ctrl[:, 0] - shape[0]
        alike = np.abs(whole.ctrl - (shape + off[:, None])).max(axis=(1, 2)) <= within
        alike &= (whole.kind == kind) & (np.abs(whole.bulge - sign * bulge) <= MOTION_SHARE)
        found.append(off[alike])
    return np.concatenate(found)


def _key(way: np.ndarray) -> tuple[float, float]:
    return round(float(way[0]), 3) + 0.0, round(float(way[1]), 3) + 0.0
