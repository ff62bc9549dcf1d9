"""The proof: a machine file, read back, compared with the design it was made from.

The deviation is the larger of the two one-way distances between the lines of the file and the outlines of the design
(Hausdorff), in page coordinates, without any fitting. It is blind to a line that should be cut twice and is cut once,
so lines are also counted: wherever either side has more line than the other, a line is missing or extra.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry import EXACT_MM, Path, Polylines, SegmentIndex, flatten, length
from ..geometry.measure import outline_bounds
from ..model import Document
from .pairing import paired

#: Lines are followed in steps of this: a machine's chord is met near its middle, where it is farthest off.
STEP_MM = 0.1
#: The marks by which the nearest chord is found.
SPACING_MM = 0.1
#: A line farther than this from every line of the other side anywhere is missing there, not imprecise.
MISSING_MM = 0.05
#: Lines are counted within this of each place, by marks this far apart.
COUNT_WITHIN_MM, COUNT_MARKS_MM = 0.1, 0.02
#: Of longer lines that have no partner only those that are missing all along are told: the others are not counted.
MOST_COUNTED_MM = 60_000.0
#: Lines are followed in no more steps than this.
MOST_STEPS = 1_000_000
#: A place has a line too few where this share of one line's marks is not there.
COUNT_SHARE = 0.6


@dataclass(frozen=True)
class Proof:
    """max_deviation_mm: None where both sides are empty, infinite where one is. place: where it is largest.
    missing: outlines of the design that the file lacks; extra: strokes of the file that the design lacks; their
    numbers among the outlines of each side. Lengths in mm."""

    max_deviation_mm: float | None
    place: tuple[float, float] | None
    missing: int
    extra: int
    design_mm: float
    file_mm: float
    missing_outlines: tuple[int, ...]
    extra_strokes: tuple[int, ...]
    limit_mm: float

    @property
    def holds(self) -> bool:
        within = self.max_deviation_mm is None or self.max_deviation_mm <= self.limit_mm
        return within and not self.missing and not self.extra

    def as_json(self) -> dict:
        worst = self.max_deviation_mm
        return {
            "max_deviation_mm": round(worst, 6) if worst is not None and np.isfinite(worst) else None,
            "missing": self.missing,
            "extra": self.extra,
            "place": [round(v, 3) for v in self.place] if self.place else None,
            "design_length_mm": round(self.design_mm, 3),
            "file_length_mm": round(self.file_mm, 3),
            "limit_mm": self.limit_mm,
            "holds": self.holds,
        }


def followed_path(document: Document) -> Path:
    """All outlines that a tool follows, as one path."""
    return Path.concatenate(piece.path for piece in document.pieces_followed())


def compare(file: Document, design: Document, limit_mm: float) -> Proof:
    """The proof of a machine file, read at the design's page height, against the design."""
    return compare_lines(followed_path(file), followed_path(design), limit_mm)


def compare_lines(strokes: Path, outlines: Path, limit_mm: float) -> Proof:
    """The proof of a file's strokes against the lines that it should have, both on the page."""
    lengths = length(outlines), length(strokes)
    if not len(strokes) or not len(outlines):
        everything = tuple(range(len(outlines))), tuple(range(len(strokes)))
        empty = not len(strokes) and not len(outlines)
        return Proof(None if empty else np.inf, None, len(outlines), len(strokes), *lengths, *everything, limit_mm)
    # A worse pair may be two lines that lie close together, each of which has its own nearer by.
    pairs = paired(outlines, strokes, min(limit_mm, MISSING_MM))
    own, their = (np.setdiff1d(np.arange(len(p)), n) for p, n in ((outlines, pairs.outline), (strokes, pairs.stroke)))
    worst, place = 0.0, tuple(outlines.ctrl[0, 0])
    if len(pairs.apart):
        worst, place = float(pairs.apart.max()), tuple(pairs.place[pairs.apart.argmax()])
    missing, extra = _Lacking(0, ()), _Lacking(0, ())
    if len(own) or len(their):
        near = _near(outlines, own, strokes, their)
        missing = _lacking(outlines, own, strokes, their, near)
        extra = _lacking(strokes, their, outlines, own, None if near is None else (near[1], near[0]))
        for each in (missing, extra):
            if each.farthest_mm > worst:
                worst, place = each.farthest_mm, each.place
    place = (float(place[0]), float(place[1]))
    return Proof(
        worst, place, missing.count, extra.count, *lengths, missing.which, extra.which, limit_mm
    )  # fmt: skip


