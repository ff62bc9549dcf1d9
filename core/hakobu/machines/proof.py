"""The proof: a machine file, read back, compared with the design it was made from.

The deviation is the larger of the two one-way distances between the lines of the file and the outlines of the design
(Hausdorff), in page coordinates, without any fitting. It is blind to a line that should be cut twice and is cut once,
so lines are also counted: wherever either side has more line than the other, a line is missing or extra.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry import EXACT_MM, Path, Polylines, SegmentIndex, flatten, length
from ..model import Document

#: Lines are followed in steps of this: a machine's chord is met near its middle, where it is farthest off.
STEP_MM = 0.1
#: The marks by which the nearest chord is found.
SPACING_MM = 0.1
#: A line farther than this from every line of the other side anywhere is missing there, not imprecise.
MISSING_MM = 0.05
#: Lines are counted within this of each place, by marks this far apart.
COUNT_WITHIN_MM, COUNT_MARKS_MM = 0.1, 0.02
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
        finite = self.max_deviation_mm is not None and np.isfinite(self.max_deviation_mm)
        return {
            "max_deviation_mm": round(self.max_deviation_mm, 6) if finite else None,
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
    strokes, outlines = followed_path(file), followed_path(design)
    lengths = length(outlines), length(strokes)
    if not len(strokes) or not len(outlines):
        everything = tuple(range(len(outlines))), tuple(range(len(strokes)))
        empty = not len(strokes) and not len(outlines)
        return Proof(None if empty else np.inf, None, len(outlines), len(strokes), *lengths, *everything, limit_mm)
    a, b = flatten(outlines, EXACT_MM, STEP_MM), flatten(strokes, EXACT_MM, STEP_MM)
    there, back = SegmentIndex(b, SPACING_MM).nearest(a.points)[0], SegmentIndex(a, SPACING_MM).nearest(b.points)[0]
    points, distance = np.vstack([a.points, b.points]), np.concatenate([there, back])
    worst = int(distance.argmax())
    missing, missing_outlines = _lacking(a, there, outlines, strokes)
    extra, extra_strokes = _lacking(b, back, strokes, outlines)
    place = (float(points[worst, 0]), float(points[worst, 1]))
    return Proof(float(distance[worst]), place, missing, extra, *lengths, missing_outlines, extra_strokes, limit_mm)


def _lacking(chords: Polylines, distance: np.ndarray, path: Path, other: Path) -> tuple[int, tuple[int, ...]]:
    """How many outlines of a path the other one lacks, and which (of several in one place, all are named)."""
    farthest = np.maximum.reduceat(distance, chords.start[:-1])
    absent = farthest > MISSING_MM
    share = np.where(absent, 0.0, _share_too_few(chords, path, other))
    thin = share > 0.2
    count = int(absent.sum()) + round(float(share[thin].sum()))
    return count, tuple(np.flatnonzero(absent | thin).tolist()) if count else ()


def _share_too_few(chords: Polylines, path: Path, other: Path) -> np.ndarray:
    """For each outline, the mean share by which there is less line of the other path along it, (K,)."""
    from scipy.spatial import cKDTree  # loaded only where a proof is made

    owner = np.repeat(np.arange(len(chords)), np.diff(chords.start))
    own = cKDTree(_marks(path)).query_ball_point(chords.points, COUNT_WITHIN_MM, return_length=True)
    there = cKDTree(_marks(other)).query_ball_point(chords.points, COUNT_WITHIN_MM, return_length=True)
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
