"""How much area changes its paint when doubled outlines go."""

from __future__ import annotations

from collections.abc import Collection

import numpy as np

from ...geometry import Path, signed_areas
from ...geometry.measure import outline_bounds
from ...geometry.scanline_area import painted_area
from ...model import Piece
from .exact_copies import kinds_of, number_among_copies

#: Whether what is painted changes by more than the tolerance is seen on so few scan lines, on chords so fine, in mm.
COARSE_LINES, CHORD_MM = 512, 0.005
#: Of more copies of one outline than this the others paint nothing else.
MANY_COPIES = 8
#: So many times outlines may meet scan lines for one design: seconds of work; and for one question, which then is about
#: thousands of outlines in one place. Each question, and each outline that one is about, counts for some.
MOST_MET, MOST_AT_ONCE, QUESTION, OUTLINE = 8_000_000, 2_000_000, 2000, 20


def line_change(piece: Piece, partner: Piece, total_mm: float) -> float:
    """The area of stroke that goes with so much of a piece's lines, in mm2; under a stroke as wide and as opaque, none
    is seen to go."""
    if piece.stroke is None or piece.id == partner.id:
        return 0.0
    own, under = piece.stroke, partner.stroke
    if under and (under.color, under.opacity) == (own.color, own.opacity) and not under.dashes:
        return max(own.width_mm - under.width_mm, 0.0) * total_mm
    return own.width_mm * total_mm


def fill_change(piece: Piece, partner: Piece, gone: Collection[int], exactly: bool, kept: dict) -> float:
    """The area in mm2 whose fill changes without some outlines of a piece, where the two pieces share the paint of it;
    all of it where they do not; infinite where so much was worked out already that the next would be too much.
    exactly: whether they are exact copies of outlines of the other piece that stay, and none of the piece's outlines
    crosses itself; kept: what is kept for the next question
    about the same design."""
    if piece.fill is None:
        return 0.0
    path, gone = _about(piece, gone, kept)
    if exactly and piece.id == partner.id and piece.fill_rule == "nonzero" and run_one_way(path):
        # What they wind about their copies wind about too, and nothing takes that back.
        return 0.0
    spent = kept["paint"] = kept.get("paint", 0.0) + QUESTION + OUTLINE * len(path)
    if spent > MOST_MET:
        return np.inf
    path, gone = _with_few_copies(path, gone)
    boxes = outline_bounds(path)
    box = (*boxes[:, :2].min(axis=0).tolist(), *boxes[:, 2:].max(axis=0).tolist())
    met = 2 * COARSE_LINES * float((boxes[:, 3] - boxes[:, 1]).sum()) / max(box[3] - box[1], 1e-9)
    if met > MOST_AT_ONCE or spent + met > MOST_MET:
        return np.inf
    kept["paint"] = spent + met
    rest = path.take(np.setdiff1d(np.arange(len(path)), gone))
    together = [(partner.path, partner.fill_rule)] if partner.id != piece.id and partner.fill == piece.fill else []
    before = painted_area([(path, piece.fill_rule), *together], box, CHORD_MM, COARSE_LINES)
    after = painted_area([(rest, piece.fill_rule), *together], box, CHORD_MM, COARSE_LINES)
    return abs(before - after)


def _about(piece: Piece, gone: Collection[int], kept: dict) -> tuple[Path, np.ndarray]:
    """The outlines of a piece whose boxes meet those that go, and which of them go."""
    key = "boxes", piece.id
    if key not in kept:
        kept[key] = outline_bounds(piece.path)
    boxes, rows = kept[key], np.fromiter(gone, np.int64)
    low, high = boxes[rows, :2].min(axis=0), boxes[rows, 2:].max(axis=0)
    near = np.flatnonzero((boxes[:, :2] <= high).all(axis=1) & (boxes[:, 2:] >= low).all(axis=1))
    return piece.path.take(near), np.flatnonzero(np.isin(near, rows))


def run_one_way(path: Path) -> bool:
    """Whether all outlines wind the same way about what is in them; not told of those that cross themselves."""
    ways = np.sign(signed_areas(path))
    return (ways > 0).any() != (ways < 0).any()


def _with_few_copies(path: Path, gone: np.ndarray) -> tuple[Path, np.ndarray]:
    """Outlines without most of many exact copies, and which of them go. Where all of them run the same way, some copies
    paint what all of them do, as long as an even number is left out."""
    if len(path) <= MANY_COPIES or not run_one_way(path):
        return path, gone
    going = np.isin(np.arange(len(path)), gone)
    # Of those that go and of those that stay, an even number of each is left out.
    kind = 2 * kinds_of(path, np.zeros(len(path), np.int64)) + going
    number, count = number_among_copies(kind), np.bincount(kind)[kind]
    most = MANY_COPIES + (count - MANY_COPIES) % 2
    few = np.flatnonzero(number < most)
    return path.take(few), np.flatnonzero(going[few])