@dataclass(frozen=True)
class _Lacking:
    """count: how many outlines of one side the other lacks; which, of several in one place all; the place that is
    farthest from every line of the other side, and how far."""

    count: int
    which: tuple[int, ...]
    farthest_mm: float = 0.0
    place: tuple[float, float] = (0.0, 0.0)


def _near(outlines: Path, own: np.ndarray, strokes: Path, their: np.ndarray) -> tuple[np.ndarray, np.ndarray] | None:
    """The lines of both sides that come near those that have no partner, by which lines are counted; None where they
    are too long to be counted."""
    boxes = [outline_bounds(path) for path in (outlines, strokes)]
    alone = np.vstack([boxes[0][own], boxes[1][their]])
    found = []
    for box in boxes:
        low, high = alone[:, :2].min(axis=0) - COUNT_WITHIN_MM, alone[:, 2:].max(axis=0) + COUNT_WITHIN_MM
        found.append(np.flatnonzero((box[:, :2] <= high).all(axis=1) & (box[:, 2:] >= low).all(axis=1)))
    long = length(outlines.take(found[0])) + length(strokes.take(found[1]))
    if long > MOST_COUNTED_MM:
        found = [own, their]
        long = length(outlines.take(own)) + length(strokes.take(their))
    return None if long > MOST_COUNTED_MM else (found[0], found[1])


def _lacking(
    path: Path, rows: np.ndarray, other: Path, alone: np.ndarray, near: tuple[np.ndarray, np.ndarray] | None
) -> _Lacking:
    """What the other path lacks of the outlines of a path that have no partner there. alone: those of the other that
    have none here; near: the lines of each side that are counted."""
    if not len(rows):
        return _Lacking(0, ())
    # Of several in one place each is a part of what is lacking.
    rows = rows if near is None else np.union1d(rows, near[0])
    part = path.take(rows)
    chords = flatten(part, EXACT_MM, max(STEP_MM, length(part) / MOST_STEPS))
    index = SegmentIndex(flatten(other, EXACT_MM), max(SPACING_MM, length(other) / MOST_STEPS))
    distance = index.nearest(chords.points)[0]
    absent = np.maximum.reduceat(distance, chords.start[:-1]) > MISSING_MM
    if near is None:
        # Not counted: what has no partner at all is lacking, where all of the other side have theirs.
        share = np.full(len(rows), 0.0 if len(alone) else 1.0)
    else:
        share = _share_too_few(chords, path.take(near[0]), other.take(near[1]))
    share[absent] = 0.0
    thin = share > 0.2
    count = int(absent.sum()) + round(float(share[thin].sum()))
    which = tuple(rows[absent | thin].tolist()) if count else ()
    place = chords.points[distance.argmax()]
    return _Lacking(count, which, float(distance.max()), (float(place[0]), float(place[1])))


def _share_too_few(chords: Polylines, path: Path, other: Path) -> np.ndarray:
    """For each outline, the mean share by which there is less line of the other path along it, (K,)."""
    from scipy.spatial import KDTree  # loaded only where a proof is made

    owner = np.repeat(np.arange(len(chords)), np.diff(chords.start))
    own = KDTree(_marks(path)).query_ball_point(chords.points, COUNT_WITHIN_MM, return_length=True)
    there = KDTree(_marks(other)).query_ball_point(chords.points, COUNT_WITHIN_MM, return_length=True)
    one_line = 2 * COUNT_WITHIN_MM / COUNT_MARKS_MM
    too_few = (own - there) > COUNT_SHARE * one_line
    share = np.where(too_few, (own - there) / np.maximum(own, 1), 0.0)
    return np.bincount(owner, share, len(chords)) / np.bincount(owner, minlength=len(chords))


def _marks(path: Path) -> np.ndarray:
    """Points every COUNT_MARKS_MM along all chords of a path."""
    first, last, _ = flatten(path, 0.002).edges()
    lengths = np.hypot(*(last - first).T)
    # Marks go on from chord to chord, so that many short chords do not count for more than a long one.
    ends = np.cumsum(lengths)
    at = np.arange(COUNT_MARKS_MM / 2, ends[-1], COUNT_MARKS_MM) if len(ends) else np.zeros(0)
    edge = np.minimum(np.searchsorted(ends, at), len(ends) - 1)
    share = ((at - (ends[edge] - lengths[edge])) / np.maximum(lengths[edge], 1e-12))[:, None]
    return first[edge] * (1 - share) + last[edge] * share
