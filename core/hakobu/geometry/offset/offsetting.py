"""Shapes grown and shrunk by a distance, and what lies within a distance of lines."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ..boolean import Operand, union
from ..boolean.combining import sources_of
from ..path import Path
from ..proximity.incidence import coinciding
from .banded import ENDS, JOINS, banded, path_of, retraced, rows_of
from .parts import PARTS_MM, Parts, parts_of
from .round import NOTHING, Traced, curves_of, trace

#: How long a mitre may be, measured from the corner, for each mm of the distance: as SVG's stroke-miterlimit.
MITRE_LIMIT = 4.0
#: How far curves are from the true parallel, at most.
WITHIN_MM = 0.003
#: Lines that run along each other within this, in mm, have one outline.
ONE_LINE_MM = 1e-6


@dataclass(frozen=True)
class Offset:
    """path: closed outlines, outer ones clockwise on the screen and holes the other way, so that both fill rules give
    the same. Of each segment (M,): source, the segment of all given paths in order that it begins beside, and outline,
    the outline of those. off_mm: 0, or how far straight lines are off where curves could not be told apart."""

    path: Path
    source: np.ndarray
    outline: np.ndarray
    off_mm: float = 0.0

    def sources(self) -> list[tuple[int, ...]]:
        """For each resulting outline, the given outlines that it lies along, in order."""
        return sources_of(self.path, self.outline)


def offset(
    *shapes: Operand | Path,
    distance_mm: float,
    join: str = "round",
    mitre_limit: float = MITRE_LIMIT,
    within_mm: float = WITHIN_MM,
) -> Offset:
    """All the shapes together, grown by a distance, or shrunk where it is negative: everything within the distance of
    them; or everything in them that is at least so far from what is not.

    Corners that turn away are "round", at the distance as all else, or the parallels go on to a "mitre", where that is
    no longer than mitre_limit times the distance, or are cut off, "bevel". Lines and arcs stay what they are; other
    curves lie within within_mm of the true parallel. Raises ValueError where a number or a word makes no sense, and
    NotCombined as the booleans do.
    """
    _ask(distance_mm, join, mitre_limit, within_mm)
    made = union(*shapes)
    if distance_mm == 0:
        return Offset(made.path, made.source, made.outline, made.off_mm)
    parts, side = parts_of(made.path), "out" if distance_mm > 0 else "in"
    traced = _traced(parts, abs(distance_mm), side, join, mitre_limit, "round")
    return _offset(traced, parts, made.source, made.outline, made.off_mm, within_mm)


def around(
    lines: Path,
    distance_mm: float,
    join: str = "round",
    ends: str = "round",
    mitre_limit: float = MITRE_LIMIT,
    within_mm: float = WITHIN_MM,
) -> Offset:
    """Everything within a distance of lines, open or closed, on both sides: the ends of open ones "round", "flat" or
    "square". Raises as `offset` does."""
    _ask(distance_mm, join, mitre_limit, within_mm)
    if ends not in ENDS:
        raise ValueError(f"ends are {', '.join(ENDS)}, not {ends!r}")
    parts = parts_of(lines)
    if distance_mm <= 0:
        raise ValueError(f"lines have room about them at a distance above 0 mm, not at {distance_mm:g}")
    traced = _traced(parts, distance_mm, "both", join, mitre_limit, ends)
    segments = np.arange(lines.segment_count)
    return _offset(traced, parts, segments, lines.outline_of, 0.0, within_mm)


def _ask(distance_mm: float, join: str, mitre_limit: float, within_mm: float) -> None:
    if join not in JOINS:
        raise ValueError(f"joins are {', '.join(JOINS)}, not {join!r}")
    if not math.isfinite(distance_mm):
        raise ValueError(f"a distance is a finite number of mm, not {distance_mm}")
    if not mitre_limit >= 1:
        raise ValueError(f"a mitre's limit is at least 1, not {mitre_limit}")
    if not within_mm > PARTS_MM:
        raise ValueError(f"an offset is true to more than {PARTS_MM:g} mm, not to {within_mm:g}")


def _traced(parts: Parts, distance_mm: float, side: str, join: str, limit: float, ends: str) -> Traced:
    if not len(parts.table):
        return NOTHING
    if join == "round" and (ends == "round" or parts.closed.all()):
        traced = trace(parts, distance_mm, side)
        if not traced.loose:
            return _single(traced, parts) if side == "both" else traced
    # Ends that meet nothing tell of a source that is not clean: then all that is covered is united.
    return banded(parts, distance_mm, side, join, limit, ends)


def _single(traced: Traced, parts: Parts) -> Traced:
    """Outlines round lines without doubles, where lines run along each other."""
    if not len(traced.rows) or not len(coinciding(parts.path, ONE_LINE_MM).segment):
        return traced
    made = union(path_of(rows_of(traced.rows), traced.start))
    return retraced(made, traced.part, traced.plain)


def _offset(traced: Traced, parts: Parts, source, outline, off_mm: float, within_mm: float) -> Offset:
    path, row = curves_of(traced, within_mm - parts.off_mm[traced.part])
    segment = parts.owner[traced.part[row]]
    return Offset(path, source[segment], outline[segment], max(off_mm, traced.off_mm))
